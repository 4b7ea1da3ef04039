import type { DoorRow, doorsContract } from '#contract/doors.ts';
import type { Answered } from '#contract/endpoint.ts';
import { factsOf, mayChange } from '#core/access/stages.ts';
import { fullName } from '#core/contacts/names.ts';
import { came } from '#core/doors/attendance.ts';
import { readPassCode } from '#core/doors/passCode.ts';
import { eventDayOf, judge, mayComeIn, shortestReason } from '#core/doors/verdict.ts';
import { lives, livingStates } from '#core/events/states.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type App, audit, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { identify } from '../contacts/linking.ts';
import { readReach } from '../contacts/reach.ts';
import { logCare } from '../contacts/seeing.ts';
import { resolveContact, searchContacts } from '../contacts/store.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { endSql } from '../events/end.ts';
import { type EventRow, readEvent, readOffers } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid, Problem } from '../http/problem.ts';
import { hasCareSql, readCare } from '../registration/care.ts';
import { placeOrder } from '../registration/ordering.ts';
import { readSeat, readSeats } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { signWaiver } from '../waivers/signing.ts';
import { readWaiver, waiverStandings } from '../waivers/store.ts';

interface RawRow {
  registrationId: string;
  orderId: string;
  given: string;
  family: string;
  buyer: string;
  party: number;
  offer: string;
  seatState: RegistrationState;
  attendance: 'expected' | 'arrived' | 'left' | 'missed' | null;
  arrivedAt: string | null;
  balance: number;
  died: boolean;
  care: boolean;
}

/** The rows of the door list; with `registrationId` only that one. */
async function doorRows(
  tx: Queries,
  event: EventRow,
  now: string,
  registrationId: string | null = null,
): Promise<DoorRow[]> {
  const { ageOfMajority, zone } = await theOrganization(tx);
  const needs = await waiverStandings(tx, event, ageOfMajority, dateOf(now, zone));
  const rows = await tx.query<RawRow>(
    `select r.id as registration_id, r.order_id, r.given_name as given, r.family_name as family, o.buyer_given || ' ' || o.buyer_family as buyer,
       o.seats as party, f.name as offer, r.state as seat_state, a.state as attendance, a.arrived_at,
       greatest(0, o.balance) as balance,
       exists (select 1 from contacts k where k.id = r.contact_id and k.deceased_on is not null) as died, ${hasCareSql('r', 'o')} as care
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id
       left join attendance a on a.registration_id = r.id
     where r.event_id = $1 and (r.id = $2 or ($2::uuid is null and r.state = 'confirmed'))
     order by (r.family_name = '' and r.given_name = ''), r.family_name, r.given_name, r.id`,
    [event.id, registrationId],
  );
  return rows.map((r) => {
    const need = needs.get(r.registrationId) ?? 'not asked';
    const verdict = judge({
      seatState: r.seatState,
      attendance: r.attendance ?? 'expected',
      waiverMissing: need === 'self' || need === 'guardian' ? need : null,
      balance: r.balance,
      sameEvent: true,
      day: eventDayOf(event, dateOf(now, event.zone)),
      closedDoor: lives(event.state) ? null : `This event is ${event.state}`,
    });
    return {
      registrationId: r.registrationId,
      orderId: r.orderId,
      given: r.given,
      family: r.family,
      party: r.party > 1 ? `party of ${r.party}, ${r.buyer}` : '',
      offer: r.offer,
      attendance: r.attendance ?? 'expected',
      arrivedAt: r.arrivedAt,
      ...verdict,
      // The family is spared the question at the door.
      details: [...(r.died ? ['Died. Nobody is to be asked for them.'] : []), ...verdict.details],
      missing: [
        ...(need === 'guardian' ? (['guardian'] as const) : need === 'self' ? (['signature'] as const) : []),
        ...(r.balance > 0 ? (['money'] as const) : []),
      ],
      balance: r.balance,
      care: r.care,
    };
  });
}

/** The furthest back that an arrival told later may lie, in hours. */
const latestTold = 36;

/** When something was that is told now: as the device says, not in the future and not long ago. */
function toldFor(app: App, now: string, at: string | undefined): string {
  // The demonstration's clock is not that of the device.
  if (!at || app.movable) return now;
  const until = Date.parse(now);
  const told = Math.max(until - latestTold * 3_600_000, Math.min(until, Date.parse(at)));
  return new Date(told).toISOString();
}

interface Mark {
  /** The event at whose door they stand. */
  eventId: string;
  state: 'expected' | 'arrived' | 'left';
  despite: string;
  at?: string | undefined;
}

/** Marks an arrival, a leaving, or takes a mark back. Answers whether anything changed: two devices may mark the same. */
async function mark(
  w: Work,
  registrationId: string,
  { eventId, state, despite, at }: Mark,
): Promise<{ state: 'expected' | 'arrived' | 'left' | 'missed'; changed: boolean }> {
  const { tx, app, now } = w;
  const seat = await readSeat(tx, registrationId);
  const event = await readEvent(tx, seat.eventId);
  if (seat.eventId !== eventId && despite.length < shortestReason)
    throw conflict(
      'another-event',
      `This seat is at ${event.publicTitle}, not here. Say why to mark it all the same.`,
    );
  if (seat.state !== 'confirmed')
    throw conflict('not-confirmed', `This seat is ${seat.state}; only a confirmed one can arrive.`);
  if (!lives(event.state)) throw conflict('event-state', `This event is ${event.state}.`);
  const before =
    (
      await first<{ state: 'expected' | 'arrived' | 'left' | 'missed' }>(
        tx,
        'select state from attendance where registration_id = $1 for update',
        [registrationId],
      )
    )?.state ?? 'expected';
  if (before === state) return { state, changed: false };
  if (state === 'left' && before !== 'arrived')
    throw conflict('not-in', 'Somebody who is not in cannot leave.');
  const when = toldFor(app, now, at);
  if (state === 'arrived' && before !== 'left') {
    // Judged by the moment it happened: what is told after midnight was yesterday's door.
    const [row] = await doorRows(tx, event, when, registrationId);
    if (row && row.attendance !== 'arrived' && !mayComeIn(row, despite))
      throw conflict(
        'stop',
        `${row.headline}. ${row.details.join(' ')} Say why to let them in all the same.`,
      );
  }
  await tx.query(
    `insert into attendance (registration_id, event_id, contact_id, state, arrived_at, left_at) values ($1, $2, $3, $4, $5, $6)
     on conflict (registration_id) do update set state = excluded.state,
       arrived_at = case when excluded.state = 'expected' then null when excluded.state = 'left' or attendance.state = 'left' then attendance.arrived_at else excluded.arrived_at end,
       left_at = excluded.left_at`,
    [
      registrationId,
      seat.eventId,
      seat.contactId,
      state,
      state === 'arrived' ? when : null,
      state === 'left' ? when : null,
    ],
  );
  await insert(tx, 'attendance_marks', {
    id: app.ids.id(),
    registrationId,
    state,
    at: when,
    staffId: w.actor.staffId,
    actor: w.actor.name,
  });
  await record(w, 'attendance marked', { eventId: seat.eventId, registrationId, state, despite });
  return { state, changed: true };
}

/** As much of somebody as tells them apart from a namesake: the first letter and the house of an email, the last digits. */
function hintOf(l: { email: string | null; phone: string | null }): string {
  const [name = '', house = ''] = (l.email ?? '').split('@');
  return [house && `${name[0] ?? ''}…@${house}`, l.phone && `…${l.phone.slice(-2)}`]
    .filter(Boolean)
    .join(', ');
}

export const doorsHandlers: Handlers<typeof doorsContract> = {
  'GET /api/registrations/:id/care': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'see');
    if (!factsOf(c.staff, event, c.now).has('health'))
      throw new Problem(403, 'not-your-part', 'Your role does not reach what is known about health.');
    const notes = await readCare(c.tx, seat.id);
    if (notes.length)
      await logCare(c, 'doors', [{ contactId: seat.contactId, registrationId: seat.id, eventId: event.id }]);
    return { notes };
  },

  'GET /api/events/:id/doors': async (c) => {
    const { tx, params, now } = c;
    const event = await eventFor(c, params.id, 'doors', 'see');
    const health = factsOf(c.staff, event, now).has('health');
    const rows = (await doorRows(tx, event, now)).map((r) => ({ ...r, care: health && r.care }));
    const offers = await readOffers(tx, params.id);
    return {
      title: event.publicTitle,
      startsLocal: event.startsLocal,
      state: event.state,
      confirmed: rows.length,
      arrived: rows.filter((r) => r.attendance === 'arrived' || r.attendance === 'left').length,
      inside: rows.filter((r) => r.attendance === 'arrived').length,
      capacity: event.capacity,
      day: eventDayOf(event, dateOf(now, event.zone)),
      waiver: await readWaiver(tx, event.waiverId).then(
        (w) => w && { id: w.id, title: w.title, version: w.version, clauses: w.clauses },
      ),
      offers: offers.map(({ id, name, price }) => ({ id, name, price })),
      rows,
    };
  },

  'POST /api/events/:id/scan': async (c) => {
    const { tx, params, body, now } = c;
    const event = await eventFor(c, params.id, 'doors', 'change');
    const stop = (headline: string, ...details: string[]) => ({
      row: null,
      light: 'stop' as const,
      headline,
      details,
    });
    const code = readPassCode(body.code);
    if (!code) return stop('No pass code', 'This is not a code of ours, or it was mistyped.');
    const seat = await first<{ id: string; eventId: string; title: string }>(
      tx,
      'select r.id, r.event_id, e.public_title as title from registrations r join events e on e.id = r.event_id where r.pass_code = $1',
      [code],
    );
    if (!seat) return stop('Unknown pass', 'Nobody holds this code.');
    if (seat.eventId !== event.id) {
      const verdict = judge({
        seatState: 'confirmed',
        attendance: 'expected',
        waiverMissing: null,
        balance: 0,
        sameEvent: false,
        day: 'today',
        closedDoor: null,
      });
      return stop(verdict.headline, `This pass is for ${seat.title}.`);
    }
    const [row] = await doorRows(tx, event, now, seat.id);
    return { row: row!, light: row!.light, headline: row!.headline, details: row!.details };
  },

  'POST /api/registrations/:id/attendance': async (c) => {
    await eventFor(c, c.body.eventId, 'doors', 'change');
    await eventFor(c, (await readSeat(c.tx, c.params.id)).eventId, 'doors', 'change');
    return mark(c, c.params.id, c.body);
  },

  'POST /api/registrations/:id/signatures': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    const event = await eventFor(c, seat.eventId, 'doors', 'change');
    await signWaiver(c, seat, c.body);
    await audit(c, 'signed at the door', { kind: 'registration', id: seat.id }, { device: c.staff.name });
    const [row] = await doorRows(c.tx, event, c.now, seat.id);
    return { row: row! };
  },

  'GET /api/doors': async (c) => {
    const { zone } = await theOrganization(c.tx);
    const today = dateOf(c.now, zone);
    const rows = await c.tx.query<{
      id: string;
      title: string;
      unitId: string | null;
      startsLocal: string | null;
      endsLocal: string | null;
      doorsLocal: string | null;
      startsAt: string;
      endsAt: string | null;
      doorsAt: string | null;
      zone: string;
      place: string | null;
      confirmed: number;
      arrived: number;
    }>(
      `select e.id, e.public_title as title, e.unit_id, e.starts_local, e.ends_local, e.doors_local, e.starts_at, e.ends_at, e.doors_at, e.zone,
         v.name as place, (select count(*)::int from registrations r where r.event_id = e.id and r.state = 'confirmed') as confirmed,
         (select count(*)::int from attendance a where a.event_id = e.id and a.state in ${among(came)}) as arrived
       from events e left join venues v on v.id = e.venue_id
       where e.state in ${among(livingStates)} and not e.is_template and ${endSql('e')} > $1::timestamptz - interval '1 day'
         and coalesce(e.doors_at, e.starts_at) < $1::timestamptz + interval '2 days' order by e.starts_at, e.id`,
      [c.now],
    );
    const found: Answered<(typeof doorsContract)['GET /api/doors']> = [];
    for (const { unitId, endsLocal, doorsLocal, startsAt, endsAt, doorsAt, zone: where, ...row } of rows) {
      if (!mayChange(c.staff, { unitId, startsAt, endsAt, doorsAt }, 'doors', c.now)) continue;
      const day = eventDayOf(
        { startsLocal: row.startsLocal, endsLocal, doorsLocal },
        dateOf(c.now, where) || today,
      );
      if (day !== 'no date') found.push({ ...row, day });
    }
    const order = { today: 0, 'to come': 1, past: 2 };
    return found.sort((a, b) => order[a.day] - order[b.day]);
  },

  'GET /api/events/:id/known': async (c) => {
    await eventFor(c, c.params.id, 'doors', 'change');
    const lines = await searchContacts(c.tx, c.query.q, 6);
    return lines
      .filter((l) => l.kind === 'person')
      .map((l) => ({ contactId: l.id, name: fullName(l), hint: hintOf(l) }));
  },

  'POST /api/events/:id/walk-ins': async (c) => {
    const { tx, params, body } = c;
    const event = await eventFor(c, params.id, 'doors', 'change', true);
    const { country } = await theOrganization(tx);
    const { email, phone, problems } = readReach(body, country);
    if (problems.length) throw invalid(problems);
    const picked = body.contactId ? await resolveContact(tx, body.contactId) : null;
    if (body.contactId && !picked)
      throw invalid([{ path: 'contactId', message: 'This contact does not exist.' }]);
    const person = { given: body.given, family: body.family, email, phone, birthDate: body.birthDate };
    const decision = picked ? null : await identify(c, person);
    const known = picked ?? (decision?.outcome === 'same' ? decision.contactId : null);
    if (known) {
      const seat = await first(
        tx,
        "select 1 as x from registrations where event_id = $1 and contact_id = $2 and state = 'confirmed'",
        [event.id, known],
      );
      if (seat) throw conflict('has-seat', `${fullName(body)} has a seat already; find them in the list.`);
    }
    const placed = await placeOrder(
      c,
      event.id,
      {
        buyer: { given: body.given, family: body.family, email: body.email, phone: body.phone },
        lines: [{ offerId: body.offerId, units: 1 }],
        attendees: [
          { given: body.given, family: body.family, birthDate: body.birthDate, email: '', answers: {} },
        ],
        answers: {},
        donation: { amount: 0, fundId: null, anonymous: false },
        language: 'en',
        waitlist: false,
      },
      'door',
      { buyerContactId: picked },
    );
    const [seat] = await readSeats(tx, placed.orderId);
    await update(tx, 'registrations', seat!.id, { walkIn: true });
    // In at once where nothing is in the way; else they sign and pay, or are let in with a reason.
    let [row] = await doorRows(tx, event, c.now, seat!.id);
    const arrived = mayComeIn(row!, body.despite);
    if (arrived) {
      await mark(c, seat!.id, { eventId: event.id, state: 'arrived', despite: body.despite });
      [row] = await doorRows(tx, event, c.now, seat!.id);
    }
    return { registrationId: seat!.id, known: known !== null && known !== undefined, arrived, row: row! };
  },
};
