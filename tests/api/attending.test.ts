import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { inTransaction, openLink, systemActor } from '#server/app/app.ts';
import { linkToken } from '#server/db/ids.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { type OpenEvent, openEvent, orderFor, sessionOf } from './scenes.ts';
import { wordsOf } from './wordsOf.ts';

let world: World;
let odalys: Caller;
let door: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  door = await world.as('door');
});
afterAll(() => world.close());

type Doors = Partial<EventPlan['doors']>;

interface Seat {
  id: string;
  given: string;
}
interface Scene {
  event: OpenEvent;
  token: string;
  seats: Seat[];
}
/** An event today, with a booking of some people. */
async function scene(
  title: string,
  given: readonly string[],
  {
    ends = '2026-07-09T23:00',
    doors = {},
    sessions = [],
    born = '1990-01-01',
    buyer = '',
  }: { ends?: string; doors?: Doors; sessions?: EventPlan['sessions']; born?: string; buyer?: string } = {},
): Promise<Scene> {
  const event = await openEvent(world, { title, startsLocal: '2026-07-09T08:00', endsLocal: ends });
  const saved = await saveIt(odalys, event.id, {
    doors: { goHome: false, handover: false, most: null, certificate: null, ...doors },
    sessions,
  });
  expect(saved.status).toBe(200);
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(
      event,
      given.map((name) => ({ given: name, family: 'Sedge', birthDate: born })),
      buyer ? { buyer: { given: buyer, family: 'Sedge', email: 'booked@sedge.example' } } : {},
    ),
  });
  const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  return { event, token, seats: seats.map((s) => ({ id: s.id, given: s.given })) };
}
const list = (event: OpenEvent, session?: string) =>
  odalys.call('GET /api/events/:id/doors', { params: { id: event.id }, query: session ? { session } : {} });
const rowOf = async (event: OpenEvent, seat: Seat, session?: string) =>
  (await list(event, session)).rows.find((r) => r.registrationId === seat.id)!;
const mark = (
  event: OpenEvent,
  seat: Seat,
  state: 'arrived' | 'left' | 'expected',
  more: object = {},
  as = odalys,
) =>
  as.try('POST /api/registrations/:id/attendance', {
    params: { id: seat.id },
    body: { eventId: event.id, state, ...more },
  });
const attendance = (event: OpenEvent, as = odalys) =>
  as.call('GET /api/events/:id/attendance', { params: { id: event.id } });
const attended = async (event: OpenEvent, seat: Seat) =>
  (await attendance(event)).rows.find((r) => r.registrationId === seat.id)!;
const correct = (seat: Seat, stays: [string, string | null][], more: object = {}, as = odalys) =>
  as.try('PUT /api/registrations/:id/attendance', {
    params: { id: seat.id },
    body: {
      stays: stays.map(([fromLocal, untilLocal]) => ({ fromLocal, untilLocal })),
      why: 'They were on the paper list',
      ...more,
    },
  });
/** An attendance of ten minutes ago, so that something was there to correct. */
const today = (time: string) => `2026-07-09T${time}`;

describe('sessions and days', () => {
  test('the door of a session: whose it is, where else they should be, and that they come to the event by it', async () => {
    const talk = sessionOf('Herons', [1, '09:00', '10:30'], { signUp: true });
    const walk = sessionOf('Walk', [1, '09:00', '10:00'], { signUp: true });
    const plenary = sessionOf('Opening', [1, '11:00', '12:00']);
    const { event, seats } = await scene('By Session', ['Ada', 'Bo', 'Cy'], {
      sessions: [talk, walk, plenary],
    });
    const [ada, bo, cy] = seats as [Seat, Seat, Seat];
    // Saving gives sessions no other ids; people choose before it begins.
    const choose = (seat: Seat, sessions: string[]) =>
      world.app.db.query(
        'insert into session_seats (session_id, registration_id, at) select unnest($2::uuid[]), $1, now()',
        [seat.id, sessions],
      );
    await choose(ada, [talk.id]);
    await choose(bo, [walk.id]);
    const at = await list(event, talk.id);
    expect(at.sessions.map((s) => [s.title, s.today])).toEqual([
      ['Herons', true],
      ['Walk', true],
      ['Opening', true],
    ]);
    expect(at.rows.map((r) => [r.given, r.here, r.light, r.headline, r.details[0]])).toEqual([
      ['Ada', true, 'go', 'Come in', undefined],
      ['Bo', false, 'stop', 'Another session', 'They signed up for Walk.'],
      ['Cy', false, 'stop', 'Another session', 'They did not sign up for this session.'],
    ]);
    expect((await list(event, plenary.id)).rows.map((r) => r.light)).toEqual(['go', 'go', 'go']);
    expect((await mark(event, bo, 'arrived', { sessionId: talk.id })).status).toBe(409);
    expect((await mark(event, bo, 'arrived', { sessionId: crypto.randomUUID() })).problem.code).toBe(
      'session-elsewhere',
    );
    expect(
      (await mark(event, bo, 'arrived', { sessionId: talk.id, despite: 'A seat is free' })).body.state,
    ).toBe('arrived');
    expect((await mark(event, ada, 'arrived', { sessionId: talk.id })).body).toEqual({
      state: 'arrived',
      changed: true,
    });
    // They are at the event, too; leaving the session leaves them there.
    expect((await rowOf(event, ada)).attendance).toBe('arrived');
    expect((await mark(event, ada, 'left', { sessionId: talk.id })).body.state).toBe('left');
    expect((await rowOf(event, ada)).attendance).toBe('arrived');
    expect((await rowOf(event, ada, talk.id)).headline).toBe('Coming back');
    const { sessions } = await attendance(event);
    expect(sessions.find((s) => s.id === talk.id)).toMatchObject({ came: 2, kept: true });
    expect((await attended(event, ada)).sessions).toEqual([talk.id]);
    expect((await attended(event, cy)).state).toBe('expected');
    // Whoever is inside has settled what there was: no other door asks again.
    expect((await rowOf(event, ada, plenary.id)).toKnow).toEqual([]);
    expect(
      (
        await odalys.try('GET /api/events/:id/doors', {
          params: { id: event.id },
          query: { session: crypto.randomUUID() },
        })
      ).problem.code,
    ).toBe('session-elsewhere');
  });

  test('a session that has its own list counts by it, and the file of a day out says who left', async () => {
    const talk = sessionOf('Talk', [1, '08:30', '09:30']);
    const { event, seats } = await scene('Counted', ['Ada', 'Bo'], {
      sessions: [talk],
      doors: { certificate: { share: 80, of: 'sessions' } },
    });
    const [ada, bo] = seats as [Seat, Seat];
    await correct(ada, [[today('08:30'), today('09:00')]], { sessionId: talk.id });
    await correct(bo, [[today('08:00'), today('09:15')]]);
    // Somebody was marked at the talk: who was only in the building was not there.
    expect((await attended(event, ada)).counted).toEqual({ minutes: 30, of: 60 });
    expect((await attended(event, bo)).counted).toEqual({ minutes: 0, of: 60 });
  });
});

describe('corrections', () => {
  test('say when somebody was there, by whom and why; what was marked stays on record', async () => {
    const { event, seats } = await scene('Corrected', ['Ada']);
    const [ada] = seats as [Seat];
    await mark(event, ada, 'arrived', {}, door);
    expect((await correct(ada, [[today('08:10'), today('09:00')]], {}, door)).status).toBe(200);
    expect(await attended(event, ada)).toMatchObject({
      state: 'left',
      counted: { minutes: 50 },
      corrected: true,
    });
    const { marks, stays } = await odalys.call('GET /api/registrations/:id/attendance', {
      params: { id: ada.id },
    });
    expect(stays).toEqual([{ from: '2026-07-09T11:10:00.000Z', until: '2026-07-09T12:00:00.000Z' }]);
    expect(marks.map((m) => [m.state, m.why !== '', m.takenBack]).sort()).toEqual([
      ['arrived', false, true],
      ['arrived', true, false],
      ['expected', true, false],
      ['left', true, false],
    ]);
    expect(marks.find((m) => m.why)).toMatchObject({ why: 'They were on the paper list' });
    const twice = await correct(ada, [[today('08:10'), today('09:00')]]);
    expect(twice.problem.code).toBe('nothing-different');
    // That they never came is said with no time at all.
    expect((await correct(ada, [])).status).toBe(200);
    expect((await attended(event, ada)).state).toBe('expected');
  });

  test('what cannot be is refused field by field, and nothing is kept of it', async () => {
    const talk = sessionOf('Early Talk', [1, '08:30', '09:30']);
    const { event, seats } = await scene('Not Corrected', ['Ada'], { sessions: [talk] });
    const [ada] = seats as [Seat];
    const wrong = await correct(ada, [
      [today('09:00'), today('08:00')],
      [today('22:00'), null],
    ]);
    expect(wrong.problem.fields).toMatchObject([
      { path: 'stays.0.untilLocal', code: 'left-before' },
      { path: 'stays.1.fromLocal', code: 'time-to-come' },
    ]);
    expect((await correct(ada, [[today('08:00'), null]], { why: ' ' })).problem.fields).toMatchObject([
      { path: 'why', message: 'Say why; the words are kept with it.' },
    ]);
    expect((await correct(ada, [['2026-07-02T08:00', null]])).problem.fields).toMatchObject([
      { code: 'not-at-the-event' },
    ]);
    expect((await correct(ada, [[today('08:40'), null]], { sessionId: talk.id })).status).toBe(200);
    expect((await correct(ada, [[today('09:00'), null]])).problem.code).toBe('session-says-otherwise');
    expect((await correct(ada, [[today('08:20'), null]])).status).toBe(200);
    expect((await attended(event, ada)).arrivedAt).toBe('2026-07-09T11:20:00.000Z');
  });
});

describe('lists of who was there', () => {
  const file = (text: string, sessionId: string | null = null) => ({
    fileName: 'room.csv',
    content: Buffer.from(text).toString('base64'),
    sessionId,
  });
  const check = (event: OpenEvent, text: string) =>
    odalys.try('POST /api/events/:id/attendance/check', { params: { id: event.id }, body: file(text) });
  const take = (event: OpenEvent, text: string, chosen: Record<string, string | null> = {}) =>
    odalys.try('POST /api/events/:id/attendance/lists', {
      params: { id: event.id },
      body: { ...file(text), chosen },
    });

  test('the log of a room online is matched to people, taken, and taken back', async () => {
    const { event, seats } = await scene('Room Log', ['Ada', 'Bo', 'Cy']);
    const [ada, bo, cy] = seats as [Seat, Seat, Seat];
    await mark(event, cy, 'arrived');
    const log =
      'Name,Email,Join time,Leave time\nAda Sedge,,8:05,8:40\nAda Sedge,,8:30,9:00\nBo S.,,8:10,9:00\nZed Nobody,,8:00,9:00\nCy Sedge,,nine,9:00\n';
    const { body } = await check(event, log);
    expect(body.rows.map((r) => [r.registrationId !== null, r.maybe.length > 0, r.problem])).toEqual([
      [true, true, null],
      [true, true, null],
      [false, true, null],
      [false, false, null],
      [true, true, 'The time cannot be read.'],
    ]);
    expect((await attendance(event)).imports).toEqual([]);
    expect((await take(event, log, { '4': crypto.randomUUID() })).problem.fields).toMatchObject([
      { path: 'chosen.4' },
    ]);
    const taken = await take(event, log, { '4': bo.id, '3': null });
    expect(taken.body.people).toBe(2);
    expect((await take(event, log, { '4': bo.id })).problem.code).toBe('list-twice');
    // Line 3 was left out; line 2 alone says when Ada was there.
    expect((await attended(event, ada)).counted.minutes).toBe(35);
    expect((await attended(event, bo)).state).toBe('left');
    const [kept] = (await attendance(event)).imports;
    expect(kept).toMatchObject({ fileName: 'room.csv', rows: 5, people: 2, undoneAt: null });
    const undo = () =>
      odalys.try('POST /api/attendance-lists/:id/undo', { params: { id: kept!.id }, body: {} });
    expect((await undo()).body).toEqual({ done: true });
    expect((await attended(event, ada)).state).toBe('expected');
    expect((await attended(event, cy)).state).toBe('arrived');
    expect((await undo()).problem.code).toBe('list-taken-back');
    // Who is said to be there while it goes on is in, and has not left at its end.
    await take(event, 'Name,Present\nAda Sedge,yes\nBo Sedge,no\n');
    expect([(await attended(event, ada)).state, (await attended(event, bo)).state]).toEqual([
      'arrived',
      'expected',
    ]);
  });

  test('a file that says nobody, no file at all, and a list of strangers are refused whole', async () => {
    const { event } = await scene('Bad Lists', ['Ada']);
    expect((await check(event, 'Date,Note\n2026-07-09,x\n2026-07-10,y\n')).problem.fields).toMatchObject([
      { path: 'content', code: 'list-without-people' },
    ]);
    expect((await check(event, '%PDF-1.7 nothing')).problem.fields).toMatchObject([
      { path: 'content', code: 'file-is' },
    ]);
    expect((await take(event, 'Name,Email\nZed Nobody,zed@post.example\n')).problem.code).toBe(
      'nobody-on-list',
    );
    const stranger = await door.try('POST /api/events/:id/attendance/check', {
      params: { id: event.id },
      body: file('Name,Email\nAda Sedge,ada@post.example\n'),
    });
    // The door team marks; lists are for whoever leads.
    expect(stranger.status).toBe(403);
  });
});

describe('how the doors stand', () => {
  test('inside against what the place may hold, by door, and when', async () => {
    const { event, seats } = await scene('Live', ['Ada', 'Bo', 'Cy'], { doors: { most: 2 } });
    const [ada, bo] = seats as [Seat, Seat];
    await mark(event, ada, 'arrived', { device: 'Main gate' });
    await mark(event, bo, 'arrived', { device: 'Boathouse' });
    await mark(event, bo, 'left', { device: 'Main gate' });
    expect((await list(event)).most).toEqual({ people: 2, crew: 0 });
    const live = await door.call('GET /api/events/:id/doors/live', { params: { id: event.id } });
    expect(live).toMatchObject({ seats: 3, arrived: 2, inside: 1, crew: 0, most: 2, expected: 1 });
    expect(live.doors.map((d) => [d.name, d.arrived])).toEqual([
      ['Boathouse', 1],
      ['Main gate', 1],
    ]);
    const came = live.curve.filter((p) => p.came !== null);
    expect(came.at(-1)!.came).toBe(2);
    expect(live.curve.length).toBeGreaterThan(came.length);
  });

  test('how people came to events of before says how many are expected by when', async () => {
    const { event } = await scene('Forecast', ['Ada', 'Bo', 'Cy', 'Di']);
    const of = () => door.call('GET /api/events/:id/doors/live', { params: { id: event.id } });
    expect((await of()).basis).toBeNull();
    // 36 of 40 who had a seat at events of last year came, each half an hour after the start.
    const names = Array.from({ length: 10 }, (_, n) => `P${n}`);
    for (const n of [1, 2, 3, 4]) {
      const past = await scene(`Before ${n}`, names);
      await world.app.db.query(
        "update events set starts_at = '2025-07-09T11:00:00Z', ends_at = '2025-07-09T13:00:00Z', absences_at = '2025-07-09T20:00:00Z' where id = $1",
        [past.event.id],
      );
      await world.app.db.query(
        "update attendance set state = 'left', arrived_at = '2025-07-09T11:30:00Z' where event_id = $1 and registration_id <> $2",
        [past.event.id, past.seats[0]!.id],
      );
    }
    const live = await of();
    expect(live.basis).toEqual({ of: 'all', events: 4, arrivals: 36 });
    const by = (minute: number) =>
      live.curve.find((p) => Date.parse(p.at) === Date.parse('2026-07-09T11:00:00Z') + minute * 60_000)
        ?.forecast;
    expect([by(0), by(60)]).toEqual([0, 4]);
  });
});

describe('handing children over', () => {
  test('by the code of the booking, or to somebody who is named; nobody else leaves with them', async () => {
    const { event, token, seats } = await scene('Handed Over', ['Kit'], {
      doors: { handover: true },
      born: '2018-01-01',
      buyer: 'Pelle',
    });
    const [kit] = seats as [Seat];
    const grown = await scene('Handed Over Grown', ['Ada'], { doors: { handover: true } });
    const { handover } = await world.anyone.call('GET /api/public/orders/:token/attendance', {
      params: { token },
    });
    expect(handover).toMatch(/^[2-9B-Z]{5}$/u);
    await mark(event, kit, 'arrived', { despite: 'Waiver on paper' });
    expect((await rowOf(event, kit)).handover).toMatchObject({
      hash: expect.any(String),
      collect: ['Pelle Sedge'],
    });
    const inside = await odalys.call('GET /api/events/:id/inside', { params: { id: event.id } });
    expect(inside.rows).toMatchObject([{ name: 'Kit Sedge', minor: true, collect: ['Pelle Sedge'] }]);
    expect((await mark(event, kit, 'left')).problem.code).toBe('handover-needed');
    expect((await mark(event, kit, 'left', { handedTo: '2BCD9' })).problem.code).toBe('handover-wrong');
    expect((await rowOf(event, kit)).attendance).toBe('arrived');
    expect((await mark(event, kit, 'left', { handedTo: handover!.toLowerCase() })).body.changed).toBe(true);
    await mark(event, kit, 'arrived', { despite: 'Back again' });
    await mark(event, kit, 'left', { handedTo: 'Aunt Runa, seen her licence' });
    const { marks } = await odalys.call('GET /api/registrations/:id/attendance', { params: { id: kit.id } });
    expect(marks.filter((m) => m.handedTo).map((m) => m.handedTo)).toEqual([
      'Aunt Runa, seen her licence',
      'code',
    ]);
    // Who is of age leaves as they like, and has no code.
    const [ada] = grown.seats as [Seat];
    await mark(grown.event, ada, 'arrived');
    expect((await mark(grown.event, ada, 'left')).body.changed).toBe(true);
    expect(
      (
        await world.anyone.call('GET /api/public/orders/:token/attendance', {
          params: { token: grown.token },
        })
      ).handover,
    ).toBeNull();
  });
});

describe('name tags', () => {
  test('are made one by one at the door, and the door knows who has one', async () => {
    const { event, seats } = await scene('Tags', ['Ada', 'Bo']);
    const [ada, bo] = seats as [Seat, Seat];
    expect((await rowOf(event, ada)).tagged).toBeNull();
    const print = (seat: Seat, as = door) =>
      as.try('POST /api/registrations/:id/name-tag.pdf', { params: { id: seat.id }, body: {} });
    expect((await wordsOf(Buffer.from((await print(ada)).body as never))).join(' ')).toContain('Ada');
    expect((await rowOf(event, ada)).toKnow).toContain('A name tag lies ready.');
    expect((await rowOf(event, bo)).toKnow).toContain('No name tag yet.');
    // Once more, when it was lost.
    expect((await print(ada)).status).toBe(200);
  });
});

describe('closing', () => {
  const close = (event: OpenEvent, closed: boolean, as = odalys) =>
    as.try('POST /api/events/:id/doors/close', { params: { id: event.id }, body: { closed } });

  test('by hand: who is expected is missed, who comes late is not; and open again', async () => {
    const { event, seats } = await scene('Closed By Hand', ['Ada', 'Bo']);
    const [ada, bo] = seats as [Seat, Seat];
    await mark(event, ada, 'arrived');
    expect((await close(event, true, door)).status).toBe(403);
    expect((await close(event, true)).body.missed).toBe(1);
    expect((await close(event, true)).problem.code).toBe('doors-are-closed');
    expect((await attended(event, bo)).state).toBe('missed');
    const late = await rowOf(event, bo);
    expect(late.light).toBe('go');
    expect(late.toKnow[0]).toContain('The doors were closed at');
    await mark(event, bo, 'arrived');
    expect((await attended(event, bo)).state).toBe('arrived');
    await mark(event, bo, 'expected');
    expect((await attended(event, bo)).state).toBe('missed');
    expect((await close(event, false)).body.missed).toBe(0);
    expect((await attended(event, bo)).state).toBe('expected');
    expect((await close(event, false)).problem.code).toBe('doors-are-open');
  });

  test('doors that have not opened cannot be closed', async () => {
    const event = await openEvent(world, { title: 'Not Begun' });
    expect((await close(event, true)).problem.code).toBe('doors-not-begun');
  });
});

// What follows moves the clock on.
describe('afterwards', () => {
  let weekend: Scene;
  let camp: Scene;
  let supper: Scene;
  let other: Scene;
  let guest: string;
  beforeAll(async () => {
    weekend = await scene('Three Days', ['Ada', 'Bo'], { ends: '2026-07-11T17:00', doors: { goHome: true } });
    camp = await scene('Camp', ['Ada'], { ends: '2026-07-11T17:00' });
    supper = await scene('Long Supper', ['Ada', 'Bo'], {
      doors: { certificate: { share: 80, of: 'event' } },
    });
    other = await scene('Other Supper', ['Zed']);
    // Guests are asked before an event begins.
    const [zed] = other.seats as [Seat];
    await world.app.db.query("update registrations set guest_email = 'zed@guest.example' where id = $1", [
      zed.id,
    ]);
    await inTransaction(world.app, systemActor, (w) => openLink(w, 'seat', zed.id));
    guest = linkToken(world.app.secret, 'seat', other.seats[0]!.id);
  });
  const seat = (of: Scene, given: string) => of.seats.find((s) => s.given === given)!;
  const dispute = (of: Scene, given: string, body: object = {}) =>
    world.anyone.try('POST /api/public/orders/:token/seats/:seat/attendance', {
      params: { token: of.token, seat: seat(of, given).id },
      body: { says: 'came', words: 'I sat at table 4', ...body },
    });
  const shown = async (of: Scene, given: string) =>
    (
      await world.anyone.call('GET /api/public/orders/:token/attendance', { params: { token: of.token } })
    ).seats.find((s) => s.id === seat(of, given).id)!;

  test('each day of an event begins anew: who went home unmarked is expected again, and is found in no emergency list', async () => {
    const ada = seat(weekend, 'Ada');
    await mark(weekend.event, ada, 'arrived');
    await mark(camp.event, seat(camp, 'Ada'), 'arrived');
    expect((await dispute(weekend, 'Ada')).problem.code).toBe('dispute-too-soon');
    await mark(supper.event, seat(supper, 'Ada'), 'arrived');
    await correct(seat(supper, 'Ada'), [[today('08:05'), null]]);
    await world.moveTo('2026-07-10T12:00:00Z');
    expect(
      (await odalys.call('GET /api/events/:id/inside', { params: { id: weekend.event.id } })).rows,
    ).toEqual([]);
    // Where people stay over night nobody is taken off the list.
    expect(
      (await odalys.call('GET /api/events/:id/inside', { params: { id: camp.event.id } })).rows,
    ).toHaveLength(1);
    const morning = await rowOf(weekend.event, ada);
    expect(morning).toMatchObject({
      attendance: 'expected',
      arrivedAt: null,
      light: 'go',
      headline: 'Come in',
    });
    expect(morning.toKnow).toContain('They came on a day before.');
    await mark(weekend.event, ada, 'arrived');
    expect(await rowOf(weekend.event, ada)).toMatchObject({
      attendance: 'arrived',
      arrivedAt: world.app.clock.now(),
    });
    // They came to the event on its first day.
    expect((await attended(weekend.event, ada)).arrivedAt! < '2026-07-10').toBe(true);
    const live = await door.call('GET /api/events/:id/doors/live', { params: { id: weekend.event.id } });
    expect(live).toMatchObject({ arrived: 1, inside: 1, expected: 1 });
  });

  test('a certificate for whoever was there long enough, and for nobody else', async () => {
    expect(await attended(supper.event, seat(supper, 'Ada'))).toMatchObject({
      earned: true,
      counted: { minutes: 895, of: 900 },
    });
    expect(await attended(supper.event, seat(supper, 'Bo'))).toMatchObject({ earned: false });
    const all = await odalys.try('GET /api/events/:id/certificates.pdf', { params: { id: supper.event.id } });
    const words = (await wordsOf(Buffer.from(all.body as never))).join(' ');
    expect(words).toContain('Ada Sedge');
    expect(words).toContain('14 h 55 min of 15 h');
    expect(words).not.toContain('Bo Sedge');
    // Each is in the language of their booking.
    const speak = (language: string) =>
      world.app.db.query('update orders set language = $1 where event_id = $2', [language, supper.event.id]);
    await speak('fr');
    const french = await odalys.try('GET /api/events/:id/certificates.pdf', {
      params: { id: supper.event.id },
    });
    expect((await wordsOf(Buffer.from(french.body as never))).join(' ')).toContain('Attestation de présence');
    await speak('en');
    expect((await shown(supper, 'Ada')).certificate).toBe(true);
    const own = (of: Scene, given: string, token = of.token) =>
      world.anyone.try('GET /api/public/orders/:token/seats/:seat/certificate.pdf', {
        params: { token, seat: seat(of, given).id },
      });
    expect((await own(supper, 'Ada')).status).toBe(200);
    expect((await own(supper, 'Bo')).problem.code).toBe('certificate-not-earned');
    // Another booking's link leads to no seat of this one.
    expect((await own(supper, 'Ada', other.token)).status).toBe(404);
    expect(
      (await odalys.try('GET /api/events/:id/certificates.pdf', { params: { id: other.event.id } })).problem
        .code,
    ).toBe('no-certificates');
    expect(
      (
        await odalys.try('GET /api/registrations/:id/certificate.pdf', {
          params: { id: seat(supper, 'Bo').id },
        })
      ).problem.code,
    ).toBe('certificate-not-earned');
  });

  test('somebody says that it is wrong, once; the answer corrects it and is sent to them', async () => {
    expect(await shown(supper, 'Bo')).toMatchObject({
      state: 'missed',
      dispute: null,
      until: '2026-08-09T02:00:00.000Z',
    });
    expect((await dispute(supper, 'Bo')).body).toEqual({ done: true });
    expect((await dispute(supper, 'Bo')).problem.code).toBe('dispute-waits');
    expect((await shown(supper, 'Bo')).until).toBeNull();
    const [open] = (await attendance(supper.event)).disputes;
    expect(open).toMatchObject({ name: 'Bo Sedge', says: 'came', words: 'I sat at table 4', outcome: null });
    const answer = (body: object) =>
      odalys.try('POST /api/attendance-disputes/:id', { params: { id: open!.id }, body: body as never });
    expect(
      (await answer({ stays: [{ fromLocal: today('22:00'), untilLocal: today('21:00') }] })).status,
    ).toBe(422);
    const done = await answer({
      stays: [{ fromLocal: today('08:30'), untilLocal: today('22:30') }],
      answer: 'Sorry, Bo.',
    });
    expect(done.body).toEqual({ done: true });
    expect((await answer({ stays: null })).problem.code).toBe('dispute-answered');
    expect(await attended(supper.event, seat(supper, 'Bo'))).toMatchObject({
      state: 'left',
      corrected: true,
    });
    // The door team reads none of it, and corrects nothing of what is over.
    expect((await attendance(supper.event, door)).disputes).toEqual([]);
    expect((await correct(seat(supper, 'Bo'), [], {}, door)).status).toBe(403);
    const { marks } = await odalys.call('GET /api/registrations/:id/attendance', {
      params: { id: seat(supper, 'Bo').id },
    });
    expect(marks[0]!.why).toBe('They said so: I sat at table 4');
    expect(await shown(supper, 'Bo')).toMatchObject({
      dispute: { outcome: 'corrected', answer: 'Sorry, Bo.' },
    });
    const [letter] = await world.app.db.query<{ body: string }>(
      "select body from messages where kind = 'attendance answered' and event_id = $1",
      [supper.event.id],
    );
    expect(letter!.body).toContain('We have corrected it.');
    expect(letter!.body).toContain('Sorry, Bo.');
  });

  test('a guest of a seat says it by their own link, and is told', async () => {
    const params = { token: guest };
    expect(
      (await world.anyone.call('GET /api/public/guests/:token/attendance', { params })).seat,
    ).toMatchObject({
      state: 'missed',
      certificate: false,
    });
    // Whoever booked is told nothing of a seat that its guest filled in.
    await world.app.db.query('update registrations set guest_filled_at = now() where id = $1', [
      seat(other, 'Zed').id,
    ]);
    const booked = await world.anyone.call('GET /api/public/orders/:token/attendance', {
      params: { token: other.token },
    });
    expect(booked.seats).toEqual([]);
    expect((await dispute(other, 'Zed')).status).toBe(404);
    await world.anyone.call('POST /api/public/guests/:token/attendance', {
      params,
      body: { says: 'other times', words: '' },
    });
    const [open] = (await attendance(other.event)).disputes;
    await odalys.call('POST /api/attendance-disputes/:id', {
      params: { id: open!.id },
      body: { stays: null },
    });
    const [letter] = await world.app.db.query<{ body: string; address: string }>(
      "select body, address from messages where kind = 'attendance answered' and event_id = $1",
      [other.event.id],
    );
    expect(letter).toMatchObject({
      address: 'zed@guest.example',
      body: expect.stringContaining('We leave it as it is.'),
    });
    // Whoever may correct nothing more is told so.
    expect(
      (await world.anyone.try('GET /api/public/guests/:token/certificate.pdf', { params })).problem.code,
    ).toBe('no-certificates');
  });

  test('erased with the person is what was said of it; that they came stays', async () => {
    const [bo] = await world.app.db.query<{ contactId: string }>(
      'select contact_id from registrations where id = $1',
      [seat(supper, 'Bo').id],
    );
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: bo!.contactId },
      body: { name: 'Bo Sedge' } as never,
    });
    const kept = JSON.stringify([
      await attendance(supper.event),
      await odalys.call('GET /api/registrations/:id/attendance', { params: { id: seat(supper, 'Bo').id } }),
    ]);
    expect(kept).not.toContain('table 4');
    expect((await attended(supper.event, seat(supper, 'Bo'))).state).toBe('left');
  });

  test('when its time is up it stands; a coordinator opens it once more, with a reason', async () => {
    await world.moveTo('2026-08-20T12:00:00Z');
    const ada = seat(supper, 'Ada');
    expect((await attendance(supper.event)).locked).toBe(true);
    expect((await correct(ada, [])).problem.code).toBe('attendance-locked');
    expect((await dispute(supper, 'Ada')).problem.code).toBe('dispute-over');
    expect((await shown(supper, 'Ada')).until).toBeNull();
    const open = (as = odalys) =>
      as.try('POST /api/events/:id/attendance/open', {
        params: { id: supper.event.id },
        body: { why: 'The list was found' },
      });
    expect((await open(door)).status).toBe(403);
    expect((await open()).body.until).toBe('2026-08-23T12:00:00.000Z');
    expect((await open()).problem.code).toBe('attendance-not-locked');
    expect((await correct(ada, [[today('08:05'), today('20:00')]])).status).toBe(200);
    await world.moveTo('2026-08-24T12:00:00Z');
    expect((await correct(ada, [])).problem.code).toBe('attendance-locked');
  });
});
