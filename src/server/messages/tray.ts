import type { MessageRow } from '#contract/messages.ts';
import type { MessageReach } from '#core/access/messages.ts';
import { coming, undelivered } from '#core/messages/states.ts';
import type { Doc } from '#core/text/types.ts';
import type { CalendarDate, Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { type Reason, sayIfAny } from '#core/words/reasons.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';

/** What the Tray shows, and how messages are read to be shown. */
const columns = `m.id, m.event_id, e.public_title as event, s.name as line, m.channel, m.kind, m.contact_id, m.name, m.address, m.state,
  m.reason, m.why_not, m.planned_for, m.next_try_at, m.sent_at, m.attempts,
  (select cl.name from messages cm join message_lines cl on cl.id = cm.line_id where cm.id = m.went_with) as went_with`;
const from =
  'from messages m left join events e on e.id = m.event_id left join message_lines s on s.id = m.line_id';

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
export const reachSql = (n: number): string =>
  `($${n}::boolean or ($${n + 1}::uuid is not null and e.unit_id = $${n + 1})
    or ($${n + 2}::boolean and (m.kind in ('crew', 'overlap') or s.audience = 'crew') and ($${n + 3}::uuid is null or e.unit_id = $${n + 3})))`;
export const reachParams = (r: MessageReach): unknown[] => [r.everything, r.ofUnit, r.ofCrew, r.crewUnit];
const inReach = `($1::uuid is null or m.event_id = $1) and ${reachSql(2)}`;

/** What is looked for in the Tray: one event, part of a name or an address, a day by the clock of a zone. */
export interface Wanted {
  eventId: string | null;
  q: string;
  day: CalendarDate | null;
  /** What it is: the name of its line, or its kind. */
  what: string | null;
  zone: Zone;
}

/** The condition that says so, with its parameters; what is not asked for is not looked at. */
function wantedSql(
  reach: MessageReach,
  { eventId, q, day, what, zone }: Wanted,
): { sql: string; params: unknown[] } {
  const params: unknown[] = [eventId, ...reachParams(reach)];
  const put = (value: unknown) => `$${params.push(value)}`;
  const parts = [inReach];
  if (q) {
    const like = put(`%${q.replace(/[\\%_]/gu, '\\$&')}%`);
    parts.push(`(m.name ilike ${like} or m.address ilike ${like})`);
  }
  if (day) {
    const [from, until] = [day, shiftDate(day, 1)].map((d) => put(instantOf(`${d}T00:00`, zone)));
    parts.push(
      `coalesce(m.sent_at, m.planned_for) >= ${from} and coalesce(m.sent_at, m.planned_for) < ${until}`,
    );
  }
  if (what) parts.push(`coalesce(s.name, m.kind) = ${put(what)}`);
  return { sql: parts.join(' and '), params };
}

/** A part of the Tray, as far as somebody reaches. */
export async function readTray(
  tx: Queries,
  part: TrayPart,
  reach: MessageReach,
  wanted: Wanted,
  limit: number,
  offset: number,
): Promise<MessageRow[]> {
  const { sql, params } = wantedSql(reach, wanted);
  const rows = await tx.query<Kept<MessageRow>>(
    `select ${columns} ${from} where ${conditions[part]} and ${sql} order by ${orders[part]} limit ${limit} offset ${offset}`,
    params,
  );
  return rows.map(said);
}

/** What the messages of a part of the Tray are, the most frequent first. */
export const whatsOf = (
  tx: Queries,
  part: TrayPart,
  reach: MessageReach,
  eventId: string | null,
): Promise<{ what: string; isLine: boolean; count: number }[]> =>
  tx.query<{ what: string; isLine: boolean; count: number }>(
    `select coalesce(s.name, m.kind) as what, s.name is not null as is_line, count(*)::int as count ${from}
     where ${conditions[part]} and ${inReach} group by 1, 2 order by 3 desc, 1 limit 60`,
    [eventId, ...reachParams(reach)],
  );

/** How many messages every part of the Tray holds. */
export async function countTray(tx: Queries, reach: MessageReach, wanted: Wanted) {
  const { sql, params } = wantedSql(reach, wanted);
  return (await first<{ coming: number; sent: number; failed: number; heldBack: number }>(
    tx,
    `select ${Object.entries(conditions)
      .map(([name, c]) => `count(*) filter (where ${c})::int as ${name.replace(' ', '_')}`)
      .join(', ')} ${from} where ${sql}`,
    params,
  ))!;
}

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
    preview: string;
    body: string | null;
    formatted: Doc | null;
    closing: string;
    headers: Record<string, string> | null;
    lineId: string | null;
    recipientKey: string;
    language: 'en' | 'fr';
  }>(
    tx,
    'select subject, preview, body, formatted, closing, headers, line_id, recipient_key, language from messages where id = $1',
    [id],
  ))!;

/** Some of the messages that lines of an event planned, or of the organization. */
export const readOfLines = async (
  tx: Queries,
  /** Null of the organization’s. */
  eventId: string | null,
  ids: readonly string[],
): Promise<(MessageRow & { lineId: string; recipientKey: string })[]> =>
  (
    await tx.query<Kept<MessageRow> & { lineId: string; recipientKey: string }>(
      `select ${columns}, m.line_id, m.recipient_key ${from} where m.event_id is not distinct from $1 and m.id = any($2) and m.line_id is not null`,
      [eventId, ids],
    )
  ).map(said);
