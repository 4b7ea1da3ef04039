import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { inTransaction, systemActor } from '#server/app/app.ts';
import { askAboutAll } from '#server/money/charging.ts';
import { readOrder } from '#server/registration/store.ts';
import { linkTo, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

describe('what was agreed stays agreed', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const place = async (event: OpenEvent, people: number, more: Parameters<typeof orderFor>[2] = {}) => {
    const guests = Array.from({ length: people }, (_, n) => ({ given: `Guest${n}`, family: 'Agreed' }));
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, guests, more),
    });
    return token;
  };
  const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  const pay = (token: string, card = '9000 0000 0000 0001') =>
    world.anyone.try('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card, expiry: '08/29' },
    });
  const priceOf = async (event: OpenEvent, price: number) => {
    const odalys = await world.as('odalys');
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version: page.version, change: { offers: [{ ...page.plan.offers[0]!, price }] } },
    });
  };
  const orderOf = async (event: OpenEvent) =>
    (
      await world.app.db.query<{ id: string }>(
        'select id from orders where event_id = $1 order by placed_at desc, id desc limit 1',
        [event.id],
      )
    )[0]!.id;
  const figures = async (event: OpenEvent) =>
    (await world.as('odalys')).call('GET /api/events/:id/figures', { params: { id: event.id } });

  test('the price goes up, a seat is given up: what was paid for it is owed back, no more and no less', async () => {
    const event = await openEvent(world, { title: 'Price', price: 2500, so: ['money'] });
    const token = await place(event, 2);
    expect((await pay(token)).body).toMatchObject({ outcome: 'succeeded' });
    await priceOf(event, 9900);
    const { seats } = await look(token);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: [seats[1]!.id] },
    });
    expect(await look(token)).toMatchObject({ due: 2500, received: 5000, balance: -2500, payment: 'paid' });
    await priceOf(event, 100);
    const marit = await world.as('marit');
    const orderId = await orderOf(event);
    const refund = (amount: number, gift = false) =>
      marit.try('POST /api/orders/:id/refunds', {
        params: { id: orderId },
        body: { amount, reason: 'seat given up', gift },
      });
    expect((await refund(2500)).body).toEqual({ refunded: 2500, balance: 0 });
    expect(await look(token)).toMatchObject({ due: 2500, received: 2500, balance: 0 });
    expect((await figures(event)).checks.every((c) => c.holds)).toBe(true);
  });

  test('who waited pays what was agreed when they joined', async () => {
    const event = await openEvent(world, { title: 'Wait', price: 2000, capacity: 1, so: ['money'] });
    const first = await place(event, 1);
    await pay(first);
    const waiting = await place(event, 1, { email: 'waits@fenmail.example' });
    expect((await look(waiting)).standing).toBe('waitlisted');
    await priceOf(event, 5000);
    const { seats } = await look(first);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: first },
      body: { seats: [seats[0]!.id] },
    });
    expect(await look(waiting)).toMatchObject({ standing: 'offered', due: 2000, balance: 2000 });
    await world.anyone.call('POST /api/public/orders/:token/take', { params: { token: waiting } });
    await pay(waiting);
    expect(await look(waiting)).toMatchObject({ standing: 'confirmed', received: 2000, balance: 0 });
  });

  test('a gift that goes back leaves “given ever” and the segments; what is let off is no income', async () => {
    const event = await openEvent(world, { title: 'Gift', price: 1000, so: ['money'] });
    const odalys = await world.as('odalys');
    const marit = await world.as('marit');
    const token = await place(event, 1, {
      email: 'gives@fenmail.example',
      donation: { amount: 4000, fundId: null },
    });
    await pay(token);
    const orderId = await orderOf(event);
    const { buyerContactId } = await inTransaction(world.app, systemActor, (w) => readOrder(w.tx, orderId));
    const given = async () =>
      (await odalys.call('GET /api/contacts/:id', { params: { id: buyerContactId! } })).totals.givenEver?.map(
        (sum) => sum.amount,
      );
    const inSegment = async () =>
      (
        await odalys.call('POST /api/segments/why', {
          body: {
            contactId: buyerContactId!,
            segment: { ask: 'donated', amount: { is: 'at least', n: 3000 }, within: { when: 'ever' } },
          },
        })
      ).holds;
    expect([await given(), await inSegment()]).toEqual([[4000], true]);
    const part = await marit.call('POST /api/orders/:id/refunds', {
      params: { id: orderId },
      body: { amount: 1500, reason: 'a nought too many', gift: true },
    });
    expect(part.balance).toBe(0);
    expect([await given(), await inSegment()]).toEqual([[2500], false]);
    expect((await figures(event)).money).toMatchObject({
      donations: 4000,
      refunds: 1500,
      net: 3500,
    });

    const owing = await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Let', family: 'Off' }]),
    });
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: owing.orderId },
      body: { method: 'waived', amount: 1000, reason: 'helps at the gate' },
    });
    const { totals } = await marit.call('GET /api/ledger', { query: { eventId: event.id } });
    expect(totals).toEqual([
      { currency: 'CAD', seats: 1000, donations: 4000, deposits: 0, refunds: 1500, net: 3500, waived: 1000 },
    ]);
    expect((await figures(event)).checks.filter((c) => !c.holds)).toEqual([]);
    const url = await linkTo(world.app, 'manage', owing.orderId);
    expect(await look(url.split('/').at(-1)!)).toMatchObject({ received: 0, balance: 0 });
  });

  test('a part of what is due confirms nothing', async () => {
    const event = await openEvent(world, { title: 'Part', price: 3000, so: ['money'] });
    const token = await place(event, 1, { email: 'part@fenmail.example' });
    const marit = await world.as('marit');
    const orderId = await orderOf(event);
    const cash = (amount: number) =>
      marit.call('POST /api/orders/:id/payments', {
        params: { id: orderId },
        body: { method: 'cash', amount },
      });
    expect(await cash(1000)).toEqual({ balance: 2000 });
    expect(await look(token)).toMatchObject({ standing: 'held', balance: 2000 });
    expect((await look(token)).seats[0]!.pass).toBeNull();
    await cash(2000);
    expect(await look(token)).toMatchObject({ standing: 'confirmed', balance: 0 });
  });

  test('a charge whose answer was lost with the process is asked about, and until then the seats are kept', async () => {
    const event = await openEvent(world, { title: 'Crash', price: 2000, capacity: 1, so: ['money'] });
    const token = await place(event, 1, { email: 'crash@fenmail.example' });
    const orderId = await orderOf(event);
    // The process dies after the processor took the money, before that was written down.
    const attempt = world.app.ids.id();
    await world.app.db.query(
      "insert into payment_attempts (id, order_id, amount, state, asked_at, words) values ($1, $2, 2000, 'asked', $3, '')",
      [attempt, orderId, world.app.clock.now()],
    );
    expect(
      (
        await world.app.cards.charge({
          key: attempt,
          amount: 2000,
          currency: 'CAD',
          card: '9000 0000 0000 0001',
        })
      )?.outcome,
    ).toBe('succeeded');
    // Nor does a notification come.
    await world.app.db.query('update standin_notices set times = 0');
    const later = new Date(Date.parse(world.app.clock.now()) + 40 * 60_000).toISOString();
    await world.moveTo(later);
    expect((await look(token)).standing).toBe('held');
    expect((await pay(token)).problem.code).toBe('payment-unknown');
    // It starts again.
    await askAboutAll(world.app);
    await world.runner.run();
    expect(await look(token)).toMatchObject({ standing: 'confirmed', received: 2000, balance: 0 });
    expect((await figures(event)).checks.filter((c) => !c.holds)).toEqual([]);
  });

  test('a charge that never reached the processor is closed there; another card pays', async () => {
    const event = await openEvent(world, { title: 'Never', price: 2000, so: ['money'] });
    const token = await place(event, 1, { email: 'never@fenmail.example' });
    const orderId = await orderOf(event);
    const attempt = world.app.ids.id();
    await world.app.db.query(
      "insert into payment_attempts (id, order_id, amount, state, asked_at, words) values ($1, $2, 2000, 'asked', $3, '')",
      [attempt, orderId, world.app.clock.now()],
    );
    await askAboutAll(world.app);
    await world.runner.run();
    expect(await look(token)).toMatchObject({ standing: 'held', payment: 'declined' });
    // The charge arrives after all: it is not made.
    expect(
      (
        await world.app.cards.charge({
          key: attempt,
          amount: 2000,
          currency: 'CAD',
          card: '9000 0000 0000 0001',
        })
      )?.outcome,
    ).toBe('declined');
    expect((await pay(token)).body).toMatchObject({ outcome: 'succeeded' });
    expect(await look(token)).toMatchObject({ standing: 'confirmed', received: 2000 });
  });

  test('a processor that cannot say is asked again, and nothing is decided meanwhile', async () => {
    const event = await openEvent(world, { title: 'Silent', price: 2000, so: ['money'] });
    const token = await place(event, 1, { email: 'silent@fenmail.example' });
    const odalys = await world.as('odalys');
    expect((await pay(token, '9000 0000 0000 0003')).body).toMatchObject({ outcome: 'unknown' });
    await odalys.call('PUT /api/standins', { body: { service: 'cards', mode: 'fails', remaining: 1 } });
    await world.app.db.query('update standin_notices set times = 0');
    await askAboutAll(world.app);
    await world.runner.run();
    expect(await look(token)).toMatchObject({ payment: 'unknown' });
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 4 * 60_000).toISOString());
    expect(await look(token)).toMatchObject({ standing: 'confirmed', received: 2000 });
  });

  test('money for seats that are gone goes back by itself, and the buyer is told', async () => {
    const event = await openEvent(world, { title: 'Gone', price: 2000, capacity: 1, so: ['money'] });
    const token = await place(event, 1, { email: 'gone@fenmail.example' });
    const orderId = await orderOf(event);
    await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 20 * 60_000).toISOString());
    expect((await look(token)).standing).toBe('ended');
    await pay(await place(event, 1, { email: 'other@fenmail.example' }));
    const attempt = world.app.ids.id();
    await world.app.db.query(
      "insert into payment_attempts (id, order_id, amount, state, asked_at, words) values ($1, $2, 2000, 'asked', $3, '')",
      [attempt, orderId, world.app.clock.now()],
    );
    await world.app.cards.charge({
      key: attempt,
      amount: 2000,
      currency: 'CAD',
      card: '9000 0000 0000 0001',
    });
    await askAboutAll(world.app);
    await world.runner.run();
    expect(await look(token)).toMatchObject({ standing: 'ended', received: 0, balance: 0 });
    const mail = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where address = 'gone@fenmail.example' order by accepted_at desc",
    );
    expect(mail.map((m) => m.subject)).toContain('Your payment goes back: Gone');
    expect((await figures(event)).checks.filter((c) => !c.holds)).toEqual([]);
  });
});
