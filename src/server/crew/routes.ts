import type { crewContract } from '#contract/crew.ts';
import { clashesOf, hoursOf } from '#core/crew/clashes.ts';
import { type AssignmentState, onShift, refusalOf } from '#core/crew/states.ts';
import { lives } from '#core/events/states.ts';
import { writeCalendar } from '#core/exchange/calendar.ts';
import { sayTime } from '#core/time/say.ts';
import { instantOf, meaningOf } from '#core/time/wallTime.ts';
import { followLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { readReach } from '../contacts/reach.ts';
import { readContact, resolveContact } from '../contacts/store.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { endSql } from '../events/end.ts';
import { readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound, refused } from '../http/problem.ts';
import { publicEventRow } from '../registration/public.ts';
import { theOrganization } from '../staff/store.ts';
import { readShift, readShifts, readStints, type ShiftRow } from './store.ts';

/** What speaks against putting somebody on a shift: other shifts, and a seat of their own at the same event. */
async function clashesFor(tx: Queries, shift: ShiftRow, contactId: string) {
  const stints = await readStints(tx, contactId, shift.startsAt, shift.endsAt);
  const clashes: { kind: 'overlap' | 'short rest' | 'own seat' | 'quiet'; text: string }[] = clashesOf(
    { shiftId: shift.id, label: shift.role, startsAt: shift.startsAt, endsAt: shift.endsAt },
    stints,
  ).map(({ kind, text }) => ({ kind, text }));
  const seat = await first<{ title: string }>(
    tx,
    `select e.public_title as title from registrations r join events e on e.id = r.event_id
     where r.contact_id = $1 and r.state = 'confirmed' and e.starts_at < $3 and ${endSql('e')} > $2 limit 1`,
    [contactId, shift.startsAt, shift.endsAt],
  );
  if (seat) clashes.push({ kind: 'own seat', text: `has a seat at ${seat.title} at that time` });
  const quiet = await first<{ why: string | null }>(
    tx,
    `select ${whyQuiet('c')} as why from contacts c where id = $1`,
    [contactId],
  );
  if (quiet?.why) clashes.push({ kind: 'quiet', text: quiet.why });
  return clashes;
}

/** True when as many are on a shift as are needed. */
async function isFull(tx: Queries, shift: ShiftRow): Promise<boolean> {
  const filled = await first<{ n: number }>(
    tx,
    `select count(*)::int as n from assignments where shift_id = $1 and state in ${among(onShift)}`,
    [shift.id],
  );
  return filled!.n >= shift.needed;
}

async function assign(
  w: Work,
  shift: ShiftRow,
  contactId: string,
  source: 'staff' | 'public',
  clashes: object[],
  overrideReason: string | null,
): Promise<string> {
  const { tx, app, now } = w;
  const id = app.ids.id();
  const twice = await first(
    tx,
    `select 1 as x from assignments where shift_id = $1 and contact_id = $2 and state in ${among(onShift)}`,
    [shift.id, contactId],
  );
  if (twice) throw conflict('on-shift', 'This person is on this shift already.');
  if (source === 'public' && (await isFull(tx, shift))) throw refused('shift-full');
  await insert(tx, 'assignments', {
    id,
    shiftId: shift.id,
    contactId,
    state: 'agreed',
    source,
    overrideReason,
    clashes,
    madeAt: now,
  });
  await record(w, 'shift taken', {
    eventId: shift.eventId,
    shiftId: shift.id,
    assignmentId: id,
    contactId,
    signedUp: source === 'public',
    overrideReason,
  });
  return id;
}

async function crewByLink(tx: Queries, token: string): Promise<string> {
  const opened = await followLink(tx, 'crew', token);
  // A contact that was merged has its page with the one it became.
  const id = opened && (await resolveContact(tx, opened));
  if (!id) throw notFound('This page');
  return id;
}

interface OwnShiftRow extends ShiftRow {
  assignmentId: string;
  state: string;
  event: string;
  slug: string | null;
  zone: string;
  venue: string | null;
  filled: number;
  version: number;
  hours: number | null;
}

const ownShifts = (tx: Queries, contactId: string): Promise<OwnShiftRow[]> =>
  tx.query<OwnShiftRow>(
    `select a.id as assignment_id, a.state, a.hours, s.id, s.event_id, s.role, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at, s.needed, s.public_sign_up,
       (select count(*)::int from assignments x where x.shift_id = s.id and x.state in ${among(onShift)}) as filled,
       e.public_title as event, e.slug, e.zone, e.version, v.name as venue
     from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id left join venues v on v.id = e.venue_id
     where a.contact_id = $1 and a.state in ${among(onShift)} and e.state <> 'called off' order by s.starts_at`,
    [contactId],
  );

export const crewHandlers: Handlers<typeof crewContract> = {
  'GET /api/events/:id/crew': async (c) => {
    const { tx, params } = c;
    await eventFor(c, params.id, 'crew', 'see');
    const shifts = await readShifts(tx, params.id);
    return {
      shifts,
      needed: shifts.reduce((sum, s) => sum + s.needed, 0),
      filled: shifts.reduce((sum, s) => sum + Math.min(s.filled, s.needed), 0),
      hours: shifts.reduce((sum, s) => sum + s.needed * hoursOf(s.startsAt, s.endsAt), 0),
    };
  },

  'POST /api/events/:id/shifts': async (c) => {
    const event = await eventFor(c, c.params.id, 'crew', 'change');
    const { startsLocal, endsLocal } = c.body;
    for (const [path, wall] of [
      ['startsLocal', startsLocal],
      ['endsLocal', endsLocal],
    ] as const) {
      const meaning = meaningOf(wall, event.zone);
      if (meaning.kind === 'gap')
        throw invalid([
          { path, message: `${sayTime(wall)} does not exist on that date: the clocks go forward.` },
        ]);
    }
    const startsAt = instantOf(startsLocal, event.zone);
    const endsAt = instantOf(endsLocal, event.zone);
    if (endsAt <= startsAt)
      throw invalid([
        { path: 'endsLocal', message: 'The end is before the start. If it ends the next day, say so.' },
      ]);
    if (hoursOf(startsAt, endsAt) > 24)
      throw invalid([{ path: 'endsLocal', message: 'A shift lasts at most 24 hours.' }]);
    const id = c.app.ids.id();
    await insert(c.tx, 'shifts', { id, eventId: event.id, ...c.body, startsAt, endsAt });
    await record(c, 'shift added', { eventId: event.id, role: c.body.role });
    return { id };
  },

  'DELETE /api/shifts/:id': async (c) => {
    const shift = await readShift(c.tx, c.params.id);
    await eventFor(c, shift.eventId, 'crew', 'change');
    if (
      await first(c.tx, `select 1 as x from assignments where shift_id = $1 and state in ${among(onShift)}`, [
        shift.id,
      ])
    )
      throw conflict('shift-taken', 'Somebody is on this shift. Drop them first, so that they are told.');
    await c.tx.query('delete from shifts where id = $1', [shift.id]);
    await record(c, 'shift removed', { eventId: shift.eventId, role: shift.role });
    return { done: true };
  },

  'POST /api/shifts/:id/assignments': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    await eventFor(c, shift.eventId, 'crew', 'change');
    if (!(await readContact(c.tx, c.body.contactId)))
      throw invalid([{ path: 'contactId', message: 'This contact does not exist.' }]);
    const clashes = await clashesFor(c.tx, shift, c.body.contactId);
    const gone = clashes.find((x) => x.kind === 'quiet' && x.text !== 'asked not to be contacted');
    if (gone)
      throw invalid([
        { path: 'contactId', message: `Nobody can be put on a shift of whom it is known: ${gone.text}.` },
      ]);
    if (clashes.length && c.body.overrideReason.length < 3) return { assigned: false, clashes };
    await assign(c, shift, c.body.contactId, 'staff', clashes, clashes.length ? c.body.overrideReason : null);
    return { assigned: true, clashes };
  },

  'POST /api/assignments/:id/state': async (c) => {
    const { tx, params, body } = c;
    const row = await first<{ shiftId: string; state: AssignmentState }>(
      tx,
      'select shift_id, state from assignments where id = $1',
      [params.id],
    );
    if (!row) throw notFound('This assignment');
    const shift = await readShift(tx, row.shiftId);
    await eventFor(c, shift.eventId, 'crew', 'change');
    const refusal = refusalOf({ state: row.state, begun: shift.startsAt <= c.now }, body.state);
    if (refusal)
      throw conflict(
        refusal.code,
        refusal.code === 'dropped'
          ? 'This person was dropped from the shift; put them on again instead.'
          : 'The shift has not begun.',
      );
    const hours = body.state === 'served' ? (body.hours ?? hoursOf(shift.startsAt, shift.endsAt)) : null;
    await update(tx, 'assignments', params.id, { state: body.state, hours });
    await record(c, 'shift marked', {
      eventId: shift.eventId,
      shiftId: shift.id,
      assignmentId: params.id,
      state: body.state,
      hours,
    });
    return { done: true };
  },

  'GET /api/public/events/:slug/shifts': async ({ tx, params, now }) => {
    const event = await publicEventRow(tx, params.slug);
    const shifts = (await readShifts(tx, event.id)).filter((s) => s.publicSignUp && s.startsAt > now);
    return {
      title: event.publicTitle,
      slug: event.slug!,
      zone: event.zone,
      startsLocal: event.startsLocal,
      place: event.venueName,
      shifts: shifts.map(({ id, role, place, startsLocal, endsLocal, needed, assignments }) => ({
        id,
        role,
        place,
        startsLocal,
        endsLocal,
        needed,
        filled: Math.min(needed, assignments.length),
      })),
    };
  },

  'POST /api/public/shifts/:id/sign-up': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    const event = await readEvent(c.tx, shift.eventId);
    if (!lives(event.state) || !shift.publicSignUp || shift.startsAt <= c.now) throw refused('shift-closed');
    const { email, phone, problems } = readReach(c.body, (await theOrganization(c.tx)).country);
    if (!c.body.email) problems.push({ path: 'email', code: 'email-for-shifts' });
    if (problems.length) throw invalid(problems);
    if (await isFull(c.tx, shift)) throw refused('shift-full');
    const { contactId } = await linkPerson(
      c,
      { ...c.body, email, phone },
      `signed up for a shift at ${event.publicTitle}`,
      'outside',
    );
    // Whoever asks learns nothing of the person they name: what stands in the way goes to that person by mail.
    const clashes = await clashesFor(c.tx, shift, contactId);
    const gone = clashes.some((x) => x.kind === 'quiet' && x.text !== 'asked not to be contacted');
    const on = await first<{ id: string }>(
      c.tx,
      `select id from assignments where shift_id = $1 and contact_id = $2 and state in ${among(onShift)}`,
      [shift.id, contactId],
    );
    if (on || clashes.some((x) => x.kind === 'overlap'))
      await record(c, 'shift asked for in vain', {
        eventId: event.id,
        shiftId: shift.id,
        contactId,
        assignmentId: on?.id ?? null,
      });
    else if (!gone) await assign(c, shift, contactId, 'public', clashes, null);
    return { done: true };
  },

  'GET /api/public/crew/:token': async ({ tx, params, now }) => {
    const contactId = await crewByLink(tx, params.token);
    const contact = (await readContact(tx, contactId))!;
    const shifts = await ownShifts(tx, contactId);
    return {
      name: contact.givenName || contact.familyName,
      hoursServed: shifts.filter((s) => s.state === 'served').reduce((sum, s) => sum + (s.hours ?? 0), 0),
      shifts: shifts.map(
        ({
          id,
          role,
          place,
          startsLocal,
          endsLocal,
          needed,
          filled,
          assignmentId,
          event,
          slug,
          zone,
          venue,
          state,
          endsAt,
        }) => ({
          id,
          role,
          place,
          startsLocal,
          endsLocal,
          needed,
          filled,
          assignmentId,
          event,
          slug,
          zone,
          venue,
          state,
          past: endsAt <= now,
        }),
      ),
    };
  },

  'POST /api/public/crew/:token/drop': async (c) => {
    const contactId = await crewByLink(c.tx, c.params.token);
    const own = (await ownShifts(c.tx, contactId)).find((s) => s.assignmentId === c.body.assignmentId);
    if (!own) throw notFound('This shift');
    if (own.startsAt <= c.now)
      throw conflict('begun', 'This shift has begun; please speak to the crew lead.');
    await update(c.tx, 'assignments', own.assignmentId, { state: 'dropped' });
    await record(c, 'shift given back', { eventId: own.eventId, shiftId: own.id, contactId });
    return { done: true };
  },

  'GET /api/public/crew/:token/calendar.ics': async ({ tx, params, now, app }) => {
    const contactId = await crewByLink(tx, params.token);
    const { name } = await theOrganization(tx);
    const entries = (await ownShifts(tx, contactId)).map((s) => ({
      uid: `${s.assignmentId}@acolyte`,
      startsAt: s.startsAt,
      endsAt: s.endsAt,
      summary: `${s.role}, ${s.event}`,
      location: [s.place, s.venue].filter(Boolean).join(', '),
      url: `${app.origin}/crew/${params.token}`,
      sequence: s.version,
    }));
    return new File('shifts.ics', writeCalendar(`Shifts, ${name}`, entries, now));
  },
};
