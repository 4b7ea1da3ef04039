import { beforeAll, expect, test } from 'vitest';
import type { Caller } from './harness.ts';
import { Scene } from './messageLines.ts';

const scene = new Scene();
let imani: Caller;
let door: Caller;
beforeAll(async () => {
  imani = await scene.world.as('imani');
  door = await scene.world.as('door');
});
const day = () => scene.begins.slice(0, 10);
const params = () => ({ id: scene.event.id });
const shift = async (role: string, from: string, to: string) =>
  (
    await imani.call('POST /api/events/:id/shifts', {
      params: params(),
      body: { role, startsLocal: `${day()}T${from}`, endsLocal: `${day()}T${to}`, wished: 5 },
    })
  ).id;
const put = async (id: string, given: string) => {
  const contactId = (
    await imani.call('POST /api/contacts', {
      body: { given, family: 'Server', email: `${given.toLowerCase()}${scene.n}@serve.example` },
    })
  ).id;
  await imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId } });
  return contactId;
};
const list = async () => (await door.call('GET /api/events/:id/doors/crew', { params: params() })).rows;
const of = async (given: string) => (await list()).find((r) => r.name === `${given} Server`)!;
const mark = async (given: string, to: 'in' | 'out' | 'expected', at?: string) =>
  door.try('POST /api/assignments/:id/presence', {
    params: { id: (await of(given)).assignmentId },
    body: { to, ...(at && { at }) },
  });
/** Minutes after the start of the event, which begins at 09:00. */
const after = (minutes: number) => scene.ahead(-minutes);
const remark = async () =>
  (await imani.call('GET /api/events/:id', { params: params() })).margin.find((n) =>
    n.headline.includes('missing'),
  )?.headline;
const onShift = async (id: string) =>
  (await imani.call('GET /api/events/:id/crew', { params: params() })).shifts.find((s) => s.id === id)!
    .assignments;

test('the doors tick the crew off; who is late shows at once, and hours follow from when they came and left', async () => {
  const id = await shift('Gangway', '09:00', '12:00');
  for (const given of ['Ann', 'Ben', 'Cy']) await put(id, given);
  await scene.world.moveTo(scene.ahead(60 * 60));
  // Days before, the door team has no business there; whoever leads the crew sees nobody of that time.
  const early = { params: params() };
  expect((await door.try('GET /api/events/:id/doors/crew', early)).status).toBe(403);
  expect((await imani.call('GET /api/events/:id/doors/crew', early)).rows).toEqual([]);
  await scene.world.moveTo(scene.ahead(24 * 60));
  expect((await mark('Ann', 'in')).problem.code).toBe('far-too-early');
  await scene.world.moveTo(after(-5));
  expect((await mark('Ann', 'out')).problem.code).toBe('not-in');
  expect((await mark('Ann', 'in')).body).toMatchObject({ state: 'agreed', outAt: null, hours: null });
  await scene.world.moveTo(after(12));
  // Late for ten minutes, then missing; whom nobody wrote down at the doors is not called so in an event without it.
  expect(await remark()).toBe('2 people of the crew are missing.');
  await mark('Ben', 'in');
  expect(await remark()).toBe('1 person of the crew is missing.');
  // The same again, from another device, changes nothing.
  expect((await mark('Ben', 'in')).body).toMatchObject({ inAt: after(12) });
  await scene.world.moveTo(after(100));
  expect((await mark('Ben', 'out')).body).toMatchObject({ state: 'served', hours: 1.5, outAt: after(100) });
  // He comes back: he is here as from when he first came.
  await scene.world.moveTo(after(110));
  expect((await mark('Ben', 'in')).body).toMatchObject({
    state: 'agreed',
    inAt: after(12),
    outAt: null,
    hours: null,
  });
  await scene.world.moveTo(after(200));
  expect((await mark('Ben', 'out')).body).toMatchObject({ state: 'served', hours: 3.25 });
  expect((await mark('Ann', 'out')).body).toMatchObject({ hours: 3.25 });
  // Told later by a device that was without a network: as it says, but no earlier than coming.
  Object.assign(scene.world.app, { movable: false });
  expect((await mark('Cy', 'in', after(30))).body).toMatchObject({ inAt: after(30) });
  expect((await mark('Cy', 'out', after(20))).body).toMatchObject({ outAt: after(30), hours: 0 });
  Object.assign(scene.world.app, { movable: true });
  expect((await mark('Cy', 'expected')).body).toMatchObject({ state: 'agreed', inAt: null, outAt: null });
});

test('hours are put right with why, and what they were stays written', async () => {
  const id = await shift('Gangway', '09:00', '12:00');
  await put(id, 'Ann');
  await scene.world.moveTo(after(10));
  const [before] = await onShift(id);
  const correct = (hours: number, why: string) =>
    imani.try('POST /api/assignments/:id/hours', { params: { id: before!.id }, body: { hours, why } });
  expect((await correct(2, 'Left early')).problem.code).toBe('not-served');
  await mark('Ann', 'in');
  // Served, but nobody ticked off that she left: from when she came until the end.
  await imani.call('POST /api/assignments/:id/state', {
    params: { id: before!.id },
    body: { state: 'served' },
  });
  expect((await onShift(id))[0]).toMatchObject({ state: 'served', hours: 2.75 });
  expect((await correct(2, ' ')).problem.fields![0]).toMatchObject({ path: 'why' });
  expect((await correct(49, 'A long day')).status).toBe(422);
  expect((await correct(2, 'Left early')).status).toBe(201);
  expect((await correct(2, 'Left early')).status).toBe(201);
  expect((await correct(2.5, 'No, half past eleven')).status).toBe(201);
  expect((await onShift(id))[0]).toMatchObject({
    hours: 2.5,
    corrections: [
      { before: 2.75, after: 2, by: 'Imani Okarro', why: 'Left early' },
      { before: 2, after: 2.5, why: 'No, half past eleven' },
    ],
  });
  expect(
    (
      await door.try('POST /api/assignments/:id/hours', {
        params: { id: before!.id },
        body: { hours: 1, why: 'Because' },
      })
    ).status,
  ).toBe(403);
  // The doors take nothing back of what was put right.
  expect((await mark('Ann', 'expected')).problem.code).toBe('hours-set');
  await scene.world.moveTo(after(60 * 60));
  expect(
    (
      await imani.try('POST /api/assignments/:id/presence', {
        params: { id: before!.id },
        body: { to: 'in' },
      })
    ).problem.code,
  ).toBe('hours-set');
});

test('hours add up by person, event and role, are worth what the organization says, and stand in a letter', async () => {
  const id = await shift('Lamp room', '09:00', '12:00');
  const ann = await put(id, 'Ann');
  const ben = await put(id, 'Ben');
  await scene.world.moveTo(after(200));
  for (const a of await onShift(id))
    await imani.call('POST /api/assignments/:id/state', {
      params: { id: a.id },
      body: { state: 'served', hours: a.contactId === ann ? 3 : 1.25 },
    });
  const year = day().slice(0, 4);
  const query = { from: `${year}-01-01`, until: `${year}-12-31` };
  const { rules } = await imani.call('GET /api/roles');
  expect((await scene.odalys.try('PUT /api/crew-rules', { body: { ...rules, hourValue: 0 } })).status).toBe(
    422,
  );
  await scene.odalys.call('PUT /api/crew-rules', { body: { ...rules, hourValue: 2250 } });
  const by = (what: 'person' | 'event' | 'role') =>
    imani.call('GET /api/hours', { query: { ...query, by: what } });
  expect((await by('role')).rows.find((r) => r.key === 'Lamp room')).toEqual({
    key: 'Lamp room',
    label: 'Lamp room',
    people: 2,
    shifts: 2,
    hours: 4.25,
    years: { [year]: 4.25 },
  });
  expect((await by('event')).rows.find((r) => r.key === scene.event.id)).toMatchObject({
    people: 2,
    hours: 4.25,
  });
  const people = await by('person');
  expect(people.rows.filter((r) => [ann, ben].includes(r.key)).map((r) => [r.label, r.hours])).toEqual([
    ['Ann Server', 3],
    ['Ben Server', 1.25],
  ]);
  expect(people.value).toBe(Math.round(people.hours * 2250));
  // A day of it, and the day after.
  const one = await imani.call('GET /api/hours', { query: { from: day(), until: day(), by: 'role' } });
  expect(one.hours).toBe(4.25);
  const next = `${day().slice(0, 8)}21`;
  expect(
    await imani.call('GET /api/hours', { query: { from: next, until: next, by: 'role' } }),
  ).toMatchObject({
    rows: [],
    people: 0,
    hours: 0,
    value: 0,
  });
  const csv = String(
    await imani.call('GET /api/hours.csv', { query: { from: day(), until: day(), by: 'person' } }),
  );
  expect(csv.replaceAll('\r', '').replace('\ufeff', '').split('\n').slice(0, 2)).toEqual([
    `Who,People,Shifts,Hours,${year}`,
    'Ann Server,1,1,3,3',
  ]);
  const letter = await imani.try('GET /api/contacts/:id/hours.pdf', { params: { id: ann }, query });
  expect(letter.headers.get('content-type')).toBe('application/pdf');
  expect(String(letter.body).slice(0, 5)).toBe('%PDF-');
  expect((await door.try('GET /api/contacts/:id/hours.pdf', { params: { id: ann }, query })).status).toBe(
    403,
  );
});

test('how the places filled stands beside the last time, with who gave one up and how the load is spread', async () => {
  const id = await shift('Gangway', '09:00', '12:00');
  const [ann, ben] = [await put(id, 'Ann'), await put(id, 'Ben')];
  const [first] = await onShift(id);
  await scene.world.moveTo(scene.later(25 * 60));
  await imani.call('POST /api/assignments/:id/state', {
    params: { id: first!.id },
    body: { state: 'dropped' },
  });
  const of = (eventId: string, by: Caller = imani) =>
    by.call('GET /api/events/:id/crew/figures', { params: { id: eventId } });
  const figures = await of(scene.event.id);
  expect(figures).toMatchObject({
    wished: 5,
    before: null,
    drops: { all: 1, share: 0.5 },
    load: { people: 1, least: 3, median: 3, most: 3, busiest: 1, returning: 0 },
  });
  expect(figures.fill.slice(-2).map((p) => p.filled)).toEqual([2, 1]);
  expect([ann, ben]).toContain(first!.contactId);
  // A copy stands beside what it was copied from.
  await scene.world.moveTo(after(24 * 60));
  const copy = await scene.odalys.call('POST /api/events', {
    body: { publicTitle: 'Again', from: scene.event.id },
  });
  const again = { id: copy.id };
  const { version } = await scene.odalys.call('GET /api/events/:id', { params: again });
  expect((await of(copy.id)).before).toBeNull();
  await scene.odalys.call('PATCH /api/events/:id', {
    params: again,
    body: { version, change: { startsLocal: '2031-05-03T09:00' } },
  });
  expect((await of(copy.id)).before).toMatchObject({ title: `Lines ${scene.n}`, wished: 5 });
});
