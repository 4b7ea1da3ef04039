import { afterAll, beforeAll, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
let event: OpenEvent;
const there = crypto.randomUUID();
const link = 'https://rooms.brackenmere.example/3-k9';
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  event = await openEvent(world, { title: 'Heron talk', capacity: 2 });
  const { plan } = await page();
  await save({
    online: { link, instructions: { en: 'Come ten minutes early.', fr: 'Venez dix minutes plus tôt.' } },
    onlineCapacity: 2,
    whenFull: 'online',
    offers: [
      ...plan.offers,
      {
        ...plan.offers[0]!,
        id: there,
        name: 'Online',
        online: true,
        french: { name: 'En ligne', about: '' },
      },
    ],
  });
});
afterAll(() => world.close());

const page = () => odalys.call('GET /api/events/:id', { params: { id: event.id } });
async function save(change: Partial<EventPlan>) {
  const { version } = await page();
  const saved = await odalys.try('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change },
  });
  return saved;
}
const shown = () => world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
const place = (given: string, offerId = event.offers[0]!.id, more: object = {}) =>
  world.anyone.try('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(event, [{ given, family: `Of-${given}` }], more),
      lines: [{ offerId, units: 1 }],
    },
  });
const orderOf = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });

test('the link is nowhere public, and read by who holds a seat online alone', async () => {
  expect(JSON.stringify(await shown())).not.toContain('3-k9');
  const seated = await orderOf((await place('Ann')).body.token);
  expect(seated.event.online).toBeNull();
  const online = await orderOf((await place('Ben', there, { language: 'fr' })).body.token);
  expect(online.event.online).toEqual({ link, instructions: 'Venez dix minutes plus tôt.' });
  expect(online.seats[0]!.offer).toBe('En ligne');
});

test('who does not fit into the place is pointed online while there is room, and waits afterwards', async () => {
  await place('Cat');
  expect(await shown()).toMatchObject({ seatsLeft: 0, onlineLeft: 1, registration: 'open' });
  expect((await place('Dot')).problem.code).toBe('full-online-left');
  expect((await place('Eli', there)).body.standing).toBe('confirmed');
  expect(await shown()).toMatchObject({ onlineLeft: 0, registration: 'full' });
  expect((await place('Fay')).body.standing).toBe('waitlisted');
});

test('or is turned away, and nobody waits', async () => {
  await save({ whenFull: 'turn away' });
  expect((await place('Guy')).problem.code).toBe('full');
  // Staff register beyond that.
  const byStaff = await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given: 'Hal', family: 'Of-Hal' }]),
  });
  expect(byStaff.standing).toBe('waitlisted');
});

test('an event online alone says so where it is; a link that is none is refused', async () => {
  await save({ venueId: null });
  expect(await shown()).toMatchObject({ place: null, online: true });
  expect(
    (await save({ online: { link: 'javascript:alert(1)', instructions: { en: '' } } })).problem.fields,
  ).toMatchObject([{ path: 'online.link', code: 'no-address' }]);
});
