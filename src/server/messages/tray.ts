import type { MessageRow } from '#contract/messages.ts';
import type { MessageReach } from '#core/access/messages.ts';
import { coming, undelivered } from '#core/messages/states.ts';
import { type Reason, sayIfAny } from '#core/words/reasons.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';

/** What the Tray shows, and how messages are read to be shown. */
const columns = `m.id, m.event_id, e.public_title as event, s.name as step, m.kind, m.contact_id, m.name, m.address, m.state,
  m.reason, m.why_not, m.planned_for, m.next_try_at, m.sent_at, m.attempts`;
const from =
  'from messages m left join events e on e.id = m.event_id left join message_steps s on s.id = m.step_id';

/** A message as it is kept: why it is held back is a reason without words. */
type Kept<Row> = Omit<Row, 'whyNot'> & { whyNot: Reason | null };
const said = <Row extends { whyNot: Reason | null }>(row: Row) => ({ ...row, whyNot: sayIfAny(row.whyNot) });

export type TrayPart = keyof typeof conditions;
const conditions = {
  coming: `m.state in ${among(coming)}`,
  sent: "m.state = 'sent'",
  failed: `m.state in ${among(undelivered)}`,
  'held back': "m.state = 'held back'",
} as const;
const orders = {
  coming: 'm.planned_for, m.id',
  sent: 'm.sent_at desc, m.id desc',
  failed: 'm.planned_for desc, m.id',
  'held back': 'm.planned_for desc nulls last, m.id',
} as const;

/** The reach of a viewer over messages `m` of events `e`, as SQL whose parameters begin at `$n`. */
const reachSql = (n: number): string =>
  `($${n}::boolean or ($${n + 1}::uuid is not null and e.unit_id = $${n + 1})
    or ($${n + 2}::boolean and m.kind in ('shift', 'crew', 'overlap') and ($${n + 3}::uuid is null or e.unit_id = $${n + 3})))`;
const reachParams = (r: MessageReach): unknown[] => [r.everything, r.ofUnit, r.ofCrew, r.crewUnit];
const inReach = `($1::uuid is null or m.event_id = $1) and ${reachSql(2)}`;

/** A part of the Tray, of one event or of all, as far as somebody reaches. */
export const readTray = async (
  tx: Queries,
  part: TrayPart,
  reach: MessageReach,
  eventId: string | null,
  limit: number,
  offset: number,
): Promise<MessageRow[]> =>
  (
    await tx.query<Kept<MessageRow>>(
      `select ${columns} ${from} where ${conditions[part]} and ${inReach} order by ${orders[part]} limit ${limit} offset ${offset}`,
      [eventId, ...reachParams(reach)],
    )
  ).map(said);

/** How many messages every part of the Tray holds. */
export const countTray = async (tx: Queries, reach: MessageReach, eventId: string | null) =>
  (await first<{ coming: number; sent: number; failed: number; heldBack: number }>(
    tx,
    `select ${Object.entries(conditions)
      .map(([name, c]) => `count(*) filter (where ${c})::int as ${name.replace(' ', '_')}`)
      .join(', ')} from messages m left join events e on e.id = m.event_id where ${inReach}`,
    [eventId, ...reachParams(reach)],
  ))!;

export async function readInTray(tx: Queries, reach: MessageReach, id: string): Promise<MessageRow | null> {
  const row = await first<Kept<MessageRow>>(
    tx,
    `select ${columns} ${from} where m.id = $1 and ${reachSql(2)}`,
    [id, ...reachParams(reach)],
  );
  return row && said(row);
}

/** What a message says, and what it is about. */
export const readText = async (tx: Queries, id: string) =>
  (await first<{
    subject: string | null;
    body: string | null;
    stepId: string | null;
    recipientKey: string;
    language: 'en' | 'fr';
  }>(tx, 'select subject, body, step_id, recipient_key, language from messages where id = $1', [id]))!;

/** The messages of an event that its steps planned, the first to go out first. */
export const readOfSteps = async (
  tx: Queries,
  eventId: string,
): Promise<(MessageRow & { stepId: string; recipientKey: string })[]> =>
  (
    await tx.query<Kept<MessageRow> & { stepId: string; recipientKey: string }>(
      `select ${columns}, m.step_id, m.recipient_key ${from} where m.event_id = $1 and m.step_id is not null
       order by m.planned_for nulls last, m.name limit 5000`,
      [eventId],
    )
  ).map(said);

export const readState = async (tx: Queries, id: string): Promise<MessageRow['state'] | null> =>
  (await first<{ state: MessageRow['state'] }>(tx, 'select state from messages where id = $1', [id]))
    ?.state ?? null;
