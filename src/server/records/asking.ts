import { maySeeSegment } from '#core/access/contacts.ts';
import { sayAmount } from '#core/money/amount.ts';
import { type Compiled, compileSegment } from '#core/records/compile.ts';
import type { Segment } from '#core/records/segment.ts';
import type { Names } from '#core/records/sentence.ts';
import type { Asked } from '#core/records/window.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Queries } from '../db/database.ts';
import type { SignedIn } from '../http/app.ts';
import { Problem } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { frozenMembers, readSegmentRow, type SegmentRow } from './store.ts';

/** Where and when segments are asked, and what their ids stand for. */
export async function context(tx: Queries, now: string): Promise<{ asked: Asked; names: Names }> {
  const { zone, currency } = await theOrganization(tx);
  const rows = await tx.query<{ id: string; name: string }>(
    `select id, name from units union all select id, name from funds
     union all select id, title || ', version ' || version from waivers
     union all select id, name from custom_fields
     union all select id, family_name from contacts where kind = 'organization'
     union all select id, public_title from events where first_of = id`,
  );
  return {
    asked: { today: dateOf(now, zone), zone },
    names: {
      of: Object.fromEntries(rows.map((r) => [r.id, r.name])),
      money: (amount) => sayAmount(amount, currency),
    },
  };
}

/** Who is in a segment: those it is true of by now, or those it kept when it was frozen. */
export const conditionOf = (row: SegmentRow, asked: Asked): Compiled =>
  row.frozenAt ? frozenMembers(row.id) : compileSegment(row.segment, asked);

/** Refuses whoever does not see what a segment asks about: who is found by it would tell them. */
export function demandSegment(staff: SignedIn, segment: Segment): void {
  if (!maySeeSegment(staff, segment))
    throw new Problem(
      403,
      'not-your-question',
      'This segment asks about parts of contacts that your role does not reach.',
    );
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
): Promise<Compiled> => conditionOf(await segmentFor(tx, id, staff), (await context(tx, now)).asked);
