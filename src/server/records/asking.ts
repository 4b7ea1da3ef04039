import { maySeeSegment } from '#core/access/contacts.ts';
import { isCoordinator } from '#core/access/viewer.ts';
import { sayAmount } from '#core/money/amount.ts';
import { type Compiled, compileSegment } from '#core/records/compile.ts';
import { inPieces } from '#core/records/pieces.ts';
import { readSegment, type Segment } from '#core/records/segment.ts';
import type { Names } from '#core/records/sentence.ts';
import type { Asked } from '#core/records/window.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { SignedIn } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { frozenMembers, idsWhere, readSegmentRow, type SegmentRow } from './store.ts';

/** Where and when segments are asked, and what their ids stand for. */
export interface Context {
  asked: Asked;
  names: Names;
}
export async function context(tx: Queries, now: string): Promise<Context> {
  const { zone, currency } = await theOrganization(tx);
  const rows = await tx.query<{ id: string; name: string }>(
    `select id, name from units union all select id, name from funds
     union all select id, title from waivers
     union all select id, name from custom_fields
     union all select id, family_name from contacts where kind = 'organization'
     union all select id, public_title from events where first_of = id`,
  );
  return {
    asked: { today: dateOf(now, zone), zone, currency },
    names: {
      of: Object.fromEntries(rows.map((r) => [r.id, r.name])),
      money: (amount) => sayAmount(amount, currency),
    },
  };
}

/** How long finding the people of a segment may take, in milliseconds, and as part of a write, when others wait. */
const patience = { reading: 4000, writing: 400 };
/** How many questions are asked in one statement; while it runs nobody else is answered. */
const atOnce = 8;

/** A time by which something has to be found. */
export const soon = (part: keyof typeof patience = 'reading'): number => performance.now() + patience[part];

/** The condition of questions, most of them asked before, in turns, when there are many. Refuses when time is up. */
export async function conditionOfQuestions(
  tx: Queries,
  segment: Segment,
  asked: Asked,
  by: number,
): Promise<Compiled> {
  if (!isReadable(segment)) throw refused('unreadable-segment');
  const light = await inPieces(segment, atOnce, async (piece, known) => {
    // Whoever else waits is answered first.
    await new Promise((turn) => setImmediate(turn));
    if (performance.now() > by) throw refused('takes-too-long', {}, 422);
    return idsWhere(tx, compileSegment(piece, asked, known));
  });
  return compileSegment(light.segment, asked, light.known);
}

/** Who is in a segment: those it is true of by now, or those it kept when it was frozen. */
export const conditionOf = async (
  tx: Queries,
  row: SegmentRow,
  asked: Asked,
  by = soon(),
): Promise<Compiled> =>
  row.frozenAt ? frozenMembers(row.id) : conditionOfQuestions(tx, row.segment, asked, by);

/** True for a stored segment that can still be asked; an earlier version may have kept one that cannot. */
export const isReadable = (segment: Segment): boolean => 'segment' in readSegment(segment);

/** True when somebody sees what a segment asks about; one that cannot be read is for coordinators. */
export const seesSegment = (staff: SignedIn, segment: Segment): boolean =>
  isReadable(segment) ? maySeeSegment(staff, segment) : isCoordinator(staff);

/** Refuses whoever does not see what a segment asks about: who is found by it would tell them. */
export function demandSegment(staff: SignedIn, segment: Segment): void {
  if (!seesSegment(staff, segment)) throw refused('not-your-question', {}, 403);
}

/** A stored segment, for those who see what it asks about. */
export async function segmentFor(tx: Queries, id: string, staff: SignedIn): Promise<SegmentRow> {
  const row = await readSegmentRow(tx, id);
  demandSegment(staff, row.segment);
  return row;
}

/** The same, by the segment's id. */
export const conditionOfSegment = async (
  tx: Queries,
  id: string,
  now: string,
  staff: SignedIn,
  part: 'reading' | 'writing' = 'reading',
): Promise<Compiled> =>
  conditionOf(tx, await segmentFor(tx, id, staff), (await context(tx, now)).asked, soon(part));
