import type { z } from 'zod';
import type { kindsContract } from '#contract/kinds.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid } from '../http/problem.ts';
import { demandPicture } from '../pictures/commands.ts';
import { kindTaken, removeKind, renameOnEvents, theKind } from './store.ts';

type KindBody = z.output<(typeof kindsContract)['POST /api/kinds']['body']>;

async function check(w: Work, id: string, body: KindBody): Promise<void> {
  if (await kindTaken(w.tx, body.sort, body.name, id))
    throw invalid([{ path: 'name', code: 'register-exists', params: { kind: body.sort } }]);
  await demandPicture(w, body.pictureId);
}

export async function addKind(w: Work, body: KindBody): Promise<{ id: string }> {
  const id = w.app.ids.id();
  await check(w, id, body);
  await insert(w.tx, 'kinds', { id, ...body });
  await record(w, 'register grew', {
    kind: body.sort,
    id,
    how: `added a ${body.sort}`,
    detail: { name: body.name },
  });
  return { id };
}

/** Changes one; what it is stays, and its events are called by its new name. */
export async function changeKind(w: Work, id: string, body: KindBody): Promise<void> {
  const before = await theKind(w.tx, id);
  const after = { ...body, sort: before.sort };
  await check(w, id, after);
  await update(w.tx, 'kinds', id, after);
  if (before.name !== after.name) await renameOnEvents(w.tx, before.sort, before.name, after.name);
  await record(w, 'register grew', {
    kind: before.sort,
    id,
    how: `changed a ${before.sort}`,
    detail: { before: before.name, name: after.name },
  });
}

export async function dropKind(w: Work, id: string): Promise<void> {
  const { sort, name } = await theKind(w.tx, id);
  await removeKind(w.tx, id);
  await record(w, 'register grew', { kind: sort, id, how: `took a ${sort} away`, detail: { name } });
}
