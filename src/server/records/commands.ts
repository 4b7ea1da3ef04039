import type { Segment } from '#core/records/segment.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { refused } from '../http/problem.ts';
import {
  deleteSegment,
  keepMembers,
  putMembers,
  readSegmentRow,
  type SegmentRow,
  takeMembers,
} from './store.ts';

/** Keeps a segment: one that finds its people by questions, or, with `members`, one put together by hand. */
export async function keepSegment(
  w: Work,
  { name, segment, members }: { name: string; segment: Segment; members: readonly string[] | null },
): Promise<string> {
  const id = w.app.ids.id();
  await insert(w.tx, 'segments', {
    id,
    name,
    segment,
    byHand: members !== null,
    frozenAt: members ? w.now : null,
    createdBy: w.actor.staffId,
    createdAt: w.now,
    updatedAt: w.now,
  });
  if (members) await putMembers(w.tx, id, members);
  await record(w, 'segment changed', { segmentId: id, how: 'kept a segment', detail: { name } });
  return id;
}

/**
 * Changes a segment as it was read before; `members` are kept when it is frozen with this. Refuses when somebody else
 * changed it since. `fields` names what was sent.
 */
export async function changeSegment(
  w: Work,
  before: SegmentRow,
  change: { name: string; segment: Segment; frozen: boolean | undefined; members: readonly string[] | null },
  fields: readonly string[],
): Promise<void> {
  const { name, segment, frozen, members } = change;
  const row = await readSegmentRow(w.tx, before.id);
  if (row.updatedAt !== before.updatedAt) throw refused('segment-changed');
  await update(w.tx, 'segments', before.id, {
    name,
    segment,
    updatedAt: w.now,
    ...(frozen === undefined ? {} : { frozenAt: frozen ? (before.frozenAt ?? w.now) : null }),
  });
  if (members) await keepMembers(w.tx, before.id, members);
  await record(w, 'segment changed', { segmentId: before.id, how: 'changed a segment', detail: { fields } });
}

export async function removeSegment(w: Work, row: SegmentRow): Promise<void> {
  await deleteSegment(w.tx, row.id);
  await record(w, 'segment changed', {
    segmentId: row.id,
    how: 'threw a segment away',
    detail: { name: row.name },
  });
}

/** Puts contacts into a frozen segment, or takes them out. Answers whom that changed. */
export async function changeMembers(
  w: Work,
  row: SegmentRow,
  ids: readonly string[],
  remove: boolean,
): Promise<string[]> {
  if (!row.frozenAt) throw refused('segment-lives');
  const changed = await (remove ? takeMembers : putMembers)(w.tx, row.id, ids);
  await record(w, 'segment changed', {
    segmentId: row.id,
    how: `${remove ? 'took out of' : 'put into'} a segment`,
    detail: { people: changed.length },
  });
  return changed;
}
