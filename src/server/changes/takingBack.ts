import type { EventPlan } from '#contract/events.ts';
import { partsOf } from '#core/events/parts.ts';
import type { ProblemCode } from '#core/words/problems.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { keepHistory } from '../events/history.ts';
import { readPlan, savedParts } from '../events/plan.ts';
import { readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { expectAttendance } from '../registration/store.ts';
import { alteredSince, type ChangeRow, forgetRows, letGoAt, ordersOf, putBack, readChange } from './store.ts';

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
  [['events', 'offers', 'agenda_sessions', 'bookings'], 'change-plan-changed'],
  [['shifts', 'assignments'], 'change-crew-changed'],
];

/** Why a change stands: something of it has gone out, or somebody went on from it. */
export async function whyStands(tx: Queries, change: ChangeRow): Promise<Stands | null> {
  if (change.undoneAt) return 'change-undone';
  if (change.ofSeries) return 'change-of-series';
  if (!change.settlesAt) return 'change-settled';
  // A planned message that was planned anew, or held back, since: that is done again from how things stand then.
  const rows = (await alteredSince(tx, change.id)).filter(
    (r) => r.name !== 'messages' || gone.includes(r.isNow ?? ''),
  );
  return altered.find(([tables]) => rows.some((r) => tables.includes(r.name)))?.[1] ?? null;
}

/** Takes a change back with everything that followed. Refused, with why, once something of it has gone out or was gone on from. */
export async function takeBack(w: Work, eventId: string, changeId: string): Promise<void> {
  const { tx, now } = w;
  const event = await readEvent(tx, eventId, true);
  const change = await readChange(tx, eventId, changeId);
  const why = await whyStands(tx, change);
  if (why) throw refused(why);
  const plan = await readPlan(tx, event);
  const orders = await ordersOf(tx, changeId);
  await putBack(tx, changeId);
  await forgetRows(tx, changeId);
  const version = event.version + 1;
  // Calendars that have the event take what is newer, also where that is what it was before.
  await update(tx, 'events', eventId, { version, updatedAt: now });
  const restored = await readEvent(tx, eventId);
  if (restored.state !== event.state)
    await insert(tx, 'event_states', {
      id: w.app.ids.id(),
      eventId,
      state: restored.state,
      at: now,
      actor: w.actor.name,
      words: '',
    });
  await savedParts(w, eventId, partsOf(change.fields), version);
  await keepHistory(w, eventId, plan, (await readPlan(tx, restored)) as EventPlan, change.fields, null);
  for (const orderId of orders) await expectAttendance(tx, orderId);
  await update(tx, 'changes', changeId, { settlesAt: null, undoneAt: now, undoneBy: w.actor.name });
  await record(w, 'change taken back', { eventId, orders });
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

async function stand(w: Work, changeId: string): Promise<void> {
  await forgetRows(w.tx, changeId);
  await update(w.tx, 'changes', changeId, { settlesAt: null });
}

/** Asks for the next change that cannot be taken back any more. */
export const nextChangeSql =
  'select settles_at as at, id from changes where settles_at is not null order by settles_at, id limit 1';

/** The time in which a change could be taken back is over. */
export const changeStands = (app: App, id: string): Promise<void> =>
  inTransaction(app, systemActor, (w) => stand(w, id));
