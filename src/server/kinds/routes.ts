import type { kindsContract } from '#contract/kinds.ts';
import type { Handlers } from '../http/handle.ts';
import { picturesById } from '../pictures/store.ts';
import { addKind, changeKind, dropKind } from './commands.ts';
import { readKinds } from './store.ts';

export const kindsHandlers: Handlers<typeof kindsContract> = {
  'GET /api/kinds': async ({ tx }) => {
    const kinds = await readKinds(tx);
    const pictures = await picturesById(
      tx,
      kinds.flatMap((k) => k.pictureId ?? []),
    );
    return kinds.map((k) => ({ ...k, picture: pictures.find((p) => p.id === k.pictureId) ?? null }));
  },
  'POST /api/kinds': (c) => addKind(c, c.body),
  'PATCH /api/kinds/:id': async (c) => {
    await changeKind(c, c.params.id, c.body);
    return { done: true };
  },
  'DELETE /api/kinds/:id': async (c) => {
    await dropKind(c, c.params.id);
    return { done: true };
  },
};
