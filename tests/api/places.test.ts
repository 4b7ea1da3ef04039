import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const places = () => odalys.call('GET /api/venues');
const called = async (name: string) => (await places()).find((p) => p.name === name)!;
const add = (more: object) =>
  odalys.try('POST /api/venues', { body: { name: 'The Weir', address: '3 Dyke Road', ...more } });

test('a place is added and changed with all that is known of it; what is wrong stands beside its field', async () => {
  const { body } = await add({ phone: '(902) 555-0142', setUpMinutes: 45, latitude: 44.6, longitude: -63.5 });
  expect(await called('The Weir')).toMatchObject({
    setUpMinutes: 45,
    latitude: 44.6,
    retired: false,
    events: 0,
  });
  for (const [more, path, code] of [
    [{}, 'name', 'register-exists'],
    [{ name: 'Half', latitude: 44 }, 'longitude', 'both-coordinates'],
    [{ name: 'Far', latitude: 99, longitude: 1 }, 'latitude', 'no-latitude'],
    [{ name: 'Small', capacity: 0 }, 'capacity', 'at-least-one-or-none'],
  ] as const)
    expect((await add(more)).problem.fields).toMatchObject([{ path, code }]);
  await odalys.call('PATCH /api/venues/:id', {
    params: { id: body.id },
    body: { name: 'the weir', address: '4 Dyke Road' },
  });
  expect(await called('the weir')).toMatchObject({ address: '4 Dyke Road' });
});

test('a change shows on the pages of its events at once', async () => {
  const { slug } = await openEvent(world, { title: 'At the Landing' });
  const landing = await called('Sluice Landing');
  await odalys.call('PATCH /api/venues/:id', {
    params: { id: landing.id },
    body: { ...landing, address: '9 Causeway Road, Port Ansley NS' },
  });
  expect((await world.anyone.call('GET /api/public/events/:slug', { params: { slug } })).place).toMatchObject(
    { address: '9 Causeway Road, Port Ansley NS' },
  );
});

test('a retired place is not offered, and stays where it was chosen; it is taken up again', async () => {
  const landing = await called('Sluice Landing');
  expect(landing.coming).toBeGreaterThan(0);
  const retire = (retired: boolean) =>
    odalys.call('POST /api/venues/:id/retire', { params: { id: landing.id }, body: { retired } });
  const offered = async () => (await odalys.call('GET /api/choices')).venues.map((v) => v.id);
  await retire(true);
  expect(await offered()).not.toContain(landing.id);
  const season = await odalys.call('GET /api/events');
  expect(season.filter((e) => e.venue === 'Sluice Landing')).toHaveLength(landing.events);
  await retire(false);
  expect(await offered()).toContain(landing.id);
});

test('two places become one: events go to the other, and open plans notice', async () => {
  const { id } = (await add({ name: 'Sluice Landng', address: '2 Causeway Rd' })).body;
  const event = await openEvent(world, { title: 'Misspelt Place' });
  const look = () => odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version: (await look()).version, change: { venueId: id } },
  });
  const before = await look();
  const into = (await called('Sluice Landing')).id;
  const merge = (from: string, to: string) =>
    odalys.try('POST /api/venues/:id/merge', { params: { id: from }, body: { into: to } });
  expect((await merge(id, id)).problem.code).toBe('place-itself');
  expect((await merge(id, into)).body).toEqual({ moved: 1 });
  const after = await look();
  expect(after.plan.venueId).toBe(into);
  expect(after.version).toBeGreaterThan(before.version);
  expect((await merge(id, into)).status).toBe(404);
});

test('the register, which counts drafts too, is for coordinators', async () => {
  const { id } = await called('Sluice Landing');
  const piers = await world.as('piers');
  expect((await piers.try('GET /api/venues')).status).toBe(403);
  expect(
    (await piers.try('POST /api/venues/:id/retire', { params: { id }, body: { retired: true } })).status,
  ).toBe(403);
  expect((await (await world.as('door')).try('GET /api/venues')).status).toBe(403);
});
