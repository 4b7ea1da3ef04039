import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainOffer } from '#core/offers/offer.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { asksAll, type OpenEvent, openEvent, orderFor, type Scene, signs } from './scenes.ts';

let world: World;
let odalys: Caller;
let waivers: { id: string; title: string }[];
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  waivers = (await odalys.call('GET /api/choices')).waivers;
});
afterAll(() => world.close());

const waiver = (title: string) => waivers.find((w) => w.title === title)!.id;
/** An open event with two tickets, the first of which has a waiver of its own. */
async function withOwnWaiver(title: string, scene: Scene = {}) {
  const event = await openEvent(world, { title, ...scene });
  const offers = ['Canoe', 'Shore walk'].map((name) => ({ ...plainOffer, id: crypto.randomUUID(), name }));
  const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const rules = [...plan.waivers, asksAll(waiver('On the water'), { offerIds: [offers[0]!.id] })];
  expect((await saveIt(odalys, event.id, { offers, waivers: rules })).status).toBe(200);
  return { ...event, offers };
}
const book = (event: OpenEvent, offerAt: number, given: string, birthDate?: string) =>
  world.anyone.try('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(event, [{ given, family: 'Ripple', ...(birthDate && { birthDate }) }]),
      lines: [{ offerId: event.offers[offerAt]!.id, units: 1 }],
    },
  });
const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
const sign = (token: string, seat: string, text: Parameters<typeof signs>[0], name: string) =>
  world.anyone.try('POST /api/public/orders/:token/signatures', {
    params: { token },
    body: { seats: [{ registrationId: seat, relation: 'self', answers: {} }], ...signs(text, name) },
  });

describe('a waiver of an offer', () => {
  test('is asked beside that of the event, of those alone who take the offer, and each is signed by itself', async () => {
    const event = await withOwnWaiver('Both Banks', { waiver: 'Children in our care' });
    const { token } = (await book(event, 0, 'Una', '1990-01-01')).body;
    const walks = (await book(event, 1, 'Ole', '1985-01-01')).body.token;
    // The event’s is for minors, so whoever walks and is of age signs nothing.
    expect((await look(walks)).waivers).toEqual([]);
    expect((await look(walks)).seats[0]).toMatchObject({ waiver: 'not asked', toSign: [] });
    const order = await look(token);
    expect(order.waivers.map((w) => w.title)).toEqual(['On the water']);
    const seat = order.seats[0]!;
    expect(seat).toMatchObject({ waiver: 'self', toSign: [waiver('On the water')] });
    const child = (await book(event, 0, 'Tiny', '2016-01-01')).body.token;
    const small = await look(child);
    expect(small.waivers.map((w) => w.title)).toEqual(['Children in our care', 'On the water']);
    expect(small.seats[0]).toMatchObject({ waiver: 'guardian' });

    const rows = async () =>
      (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows;
    const row = async (given: string) => (await rows()).find((r) => r.given === given)!;
    expect(await row('Una')).toMatchObject({ missing: ['signature'] });
    expect(await row('Ole')).toMatchObject({ missing: [], toSign: [] });
    expect((await row('Tiny')).toSign).toHaveLength(2);

    // Where nobody asks for it, nothing is signed.
    const [water] = order.waivers;
    expect((await sign(walks, (await look(walks)).seats[0]!.id, water!, 'Ole Ripple')).problem.code).toBe(
      'waiver-not-asked',
    );
    expect((await sign(token, seat.id, water!, 'Una Ripple')).status).toBe(201);
    expect((await sign(token, seat.id, water!, 'Una Ripple')).problem.code).toBe('waiver-signed');
    expect((await look(token)).seats[0]).toMatchObject({ waiver: 'signed', toSign: [] });
    expect((await row('Una')).missing).toEqual([]);

    // One of two is signed at the door: the other still stops whoever comes.
    const tiny = await row('Tiny');
    const doors = await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
    const atDoor = (title: string) =>
      odalys.try('POST /api/registrations/:id/signatures', {
        params: { id: tiny.registrationId },
        body: {
          relation: 'guardian',
          ...signs(doors.waivers.find((w) => w.title === title)!, 'Una Ripple'),
        },
      });
    expect((await atDoor('On the water')).body.row).toMatchObject({
      missing: ['guardian'],
      toSign: [waiver('Children in our care')],
    });
    expect((await atDoor('Children in our care')).body.row).toMatchObject({ missing: [], toSign: [] });
    const kept = await odalys.call('GET /api/registrations/:id/signatures', {
      params: { id: tiny.registrationId },
    });
    expect(kept.map((k) => [k.title, k.matches]).sort()).toEqual([
      ['Children in our care', true],
      ['On the water', true],
    ]);
  });

  test('goes with the offer: another ticket asks for it, and the first one no longer does', async () => {
    const event = await withOwnWaiver('Other Bank');
    const { token } = (await book(event, 1, 'Edda', '1990-01-01')).body;
    const { seats } = await look(token);
    const to = (at: number) =>
      world.anyone.call('POST /api/public/orders/:token/ticket', {
        params: { token },
        body: { seats: [seats[0]!.id], offerId: event.offers[at]!.id },
      });
    await to(0);
    // A seat of another ticket is another seat; the one that stands is asked.
    const standing = async () => (await look(token)).seats.filter((s) => s.state === 'confirmed');
    expect((await standing()).map((s) => s.toSign)).toEqual([[waiver('On the water')]]);
  });

  test('asks a birth date of who takes it, and of nobody else', async () => {
    const event = await withOwnWaiver('Grown Up');
    expect((await book(event, 0, 'Ida')).problem.fields).toMatchObject([
      { path: 'attendees.0.birthDate', code: 'birth-date-needed' },
    ]);
    expect((await book(event, 1, 'Ida')).status).toBe(201);
    const shown = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect([shown.needsBirthDate, shown.offers.map((o) => o.asksAge)]).toEqual([false, [true, false]]);
    // Which waiver that is, is read once it is signed.
    expect(JSON.stringify(shown)).not.toContain(waiver('On the water'));
  });

  test('is chased of those it is asked of; where it is taken off, nothing is missing', async () => {
    const event = await withOwnWaiver('Chased');
    await book(event, 0, 'Wet', '1990-01-01');
    await book(event, 1, 'Dry', '1990-01-01');
    const chase = async () => {
      const steps = await odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
      const step = steps.find((s) => /waiver/iu.test(s.name))!;
      return [step.rows.map((r) => r.name), step.leftOut.map((r) => [r.name, r.whyNot])];
    };
    const nothing = expect.stringMatching(/nothing is left to sign/u);
    expect(await chase()).toEqual([['Wet Ripple'], [['Dry Ripple', nothing]]]);
    expect((await saveIt(odalys, event.id, { waivers: [] })).status).toBe(200);
    const [gets, gone] = await chase();
    expect(gets).toEqual([]);
    expect(gone).toHaveLength(2);
  });

  test('goes with its ticket, so that it is not asked of everybody then', async () => {
    const event = await withOwnWaiver('Only The Walk');
    expect((await saveIt(odalys, event.id, { offers: event.offers.slice(1) })).status).toBe(200);
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    expect(plan.waivers).toEqual([]);
  });

  test('is one that is there, and asks for what is there', async () => {
    const event = await withOwnWaiver('Nowhere');
    const nowhere = [asksAll(crypto.randomUUID(), { offerIds: [crypto.randomUUID()] })];
    expect((await saveIt(odalys, event.id, { waivers: nowhere })).problem.fields).toMatchObject([
      { path: 'waivers.0.offerIds', code: 'thing-gone' },
      { path: 'waivers.0.waiverId', code: 'thing-gone' },
    ]);
  });

  test('remarks count who has still to sign among those who come, alike or not, and nobody else', async () => {
    const event = await withOwnWaiver('Counted Banks', { capacity: 3 });
    const orders = [
      await book(event, 0, 'Una', '1990-01-01'),
      await book(event, 0, 'Siv', '1990-01-01'),
      await book(event, 0, 'Pip', '2020-01-01'),
      // There is no room for them: they wait.
      await book(event, 0, 'Late', '1990-01-01'),
      await book(event, 0, 'Later', '2020-01-01'),
    ];
    const remarks = async () =>
      (await odalys.call('GET /api/desk')).entries
        .filter((e) => e.subject === 'Counted Banks' && /signature|waiver/u.test(e.text))
        .map((e) => e.text.split('.')[0]);
    expect(await remarks()).toEqual(['1 child has no guardian’s signature', '2 waivers still missing']);
    const { seats, waivers: asked } = await look(orders[0]!.body.token);
    await sign(orders[0]!.body.token, seats[0]!.id, asked[0]!, 'Una Ripple');
    expect(await remarks()).toEqual(['1 child has no guardian’s signature', '1 waiver still missing']);
  });
});
