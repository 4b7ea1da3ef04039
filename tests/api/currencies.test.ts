import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readTable } from '#core/exchange/table.ts';
import { plainOffer } from '#core/offers/offer.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { openEvent, orderFor, pay } from './scenes.ts';

/** Amounts in the smallest unit there is: whole yen, thousandths of a dinar. */
describe.each([
  { currency: 'JPY', price: 2501, dearer: 4000, plain: '7503', owed: '¥1,499' },
  { currency: 'TND', price: 25_015, dearer: 40_000, plain: '75.045', owed: 'TND' },
])('an organization that reckons in $currency', ({ currency, price, dearer, plain, owed }) => {
  let world: World;
  let odalys: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
    await world.app.db.query('update organization set currency = $1', [currency]);
  });
  afterAll(() => world.close());

  test('sells, changes, gives back by its terms and tells of it to the smallest unit', async () => {
    const event = await openEvent(world, {
      title: 'Counted',
      price,
      startsLocal: '2026-07-17T18:00',
      endsLocal: '2026-07-17T21:00',
    });
    const canoe = { ...plainOffer, id: crypto.randomUUID(), name: 'Canoe', price: dearer };
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const saved = await saveIt(odalys, event.id, {
      offers: [...plan.offers, canoe],
      refunds: [
        { days: 14, percent: 100 },
        { days: 7, percent: 50 },
      ],
    });
    expect(saved.status).toBe(200);
    const frame = await world.anyone.call('GET /api/public/frame');
    expect(frame.organization.currency).toBe(currency);
    const placed = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(
        event,
        ['Ida', 'Ole', 'Siv'].map((given) => ({ given, family: 'Sedge' })),
      ),
    });
    expect(placed.total).toBe(3 * price);
    await pay(world, placed.token);
    const look = () =>
      world.anyone.call('GET /api/public/orders/:token', { params: { token: placed.token } });
    const seats = (await look()).seats.map((s) => s.id);

    const file = await odalys.try('GET /api/events/:id/registrations.csv', {
      params: { id: event.id },
      query: {},
    });
    const { headings, rows } = readTable(Buffer.from(String(file.body)));
    expect(rows.map((r) => r.cells[headings.indexOf('Order due')])).toEqual([plain, '', '']);

    const told = await world.anyone.call('POST /api/public/orders/:token/ticket', {
      params: { token: placed.token },
      body: { seats: [seats[0]!], offerId: canoe.id },
    });
    expect(told).toMatchObject({ more: dearer - price, back: 0 });
    const [letter] = await world.app.db.query<{ body: string }>(
      "select body from messages where event_id = $1 and kind = 'ticket changed'",
      [event.id],
    );
    expect(letter!.body).toContain(owed);

    // Half of one, rounded once: the two halves are the whole.
    const gone = await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: placed.token },
      body: { seats: [seats[1]!] },
    });
    expect(gone.kept).toBe(Math.floor(price / 2));
    expect((await look()).balance).toBe(dearer - price - (price - gone.kept));
    const paper = await world.anyone.try('GET /api/public/orders/:token/confirmation.pdf', {
      params: { token: placed.token },
    });
    expect((paper.body as unknown as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
  });

  test('says what is too little in its own money', async () => {
    const event = await openEvent(world, { title: 'As One Can' });
    const can = {
      ...plainOffer,
      id: crypto.randomUUID(),
      name: 'Seat',
      pricing: 'pay what you can' as const,
      price,
      least: price,
    };
    await saveIt(odalys, event.id, { offers: [can] });
    const short = await world.anyone.try('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, [{ given: 'Ida', family: 'Sedge' }]),
        lines: [{ offerId: can.id, units: 1, price: price - 1 }],
      },
    });
    expect(short.problem.fields).toMatchObject([
      { path: 'lines.0.price', code: 'least-amount', params: { amount: { amount: price, currency } } },
    ]);
  });
});
