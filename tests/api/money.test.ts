import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { askAboutAll } from '#server/money/charging.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

/** How many random sequences; more by hand with ACOLYTE_FUZZ=500. */
const runs = Number(process.env.ACOLYTE_FUZZ ?? 12);

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

/**
 * What `work` asks of the database stops being answered after `asked` statements and transactions, as in a process that
 * was killed there; then it starts again and asks the processor about every open charge.
 */
async function killedAfter(asked: number, work: () => Promise<unknown>): Promise<void> {
  const { app } = world;
  const real = app.db;
  let left = asked;
  const alive = () => {
    if (left <= 0) throw new Error('killed');
    left -= 1;
  };
  app.db = {
    ...real,
    query: (sql, params) => {
      alive();
      return real.query(sql, params);
    },
    transaction: (run) =>
      real.transaction(async (tx) => {
        const answer = await run(tx);
        alive();
        return answer;
      }),
  };
  try {
    await work();
  } finally {
    app.db = real;
  }
  await askAboutAll(app);
  await world.runner.run();
}

const cards = [
  '9000 0000 0000 0001',
  '9000 0000 0000 0002',
  '9000 0000 0000 0003',
  '9000 0000 0000 0004',
  '9000 0000 0000 0005',
];
const step = fc.oneof(
  fc.record({
    do: fc.constant('order' as const),
    people: fc.integer({ min: 1, max: 3 }),
    gift: fc.constantFrom(0, 0, 700, 2000),
  }),
  fc.record({
    do: fc.constant('pay' as const),
    which: fc.nat(9),
    card: fc.constantFrom(...cards),
    killed: fc.option(fc.nat(14), { freq: 2 }),
  }),
  fc.record({
    do: fc.constant('counter' as const),
    which: fc.nat(9),
    share: fc.integer({ min: 1, max: 100 }),
    waived: fc.boolean(),
    killed: fc.option(fc.nat(8), { freq: 1 }),
  }),
  fc.record({
    do: fc.constant('refund' as const),
    which: fc.nat(9),
    share: fc.integer({ min: 1, max: 100 }),
    gift: fc.boolean(),
    killed: fc.option(fc.nat(8), { freq: 1 }),
  }),
  fc.record({
    do: fc.constant('give up' as const),
    which: fc.nat(9),
    seat: fc.nat(2),
    killed: fc.option(fc.nat(8), { freq: 1 }),
  }),
  fc.record({ do: fc.constant('price' as const), price: fc.integer({ min: 100, max: 9000 }) }),
  fc.record({ do: fc.constant('wait' as const), minutes: fc.constantFrom(1, 3, 20) }),
);
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

/** An event with a few orders, and what may be done to them. */
async function play(event: OpenEvent, steps: readonly Step[]): Promise<void> {
  const marit = await world.as('marit');
  const odalys = await world.as('odalys');
  const orders: { token: string; id: string }[] = [];
  const maybeKilled = (at: number | null, work: () => Promise<unknown>) =>
    at === null ? work() : killedAfter(at, work);
  const at = (which: number) => orders[which % orders.length]!;
  for (const s of steps) {
    if (s.do === 'order') {
      const { status, body } = await world.anyone.try('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(
          event,
          Array.from({ length: s.people }, (_, n) => ({
            given: `Guest${n}`,
            family: `Order${orders.length}`,
          })),
          {
            email: `buyer${orders.length}@sums.example`,
            ...(s.gift ? { donation: { amount: s.gift, fundId: null } } : {}),
          },
        ),
      });
      expect(status).toBe(201);
      const [row] = await world.app.db.query<{ id: string }>(
        'select id from orders where event_id = $1 order by placed_at desc, id desc limit 1',
        [event.id],
      );
      orders.push({ token: body.token, id: row!.id });
    } else if (s.do === 'price') {
      const { plan, version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
      await odalys.call('PATCH /api/events/:id', {
        params: { id: event.id },
        body: { version, change: { offers: [{ ...plan.offers[0]!, price: s.price }] } },
      });
    } else if (s.do === 'wait') {
      await world.moveTo(new Date(Date.parse(world.app.clock.now()) + s.minutes * 60_000).toISOString());
    } else if (orders.length > 0) {
      const { token, id } = at(s.which);
      const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
      const share = 'share' in s ? s.share : 100;
      const part = (most: number) => Math.max(1, Math.round((most * share) / 100));
      if (s.do === 'pay')
        await maybeKilled(s.killed, () =>
          world.anyone.try('POST /api/public/orders/:token/pay', {
            params: { token },
            body: { card: s.card, expiry: '08/29' },
          }),
        );
      else if (s.do === 'give up')
        await maybeKilled(s.killed, () =>
          world.anyone.try('POST /api/public/orders/:token/withdraw', {
            params: { token },
            body: { seats: [order.seats[s.seat % order.seats.length]!.id] },
          }),
        );
      else if (s.do === 'counter')
        await maybeKilled(s.killed, () =>
          marit.try('POST /api/orders/:id/payments', {
            params: { id },
            body: s.waived
              ? { method: 'waived', amount: part(order.balance), reason: 'helps at the gate' }
              : { method: 'cash', amount: part(order.balance) },
          }),
        );
      else
        await maybeKilled(s.killed, () =>
          marit.try('POST /api/orders/:id/refunds', {
            params: { id },
            body: { amount: part(order.received), reason: 'asked for it back', gift: s.gift },
          }),
        );
    }
    await theSumsAgree(event);
  }
  // Every late answer has come by now: nothing is open any more, and what the processor took is what stands here.
  await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 30 * 60_000).toISOString());
  await theSumsAgree(event);
  const [card] = await world.app.db.query<{ open: number; taken: number; written: number; twice: number }>(
    `select count(*) filter (where a.state in ('asked', 'unknown'))::int as open,
       coalesce(sum(c.amount) filter (where c.outcome = 'succeeded'), 0)::int as taken,
       (select coalesce(sum(p.amount), 0)::int from payments p where p.event_id = $1 and p.method = 'card' and p.attempt_id is not null) as written,
       (select count(*)::int from (select attempt_id from payments where event_id = $1 and attempt_id is not null and kind = 'seats' group by 1 having count(*) > 1) x) as twice
     from payment_attempts a join orders o on o.id = a.order_id left join standin_charges c on c.key = a.id::text
     where o.event_id = $1`,
    [event.id],
  );
  expect(card).toEqual({ open: 0, taken: card!.taken, written: card!.taken, twice: 0 });
}

/** What must hold after everything: of each order by its rows, and of the event by its own checks. */
async function theSumsAgree(event: OpenEvent): Promise<void> {
  const rows = await world.app.db.query<{
    due: number;
    received: number;
    waived: number;
    balance: number;
    moved: number;
    laid: number;
    off: number;
  }>(
    `select o.due, o.received, o.waived, o.balance,
       coalesce((select sum(amount) from payments p where p.order_id = o.id and p.method <> 'waived'), 0)::int as moved,
       coalesce((select sum(amount) from payments p where p.order_id = o.id and p.method = 'waived'), 0)::int as off,
       coalesce((select sum(a.amount) from allocations a join payments p on p.id = a.payment_id where a.order_id = o.id and p.method <> 'waived'), 0)::int as laid
     from orders o where o.event_id = $1`,
    [event.id],
  );
  for (const o of rows) {
    expect(o.received).toBe(o.moved);
    expect(o.laid).toBe(o.moved);
    expect(o.received).toBeGreaterThanOrEqual(0);
    expect(o.received + o.waived + o.balance).toBe(o.due);
    expect(o.waived).toBeLessThanOrEqual(o.off);
  }
  const odalys = await world.as('odalys');
  const { checks } = await odalys.call('GET /api/events/:id/figures', { params: { id: event.id } });
  expect(checks.filter((c) => !c.holds)).toEqual([]);
}

test(
  'random sequences of order, payment, refund, change and crash keep the sums',
  async () => {
    let n = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 14 }), async (steps) => {
        n += 1;
        await play(await openEvent(world, { title: `Sums ${n}`, price: 2500, capacity: 6, so: ['money'] }), [
          { do: 'order', people: 2, gift: 700 },
          ...steps,
        ]);
      }),
      { numRuns: runs, seed: 20_260_709, endOnFailure: true },
    );
  },
  120_000 + runs * 10_000,
);
