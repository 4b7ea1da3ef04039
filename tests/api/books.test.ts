import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainOffer } from '#core/offers/offer.ts';
import { carryOver } from '#server/money/carrying.ts';
import { booksAstray } from './booksAstray.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { type OpenEvent, openEvent, orderFor, pay } from './scenes.ts';

let world: World;
let odalys: Caller;
let marit: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  marit = await world.as('marit');
});
afterAll(() => world.close());

const books = async (query: { eventId?: string; from?: string; until?: string } = {}) =>
  (await marit.call('GET /api/books', { query })).map((t) => ({
    ...t,
    balances: Object.fromEntries(
      t.balances.map((b) => [b.fund ? `${b.account} ${b.fund}` : b.account, b.amount]),
    ),
  }));
const book = (event: OpenEvent, given: string, more: object = {}) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given, family: 'Ledgerly' }], more),
  });
const orderOf = async (event: OpenEvent, given: string) =>
  (await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })).rows.find(
    (r) => r.given === given,
  )!;
const giveUp = async (token: string) => {
  const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  return world.anyone.call('POST /api/public/orders/:token/withdraw', {
    params: { token },
    body: { seats: seats.map((s) => s.id) },
  });
};

describe('the books of an event', () => {
  test('follow it from booking to money back, and always add up to nothing', async () => {
    const event = await openEvent(world, {
      title: 'Booked',
      price: 4000,
      startsLocal: '2026-07-17T18:00',
      endsLocal: '2026-07-17T21:00',
    });
    await saveIt(odalys, event.id, {
      refunds: [
        { days: 14, percent: 100 },
        { days: 3, percent: 50 },
      ],
    });
    const of = { eventId: event.id };
    const paid = await book(event, 'Ada', { donation: { amount: 1500, fundId: null, anonymous: false } });
    // A seat that is held is nobody's debt.
    expect(await books(of)).toEqual([]);
    await pay(world, paid.token);
    expect(await books(of)).toEqual([
      {
        currency: 'CAD',
        balances: { cards: 5500, seats: -4000, 'gifts General': -1500 },
        debits: 5500,
        credits: 5500,
      },
    ]);
    // Registered at the desk, paid later: owed.
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Bo', family: 'Ledgerly' }]),
    });
    const bo = await orderOf(event, 'Bo');
    expect((await books(of))[0]!.balances).toMatchObject({ owed: 4000, seats: -8000 });
    expect(await marit.call('GET /api/books/owed', { query: of })).toMatchObject([
      { orderId: bo.orderId, name: 'Bo Ledgerly', amount: 4000, currency: 'CAD', event: 'Booked' },
    ]);
    await odalys.call('POST /api/orders/:id/payments', {
      params: { id: bo.orderId },
      body: { method: 'cash', amount: 3000 },
    });
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: bo.orderId },
      body: { method: 'waived', amount: 1000, reason: 'carried chairs' },
    });
    expect((await books(of))[0]!.balances).toEqual({
      cards: 5500,
      cash: 3000,
      seats: -8000,
      'gifts General': -1500,
      'written off': 1000,
    });
    // Given up by the terms: half is kept, half goes back; the gift stays one.
    expect((await giveUp(paid.token)).kept).toBe(2000);
    expect((await books(of))[0]!.balances).toMatchObject({ owed: -2000, seats: -4000, kept: -2000 });
    const ada = await orderOf(event, 'Ada');
    await marit.call('POST /api/orders/:id/refunds', {
      params: { id: ada.orderId },
      body: { amount: 2000, reason: 'half back' },
    });
    const [trial] = await books(of);
    expect(trial!.balances).toEqual({
      cards: 3500,
      cash: 3000,
      seats: -4000,
      kept: -2000,
      'gifts General': -1500,
      'written off': 1000,
    });
    expect(trial!.debits).toBe(trial!.credits);
    expect(await marit.call('GET /api/books/owed', { query: of })).toEqual([]);

    const csv = String(await marit.call('GET /api/books.csv', { query: of }));
    const lines = csv.trim().split(/\r?\n/u);
    expect(lines[0]).toBe(
      'Date,Posting,About,Event,Order,Gift,Name,Account,Code,Fund,Debit,Credit,Currency,By',
    );
    const sum = (column: number) =>
      lines.slice(1).reduce((total, l) => total + Math.round(Number(l.split(',')[column] || 0) * 100), 0);
    expect(sum(10)).toBe(sum(11));
    expect(csv).toContain('returned');
    // Of other days there is nothing.
    expect(await books({ ...of, until: '2026-07-01' })).toEqual([]);
    expect(await books({ ...of, from: '2026-07-09', until: '2026-07-09' })).toHaveLength(1);
  });

  test('what is taxed is handed on, what a code takes off is a discount, and currencies stand apart', async () => {
    const event = await openEvent(world, { title: 'Taxed', price: 10_000 });
    const id = () => crypto.randomUUID();
    const saved = await saveIt(odalys, event.id, {
      currency: 'EUR',
      taxes: [{ id: id(), name: 'VAT', rate: 19_000, included: true }],
      codes: [
        {
          id: id(),
          code: 'TENTH',
          note: '',
          offerIds: [],
          opens: false,
          off: { percent: 10_000 },
          fromLocal: null,
          untilLocal: null,
          most: null,
          mostPerPerson: null,
        },
      ],
      offers: [{ ...plainOffer, id: event.offers[0]!.id, name: 'Seat', price: 11_900 }],
    });
    expect(saved.status).toBe(200);
    const { token, total } = await book(event, 'Cleo', { code: 'TENTH' });
    expect(total).toBe(10_710);
    await pay(world, token);
    // 107.10 with 19 % in it: 90.00 and 17.10; the price was 119.00, of which 11.90 were let go.
    expect(await books({ eventId: event.id })).toEqual([
      {
        currency: 'EUR',
        balances: { cards: 10_710, seats: 1710 - 11_900, discounts: 1190, taxes: -1710 },
        debits: 11_900,
        credits: 11_900,
      },
    ]);
    expect((await books()).map((t) => t.currency)).toEqual(['CAD', 'EUR']);
  });

  test('are looked at by account, fund, person and days; each view says the same', async () => {
    const event = await openEvent(world, { title: 'Looked At', price: 3000 });
    const [fund] = await world.app.db.query<{ id: string }>(
      "select id from funds where name = 'Hide Appeal'",
    );
    await pay(
      world,
      (await book(event, 'Pia', { donation: { amount: 700, fundId: fund!.id, anonymous: false } })).token,
    );
    await pay(
      world,
      (await book(event, 'Rik', { donation: { amount: 900, fundId: null, anonymous: false } })).token,
    );
    const of = { eventId: event.id };
    const today = world.app.clock.now().slice(0, 10);
    const ask = (query: object) => marit.call('GET /api/books/entries', { query: { ...of, ...query } });
    const all = await ask({});
    expect(all.totals).toEqual([{ currency: 'CAD', debits: 7600, credits: 7600 }]);
    expect(all.rows.map((r) => [r.name, r.account, r.fund, r.amount])).toEqual([
      ['Rik Ledgerly', 'cards', null, 3900],
      ['Rik Ledgerly', 'gifts', 'General', -900],
      ['Rik Ledgerly', 'seats', null, -3000],
      ['Pia Ledgerly', 'cards', null, 3700],
      ['Pia Ledgerly', 'gifts', 'Hide Appeal', -700],
      ['Pia Ledgerly', 'seats', null, -3000],
    ]);
    // What an account stands at is what its entries come to, whoever is asked for.
    const pia = { contactId: (await orderOf(event, 'Pia')).contactId! };
    for (const query of [{}, pia, { from: today }, { until: today }, { until: today, ...pia }])
      for (const { balances } of await marit.call('GET /api/books', { query: { ...of, ...query } }))
        for (const { account, fundId, amount } of balances) {
          const [total] = (await ask({ ...query, account, ...(fundId && { fundId }) })).totals;
          expect([account, total!.debits - total!.credits]).toEqual([account, amount]);
        }
    expect((await books({ ...of, ...pia }))[0]?.balances).toEqual({
      cards: 3700,
      'gifts Hide Appeal': -700,
      seats: -3000,
    });
    expect((await ask({ account: 'gifts', fundId: fund!.id })).rows.map((r) => r.amount)).toEqual([-700]);
    expect((await ask({ until: '2026-01-31' })).rows).toEqual([]);
    const csv = String(
      await marit.call('GET /api/books.csv', { query: { ...of, ...pia, account: 'seats' } }),
    );
    expect(csv.trim().split('\n').slice(1)).toEqual([expect.stringContaining('Pia Ledgerly,seats')]);
    // Movements by fund are the gifts to it; by person and days, what they paid then.
    const moved = async (query: object) =>
      (await marit.call('GET /api/ledger', { query: { ...of, ...query } })).totals.map((t) => [
        t.seats,
        t.donations,
      ]);
    expect(await moved({ fundId: fund!.id })).toEqual([[0, 700]]);
    expect(await moved({ ...pia, from: today })).toEqual([[3000, 700]]);
    expect(await moved({ until: '2026-01-31' })).toEqual([]);
    // What somebody owes.
    for (const given of ['Sol', 'Tam'])
      await odalys.call('POST /api/events/:id/orders', {
        params: { id: event.id },
        body: orderFor(event, [{ given, family: 'Ledgerly' }]),
      });
    const sol = { contactId: (await orderOf(event, 'Sol')).contactId! };
    expect(
      (await marit.call('GET /api/books/owed', { query: { ...of, ...sol } })).map((o) => o.name),
    ).toEqual(['Sol Ledgerly']);
  });

  test('are seen by who sees the money, and by nobody else', async () => {
    const event = await openEvent(world, { title: 'Whose', unit: 'Small Boats', price: 1000 });
    for (const who of ['piers', 'imani', 'door'] as const) {
      const caller = await world.as(who);
      for (const key of [
        'GET /api/books',
        'GET /api/books/entries',
        'GET /api/books.csv',
        'GET /api/books/owed',
      ] as const)
        expect((await caller.try(key, { query: { eventId: event.id } })).status).toBe(403);
    }
    expect((await world.anyone.try('GET /api/books')).status).toBe(401);
  });
});

describe('what was posted', () => {
  test('is never changed, and what does not add up is refused by the database', async () => {
    const event = await openEvent(world, { title: 'Kept As Posted', price: 1000 });
    await pay(world, (await book(event, 'Dov')).token);
    const db = world.app.db;
    const [posting] = await db.query<{ id: string; orderId: string }>(
      'select id, order_id from postings where event_id = $1',
      [event.id],
    );
    await expect(db.query('update entries set amount = amount + 1')).rejects.toThrow(/never changed/u);
    await expect(db.query('delete from postings')).rejects.toThrow(/never changed/u);
    const values = (...rows: string[]) =>
      `insert into entries (posting_id, account, amount) values ${rows.join(', ')}`;
    const fresh = crypto.randomUUID();
    const posted = (sql: string) =>
      db.transaction(async (tx) => {
        await tx.query(
          `insert into postings (id, at, kind, order_id, event_id, currency, actor) select $1, now(), 'booked', order_id, event_id, currency, 'x'
           from postings where id = $2`,
          [fresh, posting!.id],
        );
        if (sql) await tx.query(sql);
      });
    await expect(posted(values(`('${fresh}', 'owed', 5)`, `('${fresh}', 'seats', -4)`))).rejects.toThrow(
      /add up/u,
    );
    await expect(posted('')).rejects.toThrow(/without entries/u);
    await expect(posted(values(`('${fresh}', 'owed', 5)`, `('${fresh}', 'tips', -5)`))).rejects.toThrow(
      /check/u,
    );
    // A pair that adds up is still no part of a posting that was made before.
    await expect(
      db.query(values(`('${posting!.id}', 'fees', 5)`, `('${posting!.id}', 'bank', -5)`)),
    ).rejects.toThrow(/made before/u);
    await posted(values(`('${fresh}', 'favours', 5)`, `('${fresh}', 'fees', -5)`));
    expect(await booksAstray(db)).toEqual([]);
  });

  test('an order that cannot be carried over is put aside, and holds up neither the others nor anything due', async () => {
    const event = await openEvent(world, { title: 'Put Aside', price: 1000 });
    for (const given of ['Hal', 'Ivo']) await pay(world, (await book(event, given)).token);
    const { db } = world.app;
    const ids = (
      await db.query<{ id: string }>('select id from orders where event_id = $1 order by id', [event.id])
    ).map((o) => o.id);
    // The books of both are thrown away, and one of them says a method that no account is for.
    await db.script(`
      alter table entries disable trigger user; alter table postings disable trigger user; alter table payments disable trigger user;
      alter table payments drop constraint payments_method_check;
      delete from book_sums where event_id = '${event.id}';
      delete from entries where posting_id in (select id from postings where event_id = '${event.id}');
      delete from postings where event_id = '${event.id}';
      update payments set method = 'shells' where order_id = '${ids[0]}';
      alter table entries enable trigger user; alter table postings enable trigger user; alter table payments enable trigger user;
      insert into books_to_carry (order_id) select id from orders where event_id = '${event.id}';`);
    const next = async () => (await world.runner.next())?.what;
    expect(await next()).toBe('orders carried over into the books');
    await world.runner.run();
    expect(await next()).not.toBe('orders carried over into the books');
    const aside = await db.query<{ orderId: string; why: string }>(
      'select order_id, why from books_to_carry',
    );
    expect(aside.map((a) => a.orderId)).toEqual([ids[0]]);
    expect(aside[0]!.why.length).toBeGreaterThan(3);
    const posted = await db.query<{ orderId: string }>('select order_id from postings where event_id = $1', [
      event.id,
    ]);
    expect(posted.map((p) => p.orderId)).toEqual([ids[1]]);
    // Put right, it is carried over like the others.
    await db.script(`
      alter table payments disable trigger user;
      update payments set method = 'card' where order_id = '${ids[0]}';
      alter table payments enable trigger user;
      alter table payments add constraint payments_method_check check (method in ('card', 'cash', 'cheque', 'transfer', 'waived'));
      update books_to_carry set why = null;`);
    await world.runner.run();
    expect(await booksAstray(db)).toEqual([]);
  });

  test('of orders that were there before the books: as they went, and to the cent what was kept as it went', async () => {
    const { db } = world.app;
    const own = await makeWorld();
    try {
      const event = await openEvent(own, {
        title: 'Before',
        price: 3000,
        startsLocal: '2026-07-17T18:00',
        endsLocal: '2026-07-17T21:00',
      });
      const lead = await own.as('odalys');
      await saveIt(lead, event.id, { refunds: [{ days: 3, percent: 50 }] });
      for (const [given, minutes] of [
        ['Ena', 0],
        ['Fay', 90],
        ['Gil', 200],
      ] as const) {
        await own.moveTo(new Date(Date.parse('2026-07-09T13:00:00Z') + minutes * 60_000).toISOString());
        const { token } = await own.anyone.call('POST /api/public/events/:slug/orders', {
          params: { slug: event.slug },
          body: orderFor(event, [{ given, family: 'Before' }], {
            donation: { amount: given === 'Fay' ? 700 : 0, fundId: null, anonymous: false },
          }),
        });
        await pay(own, token);
        if (given === 'Gil') continue;
        await own.moveTo(new Date(Date.parse('2026-07-09T13:30:00Z') + minutes * 60_000).toISOString());
        const { seats } = await own.anyone.call('GET /api/public/orders/:token', { params: { token } });
        await own.anyone.call('POST /api/public/orders/:token/withdraw', {
          params: { token },
          body: { seats: [seats[0]!.id] },
        });
      }
      const posted = () =>
        own.app.db.query<{ at: string; kind: string; account: string; amount: number }>(
          `select p.at, p.kind, e.account, sum(e.amount)::bigint as amount from postings p join entries e on e.posting_id = p.id
           where p.order_id is not null group by p.at, p.kind, e.account order by p.at, p.kind, e.account`,
        );
      const asItWent = await posted();
      expect(asItWent.length).toBeGreaterThan(12);
      // As a folder of the version before: orders, and no books.
      await own.app.db.script(`
        alter table entries disable trigger all; alter table postings disable trigger all;
        delete from entries; delete from postings; delete from book_sums;
        alter table entries enable trigger all; alter table postings enable trigger all;
        insert into books_to_carry (order_id) select id from orders;`);
      expect(await booksAstray(own.app.db)).toEqual([]);
      await own.runner.run();
      expect(await posted()).toEqual(asItWent);
      expect(await booksAstray(own.app.db)).toEqual([]);
      // Once more there is nothing left to carry; what was posted since is not posted twice.
      await own.app.db.query('insert into books_to_carry (order_id) select id from orders');
      await carryOver(own.app);
      expect(await posted()).toEqual(asItWent);
    } finally {
      await own.close();
    }
    expect(await booksAstray(db)).toEqual([]);
  });
});

test('through long random days at the counter the books agree with the orders, and each adds up', async () => {
  const event = await openEvent(world, { title: 'Random Days', price: 2500, capacity: null });
  await saveIt(odalys, event.id, { refunds: [{ days: 10, percent: 80 }] });
  const step = fc.record({
    do: fc.constantFrom(
      'book',
      'desk',
      'cash',
      'transfer',
      'waive',
      'refund',
      'gift back',
      'give up',
      'give some up',
    ),
    amount: fc.integer({ min: 1, max: 9000 }),
    n: fc.nat(),
  });
  const [steps] = fc.sample(fc.array(step, { minLength: 120, maxLength: 120 }), {
    numRuns: 1,
    seed: Number(process.env.ACOLYTE_FUZZ ?? 7),
  });
  const tokens: string[] = [];
  let named = 0;
  for (const s of steps!) {
    const rows = (await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })).rows;
    const row = rows.length ? rows[s.n % rows.length]! : null;
    const given = `Una${'abcdefghij'[named % 10]}${'klmnopqrst'[Math.floor(named / 10) % 10]}`;
    if (s.do === 'book' || !row) {
      named += 1;
      const { token } = await book(event, given, {
        donation: { amount: s.n % 3 ? 0 : s.amount, fundId: null, anonymous: false },
        lines: [{ offerId: event.offers[0]!.id, units: 1 + (s.n % 3) }],
      });
      tokens.push(token);
      if (s.n % 4) await pay(world, token);
    } else if (s.do === 'desk') {
      named += 1;
      await odalys.call('POST /api/events/:id/orders', {
        params: { id: event.id },
        body: {
          ...orderFor(event, [{ given, family: 'Ledgerly' }]),
          lines: [{ offerId: event.offers[0]!.id, units: 1 + (s.n % 2) }],
        },
      });
    } else if (s.do === 'cash' || s.do === 'transfer')
      await marit.try('POST /api/orders/:id/payments', {
        params: { id: row.orderId },
        body: { method: s.do, amount: s.amount },
      });
    else if (s.do === 'waive')
      await marit.try('POST /api/orders/:id/payments', {
        params: { id: row.orderId },
        body: { method: 'waived', amount: s.amount, reason: 'as agreed' },
      });
    else if (s.do === 'refund' || s.do === 'gift back')
      await marit.try('POST /api/orders/:id/refunds', {
        params: { id: row.orderId },
        body: { amount: s.amount, reason: 'as agreed', gift: s.do === 'gift back' },
      });
    else if (s.do === 'give up' && tokens.length)
      await giveUp(tokens[s.n % tokens.length]!).catch(() => undefined);
    else if (s.do === 'give some up')
      await odalys.try('POST /api/registrations/:id/withdraw', { params: { id: row.id }, body: {} as never });
    expect(await booksAstray(world.app.db), s.do).toEqual([]);
  }
  for (const t of await books()) expect(t.debits).toBe(t.credits);
  const [{ moved }] = (await world.app.db.query<{ moved: number }>(
    'select count(*)::int as moved from postings',
  )) as [{ moved: number }];
  expect(moved).toBeGreaterThan(60);
});

describe('the account of an event', () => {
  test('its plan beside its books; costs are posted, and taken back', async () => {
    const event = await openEvent(world, { title: 'Accounted', price: 4500, capacity: 20 });
    const params = { id: event.id };
    const plan = [
      { kind: 'income' as const, name: 'seats', amount: 4500, perHead: true },
      { kind: 'cost' as const, name: 'Hall', amount: 30_000, perHead: false },
      { kind: 'cost' as const, name: 'Meals', amount: 2000, perHead: true },
    ];
    await odalys.call('PUT /api/events/:id/budget', { params, body: { lines: plan, seen: [] } });
    await book(event, 'Ada').then(({ token }) => pay(world, token));
    const account = () => marit.call('GET /api/events/:id/account', { params });
    expect(await account()).toMatchObject({
      currency: 'CAD',
      income: { planned: 90_000, actual: 4500 },
      costs: { planned: 70_000, actual: 0 },
      breakEven: 12,
      heads: { planned: 20, actual: 1 },
      may: true,
    });
    const spend = (more: object = {}) =>
      odalys.try('POST /api/events/:id/costs', {
        params,
        body: {
          what: 'Town Hall',
          line: 'Hall',
          amount: 31_000,
          on: '2026-07-09',
          paidFrom: 'bank',
          ...more,
        },
      });
    const { id } = (await spend()).body;
    expect(await account()).toMatchObject({
      costs: { actual: 31_000 },
      result: { actual: -26_500 },
      perHead: { income: 4500, cost: 31_000 },
    });
    const balances = async () => (await books({ eventId: event.id }))[0]!.balances;
    expect(await balances()).toMatchObject({ costs: 31_000, bank: -31_000 });
    for (const [more, path] of [
      [{ what: ' ' }, 'what'],
      [{ amount: 0 }, 'amount'],
      [{ on: '2026-02-30' }, 'on'],
    ] as const)
      expect((await spend(more)).problem.fields?.[0]?.path).toBe(path);
    const undo = () =>
      odalys.try('POST /api/events/:id/costs/:cost/undo', { params: { ...params, cost: id } });
    expect((await undo()).status).toBe(201);
    expect((await undo()).problem.code).toBe('cost-taken-back');
    expect(
      (await odalys.try('POST /api/events/:id/costs/:cost/undo', { params: { ...params, cost: event.id } }))
        .status,
    ).toBe(404);
    expect(await balances()).not.toHaveProperty('costs');
    const twice = await odalys.try('PUT /api/events/:id/budget', {
      params,
      body: { lines: [...plan, plan[1]!], seen: plan },
    });
    expect(twice.problem.fields?.[0]).toMatchObject({ path: 'lines.3.name', code: 'line-twice' });
    // Somebody planned it meanwhile.
    const late = await odalys.try('PUT /api/events/:id/budget', { params, body: { lines: [], seen: [] } });
    expect(late.problem.code).toBe('changed-by-somebody');
    expect((await account()).plan).toEqual(plan);
    // Who leads another unit neither sees nor records it.
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/events/:id/account', { params })).status).toBeGreaterThanOrEqual(403);
    expect(
      (await piers.try('PUT /api/events/:id/budget', { params, body: { lines: [], seen: [] } })).status,
    ).toBeGreaterThanOrEqual(403);
  });
});
