import type { crewContract } from '#contract/crew.ts';
import type { BodyOf } from '#contract/endpoint.ts';
import { isGone } from '#core/contacts/quiet.ts';
import { readReach } from '#core/contacts/reach.ts';
import { clashesOf, hoursOf } from '#core/crew/clashes.ts';
import { type AssignmentState, refusalOf } from '#core/crew/states.ts';
import type { Consequences } from '#core/events/consequences.ts';
import { lives } from '#core/events/states.ts';
import { sayTime } from '#core/time/say.ts';
import { instantOf, meaningOf } from '#core/time/wallTime.ts';
import { sayAgainst } from '#core/words/against.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { readContact } from '../contacts/store.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import {
  assignmentOn,
  dropShift,
  isFull,
  isTaken,
  ownShifts,
  quietOf,
  readStints,
  type ShiftRow,
  seatMeanwhile,
} from './store.ts';

type Body<K extends keyof typeof crewContract> = BodyOf<(typeof crewContract)[K]>;

/** Something that speaks against putting somebody on a shift. */
interface Against {
  kind: 'overlap' | 'short rest' | 'own seat' | 'quiet';
  text: string;
  /** They are no longer there: nobody is put on a shift whatever is said for it. */
  gone?: boolean;
}

/** The longest a shift lasts, in hours, and the shortest reason for putting somebody on one all the same, in characters. */
const longestShift = 24;
const shortestOverride = 3;

/** What speaks against putting somebody on a shift: other shifts, a seat of their own meanwhile, that nothing is sent to them. */
async function againstOf(tx: Queries, shift: ShiftRow, contactId: string): Promise<Against[]> {
  const stints = await readStints(tx, contactId, shift.startsAt, shift.endsAt);
  const against: Against[] = clashesOf(
    { shiftId: shift.id, label: shift.role, startsAt: shift.startsAt, endsAt: shift.endsAt },
    stints,
  ).map(({ kind, label, hours }) => ({ kind, text: sayAgainst(kind, { label, hours }) }));
  const seat = await seatMeanwhile(tx, contactId, shift.startsAt, shift.endsAt);
  if (seat) against.push({ kind: 'own seat', text: sayAgainst('own seat', { event: seat }) });
  const quiet = await quietOf(tx, contactId);
  if (quiet) against.push({ kind: 'quiet', text: sayReason(because(quiet)), gone: isGone(quiet) });
  return against;
}

/** Why nobody is put on a shift whatever is said for it: the person died, or was erased. */
const goneIn = (against: readonly Against[]): string | null => against.find((x) => x.gone)?.text ?? null;

/** Adds a shift to an event. Times are wall times where the event is. */
export async function addShift(
  w: Work,
  event: EventRow,
  body: Body<'POST /api/events/:id/shifts'>,
): Promise<string> {
  for (const path of ['startsLocal', 'endsLocal'] as const)
    if (meaningOf(body[path], event.zone).kind === 'gap')
      throw invalid([{ path, code: 'time-skipped', params: { time: sayTime(body[path]) } }]);
  const startsAt = instantOf(body.startsLocal, event.zone);
  const endsAt = instantOf(body.endsLocal, event.zone);
  if (endsAt <= startsAt) throw invalid([{ path: 'endsLocal', code: 'shift-ends-before' }]);
  if (hoursOf(startsAt, endsAt) > longestShift)
    throw invalid([{ path: 'endsLocal', code: 'shift-too-long', params: { hours: longestShift } }]);
  const id = w.app.ids.id();
  await insert(w.tx, 'shifts', { id, eventId: event.id, ...body, startsAt, endsAt });
  await record(w, 'shift added', { eventId: event.id, role: body.role });
  return id;
}

/** Removes a shift that nobody is on; who was on it stays written down. */
export async function removeShift(w: Work, shift: ShiftRow): Promise<void> {
  if (await isTaken(w.tx, shift.id)) throw refused('shift-taken');
  await dropShift(w.tx, shift.id, w.now);
  await record(w, 'shift removed', { eventId: shift.eventId, role: shift.role });
}

/** Puts somebody on a shift. What speaks against it is answered, and overridden only with a reason. */
export async function putOnShift(
  w: Work,
  shift: ShiftRow,
  contactId: string,
  overrideReason: string,
): Promise<{ assigned: boolean; clashes: Against[] }> {
  if (!(await readContact(w.tx, contactId))) throw invalid([{ path: 'contactId', code: 'contact-gone' }]);
  const clashes = await againstOf(w.tx, shift, contactId);
  const gone = goneIn(clashes);
  if (gone) throw invalid([{ path: 'contactId', code: 'gone-for-shift', params: { gone } }]);
  if (clashes.length && overrideReason.length < shortestOverride) return { assigned: false, clashes };
  await assign(w, shift, contactId, 'staff', clashes, clashes.length ? overrideReason : null);
  return { assigned: true, clashes };
}

/**
 * Takes a sign-up from outside. Whoever asks learns nothing of the person they name: what stands in the way goes to that
 * person by mail.
 */
export async function signUp(
  w: Work,
  shift: ShiftRow,
  body: Body<'POST /api/public/shifts/:id/sign-up'>,
): Promise<void> {
  const event = await readEvent(w.tx, shift.eventId);
  if (!lives(event.state) || !shift.publicSignUp || shift.startsAt <= w.now) throw refused('shift-closed');
  const { email, phone, problems } = readReach(body, (await theOrganization(w.tx)).country);
  if (!body.email) problems.push({ path: 'email', code: 'email-for-shifts' });
  if (problems.length) throw invalid(problems);
  if (await isFull(w.tx, shift)) throw refused('shift-full');
  const source = `signed up for a shift at ${event.publicTitle}`;
  const { contactId } = await linkPerson(w, { ...body, email, phone }, source, 'outside');
  const against = await againstOf(w.tx, shift, contactId);
  const on = await assignmentOn(w.tx, shift.id, contactId);
  if (on || against.some((x) => x.kind === 'overlap'))
    await record(w, 'shift asked for in vain', {
      eventId: event.id,
      shiftId: shift.id,
      contactId,
      assignmentId: on?.id ?? null,
    });
  else if (!goneIn(against)) await assign(w, shift, contactId, 'public', against, null);
}

/** Says what became of an assignment: agreed, dropped, served with hours, missed. Refuses what core refuses. Answers what followed. */
export async function markShift(
  w: Work,
  shift: ShiftRow,
  assignment: { id: string; state: AssignmentState },
  body: Body<'POST /api/assignments/:id/state'>,
): Promise<Consequences> {
  const refusal = refusalOf({ state: assignment.state, begun: shift.startsAt <= w.now }, body.state);
  if (refusal) throw refused(refusal.code);
  const hours = body.state === 'served' ? (body.hours ?? hoursOf(shift.startsAt, shift.endsAt)) : null;
  await update(w.tx, 'assignments', assignment.id, { state: body.state, hours });
  return record(w, 'shift marked', {
    eventId: shift.eventId,
    shiftId: shift.id,
    assignmentId: assignment.id,
    state: body.state,
    hours,
  });
}

/** Gives a shift back, by whoever is on it. */
export async function giveShiftBack(w: Work, contactId: string, assignmentId: string): Promise<void> {
  const own = (await ownShifts(w.tx, contactId)).find((s) => s.assignmentId === assignmentId);
  if (!own) throw notFound('This shift');
  if (own.startsAt <= w.now) throw refused('shift-begun');
  await update(w.tx, 'assignments', own.assignmentId, { state: 'dropped' });
  await record(w, 'shift given back', { eventId: own.eventId, shiftId: own.id, contactId });
}

async function assign(
  w: Work,
  shift: ShiftRow,
  contactId: string,
  source: 'staff' | 'public',
  clashes: readonly Against[],
  overrideReason: string | null,
): Promise<void> {
  const id = w.app.ids.id();
  if (await assignmentOn(w.tx, shift.id, contactId)) throw refused('on-shift');
  if (source === 'public' && (await isFull(w.tx, shift))) throw refused('shift-full');
  await insert(w.tx, 'assignments', {
    id,
    shiftId: shift.id,
    contactId,
    state: 'agreed',
    source,
    overrideReason,
    clashes,
    madeAt: w.now,
  });
  await record(w, 'shift taken', {
    eventId: shift.eventId,
    shiftId: shift.id,
    assignmentId: id,
    contactId,
    signedUp: source === 'public',
    overrideReason,
  });
}
