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

describe('an event that is paid in another currency than the organization’s', () => {
  let world: World;
  let odalys: Caller;
  let marit: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
    marit = await world.as('marit');
  });
  afterAll(() => world.close());
  const book = async (
    slug: string,
    event: { id: string; slug: string; offers: never[] | { id: string; price: number }[] },
  ) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug },
      body: orderFor({ ...event, questions: [] }, [{ given: 'Ida', family: 'Sedge' }], {
        donation: { amount: 500, fundId: null, anonymous: false },
      }),
    });

  test('is quoted, paid, given to, exported and told in it, and no sum mixes the two', async () => {
    const here = await openEvent(world, { title: 'At Home', price: 2000 });
    const abroad = await openEvent(world, { title: 'Across the Border', price: 3000 });
    expect((await saveIt(odalys, abroad.id, { currency: 'EUR' })).status).toBe(200);
    const shown = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: abroad.slug } });
    expect(shown.currency).toBe('EUR');
    const listed = await world.anyone.call('GET /api/public/events', { query: {} });
    expect(listed.events.find((e) => e.slug === abroad.slug)).toMatchObject({
      currency: 'EUR',
      lowest: 3000,
    });
    expect(listed.events.find((e) => e.slug === here.slug)!.currency).toBe('CAD');

    const [home, away] = [await book(here.slug, here), await book(abroad.slug, abroad)];
    expect([home.currency, away.currency]).toEqual(['CAD', 'EUR']);
    await pay(world, home.token);
    await pay(world, away.token);
    const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token: away.token } });
    expect(order).toMatchObject({ currency: 'EUR', due: 3500, balance: 0 });

    const ledger = await marit.call('GET /api/ledger');
    expect(ledger.totals).toMatchObject([
      { currency: 'CAD', seats: 2000, donations: 500, net: 2500 },
      { currency: 'EUR', seats: 3000, donations: 500, net: 3500 },
    ]);
    expect(ledger.rows.filter((r) => r.currency === 'EUR').map((r) => r.event)).toEqual([
      'Across the Border',
      'Across the Border',
    ]);
    const csv = String(await marit.call('GET /api/ledger.csv', { query: { eventId: abroad.id } }));
    expect(csv).toContain('30.00,EUR');
    // The processor’s reference is hexadecimal and may hold these three letters.
    expect(csv).not.toContain(',CAD');

    // One person gave in both: each by itself, and a segment by amount asks in the organization’s.
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: abroad.id } });
    const { totals } = await odalys.call('GET /api/contacts/:id', { params: { id: rows[0]!.contactId! } });
    expect(totals.givenEver).toEqual([
      { amount: 500, currency: 'CAD' },
      { amount: 500, currency: 'EUR' },
    ]);
    const { entries } = await odalys.call('GET /api/contacts/:id/lifeline', {
      params: { id: rows[0]!.contactId! },
      query: {},
    });
    expect(entries.filter((e) => e.kind === 'money').map((e) => e.text)).toEqual(
      expect.arrayContaining([expect.stringContaining('€30'), expect.stringContaining('$20')]),
    );
    const gave = (atLeast: number) =>
      odalys.call('POST /api/segments/count', {
        body: {
          segment: { ask: 'donated', amount: { is: 'at least', n: atLeast }, within: { when: 'ever' } },
        } as never,
      });
    expect((await gave(500)).count).toBe(1);
    expect((await gave(501)).count).toBe(0);
    const desk = await odalys.call('GET /api/desk');
    expect(desk.since.filter((s) => s.amount).map((s) => s.amount)).toEqual([
      { amount: 500, currency: 'CAD' },
      { amount: 500, currency: 'EUR' },
    ]);
  });

  test('keeps its currency once somebody has booked, and nothing moves into another one', async () => {
    const abroad = await openEvent(world, { title: 'Kept In', price: 3000 });
    const save = (currency: string | null) => saveIt(odalys, abroad.id, { currency });
    expect((await save('EUX')).problem.fields).toMatchObject([{ path: 'currency', code: 'no-currency' }]);
    expect((await save('euro')).problem.fields).toMatchObject([
      { path: 'change.currency', code: 'no-currency-code' },
    ]);
    expect((await save('CHF')).status).toBe(200);
    const placed = await book(abroad.slug, abroad);
    await pay(world, placed.token);
    for (const other of ['USD', null])
      expect((await save(other)).problem.fields).toMatchObject([
        { path: 'currency', code: 'currency-in-use' },
      ]);
    expect((await save('CHF')).status).toBe(200);
    // Money that moves for an order is in the order’s currency, whoever writes it.
    await expect(
      world.app.db.query(
        `insert into payments (id, order_id, event_id, kind, method, amount, currency, reason, at)
         select gen_random_uuid(), order_id, event_id, kind, method, amount, 'CAD', 'slip', at from payments where event_id = $1 limit 1`,
        [abroad.id],
      ),
    ).rejects.toThrow(/foreign key/u);
    await expect(world.app.db.query("update payments set currency = 'CAD'")).rejects.toThrow(/only added/u);
  });

  test('an event called off offers no move to one in another currency', async () => {
    const from = await openEvent(world, { title: 'Was On', price: 3000 });
    const to = await openEvent(world, { title: 'Instead', price: 3000 });
    await saveIt(odalys, to.id, { currency: 'GBP' });
    const placed = await book(from.slug, from);
    await pay(world, placed.token);
    const off = await odalys.try('POST /api/events/:id/state', {
      params: { id: from.id },
      body: { move: 'call off', words: 'storm', settle: { money: 'ask', toEventId: to.id } as never },
    });
    expect(off.problem.fields).toMatchObject([{ path: 'settle.toEventId', code: 'other-currency' }]);
  });
});
