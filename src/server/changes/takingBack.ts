import { type EventPlan, planFields } from '#contract/plan.ts';
import { partsOf } from '#core/events/parts.ts';
import { sameValue } from '#core/words/canonical.ts';
import type { ProblemCode } from '#core/words/problems.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { deleteEvent } from '../events/deleting.ts';
import { keepHistory } from '../events/history.ts';
import { readPlan, savedParts } from '../events/plan.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { expectAttendance } from '../registration/store.ts';
import {
  alteredSince,
  anybodyAt,
  type ChangeRow,
  forgetRows,
  leaveCopies,
  letGoAt,
  ordersOf,
  putBack,
  readChange,
  settle,
  undo,
} from './store.ts';

/** Why a change cannot be taken back any more; null where it can. */
export type Stands = Extract<
  ProblemCode,
  | 'change-undone'
  | 'change-settled'
  | 'change-of-series'
  | 'change-letters-gone'
  | 'change-steps-decided'
  | 'change-seats-changed'
  | 'change-money-chosen'
  | 'change-crew-changed'
  | 'change-plan-changed'
>;

const gone = ['sent', 'due', 'failed', 'bounced'];

/** What was altered since, by table: whatever of it is said first says why. */
const altered: readonly (readonly [readonly string[], Stands])[] = [
  [['messages'], 'change-letters-gone'],
  [['change_returns'], 'change-money-chosen'],
  [['registrations', 'registration_states', 'orders'], 'change-seats-changed'],
  [['clearances', 'clearance_steps'], 'change-steps-decided'],
  [
    [
      'events',
      'offers',
      'questions',
      'agenda_sessions',
      'bookings',
      'message_lines',
      'surveys',
      'speakers',
      'sponsors',
      'event_team',
      'series',
    ],
    'change-plan-changed',
  ],
  [['shifts', 'assignments'], 'change-crew-changed'],
];

/** Why a change stands: something of it has gone out, or somebody went on from it. */
export async function whyStands(tx: Queries, change: ChangeRow): Promise<Stands | null> {
  if (change.undoneAt) return 'change-undone';
  if (change.partOf) return 'change-of-series';
  if (!change.settlesAt) return 'change-settled';
  // A planned message that was planned anew, or held back, since: that is done again from how things stand then.
  if (change.events && (await anybodyAt(tx, change.events.made))) return 'change-seats-changed';
  const rows = (await alteredSince(tx, change.id)).filter(
    (r) => r.name !== 'messages' || gone.includes(r.isNow ?? ''),
  );
  return altered.find(([tables]) => rows.some((r) => tables.includes(r.name)))?.[1] ?? null;
}

/**
 * Takes a change back with everything that followed; one of several events for all of them. Refused, with why, once something of it
 * has gone out or was gone on from.
 */
export async function takeBack(w: Work, eventId: string, changeId: string): Promise<void> {
  const { tx, now } = w;
  await readEvent(tx, eventId, true);
  const change = await readChange(tx, eventId, changeId);
  const why = await whyStands(tx, change);
  if (why) throw refused(why);
  const before: { event: EventRow; plan: EventPlan }[] = [];
  for (const id of new Set(change.events?.touched ?? [eventId])) {
    const event = await readEvent(tx, id, true);
    before.push({ event, plan: await readPlan(tx, event) });
  }
  const orders = await ordersOf(tx, changeId);
  await leaveCopies(tx, change.events?.made ?? []);
  await putBack(tx, changeId);
  await forgetRows(tx, changeId);
  for (const { event, plan } of before) await wentBack(w, event, plan);
  for (const orderId of orders) await expectAttendance(tx, orderId);
  await undo(tx, changeId, now, w.actor.name);
  for (const { event } of before)
    await record(w, 'change taken back', { eventId: event.id, orders: event.id === eventId ? orders : [] });
}

/** What is kept of an event that says again what it said before. */
async function wentBack(w: Work, was: EventRow, plan: EventPlan): Promise<void> {
  const { tx, now } = w;
  const version = was.version + 1;
  // Calendars that have the event take what is newer, also where that is what it was before.
  await update(tx, 'events', was.id, { version, updatedAt: now });
  const restored = await readEvent(tx, was.id);
  if (restored.state !== was.state)
    await insert(tx, 'event_states', {
      id: w.app.ids.id(),
      eventId: was.id,
      state: restored.state,
      at: now,
      actor: w.actor.name,
      words: '',
    });
  const restoredPlan = await readPlan(tx, restored);
  const fields = planFields.filter((field) => !sameValue(plan[field], restoredPlan[field]));
  await savedParts(w, was.id, partsOf(fields), version);
  await keepHistory(w, was.id, plan, restoredPlan, fields, null);
}

/** Lets everything that waits with a change go out now. */
export async function letGoNow(w: Work, eventId: string, changeId: string): Promise<number> {
  const change = await readChange(w.tx, eventId, changeId);
  if (change.undoneAt) throw refused('change-undone');
  if (!change.settlesAt) throw refused('change-settled');
  const letters = await letGoAt(w.tx, changeId, w.now);
  await stand(w, changeId);
  await record(w, 'letters let go', { eventId, letters });
  return letters;
}

/** The time in which a change could be taken back is over: what was only hidden until then is deleted. */
export async function stand(w: Work, changeId: string): Promise<void> {
  await forgetRows(w.tx, changeId);
  for (const eventId of await settle(w.tx, changeId)) {
    const event = await readEvent(w.tx, eventId);
    if (event.state !== 'shelved') continue;
    await update(w.tx, 'events', eventId, { state: 'draft' });
    await deleteEvent(w, { ...event, state: 'draft' });
  }
}

/** Asks for the next change that cannot be taken back any more. */
export const nextChangeSql =
  'select settles_at as at, id from changes where settles_at is not null order by settles_at, id limit 1';

/** The time in which a change could be taken back is over. */
export const changeStands = (app: App, id: string): Promise<void> =>
  inTransaction(app, systemActor, (w) => stand(w, id));
