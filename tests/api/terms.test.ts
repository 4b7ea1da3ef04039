import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const save = async (event: OpenEvent, change: Partial<EventPlan>) => {
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  return odalys.try('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
};
const half = [
  { days: 14, percent: 100 },
  { days: 7, percent: 50 },
];
/** Three seats at 25.01 each, paid. */
async function paid(
  title: string,
  of: { startsLocal: string; endsLocal: string; refunds?: EventPlan['refunds'] },
) {
  const event = await openEvent(world, { title, price: 2501, ...of });
  if (of.refunds) expect((await save(event, { refunds: of.refunds })).status).toBe(200);
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(
      event,
      ['Ida', 'Ole', 'Siv'].map((given) => ({ given, family: 'Sedge' })),
    ),
  });
  await world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '12/30' },
  });
  const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  const seats = (await look()).seats.map((s) => s.id);
  const told = (...of: string[]) =>
    world.anyone.call('POST /api/public/orders/:token/withdraw/what-if', {
      params: { token },
      body: { seats: of },
    });
  const withdraw = (...of: string[]) =>
    world.anyone.call('POST /api/public/orders/:token/withdraw', { params: { token }, body: { seats: of } });
  return { event, token, look, seats, told, withdraw };
}
/** The tests are on 9 July. */
const soon = { startsLocal: '2026-07-17T18:00', endsLocal: '2026-07-17T21:00' };

describe('what goes back of seats that are given up', () => {
  test('is said before, is what then goes back, unit by unit; told without anything being done', async () => {
    const { event, look, seats, told, withdraw } = await paid('Half Back', { ...soon, refunds: half });
    const page = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect(page.refunds.map((r) => [r.until, r.percent])).toEqual([
      ['2026-07-03', 100],
      ['2026-07-10', 50],
    ]);
    expect((await told(seats[0]!)).kept).toBe(1250);
    expect(await told(seats[0]!, seats[1]!)).toEqual({ kept: 2501, owed: 2501 });
    expect((await look()).seats.every((s) => s.state === 'confirmed')).toBe(true);
    expect(await withdraw(seats[0]!)).toEqual({ kept: 1250, owed: 1251 });
    expect(await look()).toMatchObject({ kept: 1250, due: 2501 * 2 + 1250, received: 7503, balance: -1251 });
    // What was kept of one is not kept once more with another.
    expect(await told(seats[1]!)).toEqual({ kept: 1250, owed: 1251 });
    expect(await withdraw(seats[1]!, seats[2]!)).toEqual({ kept: 2501, owed: 1251 + 2501 });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await odalys.call('POST /api/orders/:id/refunds', {
      params: { id: rows[0]!.orderId },
      body: { amount: 3752, reason: 'given up' },
    });
    expect(await look()).toMatchObject({ balance: 0, received: 3751, kept: 3751 });
  });

  test('early enough everything, too late nothing; where nothing is said, everything', async () => {
    const early = await paid('All Back', {
      startsLocal: '2026-07-23T18:00',
      endsLocal: '2026-07-23T21:00',
      refunds: half,
    });
    expect(await early.told(early.seats[0]!)).toEqual({ kept: 0, owed: 2501 });
    const late = await paid('Nothing Back', {
      startsLocal: '2026-07-15T18:00',
      endsLocal: '2026-07-15T21:00',
      refunds: half,
    });
    expect(await late.told(...late.seats)).toEqual({ kept: 7503, owed: 0 });
    expect(await late.withdraw(...late.seats)).toEqual({ kept: 7503, owed: 0 });
    expect((await late.look()).balance).toBe(0);
    const none = await paid('Nothing Said', { ...soon });
    expect(await none.told(none.seats[0]!)).toEqual({ kept: 0, owed: 2501 });
  });

  test('of what was not paid nothing is kept, and nothing is asked for', async () => {
    const event = await openEvent(world, { title: 'Later Paid', price: 2500, ...soon });
    await save(event, { refunds: half });
    const { orderId } = await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Liv', family: 'Sedge' }]),
    });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const row = rows.find((r) => r.orderId === orderId)!;
    const gone = await odalys.call('POST /api/registrations/:id/withdraw', {
      params: { id: row.id },
      body: {},
    });
    expect(gone).toMatchObject({ kept: 0, owed: 0 });
  });

  test('staff give back by the terms, everything, or nothing', async () => {
    const { event } = await paid('By Hand', { ...soon, refunds: half });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const owed = [];
    for (const [at, back] of (['terms', 'all', 'nothing'] as const).entries())
      owed.push(
        (
          await odalys.call('POST /api/registrations/:id/withdraw', {
            params: { id: rows[at]!.id },
            body: { back },
          })
        ).owed,
      );
    expect(owed).toEqual([1251, 1251 + 2501, 1251 + 2501]);
  });

  test('terms that contradict themselves are refused beside their field', async () => {
    const event = await openEvent(world, { title: 'Contradicting' });
    const wrong = async (refunds: EventPlan['refunds']) =>
      (await save(event, { refunds })).problem.fields!.map((f) => [f.path, f.code]);
    expect(await wrong([...half, { days: 7, percent: 10 }])).toEqual([
      ['refunds.2.days', 'refund-day-twice'],
    ]);
    expect(
      await wrong([
        { days: 14, percent: 10 },
        { days: 7, percent: 50 },
      ]),
    ).toEqual([['refunds.1.percent', 'refund-more-later']]);
  });
});
