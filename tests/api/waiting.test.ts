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
  await odalys.call('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
};
const place = (event: OpenEvent, given: string, seats: number) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(event, [{ given, family: 'Rush' }]),
      lines: [{ offerId: event.offers[0]!.id, units: seats }],
    },
  });
const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
const giveUp = async (token: string, n: number) => {
  const { seats } = await look(token);
  await world.anyone.call('POST /api/public/orders/:token/withdraw', {
    params: { token },
    body: { seats: seats.slice(0, n).map((s) => s.id) },
  });
};
const lineOf = async (event: OpenEvent) =>
  (await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })).waiting;
/** Four seats taken; three, one and two wait, in that order. */
async function full(title: string, waitRule: EventPlan['waitRule']) {
  const event = await openEvent(world, { title, capacity: 4 });
  await save(event, { waitRule });
  const holder = await place(event, 'Holder', 4);
  const parties: Record<string, string> = {};
  for (const [given, seats] of [
    ['Three', 3],
    ['Moss', 1],
    ['Two', 2],
  ] as const)
    parties[given] = (await place(event, given, seats)).token;
  return { event, holder: holder.token, parties };
}

test('tables are counted as tables, also where they are sold seat by seat afterwards', async () => {
  const event = await openEvent(world, { title: 'By The Table', capacity: 60, seatsPerUnit: 4, quantity: 3 });
  const left = async () =>
    (await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } })).offers[0]!
      .left;
  const booked = await place(event, 'Host', 1);
  expect(await left()).toBe(2);
  const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await save(event, { offers: plan.offers.map((o) => ({ ...o, seatsPerUnit: 1 })) });
  // Four seats, and still one of the three.
  expect(await left()).toBe(2);
  // A table is taken as long as somebody sits there.
  await giveUp(booked.token, 3);
  expect(await left()).toBe(2);
  const last = (await look(booked.token)).seats.filter((seat) => seat.state === 'confirmed');
  await world.anyone.call('POST /api/public/orders/:token/withdraw', {
    params: { token: booked.token },
    body: { seats: last.map((seat) => seat.id) },
  });
  expect(await left()).toBe(3);
});

describe('who of those waiting comes first', () => {
  test('the first that fits; strictly in line nobody before the first; members before the others', async () => {
    const standings = async (parties: Record<string, string>) =>
      Object.fromEntries(
        await Promise.all(Object.entries(parties).map(async ([name, t]) => [name, (await look(t)).standing])),
      );
    const fits = await full('First That Fits', 'first that fits');
    await giveUp(fits.holder, 2);
    expect(await standings(fits.parties)).toEqual({
      Three: 'waitlisted',
      Moss: 'offered',
      Two: 'waitlisted',
    });
    const strict = await full('Strict', 'strict order');
    await giveUp(strict.holder, 2);
    expect(await standings(strict.parties)).toEqual({
      Three: 'waitlisted',
      Moss: 'waitlisted',
      Two: 'waitlisted',
    });
    await giveUp(strict.holder, 4);
    expect(await standings(strict.parties)).toEqual({ Three: 'offered', Moss: 'offered', Two: 'waitlisted' });

    const members = await full('Members First', 'members first');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', {
      params: { id: members.event.id },
    });
    const two = rows.find((r) => r.buyer === 'Two Rush')!.contactId!;
    // The membership that counts is that of the day of the event.
    const join = (until: string) =>
      odalys.call('POST /api/contacts/:id/ties', {
        params: { id: two },
        body: { kind: 'membership', from: '2026-01-01', until },
      });
    await join('2026-08-07');
    expect((await lineOf(members.event)).map((p) => p.name)).toEqual(['Three Rush', 'Moss Rush', 'Two Rush']);
    await join('2026-12-31');
    expect((await lineOf(members.event)).map((p) => p.name)).toEqual(['Two Rush', 'Three Rush', 'Moss Rush']);
    expect((await look(members.parties.Two!)).queuePlace).toBe(1);
    await giveUp(members.holder, 2);
    expect(await standings(members.parties)).toEqual({
      Three: 'waitlisted',
      Moss: 'waitlisted',
      Two: 'offered',
    });
  });

  test('offered out of turn only with a reason, which is kept; in turn without one', async () => {
    const event = await openEvent(world, { title: 'Out Of Turn', capacity: 2 });
    await place(event, 'Holder', 2);
    const first = await place(event, 'Fern', 2);
    const second = await place(event, 'Alder', 1);
    expect([first.standing, second.standing]).toEqual(['waitlisted', 'waitlisted']);
    const [fern, alder] = await lineOf(event);
    // Room that nobody was offered yet.
    await world.app.db.query('update events set capacity = 4 where id = $1', [event.id]);
    const offer = (orderId: string, reason = '') =>
      odalys.try('POST /api/orders/:id/offer', { params: { id: orderId }, body: { reason } });
    expect((await offer(alder!.orderId)).problem.fields).toMatchObject([
      { path: 'reason', code: 'reason-out-of-turn' },
    ]);
    expect((await offer(alder!.orderId, 'brings the projector')).status).toBe(201);
    const kept = await world.app.db.query<{ reason: string }>(
      `select s.reason from registration_states s join registrations r on r.id = s.registration_id
       where r.order_id = $1 and s.state = 'offered'`,
      [alder!.orderId],
    );
    expect(kept).toEqual([{ reason: 'seats offered: offered by Odalys Ferrant: brings the projector' }]);
    expect((await look(first.token)).queuePlace).toBe(1);
    await world.app.db.query('update events set capacity = 6 where id = $1', [event.id]);
    expect((await offer(fern!.orderId)).status).toBe(201);
  });
});

describe('how likely it is', () => {
  test('from how seats came free before, as soon as enough is known; the same to staff and to who waits', async () => {
    const { event, parties } = await full('Odds', 'first that fits');
    expect((await look(parties.Three!)).odds).toBeNull();
    // Forty seats of an event of the past, half of them given up in the last month.
    const past = await openEvent(world, { title: 'Past Odds', capacity: 40, mostPerOrder: 40 });
    const { token } = await place(past, 'Many', 40);
    const { seats } = await look(token);
    await world.app.db.query(
      "update events set state = 'wrapped', starts_at = '2026-07-01T12:00:00Z', ends_at = '2026-07-01T14:00:00Z' where id = $1",
      [past.id],
    );
    await world.app.db.query(
      "update registrations set confirmed_at = '2026-05-01T12:00:00Z' where event_id = $1",
      [past.id],
    );
    await world.app.db.query(
      "update registrations set state = 'withdrawn', ended_at = '2026-06-20T12:00:00Z' where id = any($1)",
      [seats.slice(0, 20).map((s) => s.id)],
    );
    // Of four seats at least one, four, and six come free: each by itself with a chance about a half.
    const line = await lineOf(event);
    expect(line.map((p) => p.name)).toEqual(['Three Rush', 'Moss Rush', 'Two Rush']);
    const [three, moss, two] = line.map((p) => p.odds!);
    expect(three).toEqual((await look(parties.Three!)).odds);
    // At least three of four: 5 in 16; all four: 1 in 16; more than there are: none.
    expect(three!.from).toBeLessThanOrEqual(3);
    expect(three!.to).toBeGreaterThanOrEqual(4);
    expect([moss!.from, two]).toEqual([0, { from: 0, to: 1 }]);
    // What is given up later than there are days to go is not what tells.
    await world.app.db.query(
      "update registrations set ended_at = '2026-05-20T12:00:00Z' where id = any($1)",
      [seats.slice(0, 20).map((s) => s.id)],
    );
    expect((await look(parties.Three!)).odds).toBeNull();
  });
});

test('who waits for an offer has none of it yet: its number can be kept, and not be less than are taken', async () => {
  const event = await openEvent(world, { title: 'As Many As There Are', capacity: null, quantity: 4 });
  await place(event, 'Holder', 4);
  expect((await place(event, 'Waits', 2)).standing).toBe('waitlisted');
  const saved = async (change: Partial<EventPlan['offers'][number]>) => {
    const { plan, version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const offers = plan.offers.map((o) => ({ ...o, ...change }));
    return odalys.try('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { offers } },
    });
  };
  expect((await saved({ about: 'two hours' })).status).toBe(200);
  expect((await saved({ quantity: 3 })).problem.fields).toMatchObject([
    { path: 'offers.0.quantity', code: 'units-taken', params: { count: 4 } },
  ]);
});

test('who waits because the room is full gets a seat in a larger one', async () => {
  const event = await openEvent(world, { title: 'Moves To The Barn', capacity: null });
  const { venues } = await odalys.call('GET /api/choices');
  const larger = venues.find((v) => v.ours && v.name !== 'Sluice Landing' && (v.capacity ?? 0) >= 4)!;
  await world.app.db.query("update venues set capacity = 2 where name = 'Sluice Landing'");
  await place(event, 'Holder', 2);
  const { token, standing } = await place(event, 'Waits', 2);
  expect(standing).toBe('waitlisted');
  // A change of place weighs: what follows is told before, and then done.
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const moved = await odalys.try('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { venueId: larger.id } },
  });
  expect(moved.status).toBe(200);
  expect(moved.body.followed.offered).toHaveLength(1);
  expect((await look(token)).standing).toBe('offered');
});
