import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

const names = ['Amara', 'Pascal', 'Ines', 'Mei', 'Farouk', 'Leopold', 'Chloe', 'Isidore'];
const person = (n: number, family = 'Wren') => ({
  given: `${names[n % names.length]}${'abcdefghijklmnopqrstuvwxyz'[Math.floor(n / names.length) % 26]}`,
  family,
});

describe('registering', () => {
  let world: World;
  let event: OpenEvent;
  const place = (e: OpenEvent, body: ReturnType<typeof orderFor>, key?: string) =>
    world.anyone.try(
      'POST /api/public/events/:slug/orders',
      { params: { slug: e.slug }, body },
      key ? { 'idempotency-key': key } : {},
    );
  const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  beforeAll(async () => {
    world = await makeWorld();
    event = await openEvent(world, { title: 'Reed Cut', capacity: 12 });
  });
  afterAll(() => world.close());

  test('a free booking is confirmed at once and gets its confirmation', async () => {
    const { body } = await place(event, orderFor(event, [person(1, 'Free')]));
    expect(body.standing).toBe('confirmed');
    await world.runner.run();
    const mail = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where address like '%.free@%'",
    );
    expect(mail).toEqual([{ subject: 'You are registered: Reed Cut' }]);
  });

  test('the same key answers the same; another body under it is refused', async () => {
    const body = orderFor(event, [person(2, 'Twice')]);
    const [a, b] = await Promise.all([
      place(event, body, 'key-for-twice-1'),
      place(event, body, 'key-for-twice-1'),
    ]);
    expect(a.body.token).toBe(b.body.token);
    expect(await world.app.db.query("select 1 from orders where buyer_family = 'Twice'")).toHaveLength(1);
    const other = await place(event, { ...body, attendees: [] }, 'key-for-twice-1');
    expect(other.problem).toMatchObject({ status: 409, code: 'idempotency-key-reused' });
  });

  test('a full event takes the party on the waitlist; a withdrawal offers to the first that fits; time passes it on', async () => {
    const small = await openEvent(world, { title: 'Small', capacity: 4 });
    const first = await place(small, orderFor(small, [person(0, 'First'), person(1, 'First')]));
    await place(small, orderFor(small, [person(2, 'Second'), person(3, 'Second')]));
    const three = await place(
      small,
      orderFor(small, [person(4, 'Three'), person(5, 'Three'), person(6, 'Three')]),
    );
    const pair = await place(small, orderFor(small, [person(7, 'Pair'), person(8, 'Pair')]));
    const single = await place(small, orderFor(small, [person(9, 'Single')]));
    expect([three, pair, single].map((r) => r.body.standing)).toEqual([
      'waitlisted',
      'waitlisted',
      'waitlisted',
    ]);
    expect((await look(pair.body.token)).queuePlace).toBe(2);

    const seats = (await look(first.body.token)).seats.map((s) => s.id);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: first.body.token },
      body: { seats },
    });
    const offered = await look(pair.body.token);
    expect(offered).toMatchObject({ standing: 'offered', offeredUntil: '2026-07-10T12:20:00.000Z' });
    expect((await look(three.body.token)).standing).toBe('waitlisted');
    expect((await place(small, orderFor(small, [person(10, 'Late')]))).body.standing).toBe('waitlisted');

    await world.moveTo('2026-07-10T12:20:00Z');
    expect((await look(pair.body.token)).standing).toBe('ended');
    expect((await look(single.body.token)).standing).toBe('offered');
    expect(
      (
        await world.anyone.try('POST /api/public/orders/:token/take', {
          params: { token: pair.body.token },
          body: {} as never,
        })
      ).problem.code,
    ).toBe('offer-gone');
    expect(
      (
        await world.anyone.call('POST /api/public/orders/:token/take', {
          params: { token: single.body.token },
          body: {} as never,
        })
      ).standing,
    ).toBe('confirmed');
    const mail = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where address like '%.pair@%' order by accepted_at, key",
    );
    expect(mail.map((m) => m.subject)).toEqual([
      'You are on the waitlist: Small',
      'Seats for you: Small',
      'The offered seats went on: Small',
    ]);
  });

  test('whoever does not fit is told what is short, also where only the room limits it', async () => {
    const wanted = (event: OpenEvent, units: number) =>
      place(event, {
        ...orderFor(event, [person(31, 'Short')]),
        lines: [{ offerId: event.offers[0]!.id, units }],
        waitlist: false,
      });
    const short = async (event: OpenEvent, units: number) => (await wanted(event, units)).problem;
    const small = await openEvent(world, { title: 'Short of seats', capacity: 3 });
    expect(await short(small, 4)).toMatchObject({
      code: 'full',
      fields: [{ code: 'short-seats', message: '3 seats left, and your party needs 4.' }],
    });
    const few = await openEvent(world, { title: 'Short of tickets', capacity: 9, quantity: 2 });
    expect((await short(few, 3)).fields).toMatchObject([
      { path: 'lines', code: 'short-ticket', message: 'Guided paddle: 2 left, and you ask for 3.' },
    ]);
    // Nobody said how many may come: as many as the place holds.
    const room = await openEvent(world, { title: 'Short of room', capacity: null });
    const { venue } = await (await world.as('odalys')).call('GET /api/events/:id', {
      params: { id: room.id },
    });
    await world.app.db.query('update venues set capacity = 2 where name = $1', [venue!.name]);
    try {
      const page = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: room.slug } });
      expect(page).toMatchObject({ seatsLeft: 2, ofRoom: true });
      expect((await short(room, 3)).fields).toMatchObject([{ code: 'short-room' }]);
      expect((await wanted(room, 2)).status).toBe(201);
      expect((await short(room, 1)).fields).toMatchObject([{ code: 'short-room', params: { left: 0 } }]);
    } finally {
      await world.app.db.query('update venues set capacity = $1 where name = $2', [
        venue!.capacity,
        venue!.name,
      ]);
    }
  });

  test('a held seat comes back when nobody pays', async () => {
    const paid = await openEvent(world, { title: 'Paid hold', capacity: 1, price: 2500 });
    const held = await place(paid, orderFor(paid, [person(11, 'Hold')]));
    expect(
      (await world.anyone.call('GET /api/public/events/:slug', { params: { slug: paid.slug } })).registration,
    ).toBe('full');
    const now = world.app.clock.now();
    await world.moveTo(new Date(Date.parse(now) + 15 * 60_000).toISOString());
    expect((await look(held.body.token)).standing).toBe('ended');
    expect(
      (await world.anyone.call('GET /api/public/events/:slug', { params: { slug: paid.slug } })).registration,
    ).toBe('open');
    expect(await world.app.db.query("select 1 from contacts where family_name = 'Hold'")).toHaveLength(0);
  });

  test('bad input is answered with every field, and nothing is kept', async () => {
    const before = await world.app.db.query('select count(*) from orders');
    const check = async (change: object, path: string) => {
      const reply = await place(event, { ...orderFor(event, [person(12, 'Bad')]), ...change } as never);
      expect(reply.status).toBe(422);
      expect(reply.problem.fields!.map((f) => f.path)).toContain(path);
    };
    await check({ lines: [{ offerId: event.offers[0]!.id, units: 10_000 }] }, 'lines.0.units');
    await check({ lines: [] }, 'lines');
    await check({ lines: [{ offerId: event.offers[0]!.id, units: -1 }] }, 'lines.0.units');
    await check({ donation: { amount: -1, fundId: null } }, 'donation.amount');
    await check({ buyer: { given: 'Mai', family: 'Wren', email: 'not an address' } }, 'buyer.email');
    await check(
      { buyer: { given: 'Mai', family: 'Wren', email: 'm@w.example', phone: 'call me' } },
      'buyer.phone',
    );
    await check(
      { attendees: [{ given: 'a', family: 'b', birthDate: '2030-01-01' }] },
      'attendees.0.birthDate',
    );
    await check({ attendees: Array.from({ length: 3 }, () => ({ given: 'a', family: 'b' })) }, 'attendees');
    const unknown = crypto.randomUUID();
    await check({ answers: { [unknown]: 'x' } }, `answers.${unknown}`);
    expect(await world.app.db.query('select count(*) from orders')).toEqual(before);
  });

  test('a manage link altered by one character leads nowhere', async () => {
    const { body } = await place(event, orderFor(event, [person(13, 'Link')]));
    const altered = body.token.slice(0, -1) + (body.token.endsWith('A') ? 'B' : 'A');
    expect(
      (await world.anyone.try('GET /api/public/orders/:token', { params: { token: altered } })).status,
    ).toBe(404);
    const stored = await world.app.db.query<{ tokenHash: string }>('select token_hash from links');
    expect(stored.some((l) => l.tokenHash.includes(body.token))).toBe(false);
  });

  test('the same people are known again, and a family with one address stays several people', async () => {
    const next = await openEvent(world, { title: 'Next year', capacity: 30 });
    const family = [
      { given: 'Rosalind', family: 'Marchetti' },
      { given: 'Ned', family: 'Marchetti', birthDate: '2016-02-03' },
      { given: 'Ada', family: 'Marchetti', birthDate: '2018-02-03' },
    ];
    for (const e of [event, next])
      expect(
        (await place(e, orderFor(e, family, { email: 'marchetti@fenmail.example' }))).body.standing,
      ).toBe('confirmed');
    const contacts = await world.app.db.query<{ id: string; givenName: string }>(
      "select id, given_name from contacts where family_name = 'Marchetti' order by given_name",
    );
    expect(contacts.map((c) => c.givenName)).toEqual(['Ada', 'Ned', 'Rosalind']);
    const { rows } = await (await world.as('odalys')).call('GET /api/events/:id/registrations', {
      params: { id: next.id },
    });
    const ned = rows.find((r) => r.given === 'Ned')!;
    expect(ned.linkReasons.join(' ')).toContain('same given name');
    const guardians = await world.app.db.query(
      "select 1 from relationships where kind = 'guardian' and to_contact = $1",
      [ned.contactId],
    );
    expect(guardians).toHaveLength(1);
  });
});

describe('paying', () => {
  let world: World;
  let event: OpenEvent;
  beforeAll(async () => {
    world = await makeWorld();
    event = await openEvent(world, { title: 'Supper', capacity: 20, price: 4500 });
  });
  afterAll(() => world.close());
  const book = async (n: number, more = {}) =>
    (
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [person(n, `Payer${n}`)], more),
      })
    ).token;
  const pay = (token: string, digit: number) =>
    world.anyone.try('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: `9000 0000 0000 000${digit}`, expiry: '08/29' },
    });
  const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  const charges = () =>
    world.app.db.query<{ n: number }>("select count(*)::int as n from payments where method = 'card'");

  test('a declined card keeps the seats for another try', async () => {
    const token = await book(1);
    expect((await pay(token, 2)).body).toMatchObject({ outcome: 'declined' });
    expect(await look(token)).toMatchObject({ standing: 'held', payment: 'declined' });
    expect((await pay(token, 1)).body.outcome).toBe('succeeded');
    expect(await look(token)).toMatchObject({ standing: 'confirmed', balance: 0 });
    expect((await pay(token, 1)).problem.code).toBe('nothing-due');
  });

  test('a time-out keeps the seats, refuses a second payment, and is settled by the late answer', async () => {
    const token = await book(2);
    expect((await pay(token, 3)).body.outcome).toBe('unknown');
    expect(await look(token)).toMatchObject({ standing: 'held', payment: 'unknown' });
    expect((await pay(token, 1)).problem).toMatchObject({ status: 409, code: 'payment-unknown' });
    const before = (await charges())[0]!.n;
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 3 * 60_000).toISOString());
    expect(await look(token)).toMatchObject({ standing: 'confirmed', payment: 'paid', balance: 0 });
    expect((await charges())[0]!.n).toBe(before + 1);
  });

  test('an answer that comes twice counts once', async () => {
    const token = await book(3);
    await pay(token, 4);
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 5 * 60_000).toISOString());
    expect(await look(token)).toMatchObject({ received: 4500, balance: 0 });
  });

  test('clicking twice at once charges once', async () => {
    const token = await book(4);
    const replies = await Promise.all([pay(token, 1), pay(token, 1), pay(token, 1)]);
    expect(replies.filter((r) => r.body.outcome === 'succeeded')).toHaveLength(1);
    expect((await look(token)).received).toBe(4500);
  });

  test('giving a paid seat up leaves money to pay back, which the treasurer does in a row of its own', async () => {
    const token = await book(5, { donation: { amount: 1000, fundId: null } });
    await pay(token, 1);
    const seat = (await look(token)).seats[0]!.id;
    expect(
      await world.anyone.call('POST /api/public/orders/:token/withdraw', {
        params: { token },
        body: { seats: [seat] },
      }),
    ).toEqual({ kept: 0, owed: 4500 });
    const marit = await world.as('marit');
    const { rows } = await (await world.as('odalys')).call('GET /api/events/:id/registrations', {
      params: { id: event.id },
    });
    const orderId = rows.find((r) => r.id === seat)!.orderId;
    expect(
      (
        await marit.try('POST /api/orders/:id/refunds', {
          params: { id: orderId },
          body: { amount: 999_999, reason: 'too much' },
        })
      ).problem.code,
    ).toBe('too-much');
    await marit.call('POST /api/orders/:id/refunds', {
      params: { id: orderId },
      body: { amount: 4500, reason: 'seat given up' },
    });
    const { totals } = await marit.call('GET /api/ledger', { query: {} });
    expect(totals.length).toBeGreaterThan(0);
    for (const t of totals) expect(t.seats + t.donations - t.refunds).toBe(t.net);
    await expect(world.app.db.query('update payments set amount = 1')).rejects.toThrow(/only added/u);
    await expect(world.app.db.query('delete from payments')).rejects.toThrow(/only added/u);
  });

  test('a hold does not run out under somebody whose payment has no answer yet', async () => {
    const tight = await openEvent(world, { title: 'Tight', capacity: 1, price: 1000 });
    const one = (
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: tight.slug },
        body: orderFor(tight, [person(6, 'Slow')]),
      })
    ).token;
    await pay(one, 3);
    await world.app.db.query("update orders set held_until = $1 where buyer_family = 'Slow'", [
      world.app.clock.now(),
    ]);
    await world.runner.run();
    const two = (
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: tight.slug },
        body: orderFor(tight, [person(7, 'Quick')]),
      })
    ).token;
    expect(await look(two)).toMatchObject({ standing: 'waitlisted' });
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 5 * 60_000).toISOString());
    expect(await look(one)).toMatchObject({ standing: 'confirmed', balance: 0 });
    expect(await look(two)).toMatchObject({ standing: 'waitlisted' });
    const { rows } = await (await world.as('odalys')).call('GET /api/events/:id/registrations', {
      params: { id: tight.id },
    });
    expect(rows.filter((r) => r.state === 'confirmed')).toHaveLength(1);
  });
});
