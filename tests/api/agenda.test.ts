import ICAL from 'ical.js';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, sessionOf } from './scenes.ts';

let world: World;
let odalys: Caller;
let event: OpenEvent;
const uuid = () => crypto.randomUUID();
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  event = await openEvent(world, {
    title: 'Reedbed Symposium',
    startsLocal: '2026-10-02T09:00',
    endsLocal: '2026-10-03T17:00',
    capacity: 100,
  });
});
afterAll(() => world.close());

const page = (id = event.id) => odalys.call('GET /api/events/:id', { params: { id } });
async function save(change: Partial<EventPlan>, id = event.id) {
  const { version } = await page(id);
  return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}
const session: typeof sessionOf = (title, times, more = {}) =>
  sessionOf(title, times, { signUp: true, ...more });
const shown = (slug = event.slug) => world.anyone.call('GET /api/public/events/:slug', { params: { slug } });

/** What the lifeline of somebody says of sessions. */
const lifeOf = async (id: string) =>
  (
    await odalys.call('GET /api/contacts/:id/lifeline', { params: { id }, query: { kind: 'session' } })
  ).entries
    .map((e) => [e.text, e.detail])
    .sort();

/** A confirmed booking of somebody new. */
async function book(given: string, people = 1) {
  const family = `Of-${given}`;
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(
      event,
      Array.from({ length: people }, (_, at) => ({ given: at ? `${given}${at}` : given, family })),
    ),
  });
  const look = () => world.anyone.call('GET /api/public/orders/:token/sessions', { params: { token } });
  const { seats } = await look();
  const choose = (sessions: string[], seat = seats[0]!.id) =>
    world.anyone.try('PUT /api/public/orders/:token/seats/:seat/sessions', {
      params: { token, seat },
      body: { sessions },
    });
  return { token, seats, look, choose };
}

describe('an agenda', () => {
  const [ida, bo] = [uuid(), uuid()];
  const reeds = uuid();
  const opening = session('Opening', [1, '09:30', '10:00'], { signUp: false, speakerIds: [ida] });
  const sedge = session('Sedge in spring', [1, '10:00', '11:00'], {
    trackId: reeds,
    capacity: 2,
    speakerIds: [bo, ida],
  });
  const herons = session('Herons by night', [1, '10:30', '11:30']);
  const unplaced = {
    ...session('Not placed yet', [1, '10:00', '11:00']),
    day: null,
    begins: null,
    ends: null,
  };
  const lunch = session('Lunch', [1, '12:00', '13:00'], { kind: 'break', signUp: false });
  const walk = session('Dawn walk', [2, '09:00', '10:00']);

  test('speakers, tracks and sessions are kept, and shown in the order they happen', async () => {
    const names = (id: string, name: string) => ({
      id,
      name,
      contactId: null,
      line: { en: 'Botanist' },
      pictureId: null,
    });
    expect((await save({ speakers: [names(ida, 'Ida Quell'), names(bo, 'Bo Tarn')] })).status).toBe(200);
    const saved = await save({
      tracks: [{ id: reeds, name: { en: 'Reeds', fr: 'Roseaux' } }],
      sessions: [walk, unplaced, lunch, herons, sedge, opening],
    });
    expect(saved.status).toBe(200);
    const { agenda } = await shown();
    expect(agenda.sessions.map((s) => [s.title.en, s.startsLocal])).toEqual([
      ['Opening', '2026-10-02T09:30'],
      ['Sedge in spring', '2026-10-02T10:00'],
      ['Herons by night', '2026-10-02T10:30'],
      ['Lunch', '2026-10-02T12:00'],
      ['Dawn walk', '2026-10-03T09:00'],
    ]);
    expect(agenda.sessions[1]).toMatchObject({
      track: { fr: 'Roseaux' },
      speakers: ['Bo Tarn', 'Ida Quell'],
      left: 2,
    });
    expect(agenda.speakers).toMatchObject([{ name: 'Ida Quell', line: { en: 'Botanist' } }, {}]);
  });

  test('a session outside its event, without a title, of a track that is not there, is refused beside it', async () => {
    const { plan } = await page();
    const add = (s: EventPlan['sessions'][number]) => save({ sessions: [...plan.sessions, s] });
    const code = async (s: EventPlan['sessions'][number]) => (await add(s)).problem.fields;
    expect(await code(session('Early', [1, '08:00', '09:30']))).toMatchObject([
      { path: 'sessions.6.begins', code: 'session-outside' },
    ]);
    expect(await code(session('Third day', [3, '10:00', '11:00']))).toMatchObject([
      { code: 'session-outside' },
    ]);
    expect(await code(session(' ', [1, '10:00', '11:00']))).toMatchObject([{ path: 'sessions.6.title.en' }]);
    expect(await code(session('x', [1, '10:00', '11:00'], { trackId: uuid() }))).toMatchObject([
      { path: 'sessions.6.trackId', code: 'thing-gone' },
    ]);
    expect((await page()).plan.sessions).toHaveLength(6);
  });

  test('people choose sessions: two at one time and a full one are refused, and who has a seat keeps it', async () => {
    const ann = await book('Ann');
    expect((await ann.choose([sedge.id, herons.id])).problem.fields).toMatchObject([
      {
        path: 'sessions.1',
        code: 'sessions-meet',
        params: { title: 'Herons by night', other: 'Sedge in spring' },
      },
    ]);
    expect((await ann.choose([opening.id])).problem.fields).toMatchObject([{ code: 'session-not-open' }]);
    expect((await ann.choose([sedge.id, walk.id])).status).toBe(200);
    // Twice is once.
    await ann.choose([walk.id, sedge.id]);
    expect(new Set((await ann.look()).seats[0]!.has)).toEqual(new Set([sedge.id, walk.id]));
    const two = await Promise.all([book('Ben'), book('Cat')].map(async (b) => (await b).choose([sedge.id])));
    expect(two.map((x) => x.status).sort()).toEqual([200, 422]);
    expect((await ann.look()).sessions.find((s) => s.id === sedge.id)!.left).toBe(0);
    // Full, and hers all the same.
    expect((await ann.choose([sedge.id])).status).toBe(200);
    expect((await odalys.call('GET /api/events/:id/agenda', { params: { id: event.id } })).taken).toEqual([
      { sessionId: sedge.id, seats: 2 },
    ]);
  });

  test('a seat that is given up frees its sessions', async () => {
    const { taken } = await odalys.call('GET /api/events/:id/agenda', { params: { id: event.id } });
    expect(taken[0]!.seats).toBe(2);
    const dot = await book('Dot');
    expect((await dot.choose([sedge.id])).status).toBe(422);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const ann = rows.find((r) => r.given === 'Ann')!;
    await odalys.call('POST /api/registrations/:id/withdraw', { params: { id: ann.id }, body: {} });
    expect((await dot.choose([sedge.id])).status).toBe(200);
  });

  test("somebody's own sessions as a calendar file, at their own times", async () => {
    const eve = await book('Eve');
    await eve.choose([herons.id, walk.id]);
    const file = await world.anyone.try('GET /api/public/orders/:token/seats/:seat/sessions.ics', {
      params: { token: eve.token, seat: eve.seats[0]!.id },
    });
    const calendar = new ICAL.Component(ICAL.parse(String(file.body)));
    const entries = calendar.getAllSubcomponents('vevent').map((v) => new ICAL.Event(v));
    expect(entries.map((e) => [e.summary, e.startDate.toString()])).toEqual([
      ['Herons by night', '2026-10-02T10:30:00'],
      ['Dawn walk', '2026-10-03T09:00:00'],
    ]);
  });

  test('the sessions of a seat stand in the table of registrations and in the lifeline', async () => {
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const eve = rows.find((r) => r.given === 'Eve')!;
    const file = await odalys.try('GET /api/events/:id/registrations.csv', { params: { id: event.id } });
    const { data } = Papa.parse<Record<string, string>>(String(file.body), { header: true });
    expect(data.find((r) => r['First name'] === 'Eve')?.Sessions).toBe('Herons by night; Dawn walk');
    expect(await lifeOf(eve.contactId!)).toEqual([
      ['chose a session of', 'Dawn walk'],
      ['chose a session of', 'Herons by night'],
    ]);
  });

  test("nobody chooses for a seat that is not in their booking, and strangers see no one's choice", async () => {
    const [fay, guy] = [await book('Fay'), await book('Guy')];
    expect((await fay.choose([walk.id], guy.seats[0]!.id)).status).toBe(404);
    expect(JSON.stringify((await fay.look()).seats)).not.toContain('Guy');
    expect(JSON.stringify(await shown())).not.toContain('Of-Eve');
  });

  test('the agenda moves with the event, comes along to a copy, and one it no longer fits into says so', async () => {
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Symposium again', from: event.id, date: '2028-10-06' },
    });
    const copy = (await page(id)).plan;
    expect(copy.sessions.map((s) => [s.title.en, s.day, s.begins])).toEqual(
      (await page()).plan.sessions.map((s) => [s.title.en, s.day, s.begins]),
    );
    const bySpeaker = copy.sessions.find((s) => s.title.en === 'Sedge in spring')!.speakerIds;
    expect(bySpeaker.map((s) => copy.speakers.find((x) => x.id === s)!.name)).toEqual([
      'Bo Tarn',
      'Ida Quell',
    ]);
    expect(copy.speakers.map((s) => s.id)).not.toContain(ida);
    expect((await save({ startsLocal: '2028-10-06T10:15' }, id)).status).toBe(200);
    // The rest of the agenda can still be written.
    expect(
      (await save({ sessions: [...copy.sessions, session('New', [1, '11:00', '12:00'])] }, id)).status,
    ).toBe(200);
  });

  test('a session people have seats at is retired, and comes back with them', async () => {
    const { plan } = await page();
    await save({ sessions: plan.sessions.filter((s) => s.id !== walk.id) });
    expect((await shown()).agenda.sessions.map((s) => s.title.en)).not.toContain('Dawn walk');
    await save({ sessions: plan.sessions });
    const { taken } = await odalys.call('GET /api/events/:id/agenda', { params: { id: event.id } });
    expect(taken.find((t) => t.sessionId === walk.id)?.seats).toBe(1);
  });

  test('a speaker who is taken off the event is off its sessions', async () => {
    const { plan } = await page();
    await save({ speakers: plan.speakers.filter((s) => s.id !== ida) });
    expect((await page()).plan.sessions.find((s) => s.id === sedge.id)!.speakerIds).toEqual([bo]);
  });
});

describe('a call for sessions', () => {
  const propose = (title: string, slug = event.slug, more: object = {}) =>
    world.anyone.try('POST /api/public/events/:slug/proposals', {
      params: { slug },
      body: {
        title,
        about: 'What grows where the water stands all winter.',
        minutes: 45,
        speakerName: 'Wilma Osk',
        speakerLine: 'Keeper of the north bank',
        email: 'wilma.osk@harbourpost.example',
        ...more,
      },
    });
  const proposals = async () =>
    (await odalys.call('GET /api/events/:id/agenda', { params: { id: event.id } })).proposals;
  const decide = (id: string, accept: boolean, who = odalys) =>
    who.try('POST /api/session-proposals/:id/decide', { params: { id }, body: { accept } });

  /** What was sent to an address about the event, newest first. */
  const told = async (address: string) => {
    await world.runner.run();
    const { rows } = await odalys.call('GET /api/tray', {
      query: { eventId: event.id, state: 'sent' },
    } as never);
    const sent = await Promise.all(
      rows
        .filter((m: { kind: string }) => m.kind.startsWith('proposal'))
        .map((m: { id: string }) => odalys.call('GET /api/messages/:id', { params: { id: m.id } })),
    );
    return sent.filter((m) => m.address === address).map((m) => m.body);
  };

  test('only where one is out, and until its day', async () => {
    expect((await propose('Too soon')).status).toBe(404);
    await save({ call: { closes: '2026-07-08', words: { en: 'Tell us.' } } });
    expect((await propose('Too late')).status).toBe(404);
    expect((await shown()).agenda.call).toBeNull();
    await save({ call: { closes: '2026-07-09', words: { en: 'Tell us.' } } });
    expect((await shown()).agenda.call).toEqual({ closes: '2026-07-09', words: { en: 'Tell us.' } });
    expect((await propose('In time')).status).toBe(201);
    expect(
      (await propose('x', event.slug, { about: 'short', email: 'nowhere' })).problem.fields,
    ).toMatchObject([
      { path: 'title', code: 'proposal-untitled' },
      { path: 'about', code: 'proposal-short' },
    ]);
    expect((await propose('Odd address', event.slug, { email: 'nowhere' })).problem.fields).toMatchObject([
      { path: 'email', code: 'not-an-email' },
    ]);
  });

  test('one that is taken in is in the agenda without a time, its speaker a contact; it is decided once', async () => {
    const [first] = await proposals();
    const taken = await decide(first!.id, true);
    expect(taken.status).toBe(201);
    const { plan, version } = await page();
    expect(version).toBe(taken.body.version);
    const made = plan.sessions.find((s) => s.title.en === 'In time')!;
    expect(made).toMatchObject({ day: null, begins: null });
    const speaker = plan.speakers.find((s) => s.id === made.speakerIds[0])!;
    expect(speaker).toMatchObject({ name: 'Wilma Osk', line: { en: 'Keeper of the north bank' } });
    const contact = await odalys.call('GET /api/contacts/:id', { params: { id: speaker.contactId! } });
    expect(contact.emails).toMatchObject([{ email: 'wilma.osk@harbourpost.example' }]);
    expect((await decide(first!.id, false)).problem.code).toBe('decided');
    expect(await lifeOf(contact.id)).toEqual([
      ['proposed a session for', 'In time'],
      ['speaker at', 'In time'],
    ]);
    // Who proposed it is told once, in their language.
    expect(await told('wilma.osk@harbourpost.example')).toEqual([
      expect.stringContaining('“In time”. It is in the agenda'),
    ]);
    // The same person again is the same speaker.
    await propose('Another');
    await decide((await proposals()).find((p) => p.state === 'new')!.id, true);
    expect((await page()).plan.speakers.filter((s) => s.name === 'Wilma Osk')).toHaveLength(1);
    // Without a time it is not on the page.
    expect(JSON.stringify((await shown()).agenda.sessions)).not.toContain('In time');
  });

  test('another unit neither reads nor decides them; who asked to be forgotten is gone from the page', async () => {
    await propose('For the unit');
    const open = (await proposals()).find((p) => p.state === 'new')!;
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/events/:id/agenda', { params: { id: event.id } })).status).toBe(403);
    expect((await decide(open.id, true, piers)).status).toBe(403);
    expect((await decide(open.id, false)).body.version).toBeNull();
    expect((await told('wilma.osk@harbourpost.example')).at(0)).toContain('found no place in the agenda');
    const wilma = (await page()).plan.speakers.find((s) => s.name === 'Wilma Osk')!;
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: wilma.contactId! },
      body: { name: 'Wilma Osk' },
    });
    expect(JSON.stringify(await shown())).not.toContain('Wilma');
    expect(JSON.stringify(await proposals())).not.toContain('Wilma');
  });
});

describe('sponsors', () => {
  test('by level, each an organization of the contacts or only a name; an address that leads nowhere is refused', async () => {
    const reed = {
      id: uuid(),
      name: 'Reed & Sons',
      contactId: null,
      level: 'Patron',
      address: 'https://reed.example',
      pictureId: null,
    };
    expect(
      (await save({ sponsors: [reed, { ...reed, id: uuid(), name: 'Marsh Bank', level: 'Friend' }] })).status,
    ).toBe(200);
    expect((await shown()).agenda.sponsors.map((s) => [s.level, s.name])).toEqual([
      ['Patron', 'Reed & Sons'],
      ['Friend', 'Marsh Bank'],
    ]);
    const copy = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Sponsored', from: event.id },
    });
    expect((await page(copy.id)).plan.sponsors.map((s) => s.name)).toEqual(['Reed & Sons', 'Marsh Bank']);
    expect(
      (await save({ sponsors: [{ ...reed, address: 'javascript:alert(1)' }] })).problem.fields,
    ).toMatchObject([{ path: 'sponsors.0.address', code: 'no-address' }]);
    expect((await save({ sponsors: [{ ...reed, contactId: uuid() }] })).problem.fields).toMatchObject([
      { path: 'sponsors.0.contactId', code: 'contact-gone' },
    ]);
  });
});

test('rooms that sessions are in are taken for their time only', async () => {
  const { venues } = await odalys.call('GET /api/choices');
  const college = venues.find((v) => v.name === 'Ansley College')!;
  const room = (name: string) => college.rooms.find((r) => r.name === name)!.id;
  await save({ venueId: college.id, roomId: room('Reading Theatre') });
  const { plan } = await page();
  const inRoom = session('In room 12', [2, '14:00', '15:00'], { roomId: room('Room 12') });
  expect((await save({ sessions: [...plan.sessions, inRoom] })).status).toBe(200);
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Seminar' } });
  const at = (startsLocal: string, endsLocal: string) =>
    save({ venueId: college.id, roomId: room('Room 12'), startsLocal, endsLocal }, id);
  expect((await at('2026-10-03T14:30', '2026-10-03T16:00')).status).toBe(422);
  expect((await at('2026-10-03T15:30', '2026-10-03T17:00')).status).toBe(200);
  const wrong = await save({
    sessions: [
      ...plan.sessions,
      inRoom,
      session('Later', [2, '16:00', '17:00'], { roomId: room('Room 12') }),
    ],
  });
  const last = plan.sessions.length + 1;
  expect(wrong.problem.fields).toMatchObject([{ path: `sessions.${last}.roomId`, code: 'place-taken' }]);
});
