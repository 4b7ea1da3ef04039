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

const png =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';
const picture = (en: string) => odalys.call('POST /api/pictures', { body: { content: png, alt: { en } } });
const give = (unitId: string | null, pictureId: string | null) =>
  odalys.try('PUT /api/logos', { body: { unitId, pictureId } });
const shown = (slug: string) => world.anyone.call('GET /api/public/events/:slug', { params: { slug } });
const unknown = '01a00000-0000-7000-8000-000000000000';

test('the logo of the organization is over every public page, and that of a unit on the pages of its events', async () => {
  const mark = await picture('Reeds in a circle');
  const heron = await picture('A heron in a circle');
  const unit = (await odalys.call('GET /api/choices')).units.find((u) => u.name === 'Small Boats')!;
  const { id, slug } = await openEvent(world, { title: 'Paddling' });
  const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id },
    body: { version, change: { unitId: unit.id } },
  });
  expect((await give(null, mark.id)).status).toBe(200);
  expect((await give(unit.id, heron.id)).status).toBe(200);
  const frame = async () => (await world.anyone.call('GET /api/public/frame')).organization.logo;
  expect(await frame()).toMatchObject({ id: mark.id, alt: { en: 'Reeds in a circle' } });
  expect((await shown(slug)).logo).toMatchObject({ id: heron.id });
  expect(await odalys.call('GET /api/logos')).toMatchObject([
    { unitId: null, picture: { id: mark.id } },
    { unitId: unit.id, picture: { id: heron.id } },
  ]);
  await give(null, null);
  await give(unit.id, null);
  expect(await frame()).toBeNull();
  expect((await shown(slug)).logo).toBeNull();
});

test('a picture or a unit that is not there is refused, and nobody but a coordinator gives logos', async () => {
  const mark = await picture('A reed');
  expect((await give(null, unknown)).problem.fields).toMatchObject([
    { path: 'pictureId', code: 'picture-gone' },
  ]);
  expect((await give(unknown, mark.id)).status).toBe(404);
  const piers = await world.as('piers');
  const tried = await piers.try('PUT /api/logos', { body: { unitId: null, pictureId: mark.id } });
  expect(tried.status).toBe(403);
});

test('a place has a picture on the pages of its events, with a sketch of what is around; merged, it goes along where the other has none', async () => {
  const landing = (await odalys.call('GET /api/venues')).find((p) => p.name === 'Sluice Landing')!;
  const mark = await picture('The landing with its boats');
  const { slug } = await openEvent(world, { title: 'At the Landing' });
  const before = (await shown(slug)).place!;
  expect(before.pictureId).toBeNull();
  expect(before.sketch!.features.map((f) => f.name)).toContain('Causeway Rd');
  const change = (more: object) =>
    odalys.try('PATCH /api/venues/:id', { params: { id: landing.id }, body: { ...landing, ...more } });
  expect((await change({ pictureId: unknown })).problem.fields).toMatchObject([
    { path: 'pictureId', code: 'picture-gone' },
  ]);
  await change({ pictureId: mark.id });
  const page = await shown(slug);
  expect(page.place!.pictureId).toBe(mark.id);
  expect(page.pictures.map((p) => p.id)).toContain(mark.id);
  const { id: into } = await odalys.call('POST /api/venues', {
    body: { name: 'New Landing', address: '4 Causeway Rd' },
  });
  await odalys.call('POST /api/venues/:id/merge', { params: { id: landing.id }, body: { into } });
  const after = (await odalys.call('GET /api/venues')).find((p) => p.id === into)!;
  expect(after.picture).toMatchObject({ id: mark.id });
  // Without coordinates nothing is known of what is around.
  expect((await shown(slug)).place!.sketch).toBeNull();
});

test('addresses are proposed from the register and from the gazetteer', async () => {
  const proposed = async (typed: string) =>
    (await odalys.call('GET /api/addresses', { query: { typed } })).map(({ address, of }) => [address, of]);
  expect(await proposed('town hall')).toEqual([['3 Harbour St, Port Ansley NS', 'Town Hall']]);
  expect(await proposed('12 quay')).toEqual([['12 Quay St, Port Ansley NS', null]]);
  expect(await proposed('q')).toEqual([]);
  // One that is retired is not proposed; its street is, as any other.
  const hall = (await odalys.call('GET /api/venues')).find((p) => p.name === 'Town Hall')!;
  await odalys.call('POST /api/venues/:id/retire', { params: { id: hall.id }, body: { retired: true } });
  expect(await proposed('town hall')).toEqual([]);
  expect(await proposed('3 harbour')).toEqual([['3 Harbour St, Port Ansley NS', null]]);
  const piers = await world.as('piers');
  expect((await piers.try('GET /api/addresses', { query: { typed: 'quay' } })).status).toBe(403);
});
