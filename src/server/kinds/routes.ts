import type { kindsContract } from '#contract/kinds.ts';
import type { Handlers } from '../http/handle.ts';
import { withPictures } from '../pictures/store.ts';
import { addKind, changeKind, dropKind } from './commands.ts';
import { readKinds } from './store.ts';

export const kindsHandlers: Handlers<typeof kindsContract> = {
  'GET /api/kinds': async ({ tx }) => withPictures(tx, await readKinds(tx)),
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
