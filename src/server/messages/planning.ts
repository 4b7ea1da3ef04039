import type { Consequences, MessagesChanged } from '#core/events/consequences.ts';
import { silentStates } from '#core/events/states.ts';
import type { Line } from '#core/messages/lines.ts';
import { type Moment, momentRule } from '#core/messages/moments.ts';
import { type LineOf, type Plan, type PlanningRules, planLines } from '#core/messages/planning.ts';
import { because, type Reason, sayReason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, type LineRow, readEvent, readMessageLines } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { type People, peopleOf } from './audiences.ts';
import { type Outgoing, putOut } from './outbox.ts';
import {
  holdBack,
  holdBackRemoved,
  type Moved,
  movePlanned,
  type PlannedRow,
  type RecipientRow,
  readPlanned,
} from './store.ts';

type EventPlanned = Plan<RecipientRow>;

/** A line as core plans it. */
const asLine = ({ offsetDays: days, offsetMinutes: minutes, ...line }: LineRow): Line => ({
  ...line,
  offset: { days, minutes },
});

const nobody: EventPlanned = { planned: [], leftOut: [] };

/** The rules of the organization for every line. */
export async function planningRules(tx: Queries): Promise<PlanningRules> {
  const { quietHours: quiet, holidays } = await theOrganization(tx);
  return { quiet, holidays };
}

/**
 * Works lines of an event out: who gets each when, and who does not and why. `lines` are all of its plan, or one: then those it may
 * be given up for are looked at too.
 */
export async function planFor(
  tx: Queries,
  event: EventRow,
  lines: readonly LineRow[],
  people: People = peopleOf(tx, event, null),
): Promise<(lineId: string) => EventPlanned> {
  const of: LineOf<RecipientRow>[] = [];
  for (const line of lines)
    of.push({
      line: asLine(line),
      recipients: await people.of(line.audience, line.moment),
      among: line.narrowed.length ? await people.among(line) : null,
    });
  const plans = planLines(of, event, await planningRules(tx));
  return (lineId) => plans.get(lineId) ?? nobody;
}

/** The lines that have to be worked out to know one of them. */
export const beside = (lines: readonly LineRow[], line: LineRow): LineRow[] =>
  line.late === 'last' ? lines.filter((l) => l.late === 'last') : [line];

/**
 * Brings the planned rows of an event, or of one order in it, to what the plan says now: missing ones are added,
 * those that have not gone out move, those that no longer apply are held back with the reason. What was sent stays.
 * Answers, line by line, how many moved and how many do not go out. What a date that moved leaves behind in the past falls away.
 */
export async function replan(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'change'>,
  eventId: string,
  orderId: string | null = null,
): Promise<Pick<Consequences, 'messages'>> {
  const { tx, now } = w;
  const event = await readEvent(tx, eventId);
  const over = silentStates.includes(event.state);
  const lines = (await readMessageLines(tx, eventId)).filter((l) => !orderId || l.audience !== 'crew');
  const rows = await readPlanned(
    tx,
    eventId,
    lines.map((l) => l.id),
    orderId,
  );
  const planOf = over ? () => nobody : await planFor(tx, event, lines, peopleOf(tx, event, orderId));
  const steps = stepsTo(lines, rows, planOf, {
    eventId,
    now,
    whyGone: over ? because('event ended', { state: event.state }) : null,
  });
  const { followed } = steps;
  // What is only tried is taken back at once: thousands of rows are not written for that.
  if (!w.change?.trying) await take(w, steps);
  for (const { line, count, from } of orderId ? [] : await holdBackRemoved(tx, eventId))
    followed.push({
      line,
      fate: 'held back',
      count,
      from,
      to: null,
      why: sayReason(because('step removed')),
    });
  return { messages: followed };
}

/** A line as far as what it planned is compared with what it plans now. */
type Compared = Pick<LineRow, 'id' | 'name' | 'channel' | 'sentByHandAt'> & { moment: Moment };

/** What has to be done so that the planned rows of lines say what their plan says. */
export interface Steps {
  fresh: Outgoing[];
  moved: Moved[];
  gone: { id: string; why: Reason }[];
  /** Line by line, how many moved and how many do not go out. */
  followed: MessagesChanged[];
}

/** Compares what is planned with what the plan says now. */
export function stepsTo(
  lines: readonly Compared[],
  rows: readonly PlannedRow[],
  planOf: (lineId: string) => EventPlanned,
  {
    eventId,
    now,
    whyGone,
  }: {
    eventId: string | null;
    now: string;
    /** Why nothing goes out any more at all; null where some does. */
    whyGone: Reason | null;
  },
): Steps {
  const byLine = new Map(lines.map((l) => [l.id, [] as PlannedRow[]]));
  for (const row of rows) byLine.get(row.lineId)!.push(row);
  const fresh: Outgoing[] = [];
  const moved: Moved[] = [];
  const gone: Steps['gone'] = [];
  const followed: MessagesChanged[] = [];
  for (const line of lines) {
    const { planned, leftOut } = planOf(line.id);
    const ofLine = byLine.get(line.id)!;
    const existing = new Map(ofLine.map((r) => [r.recipientKey, r]));
    const wanted = new Set<string>();
    const goneBefore = gone.length;
    const times = { moved: [] as (string | null)[], to: [] as string[], held: [] as (string | null)[] };
    const hold = (row: (typeof ofLine)[number], why: Reason) => {
      gone.push({ id: row.id, why });
      times.held.push(row.plannedFor);
    };
    for (const { recipient, address, at: time, reason } of planned) {
      wanted.add(recipient.key);
      const row = existing.get(recipient.key);
      const byHand = row?.state === 'held back' && isSentByHand(line, time, row.plannedFor);
      const at = byHand ? line.sentByHandAt! : time;
      if (!row) fresh.push(outgoing(eventId, line, recipient, address, at, reason));
      else if (
        row.state === 'planned' &&
        row.plannedFor !== at &&
        at < now &&
        line.sentByHandAt === null &&
        momentRule(line.moment).ahead
      )
        hold(row, because('moment passed'));
      else if (
        (row.state === 'planned' && row.plannedFor !== at) ||
        (row.state === 'held back' && (at > now || byHand))
      ) {
        moved.push({ id: row.id, at, address, channel: line.channel, reason });
        times.moved.push(row.state === 'planned' ? row.plannedFor : null);
        times.to.push(at);
      } else if (row.state === 'planned' && (row.address !== address || row.channel !== line.channel))
        moved.push({ id: row.id, at, address, channel: line.channel, reason });
    }
    const whyNot = new Map(leftOut.map((l) => [l.recipient.key, l.why]));
    for (const row of ofLine)
      if (row.state === 'planned' && !wanted.has(row.recipientKey))
        hold(row, whyGone ?? whyNot.get(row.recipientKey) ?? because('not taking part'));
    if (times.to.length)
      followed.push({
        line: line.name,
        fate: 'moved',
        count: times.to.length,
        from: earliest(times.moved),
        to: earliest(times.to),
        why: null,
      });
    if (times.held.length)
      followed.push({
        line: line.name,
        fate: 'held back',
        count: times.held.length,
        from: earliest(times.held),
        to: null,
        why: sayReason(gone[goneBefore]!.why),
      });
  }
  return { fresh, moved, gone, followed };
}

/** Takes them. */
export async function take(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'change'>,
  { fresh, moved, gone }: Steps,
): Promise<void> {
  await putOut(w, fresh);
  await movePlanned(w.tx, moved);
  await holdBack(w.tx, gone);
}

/** Whether somebody who was held back gets a line after all because it was sent by hand since. */
const isSentByHand = ({ sentByHandAt }: Compared, time: string, before: string | null): boolean =>
  sentByHandAt !== null && time <= sentByHandAt && before !== sentByHandAt;

const outgoing = (
  eventId: string | null,
  line: Compared,
  { key, contactId, name, language }: RecipientRow,
  address: string,
  at: string,
  reason: string,
): Outgoing => ({
  eventId,
  lineId: line.id,
  recipientKey: key,
  kind: line.moment,
  channel: line.channel,
  contactId,
  name,
  address,
  language,
  reason,
  at,
});

/** The first of some moments. */
const earliest = (moments: readonly (string | null)[]): string | null =>
  moments.reduce((first, at) => (at !== null && (first === null || at < first) ? at : first), null);
