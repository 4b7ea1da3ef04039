import { afterAll, beforeAll, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const kinds = () => odalys.call('GET /api/kinds');
const kind = async (name: string) => (await kinds()).find((k) => k.name === name)!;
const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
async function save(id: string, change: Partial<EventPlan>) {
  const { version } = await page(id);
  return odalys.call('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}
const shown = (slug: string) => world.anyone.call('GET /api/public/events/:slug', { params: { slug } });
const png =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';

test('a kind has a mark and a French name; so do draws, wherever events are shown', async () => {
  const { id, slug } = await openEvent(world, { title: 'Reed cutting' });
  await save(id, { category: 'work party', draws: ['childcare', 'a secret well'] });
  const mark = { shape: 'reed', colour: 'verdigris' };
  expect(await shown(slug)).toMatchObject({
    category: 'work party',
    mark,
    inFrench: { 'work party': 'corvée', childcare: 'garde d’enfants' },
  });
  const listed = (await world.anyone.call('GET /api/public/events')).events.find((e) => e.slug === slug)!;
  expect(listed.mark).toEqual(mark);
  expect((await odalys.call('GET /api/events')).find((e) => e.id === id)!.mark).toEqual(mark);
  await save(id, { category: 'something new' });
  expect((await shown(slug)).mark).toBeNull();
});

test('called otherwise, its events are called so at once, and open plans notice', async () => {
  const { id } = await openEvent(world, { title: 'Supper' });
  await save(id, { category: 'supper', draws: ['free food'] });
  const before = (await page(id)).version;
  const supper = await kind('supper');
  const { id: kindId, events: _, picture: __, ...body } = supper;
  await odalys.call('PATCH /api/kinds/:id', { params: { id: kindId }, body: { ...body, name: 'feast' } });
  expect((await page(id)).plan.category).toBe('feast');
  expect((await page(id)).version).toBeGreaterThan(before);
  const food = await kind('free food');
  const { id: drawId, events: ___, picture: ____, ...draw } = food;
  await odalys.call('PATCH /api/kinds/:id', { params: { id: drawId }, body: { ...draw, name: 'soup' } });
  expect((await page(id)).plan.draws).toEqual(['soup']);
  const taken = await odalys.try('PATCH /api/kinds/:id', {
    params: { id: kindId },
    body: { ...body, name: 'Talk' },
  });
  expect(taken.problem.fields).toMatchObject([{ path: 'name', code: 'register-exists' }]);
  await odalys.call('DELETE /api/kinds/:id', { params: { id: kindId } });
  expect((await page(id)).plan.category).toBe('feast');
});

test('a page without a picture of its own has that of its kind', async () => {
  const { id, slug } = await openEvent(world, { title: 'Talk' });
  await save(id, { category: 'talk' });
  expect((await shown(slug)).bannerId).toBeNull();
  const picture = await odalys.call('POST /api/pictures', {
    body: { content: png, alt: { en: 'A lectern' } },
  });
  const talk = await kind('talk');
  const { id: kindId, events: _, picture: __, ...body } = talk;
  const change = (pictureId: string) =>
    odalys.try('PATCH /api/kinds/:id', { params: { id: kindId }, body: { ...body, pictureId } });
  expect((await change(crypto.randomUUID())).problem.fields).toMatchObject([{ path: 'pictureId' }]);
  expect((await change(picture.id)).status).toBe(200);
  const event = await shown(slug);
  expect(event.bannerId).toBe(picture.id);
  expect(event.pictures.map((p) => p.id)).toContain(picture.id);
  expect((await page(id)).plan.bannerId).toBeNull();
  expect((await kinds()).find((k) => k.name === 'talk')!.picture).toMatchObject({ alt: { en: 'A lectern' } });
});

test('only coordinators change them', async () => {
  const piers = await world.as('piers');
  expect((await piers.call('GET /api/kinds')).length).toBeGreaterThan(3);
  expect((await piers.try('POST /api/kinds', { body: { sort: 'draw', name: 'Mine' } })).status).toBe(403);
  expect(
    (await odalys.try('POST /api/kinds', { body: { sort: 'draw', name: ' ' } })).problem.fields,
  ).toMatchObject([{ path: 'name' }]);
  const { id } = await odalys.call('POST /api/kinds', { body: { sort: 'draw', name: 'quiet room' } });
  expect((await kind('quiet room')).id).toBe(id);
});
