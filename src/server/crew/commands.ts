import type { crewContract, ShiftBody } from '#contract/crew.ts';
import type { BodyOf } from '#contract/endpoint.ts';
import { readReach } from '#core/contacts/reach.ts';
import { type Against, againstOf, isDecidedFirst, wantedOf } from '#core/crew/against.ts';
import type { AgainstKind } from '#core/crew/againstKinds.ts';
import { cut, mostParts } from '#core/crew/cutting.ts';
import { type Presence, servedHours } from '#core/crew/serving.ts';
import { type ShiftTimes, whenOf } from '#core/crew/shift.ts';
import { type AssignmentState, refusalOf } from '#core/crew/states.ts';
import type { Consequences } from '#core/events/consequences.ts';
import { lives } from '#core/events/states.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { sayAgainst } from '#core/words/against.ts';
import type { Wrong } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { readContact } from '../contacts/store.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { rolesNamed } from '../events/shiftRoles.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { appliedOf, readApplied } from './applyingStore.ts';
import { readRoleAsks } from './roleStore.ts';
import { readSpot } from './spots.ts';
import {
  assignmentOn,
  dropShift,
  isAskedFor,
  isFull,
  isTaken,
  ownShifts,
  readAble,
  readOnShift,
  readStints,
  type ShiftRow,
  seatMeanwhile,
  takeOffShift,
} from './store.ts';

type Body<K extends keyof typeof crewContract> = BodyOf<(typeof crewContract)[K]>;

/** What speaks against somebody, in words. */
interface Said {
  kind: AgainstKind;
  text: string;
  absolute: boolean;
}

/** The shortest reason for putting somebody on a shift all the same, in characters. */
const shortestOverride = 3;

type Asked = Pick<ShiftRow, 'id' | 'eventId' | 'role' | 'startsAt' | 'endsAt' | 'startsLocal' | 'endsLocal'>;

/** Everything that speaks against putting somebody on a shift, in words; `leaving`: shifts they are no longer on then. */
export async function findAgainst(
  tx: Queries,
  shift: Asked,
  contactId: string,
  leaving: readonly string[] = [],
): Promise<Said[]> {
  const able = await readAble(tx, contactId);
  if (!able) throw notFound('This contact');
  const { restHours, placeMinutes, neverOverridden } = await theOrganization(tx);
  const found: Against[] = againstOf(
    wantedOf({ ...shift, spot: await readSpot(tx, shift.id) }),
    await readRoleAsks(tx, shift.role),
    {
      ...able,
      stints: (await readStints(tx, contactId, shift.startsAt, shift.endsAt)).filter(
        (s) => !leaving.includes(s.shiftId),
      ),
      seatAt: await seatMeanwhile(tx, contactId, shift.startsAt, shift.endsAt),
      applied: appliedOf(await readApplied(tx, contactId, shift)),
    },
    { restHours, placeMinutes, neverOverridden },
  );
  return found.map((x) => ({ kind: x.kind, text: sayAgainst(x), absolute: x.absolute }));
}

/** Why nobody is put on a shift whatever is said for it: the person died, or was erased. */
const goneIn = (against: readonly Said[]): string | null =>
  against.find((x) => x.kind === 'gone')?.text ?? null;

type Written = Omit<ShiftBody, 'least'> & ShiftTimes & { least: number; startsAt: string; endsAt: string };

/** Shifts as they are kept, each role as the register spells it. Refuses what is wrong with any of them, at its path. */
async function written(
  w: Work,
  event: Pick<EventRow, 'zone'>,
  bodies: readonly ShiftBody[],
  at: (n: number) => string,
): Promise<Written[]> {
  const problems: Wrong[] = [];
  const roles = await rolesNamed(
    w.tx,
    bodies.map((b) => b.role),
  );
  const shifts: Written[] = [];
  for (const [n, body] of bodies.entries()) {
    const { startsAt, endsAt, problems: wrong } = whenOf(body, event.zone);
    problems.push(...wrong.map((p) => ({ ...p, path: `${at(n)}${p.path}` })));
    if (body.leadId && !(await readContact(w.tx, body.leadId)))
      problems.push({ path: `${at(n)}leadId`, code: 'contact-gone' });
    shifts.push({ ...body, role: roles[n]!, least: body.least ?? body.wished, startsAt, endsAt });
  }
  if (problems.length) throw invalid(problems);
  return shifts;
}

/** Adds shifts to an event, all or none. Times are wall times where the event is. */
export async function addShifts(
  w: Work,
  event: EventRow,
  bodies: readonly ShiftBody[],
  at: (n: number) => string = () => '',
): Promise<string[]> {
  const rows = (await written(w, event, bodies, at)).map((shift) => ({
    id: w.app.ids.id(),
    eventId: event.id,
    ...shift,
  }));
  await insert(w.tx, 'shifts', rows);
  for (const { role } of rows) await record(w, 'shift added', { eventId: event.id, role });
  return rows.map((r) => r.id);
}

/** Whether whoever is on a shift has to know of a change: it is at another time or place, or something else is done. */
const concernsThem = (before: ShiftRow, after: Written): boolean =>
  (['role', 'place', 'startsLocal', 'endsLocal'] as const).some((field) => before[field] !== after[field]);

/**
 * Changes a shift. Answers who is on it with what speaks against them as it will be, and how many are told. Nobody is taken
 * off: it cannot take fewer than are on it.
 */
export async function changeShift(
  w: Work,
  event: EventRow,
  shift: ShiftRow,
  { version, trying, tell, ...body }: Body<'PUT /api/shifts/:id'>,
): Promise<{ version: number; told: number; on: { contactId: string; name: string; against: Said[] }[] }> {
  if (version !== shift.version) throw refused('changed-by-somebody');
  const [after] = await written(w, event, [body], () => '');
  const people = await readOnShift(w.tx, shift.id);
  const agreed = people.filter((p) => p.state === 'agreed').length;
  if (after!.wished < agreed)
    throw invalid([{ path: 'wished', code: 'fewer-than-on', params: { count: agreed } }]);
  const on = [];
  for (const { contactId, name } of people)
    on.push({
      contactId,
      name,
      against: await findAgainst(w.tx, { ...after!, id: shift.id, eventId: event.id }, contactId),
    });
  const told = tell && concernsThem(shift, after!) && shift.endsAt > w.now ? people.length : 0;
  if (trying) return { version, told, on };
  await rewrite(w, shift, after!, told > 0);
  return { version: version + 1, told, on };
}

async function rewrite(w: Work, before: ShiftRow, after: Written, tell: boolean): Promise<void> {
  await update(w.tx, 'shifts', before.id, { ...after, version: before.version + 1 });
  const { role, place, startsLocal, endsLocal, startsAt, endsAt } = before;
  await record(w, 'shift changed', {
    eventId: before.eventId,
    shiftId: before.id,
    before: { role, place, startsLocal, endsLocal, startsAt, endsAt },
    tell,
  });
}

/** Cuts a shift into parts. Who is on it stays on the first, and is told that it ends sooner. */
export async function cutShift(
  w: Work,
  event: EventRow,
  shift: ShiftRow,
  { version, parts, handover, tell }: Body<'POST /api/shifts/:id/cut'>,
): Promise<{ ids: string[]; told: number }> {
  if (version !== shift.version) throw refused('changed-by-somebody');
  const most = mostParts(shift.startsAt, shift.endsAt);
  if (parts > most) throw invalid([{ path: 'parts', code: 'parts-most', params: { count: most } }]);
  const { id: _, eventId: __, version: ___, ...same } = shift;
  const stretches = cut(shift, parts, handover).map((part) => ({
    ...same,
    ...part,
    startsLocal: wallOf(part.startsAt, event.zone),
    endsLocal: wallOf(part.endsAt, event.zone),
  }));
  const [first, ...others] = stretches;
  const people = await readOnShift(w.tx, shift.id);
  const told = tell && shift.endsAt > w.now ? people.length : 0;
  await rewrite(w, shift, first!, told > 0);
  const rows = others.map((part) => ({ id: w.app.ids.id(), eventId: event.id, ...part }));
  await insert(w.tx, 'shifts', rows);
  for (const { role } of rows) await record(w, 'shift added', { eventId: event.id, role });
  return { ids: [shift.id, ...rows.map((r) => r.id)], told };
}

/** Removes a shift that nobody is on; who was on it stays written down. */
export async function removeShift(w: Work, shift: ShiftRow): Promise<void> {
  if (await isTaken(w.tx, shift.id)) throw refused('shift-taken');
  if (await isAskedFor(w.tx, shift.id)) throw refused('shift-asked-for');
  await dropShift(w.tx, shift.id, w.now);
  await record(w, 'shift removed', { eventId: shift.eventId, role: shift.role });
}

/** How somebody comes to a shift: in the place of another of theirs, or with several at once. */
interface PutHow {
  insteadOf?: string | null;
  oneOfSeveral?: boolean;
}

/** Puts somebody on a shift. What speaks against it is answered, and overridden only with a reason, where it can be at all. */
export async function putOnShift(
  w: Work,
  shift: ShiftRow,
  contactId: string,
  overrideReason: string,
  how: PutHow = {},
): Promise<{ assigned: boolean; clashes: Said[] }> {
  if (!(await readContact(w.tx, contactId))) throw invalid([{ path: 'contactId', code: 'contact-gone' }]);
  const clashes = await findAgainst(w.tx, shift, contactId);
  const gone = goneIn(clashes);
  if (gone) throw invalid([{ path: 'contactId', code: 'gone-for-shift', params: { gone } }]);
  const never = clashes.some((x) => x.absolute);
  if (never || (clashes.length && overrideReason.length < shortestOverride))
    return { assigned: false, clashes };
  await assign(w, shift, contactId, 'staff', clashes, clashes.length ? overrideReason : null, how);
  return { assigned: true, clashes };
}

/**
 * Takes a sign-up from outside. Of a role that asks something they are on it once the crew lead agreed. Whoever asks learns nothing of
 * the person they name: what stands in the way goes to that person by mail.
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
  if (await isFull(w.tx, shift, 'asked too')) throw refused('shift-full');
  const source = `signed up for a shift at ${event.publicTitle}`;
  const { contactId } = await linkPerson(w, { ...body, email, phone }, source, 'outside');
  const against = await findAgainst(w.tx, shift, contactId);
  const on = await assignmentOn(w.tx, shift.id, contactId);
  if (on || against.some((x) => x.kind === 'overlap'))
    await record(w, 'shift asked for in vain', {
      eventId: event.id,
      shiftId: shift.id,
      contactId,
      assignmentId: on?.id ?? null,
    });
  else if (goneIn(against)) return;
  else if (isDecidedFirst(await readRoleAsks(w.tx, shift.role)) || against.some((x) => x.absolute))
    await ask(w, shift, contactId, against);
  else await assign(w, shift, contactId, 'public', against, null);
}

/**
 * Says what became of an assignment: agreed, dropped, served with hours, missed. Whoever only asked is put on, or declined, and told.
 * Refuses what core refuses. Answers what followed.
 */
export async function markShift(
  w: Work,
  shift: ShiftRow,
  assignment: { id: string; contactId: string; state: AssignmentState } & Presence,
  body: Body<'POST /api/assignments/:id/state'>,
): Promise<Consequences> {
  const refusal = refusalOf({ state: assignment.state, begun: shift.startsAt <= w.now }, body.state);
  if (refusal) throw refused(refusal.code);
  const hours =
    body.state === 'served'
      ? (body.hours ?? servedHours(assignment, shift, await theOrganization(w.tx)))
      : null;
  if (body.state === 'dropped') await takeOffShift(w.tx, assignment.id, w.now);
  else
    await update(w.tx, 'assignments', assignment.id, {
      state: body.state,
      hours,
      // Whoever serves again has not left; whoever missed it never came.
      ...(body.state === 'agreed' && { outAt: null }),
      ...(assignment.state === 'proposed' && { agreedAt: w.now }),
      ...(body.state === 'missed' && { inAt: null, outAt: null }),
    });
  const of = { eventId: shift.eventId, shiftId: shift.id, assignmentId: assignment.id };
  const { contactId } = assignment;
  if (assignment.state === 'proposed')
    return body.state === 'agreed'
      ? record(w, 'shift taken', {
          ...of,
          contactId,
          signedUp: false,
          overrideReason: null,
          insteadOf: null,
          oneOfSeveral: false,
        })
      : record(w, 'shift declined', { ...of, contactId });
  return record(w, 'shift marked', { ...of, state: body.state, hours });
}

/** Gives a shift back, by whoever is on it, with why where they say so. */
export async function giveShiftBack(
  w: Work,
  contactId: string,
  assignmentId: string,
  words: string,
): Promise<void> {
  const own = (await ownShifts(w.tx, contactId)).find((s) => s.assignmentId === assignmentId);
  if (!own) throw notFound('This shift');
  if (own.startsAt <= w.now) throw refused('shift-begun');
  await takeOffShift(w.tx, own.assignmentId, w.now, words);
  await record(w, 'shift given back', {
    eventId: own.eventId,
    shiftId: own.id,
    contactId,
    agreed: own.state === 'agreed',
    words,
  });
}

/** Puts somebody on a shift who was asked to step in and says yes. Nothing spoke against them then; what does by now is said. */
export async function takeByAsking(w: Work, shift: ShiftRow, contactId: string): Promise<void> {
  const against = await findAgainst(w.tx, shift, contactId);
  if (against.length) throw refused('step-in-clash', { why: against.map((x) => x.text).join('; ') });
  await assign(w, shift, contactId, 'public', against, null);
}

/** Writes down that somebody asks for a shift; it is theirs once the crew lead agreed. */
async function ask(w: Work, shift: ShiftRow, contactId: string, against: readonly Said[]): Promise<void> {
  const id = w.app.ids.id();
  await insert(w.tx, 'assignments', {
    id,
    shiftId: shift.id,
    contactId,
    state: 'proposed',
    source: 'public',
    overrideReason: null,
    clashes: against,
    madeAt: w.now,
  });
  await record(w, 'shift asked for', {
    eventId: shift.eventId,
    shiftId: shift.id,
    assignmentId: id,
    contactId,
  });
}

async function assign(
  w: Work,
  shift: ShiftRow,
  contactId: string,
  source: 'staff' | 'public',
  clashes: readonly Said[],
  overrideReason: string | null,
  { insteadOf = null, oneOfSeveral = false }: PutHow = {},
): Promise<void> {
  const id = w.app.ids.id();
  if (await assignmentOn(w.tx, shift.id, contactId)) throw refused('on-shift');
  if (source === 'public' && (await isFull(w.tx, shift))) throw refused('shift-full');
  await insert(w.tx, 'assignments', {
    id,
    shiftId: shift.id,
    contactId,
    state: 'agreed',
    agreedAt: w.now,
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
    insteadOf,
    oneOfSeveral,
  });
}
