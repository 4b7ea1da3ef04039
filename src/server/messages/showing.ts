import type { LineOfPlan, MessageOfLine, PersonOfPlan } from '#contract/messages.ts';
import { fold } from '#core/contacts/names.ts';
import type { Audience } from '#core/messages/audiences.ts';
import { type Moment, sayMoment } from '#core/messages/moments.ts';
import type { LeftOut } from '#core/messages/planning.ts';
import { undelivered } from '#core/messages/states.ts';
import { goTogether } from '#core/messages/together.ts';
import { sayReason } from '#core/words/reasons.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, type LineRow, readMessageLines } from '../events/store.ts';
import { planFor } from './planning.ts';
import { type PlannedRow, type RecipientRow, readTogether } from './store.ts';
import { readOfLines } from './tray.ts';
import { planYear, readYearPlanned, type YearLineRow } from './yearRound.ts';

/** Rows shown of each line, of those who get it and of those who do not; people found by a name. */
const most = { rows: 100, people: 12 } as const;

type Together = Awaited<ReturnType<typeof readTogether>>[number];

/** The plan of an event as it stands: its lines, what is planned by each, and who that leaves out. */
async function readState(tx: Queries, event: EventRow) {
  const lines = await readMessageLines(tx, event.id);
  const planOf = await planFor(tx, event, lines);
  const rows = new Map<string, Together[]>(lines.map((l) => [l.id, []]));
  for (const row of await readTogether(tx, event.id, [...rows.keys()])) rows.get(row.lineId)!.push(row);
  return { lines, planOf, rows, goesWith: goingWith(lines, rows) };
}

/** Of what is to go: the line with whose message it goes as one, by its id. */
function goingWith(
  lines: readonly LineRow[],
  rows: ReadonlyMap<string, readonly Together[]>,
): ReadonlyMap<string, string> {
  const coming = lines.flatMap((line) =>
    rows
      .get(line.id)!
      .flatMap((r) => (r.state === 'planned' && r.plannedFor ? [{ ...r, at: r.plannedFor, line }] : [])),
  );
  return new Map([...goTogether(coming)].map(([from, carrier]) => [from.id, carrier.line.name]));
}

/** Of which event they are; null of the organization’s. */
type Of = Pick<EventRow, 'id' | 'publicTitle'> | null;
type ShownLine = Pick<
  LineRow,
  'id' | 'name' | 'offsetDays' | 'offsetMinutes' | 'channel' | 'off' | 'sentByHandAt'
> & {
  moment: Moment;
  audience: Audience;
};

/** A message that there is none of, to somebody a line leaves out. */
const notThere = (event: Of, line: ShownLine, { recipient, why }: LeftOut<RecipientRow>): MessageOfLine => ({
  id: line.id,
  key: recipient.key,
  eventId: event?.id ?? null,
  event: event?.publicTitle ?? null,
  line: line.name,
  channel: line.channel,
  kind: line.moment,
  contactId: recipient.contactId,
  name: recipient.name,
  address: recipient.reach[line.channel],
  state: 'held back',
  reason: line.name,
  whyNot: sayReason(why),
  plannedFor: null,
  nextTryAt: null,
  sentAt: null,
  attempts: 0,
  wentWith: null,
});

/** Messages as the plan of their event shows them, or that of the organization, by their ids. */
async function messagesOf(
  tx: Queries,
  eventId: string | null,
  ids: readonly string[],
  goesWith: ReadonlyMap<string, string>,
): Promise<Map<string, MessageOfLine>> {
  const rows = ids.length ? await readOfLines(tx, eventId, ids) : [];
  return new Map(
    rows.map(({ lineId: _, recipientKey: key, ...row }) => [
      row.id,
      { ...row, key, wentWith: row.wentWith ?? goesWith.get(row.id) ?? null },
    ]),
  );
}

const inTime = (a: PlannedRow, b: PlannedRow): number =>
  (a.plannedFor ?? '').localeCompare(b.plannedFor ?? '') || a.id.localeCompare(b.id);

/** Every line of an event with how far it goes. */
export const linesShown = async (tx: Queries, event: EventRow): Promise<LineOfPlan[]> =>
  shownOf(tx, event, await readState(tx, event));

/** Every line of the organization with how far it goes. */
export async function yearShown(
  tx: Queries,
  lines: readonly YearLineRow[],
  now: string,
): Promise<LineOfPlan[]> {
  const planOf = await planYear(tx, lines, null, now);
  const rows = new Map<string, PlannedRow[]>(lines.map((l) => [l.id, []]));
  for (const row of await readYearPlanned(tx, [...rows.keys()], null)) rows.get(row.lineId)!.push(row);
  const shown = lines.map((line) => ({ ...line, sentByHandAt: null }));
  return shownOf(tx, null, { lines: shown, planOf, rows, goesWith: new Map() });
}

/** Lines with how far each goes: all are counted, the first are shown. */
async function shownOf(
  tx: Queries,
  event: Of,
  {
    lines,
    planOf,
    rows,
    goesWith,
  }: {
    lines: readonly ShownLine[];
    planOf: (lineId: string) => { leftOut: LeftOut<RecipientRow>[] };
    rows: ReadonlyMap<string, PlannedRow[]>;
    goesWith: ReadonlyMap<string, string>;
  },
): Promise<LineOfPlan[]> {
  const parts = lines.map((line) => {
    const mine = rows.get(line.id)!;
    const going = mine.filter((r) => r.state !== 'held back').sort(inTime);
    const held = mine.filter((r) => r.state === 'held back').sort(inTime);
    const had = new Set(mine.map((r) => r.recipientKey));
    const others = planOf(line.id).leftOut.filter((l) => !had.has(l.recipient.key));
    return { line, going, held, others };
  });
  const shown = await messagesOf(
    tx,
    event?.id ?? null,
    parts.flatMap(({ going, held }) =>
      [...going.slice(0, most.rows), ...held.slice(0, most.rows)].map((r) => r.id),
    ),
    goesWith,
  );
  const messages = (of: readonly PlannedRow[]) => of.flatMap((r) => shown.get(r.id) ?? []);
  return parts.map(({ line, going, held, others }) => {
    const count = (...states: readonly string[]) => going.filter((r) => states.includes(r.state)).length;
    const { offsetDays: days, offsetMinutes: minutes } = line;
    return {
      lineId: line.id,
      name: line.name,
      when: sayMoment({ moment: line.moment, offset: { days, minutes } }),
      channel: line.channel,
      audience: line.audience,
      off: line.off,
      sentByHandAt: line.sentByHandAt,
      planned: count('planned', 'due'),
      sent: count('sent'),
      failed: count(...undelivered),
      getNone: held.length + others.length,
      firstAt: going[0]?.plannedFor ?? null,
      rows: messages(going),
      leftOut: [
        ...messages(held),
        ...others.slice(0, Math.max(0, most.rows - held.length)).map((l) => notThere(event, line, l)),
      ],
    };
  });
}

/** Those of an event's people whose name or address holds some words, with what each gets of every line, or why not. */
export async function peopleShown(tx: Queries, event: EventRow, q: string): Promise<PersonOfPlan[]> {
  const { lines, planOf, rows, goesWith } = await readState(tx, event);
  const words = fold(q).split(' ').filter(Boolean);
  interface Entry {
    line: LineRow;
    row: PlannedRow | undefined;
    out: LeftOut<RecipientRow> | null;
  }
  const found = new Map<string, { name: string; known: boolean; address: string | null; entries: Entry[] }>();
  for (const line of lines) {
    const stored = new Map(rows.get(line.id)!.map((r) => [r.recipientKey, r]));
    const add = (r: RecipientRow, out: LeftOut<RecipientRow> | null) => {
      const id = r.contactId ?? r.key;
      const address = r.reach.email ?? r.reach['text message'];
      const known = found.get(id) ?? { name: r.name, known: r.contactId !== null, address, entries: [] };
      known.entries.push({ line, row: stored.get(r.key), out });
      found.set(id, known);
    };
    const { planned, leftOut } = planOf(line.id);
    for (const { recipient } of planned) add(recipient, null);
    for (const out of leftOut) add(out.recipient, out);
  }
  const holds = (text: string) => words.every((w) => text.includes(w));
  // Guests nobody has named yet come last.
  const theirs = [...found]
    .filter(([, p]) => holds(fold(`${p.name} ${p.address ?? ''}`)))
    .sort(([, a], [, b]) => Number(!a.known) - Number(!b.known) || a.name.localeCompare(b.name, 'en'))
    .slice(0, most.people);
  const shown = await messagesOf(
    tx,
    event.id,
    theirs.flatMap(([, p]) => p.entries.flatMap((e) => e.row?.id ?? [])),
    goesWith,
  );
  return theirs.map(([id, { name, address, entries }]) => ({
    id,
    name,
    address,
    entries: entries.flatMap(({ line, row, out }) => {
      const message = (row && shown.get(row.id)) ?? (out && notThere(event, line, out));
      return message ? [{ lineId: line.id, message }] : [];
    }),
  }));
}
