import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { plainExtra, plainOffer } from '#core/offers/offer.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { clearAndOpen, type OpenEvent, openEvent, orderFor, pay } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const offer = (name: string, price: number, more: Partial<EventPlan['offers'][number]> = {}) => ({
  ...plainOffer,
  id: crypto.randomUUID(),
  name,
  price,
  ...more,
});
const people = (...given: string[]) => given.map((g) => ({ given: g, family: 'Sedge' }));

/** An event with tickets, and a booking of some of the first that was paid. */
async function booked(
  title: string,
  offers: ReturnType<typeof offer>[],
  given: string[],
  change: Partial<EventPlan> = {},
) {
  const event = await openEvent(world, { title, capacity: 8 });
  const saved = await saveIt(odalys, event.id, { offers, ...change });
  expect(saved.status).toBe(200);
  const at: OpenEvent = { ...event, offers };
  const { token, total } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(at, people(...given)),
  });
  if (total > 0) await pay(world, token);
  const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  const seats = (await look()).seats.map((s) => s.id);
  const body = (offerId: string, of: readonly string[]) => ({
    params: { token },
    body: { seats: [...of], offerId },
  });
  return {
    event: at,
    token,
    look,
    seats,
    told: (to: string, ...of: string[]) =>
      world.anyone.try('POST /api/public/orders/:token/ticket/what-if', body(to, of)),
    change: (to: string, ...of: string[]) =>
      world.anyone.try('POST /api/public/orders/:token/ticket', body(to, of)),
    withdraw: (...of: string[]) =>
      world.anyone.call('POST /api/public/orders/:token/withdraw', {
        params: { token },
        body: { seats: of },
      }),
  };
}
/** What was laid on the lines of an order must always come to what was paid, payment by payment. */
async function booksAgree(event: OpenEvent) {
  const rows = await world.app.db.query<{ paid: number; laid: number; received: number; kept: number }>(
    `select o.received, coalesce((select sum(amount) from payments p where p.order_id = o.id and method <> 'waived'), 0)::float8 as paid,
       (select count(*)::int from payments p where p.order_id = o.id
         and p.amount <> (select coalesce(sum(a.amount), 0) from allocations a where a.payment_id = p.id)) as laid, 0 as kept
     from orders o where o.event_id = $1`,
    [event.id],
  );
  for (const row of rows) expect([row.received, row.laid]).toEqual([row.paid, 0]);
}

describe('another ticket', () => {
  test('that costs more: what was paid goes along, the rest is to be paid, and what is given up later counts whole', async () => {
    const [walk, canoe] = [offer('Walk', 2000), offer('Canoe', 3550)];
    const b = await booked('Dearer', [walk, canoe], ['Ida', 'Ole']);
    expect((await b.told(canoe.id, b.seats[0]!)).body).toEqual({ seats: 1, more: 1550, back: 0, kept: 0 });
    expect((await b.look()).seats.map((s) => s.offer)).toEqual(['Walk', 'Walk']);
    expect((await b.change(canoe.id, b.seats[0]!)).body).toEqual({ seats: 1, more: 1550, back: 0, kept: 0 });
    // Twice is once.
    expect((await b.change(canoe.id, b.seats[0]!)).body).toEqual({ seats: 0, more: 0, back: 0, kept: 0 });
    expect(await b.look()).toMatchObject({
      due: 5550,
      received: 4000,
      balance: 1550,
      payment: 'needed',
      payNow: 1550,
    });
    await pay(world, b.token);
    expect(await b.look()).toMatchObject({ balance: 0, received: 5550 });
    await booksAgree(b.event);
    expect(await b.withdraw(b.seats[0]!)).toEqual({ kept: 0, owed: 3550 });
    await booksAgree(b.event);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: b.event.id } });
    expect(rows.map((r) => [r.offer, r.state])).toEqual([
      ['Canoe', 'withdrawn'],
      ['Walk', 'confirmed'],
    ]);
  });

  test('that costs less: the difference is owed back by the terms; there and back again costs what it did', async () => {
    const [canoe, walk] = [offer('Canoe', 3000), offer('Walk', 1000)];
    const b = await booked('Cheaper', [canoe, walk], ['Siv'], {
      refunds: [
        { days: 10, percent: 100 },
        { days: 3, percent: 50 },
      ],
    });
    await saveIt(odalys, b.event.id, { startsLocal: '2026-07-15T09:00', endsLocal: '2026-07-15T12:00' });
    expect((await b.change(walk.id, ...b.seats)).body).toEqual({ seats: 1, more: 0, back: 1000, kept: 1000 });
    expect(await b.look()).toMatchObject({ balance: -1000, kept: 1000, received: 3000, due: 2000 });
    await booksAgree(b.event);
    // What is owed is not taken for what is to be paid by itself; the treasurer pays it back.
    expect((await b.change(canoe.id, ...b.seats)).body).toMatchObject({ back: 0, kept: 0 });
    expect(await b.look()).toMatchObject({ due: 4000, received: 3000, balance: 1000 });
    await booksAgree(b.event);
  });

  test('only where it has room, seats as many, is for their age, and is theirs to see; nothing is changed else', async () => {
    const [walk, table, few, kids, secret] = [
      offer('Walk', 0),
      offer('Table', 0, { seatsPerUnit: 4 }),
      offer('Few', 0, { quantity: 1 }),
      offer('Mudlark', 0, { toAge: 12 }),
      offer('Secret', 0, { hidden: true }),
    ];
    const b = await booked('Refused', [walk, table, few, kids, secret], ['Ida', 'Ole']);
    const why = async (to: string, ...of: string[]) =>
      (await b.change(to, ...of)).problem.fields?.map((f) => f.code);
    expect(await why(table.id, b.seats[0]!)).toEqual(['offer-other-size']);
    expect(await why(few.id, ...b.seats)).toEqual(['offer-full']);
    expect(await why(secret.id, b.seats[0]!)).toEqual(['ticket-gone']);
    expect(await why(crypto.randomUUID(), b.seats[0]!)).toEqual(['ticket-gone']);
    expect(await why(few.id, crypto.randomUUID())).toEqual(['seats-of-another']);
    await odalys.call('PATCH /api/registrations/:id', {
      params: { id: b.seats[0]! },
      body: { given: 'Ida', family: 'Sedge', birthDate: '1990-01-01' },
    });
    expect(await why(kids.id, b.seats[0]!)).toEqual(['too-old']);
    expect((await b.look()).seats.map((s) => s.offer)).toEqual(['Walk', 'Walk']);
    // A full event has room for a change within it.
    expect((await b.change(few.id, b.seats[0]!)).status).toBe(201);
    // Staff may move to what is hidden.
    const moved = await odalys.call('POST /api/events/:id/seats/move', {
      params: { id: b.event.id },
      body: { seatIds: b.seats, offerId: secret.id },
    });
    expect(moved).toMatchObject({ seats: 2, left: [] });
  });

  test('by a code that was used, as far as it is good for it, also where it is over; members pay what members do', async () => {
    const [walk, canoe] = [
      offer('Walk', 2000),
      offer('Canoe', 4000, {
        prices: [{ kind: 'members', price: 3000, untilLocal: null, fromUnits: null, mostUnits: null }],
      }),
    ];
    const b = await booked('Coded', [walk, canoe], ['Ida'], {
      codes: [
        {
          id: crypto.randomUUID(),
          code: 'REEDS',
          note: '',
          offerIds: [],
          opens: false,
          off: { percent: 50000 },
          fromLocal: null,
          untilLocal: null,
          most: 1,
          mostPerPerson: null,
        },
      ],
    });
    const coded = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: b.event.slug },
      body: orderFor(b.event, people('Vera'), { code: 'reeds' }),
    });
    expect(coded.total).toBe(1000);
    await pay(world, coded.token);
    const { seats } = await world.anyone.call('GET /api/public/orders/:token', {
      params: { token: coded.token },
    });
    const told = await world.anyone.call('POST /api/public/orders/:token/ticket/what-if', {
      params: { token: coded.token },
      body: { seats: [seats[0]!.id], offerId: canoe.id },
    });
    expect(told.more).toBe(1000);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: b.event.id } });
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id: rows[0]!.contactId! },
      body: { kind: 'membership', from: '2026-01-01', until: '2026-12-31' },
    });
    expect((await b.told(canoe.id, ...b.seats)).body.more).toBe(1000);
  });

  test('whoever came keeps theirs; a table goes as a whole; the letter says what is more to pay', async () => {
    const [table, gold] = [
      offer('Table', 8000, { seatsPerUnit: 4 }),
      offer('Gold table', 10000, { seatsPerUnit: 4 }),
    ];
    const event = await openEvent(world, { title: 'Tables' });
    await saveIt(odalys, event.id, { offers: [table, gold] });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor({ ...event, offers: [table] }, people('Ida')),
        lines: [{ offerId: table.id, units: 1 }],
      },
    });
    await pay(world, token);
    const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    const done = await world.anyone.call('POST /api/public/orders/:token/ticket', {
      params: { token },
      body: { seats: [seats[2]!.id], offerId: gold.id },
    });
    expect(done).toEqual({ seats: 4, more: 2000, back: 0, kept: 0 });
    const letters = await world.app.db.query<{ body: string }>(
      "select body from messages where event_id = $1 and kind = 'ticket changed'",
      [event.id],
    );
    expect(
      letters.map((l) => l.body.includes('“Gold table”') && l.body.includes('$20 is still to pay')),
    ).toEqual([true]);
    await world.app.db.query(
      "update attendance set state = 'arrived', arrived_at = now() where registration_id = $1",
      [seats[0]!.id],
    );
    const late = await world.anyone.try('POST /api/public/orders/:token/ticket', {
      params: { token },
      body: { seats: [seats[1]!.id], offerId: table.id },
    });
    expect(late.problem.code).toBe('ticket-used');
  });
});

describe('another date', () => {
  const dates = async (title: string, change: Partial<EventPlan> = {}) => {
    const event = await openEvent(world, {
      title,
      price: 1500,
      startsLocal: '2026-08-05T09:00',
      endsLocal: '2026-08-05T12:00',
    });
    if (Object.keys(change).length) await saveIt(odalys, event.id, change);
    return datesOf(event);
  };
  const datesOf = async (event: OpenEvent) => {
    const { id } = await odalys.call('POST /api/series', {
      body: {
        eventId: event.id,
        rule: 'FREQ=WEEKLY',
        startsLocal: '2026-08-05T09:00',
        extra: [],
        skipped: [],
        horizon: 2,
        opens: false,
      },
    });
    const made = await odalys.call('GET /api/series/:id', { params: { id } });
    const [, second] = made.dates;
    await clearAndOpen(world, second!.id);
    const slugOf = async (eventId: string) =>
      (await odalys.call('GET /api/events/:id', { params: { id: eventId } })).plan.slug!;
    return { event, second: { id: second!.id, slug: await slugOf(second!.id) } };
  };

  test('the booking stands there with its money, and the seats here are free; only within the series and the terms', async () => {
    const { event, second } = await dates('Weekly Walk');
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, people('Ida', 'Ole')),
    });
    await pay(world, token);
    const other = await openEvent(world, { title: 'Another Thing', price: 1500 });
    const move = (slug: string) =>
      world.anyone.try('POST /api/public/orders/:token/date', { params: { token }, body: { slug } });
    expect((await move(other.slug)).problem.code).toBe('registration-closed');
    expect((await move(event.slug)).problem.code).toBe('move-to-itself');
    const told = await world.anyone.call('POST /api/public/orders/:token/date/what-if', {
      params: { token },
      body: { slug: second.slug },
    });
    expect(told).toEqual({ seats: 2, more: 0, back: 0, kept: 0 });
    const { body } = await move(second.slug);
    const there = await world.anyone.call('GET /api/public/orders/:token', { params: { token: body.token } });
    expect(there).toMatchObject({ standing: 'confirmed', received: 3000, balance: 0 });
    expect(there.seats.map((s) => s.given)).toEqual(['Ida', 'Ole']);
    const here = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(here).toMatchObject({ standing: 'ended', received: 0, balance: 0 });
    // A second click finds nothing to move.
    expect((await move(second.slug)).problem.code).toBe('seat-gone');
    await booksAgree(event);
  });

  test('extras that are to be had there go along, others are owed back; what was let off is not asked again', async () => {
    const { event, second } = await dates('Weekly Extras');
    const extra = (name: string, price: number) => ({ ...plainExtra, id: crypto.randomUUID(), name, price });
    const [soup, boat] = [extra('Soup', 400), extra('Boat', 900)];
    await saveIt(odalys, event.id, { extras: [soup, boat] });
    await saveIt(odalys, second.id, { extras: [{ ...soup, id: crypto.randomUUID() }] });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: {
        ...orderFor(event, people('Ida')),
        extras: [soup, boat].map((x) => ({ extraId: x.id, units: 1 })),
      },
    });
    await pay(world, token);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const told = await odalys.call('POST /api/events/:id/seats/move', {
      params: { id: event.id },
      body: { seatIds: [rows[0]!.id], eventId: second.id },
    });
    expect(told).toMatchObject({ seats: 1, more: 0, back: 900 });
    const there = await odalys.call('GET /api/events/:id/registrations', { params: { id: second.id } });
    expect(there.rows.map((r) => [r.extras, r.due, r.received, r.balance])).toEqual([
      [['Soup'], 1900, 1900, 0],
    ]);

    const off = await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, people('Ole')),
    });
    const marit = await world.as('marit');
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: off.orderId },
      body: { method: 'waived', amount: 1500, reason: 'helps with the soup' },
    });
    const [ole] = (
      await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })
    ).rows.filter((r) => r.given === 'Ole');
    const moved = await odalys.call('POST /api/events/:id/seats/move', {
      params: { id: event.id },
      body: { seatIds: [ole!.id], eventId: second.id },
    });
    expect(moved).toMatchObject({ seats: 1, more: 0, back: 0 });
    await booksAgree(event);
    await booksAgree({ ...event, id: second.id });
  });

  test('where one pays what one can, somebody goes on paying what they did', async () => {
    const event = await openEvent(world, {
      title: 'As One Can',
      startsLocal: '2026-08-05T09:00',
      endsLocal: '2026-08-05T12:00',
    });
    const can = offer('Seat', 1000, { pricing: 'pay what you can', least: 200 });
    await saveIt(odalys, event.id, { offers: [can] });
    const { second } = await datesOf(event);
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...orderFor(event, people('Ida')), lines: [{ offerId: can.id, units: 1, price: 1700 }] },
    });
    await pay(world, token);
    const told = await world.anyone.call('POST /api/public/orders/:token/date', {
      params: { token },
      body: { slug: second.slug },
    });
    expect(told).toMatchObject({ seats: 1, more: 0, back: 0 });
    const there = await world.anyone.call('GET /api/public/orders/:token', { params: { token: told.token } });
    expect(there).toMatchObject({ due: 1700, received: 1700, balance: 0 });
  });

  test('is no way around the terms, and not into a date where people are accepted', async () => {
    const { event, second } = await dates('Termed Walk', {
      refunds: [
        { days: 60, percent: 100 },
        { days: 1, percent: 20 },
      ],
    });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, people('Ida')),
    });
    const move = () =>
      world.anyone.try('POST /api/public/orders/:token/date', {
        params: { token },
        body: { slug: second.slug },
      });
    await pay(world, token);
    expect((await move()).problem.code).toBe('move-by-terms');
    await saveIt(odalys, event.id, { refunds: [] });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: second.id } });
    await saveIt(odalys, second.id, { admission: { ...plan.admission, accepts: true } });
    expect((await move()).problem.code).toBe('registration-closed');
    // The team moves whom it wants.
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const body = { seatIds: [rows[0]!.id], eventId: second.id };
    const told = await odalys.call('POST /api/events/:id/seats/move/what-if', {
      params: { id: event.id },
      body,
    });
    expect(told).toMatchObject({ seats: 1, left: [] });
    expect(await odalys.call('POST /api/events/:id/seats/move', { params: { id: event.id }, body })).toEqual(
      told,
    );
    await booksAgree(event);
  });
});
