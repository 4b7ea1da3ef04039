import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { effectOf, type Move } from '#core/money/processor.ts';
import { signatureOf } from '#server/app/signing.ts';
import { readStatement } from '#server/money/statement.ts';
import { makeServer } from '#server/serving.ts';
import { signedHeaders } from '#server/standins/cards.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
let marit: Caller;
let event: OpenEvent;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  marit = await world.as('marit');
  event = await openEvent(world, {
    title: 'Carded',
    price: 4000,
    capacity: 120,
    startsLocal: '2026-12-05T18:00',
    endsLocal: '2026-12-05T21:00',
  });
});
afterAll(() => world.close());

const later = (minutes: number) =>
  world.moveTo(new Date(Date.parse(world.app.clock.now()) + minutes * 60_000).toISOString());
const day = 24 * 60;

let n = 0;
/** Somebody books a seat and pays it with a card that ends so. */
async function paid(ending: number, seats = 1): Promise<{ token: string; orderId: string; number: number }> {
  n += 1;
  const people = Array.from({ length: seats }, (_, at) => ({ given: `Card${n}x${at}`, family: 'Holder' }));
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, people, { email: `card${n}@fenmail.example` }),
  });
  await world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: `9000 0000 0000 000${ending}`, expiry: '08/29' },
  });
  const [row] = await world.app.db.query<{ orderId: string; number: number }>(
    'select id as order_id, number from orders order by number desc limit 1',
  );
  return { token, ...row! };
}
const look = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
const cards = () => marit.call('GET /api/cards');
const told = (
  service: 'notices' | 'payouts' | 'cards',
  mode: 'works' | 'lost' | 'twice' | 'late' | 'mixed up' | 'fails' | 'answer lost',
  remaining: number | null = null,
) => odalys.call('PUT /api/standins', { body: { service, mode, remaining } });
const refund = (orderId: string, amount: number, more: object = {}) =>
  marit.call('POST /api/orders/:id/refunds', {
    params: { id: orderId },
    body: { amount, reason: 'asked for it', ...more },
  });
const balances = async () =>
  Object.fromEntries(
    (await marit.call('GET /api/books', { query: {} })).flatMap((t) =>
      t.balances.map((b) => [b.account, b.amount]),
    ),
  );
/** The books and the statement say the same. */
async function agrees(): Promise<void> {
  for (const { there, here } of (await cards()).standing) expect(here).toBe(there);
}
const chargeOf = async (orderId: string) =>
  (
    await world.app.db.query<{ id: string }>('select id from payment_attempts where order_id = $1', [orderId])
  )[0]!.id;

/** Sends a notification as it is, to the endpoint that takes them. */
const send = (body: string, headers: Record<string, string>) =>
  world.anyone.try('POST /api/public/card-notifications', { body: JSON.parse(body) }, headers);
const sign = (id: string, body: string, at = world.app.clock.now()) =>
  signedHeaders(world.app.secret, { id, body, at });
const moveNotice = (move: Partial<Move> & Pick<Move, 'kind' | 'about' | 'amount'>) => {
  const id = crypto.randomUUID();
  const whole: Move = {
    id: `MV-${id}`,
    at: world.app.clock.now(),
    payout: null,
    fee: 0,
    currency: 'CAD',
    ...move,
  };
  return { id, move: whole, body: JSON.stringify({ id, about: 'move', move: whole }) };
};

test('the signature is the one of the open standard for webhooks', () => {
  // The example of its own libraries.
  const secret = Buffer.from('MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw', 'base64');
  expect(
    signatureOf(secret, {
      id: 'msg_p5jXN8AQM9LWM0D4loKWxJek',
      sentAt: 1_614_265_330,
      body: '{"test": 2432232314}',
    }),
  ).toBe('v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=');
});

describe('what the processor tells of', () => {
  test('a charge is told, costs a fee, and is paid out; books and statement agree all along', async () => {
    const before = await balances();
    const { orderId } = await paid(1);
    await later(2);
    const after = await balances();
    // 2.4 % of 40.00 and 0.25.
    expect((after.fees ?? 0) - (before.fees ?? 0)).toBe(121);
    expect((after.cards ?? 0) - (before.cards ?? 0)).toBe(4000 - 121);
    await agrees();
    expect((await cards()).payouts).toEqual([]);
    await later(10 * day);
    const { payouts, open, readAt } = await cards();
    expect(payouts).toHaveLength(1);
    expect(payouts[0]).toMatchObject({ amount: 3879, currency: 'CAD', moves: 1, fees: 121, failed: false });
    expect(open).toEqual([]);
    // The statement is read every day by itself.
    expect(readAt).not.toBeNull();
    expect((await balances()).bank).toBe(3879);
    await agrees();
    expect(await marit.call('GET /api/cards/payouts/:id', { params: { id: payouts[0]!.id } })).toMatchObject([
      { kind: 'charge', amount: 4000, fee: 121 },
    ]);
    const csv = String(await marit.call('GET /api/books.csv', { query: {} }));
    expect(csv).toContain('paid out');
    expect(csv).toMatch(/fee,Carded/u);
    // What an event cost at the processor is the event's.
    const [own] = await marit.call('GET /api/books', { query: { eventId: event.id } });
    expect(own!.balances.find((b) => b.account === 'fees')!.amount).toBe(121);
    expect(own!.balances.some((b) => b.account === 'bank')).toBe(false);
    expect((await marit.call('GET /api/books/owed', { query: {} })).some((o) => o.orderId === orderId)).toBe(
      false,
    );
  });

  test('told twice, late, mixed up or not at all, it comes to the same', async () => {
    for (const mode of ['twice', 'late', 'mixed up', 'lost'] as const) {
      await told('notices', mode);
      const before = await balances();
      const { orderId } = await paid(1);
      await paid(1);
      await refund(orderId, 1000);
      await later(8 * day);
      await told('notices', 'works');
      await readStatement(world.app);
      const after = await balances();
      expect([mode, (after.fees ?? 0) - (before.fees ?? 0)]).toEqual([mode, 242]);
      expect((after.cards ?? 0) + (after.bank ?? 0) - (before.cards ?? 0) - (before.bank ?? 0)).toBe(
        7000 - 242,
      );
      await agrees();
      expect((await cards()).open).toEqual([]);
    }
  });

  test('one that is forged, altered, of another number, without a signature or of last year is not believed', async () => {
    const { orderId } = await paid(1);
    await later(2);
    const before = await balances();
    const { id, body } = moveNotice({ kind: 'dispute lost', about: await chargeOf(orderId), amount: 4000 });
    const headers = sign(id, body);
    const lastYear = sign(id, body, '2025-07-09T12:00:00.000Z');
    const [version, signature] = headers['webhook-signature']!.split(',');
    const other = moveNotice({ kind: 'dispute lost', about: await chargeOf(orderId), amount: 4000 });
    const tries: [string, Record<string, string>][] = [
      [body, {}],
      [body, { ...headers, 'webhook-signature': `${version},${Buffer.alloc(32).toString('base64')}` }],
      [body, { ...headers, 'webhook-signature': '' }],
      [body, { ...headers, 'webhook-signature': `v2,${signature}` }],
      [body, { ...headers, 'webhook-timestamp': String(Number(headers['webhook-timestamp']) + 60) }],
      [body, { ...headers, 'webhook-id': other.id }],
      [body.replace('4000', '9000'), headers],
      [body, lastYear],
      // Signed for one number, and another inside.
      [body, sign(other.id, body)],
      [
        JSON.stringify({ id, about: 'move', move: { kind: 'theft' } }),
        sign(id, JSON.stringify({ id, about: 'move', move: { kind: 'theft' } })),
      ],
    ];
    for (const [at, [sent, given]] of tries.entries()) {
      const reply = await send(sent, given);
      expect([at, reply.status, reply.problem.code]).toEqual([at, 401, 'notification-unsigned']);
    }
    expect(await balances()).toEqual(before);
    // And as it was signed it is.
    expect((await send(body, headers)).status).toBe(200);
    expect((await balances()).owed).toBe((before.owed ?? 0) + 4000);
    // Sent again within minutes it is known already.
    expect((await send(body, headers)).status).toBe(200);
    expect((await balances()).owed).toBe((before.owed ?? 0) + 4000);
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: orderId },
      body: { method: 'waived', amount: 4000, reason: 'the test is over' },
    });
  });

  test('a fee that eats the payment is a cost all the same, and is made good by the next payout', async () => {
    const cheap = await openEvent(world, {
      title: 'Twenty Cents',
      price: 20,
      startsLocal: '2026-12-05T18:00',
      endsLocal: '2026-12-05T21:00',
    });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: cheap.slug },
      body: orderFor(cheap, [{ given: 'Penny', family: 'Holder' }]),
    });
    await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0001', expiry: '08/29' },
    });
    await later(2);
    const [trial] = await marit.call('GET /api/books', { query: { eventId: cheap.id } });
    // 20 less 25 and 2.4 per cent.
    expect(trial!.balances.map((b) => [b.account, b.amount])).toEqual([
      ['cards', -5],
      ['seats', -20],
      ['fees', 25],
    ]);
    await paid(1);
    await later(8 * day);
    await agrees();
    expect((await cards()).payouts.every((p) => p.amount > 0)).toBe(true);
    expect((await cards()).open).toEqual([]);
  });

  test('as many come as there is to tell, while who cannot sign does not get far', async () => {
    const limits = { publicWrites: 3, signIns: 3 };
    const server = makeServer(world.app, { runner: () => world.runner, demoSignIns: [], dist: null, limits });
    const http = await new Promise<Server>((resolve) => {
      const listening = server.listen(0, '127.0.0.1', () => resolve(listening));
    });
    const { port } = http.address() as AddressInfo;
    const tell = async (signed: boolean) => {
      const { id, body } = moveNotice({ kind: 'charge', about: 'nothing of ours', amount: 0, fee: 0 });
      const reply = await fetch(`http://127.0.0.1:${port}/api/public/card-notifications`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', ...(signed ? sign(id, body) : {}) },
        body,
      });
      return reply.status;
    };
    const told: number[] = [];
    for (let n = 0; n < 8; n += 1) told.push(await tell(true));
    expect(new Set(told)).toEqual(new Set([200]));
    const forged: number[] = [];
    for (let n = 0; n < 5; n += 1) forged.push(await tell(false));
    expect(forged).toEqual([401, 401, 401, 429, 429]);
    http.close();
    for (const { id, what } of (await cards()).open)
      if (what === 'aside')
        await marit.call('POST /api/cards/moves/:id/settle', {
          params: { id },
          body: { words: 'only a test' },
        });
  });

  test('what nothing of ours explains is put aside, said by somebody, and then stands in the books', async () => {
    const { orderId } = await paid(1);
    const charge = await chargeOf(orderId);
    await later(2);
    const before = await balances();
    for (const [move, why] of [
      [{ kind: 'charge', about: crypto.randomUUID(), amount: 700, fee: 42 }, 'not ours'],
      [{ kind: 'charge', about: "x' or 1=1", amount: 0 }, 'not ours'],
      [{ kind: 'charge', about: charge, amount: 3900 }, 'another amount'],
      [{ kind: 'charge', about: charge, amount: 4000, currency: 'JPY' }, 'another currency'],
      [{ kind: 'disputed', about: charge, amount: 10 ** 15 }, 'another amount'],
      [{ kind: 'refund', about: charge, amount: 4000 }, 'not ours'],
    ] as const) {
      const { id, body, move: sent } = moveNotice(move);
      expect((await send(body, sign(id, body))).status).toBe(200);
      const found = (await cards()).open.find((o) => o.id === sent.id)!;
      expect(found).toMatchObject({ what: 'aside', why, kind: move.kind });
    }
    expect(await balances()).toEqual(before);
    const { open } = await cards();
    const settle = (id: string, words = 'Sold by hand on the terminal') =>
      marit.try('POST /api/cards/moves/:id/settle', { params: { id }, body: { words } });
    for (const o of open) expect((await settle(o.id)).status).toBe(201);
    expect((await settle(open[0]!.id)).problem.code).toBe('settled-already');
    expect((await settle('nothing')).status).toBe(404);
    expect((await settle(open[0]!.id, ' ')).problem.fields?.[0]?.path).toBe('words');
    const after = await marit.call('GET /api/books', { query: {} });
    const cad = Object.fromEntries(
      after.find((t) => t.currency === 'CAD')!.balances.map((b) => [b.account, b.amount]),
    );
    expect(cad.unexplained).toBe(-(700 - 42) - 3900 + 10 ** 15 + 4000);
    await agrees();
    expect((await cards()).open).toEqual([]);
  });
});

describe('the code a bank wants', () => {
  const code = (token: string, typed: string) =>
    world.anyone.try('POST /api/public/orders/:token/pay/code', { params: { token }, body: { code: typed } });

  test('is asked for, may be mistyped, and then the seats are there', async () => {
    const { token } = await paid(6);
    expect(await look(token)).toMatchObject({ standing: 'held', payment: 'step' });
    expect((await code(token, '1111')).body).toMatchObject({ outcome: 'step' });
    expect(await look(token)).toMatchObject({ payment: 'step', received: 0 });
    // Seats are kept meanwhile, and after a start too.
    await later(14);
    expect((await look(token)).standing).toBe('held');
    expect((await code(token, ' 2468 ')).body).toMatchObject({ outcome: 'succeeded' });
    expect(await look(token)).toMatchObject({ standing: 'confirmed', payment: 'paid', received: 4000 });
    expect((await code(token, '2468')).problem.code).toBe('nothing-to-confirm');
  });

  test('three times wrong it is declined; not given, it is closed; another card pays meanwhile', async () => {
    const wrong = await paid(6);
    for (const outcome of ['step', 'step', 'declined'])
      expect((await code(wrong.token, '0000')).body).toMatchObject({ outcome });
    expect(await look(wrong.token)).toMatchObject({ standing: 'held', payment: 'declined' });
    const left = await paid(6);
    await later(16);
    expect(await look(left.token)).toMatchObject({ payment: 'declined', received: 0 });
    expect((await code(left.token, '2468')).problem.code).toBe('nothing-to-confirm');
    const other = await paid(6);
    const reply = await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token: other.token },
      body: { card: '9000 0000 0000 0001', expiry: '08/29' },
    });
    expect(reply.outcome).toBe('succeeded');
    await later(5);
    expect(await look(other.token)).toMatchObject({ standing: 'confirmed', received: 4000, balance: 0 });
    await agrees();
  });
});

describe('money that goes back by card', () => {
  test('is asked for until the processor answers, under one key', async () => {
    const { orderId } = await paid(1);
    await later(2);
    await told('cards', 'fails', 1);
    await refund(orderId, 1500);
    await world.runner.run();
    await told('cards', 'answer lost', 1);
    await later(4);
    await later(4);
    const rows = await world.app.db.query(
      'select r.outcome, r.amount from standin_refunds r join card_refunds c on c.id::text = r.key where c.charge_id = $1',
      [await chargeOf(orderId)],
    );
    expect(rows).toEqual([{ outcome: 'returned', amount: 1500 }]);
    expect((await cards()).open).toEqual([]);
    await agrees();
  });

  test('one that does not go through is owed again, shown to the treasurer, and paid back another way', async () => {
    const { orderId, number } = await paid(7);
    const [seat] = (
      await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })
    ).rows.filter((r) => r.orderId === orderId);
    await odalys.call('POST /api/registrations/:id/withdraw', {
      params: { id: seat!.id },
      body: { reason: 'ill' },
    });
    await refund(orderId, 4000);
    const owedFor = async () =>
      (await marit.call('GET /api/books/owed', { query: {} })).find((o) => o.orderId === orderId)?.amount;
    await later(5);
    expect(await owedFor()).toBeUndefined();
    await later(day);
    expect(await owedFor()).toBe(-4000);
    expect((await cards()).open).toMatchObject([
      { what: 'refund failed', orderNumber: number, amount: 4000 },
    ]);
    await agrees();
    await refund(orderId, 4000, { by: 'cheque' });
    expect(await owedFor()).toBeUndefined();
    expect((await cards()).open).toEqual([]);
    const audit = await world.app.db.query<{ action: string }>(
      "select action from audit where subject_id = $1 and action = 'a refund did not go through'",
      [orderId],
    );
    expect(audit).toHaveLength(1);
    // Told again, nothing is undone twice.
    await told('notices', 'works');
    await readStatement(world.app);
    expect(await owedFor()).toBeUndefined();
  });

  test('of a favour that did not go through nothing is left over', async () => {
    const { orderId } = await paid(7);
    const before = (await balances()).favours ?? 0;
    await refund(orderId, 1000);
    expect((await balances()).favours).toBe(before + 1000);
    await later(day + 5);
    expect((await balances()).favours ?? 0).toBe(before);
    expect((await marit.call('GET /api/books/owed', { query: {} })).some((o) => o.orderId === orderId)).toBe(
      false,
    );
  });

  test('a gift with a booking that went back and did not go through is given again', async () => {
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Gifted', family: 'Holder' }], {
        donation: { amount: 1100, fundId: null, anonymous: false },
      }),
    });
    await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0007', expiry: '08/29' },
    });
    const [row] = await world.app.db.query<{ id: string }>(
      'select id from orders order by number desc limit 1',
    );
    await refund(row!.id, 1100, { gift: true });
    const given = async () =>
      (
        await world.app.db.query<{ sum: number }>(
          'select sum(amount)::int as sum from donations where order_id = $1',
          [row!.id],
        )
      )[0]!.sum;
    expect(await given()).toBe(0);
    await later(day + 5);
    expect(await given()).toBe(1100);
    expect(await look(token)).toMatchObject({ received: 5100 });
  });

  test('more than came in is refused, and of two at once one', async () => {
    const { orderId } = await paid(1);
    const ask = () =>
      marit.try('POST /api/orders/:id/refunds', {
        params: { id: orderId },
        body: { amount: 3000, reason: 'twice' },
      });
    expect(
      (
        await marit.try('POST /api/orders/:id/refunds', {
          params: { id: orderId },
          body: { amount: 4001, reason: 'too much' },
        })
      ).problem.code,
    ).toBe('too-much');
    const both = await Promise.all([ask(), ask()]);
    expect(both.map((r) => r.status).sort()).toEqual([201, 409]);
    await later(3);
    await agrees();
  });
});

describe('a payment that is contested', () => {
  test('stands apart until it is decided; won, all is as before, the fee too', async () => {
    const before = await balances();
    const { number } = await paid(8);
    await later(2 * day + 5);
    expect((await cards()).open).toMatchObject([{ what: 'disputed', orderNumber: number, amount: 4000 }]);
    const meanwhile = await balances();
    expect((meanwhile.disputed ?? 0) - (before.disputed ?? 0)).toBe(4000);
    expect((meanwhile.fees ?? 0) - (before.fees ?? 0)).toBe(121 + 1500);
    await agrees();
    await later(3 * day);
    const after = await balances();
    expect(after.disputed ?? 0).toBe(before.disputed ?? 0);
    expect((after.fees ?? 0) - (before.fees ?? 0)).toBe(121);
    expect((await cards()).open).toEqual([]);
    await agrees();
  });

  test('lost, what was paid is owed again and can be let off', async () => {
    const { orderId, token } = await paid(9);
    const before = await balances();
    await later(5 * day + 5);
    expect(await look(token)).toMatchObject({ received: 0, balance: 4000, standing: 'confirmed' });
    const after = await balances();
    expect(after.disputed ?? 0).toBe(before.disputed ?? 0);
    expect((after.owed ?? 0) - (before.owed ?? 0)).toBe(4000);
    expect(after.favours ?? 0).toBe(before.favours ?? 0);
    const { rows } = await marit.call('GET /api/ledger', { query: { eventId: event.id } });
    expect(rows.find((r) => r.method === 'contested')).toMatchObject({ amount: -4000 });
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: orderId },
      body: { method: 'waived', amount: 4000, reason: 'given up as lost' },
    });
    await agrees();
  });

  test('after a refund, what had gone back is lost to us and nobody owes it', async () => {
    const { orderId } = await paid(9);
    await later(2);
    await refund(orderId, 1500);
    const before = await balances();
    await later(5 * day + 5);
    const after = await balances();
    expect((after['written off'] ?? 0) - (before['written off'] ?? 0)).toBe(1500);
    expect((after.owed ?? 0) - (before.owed ?? 0)).toBe(2500);
    expect(after.disputed ?? 0).toBe(before.disputed ?? 0);
    await agrees();
  });
});

test('a payout that the bank sends back goes again with the next', async () => {
  await paid(1, 9);
  await told('payouts', 'fails', null);
  await later(10 * day);
  await told('payouts', 'works');
  const { payouts } = await cards();
  expect(payouts.some((p) => p.failed)).toBe(true);
  const bank = (await balances()).bank;
  await later(8 * day);
  const after = await cards();
  expect(after.payouts[0]!.failed).toBe(false);
  expect((await balances()).bank).toBe(bank! + after.payouts[0]!.amount);
  await agrees();
});

test('whatever order moves are heard in, and however often, the books end the same', async () => {
  const order = async () => {
    const { orderId } = await paid(1);
    return { orderId, charge: await chargeOf(orderId) };
  };
  const sums = async (orderId: string) => ({
    received: (
      await world.app.db.query<{ received: number }>('select received from orders where id = $1', [orderId])
    )[0]!.received,
    ...Object.fromEntries(
      (
        await world.app.db.query<{ account: string; amount: number }>(
          `select e.account, sum(e.amount)::bigint as amount from postings p join entries e on e.posting_id = p.id left join card_moves m on m.id = p.move_id
           where p.order_id = $1 or m.charge_id = (select id from payment_attempts where order_id = $1) group by 1 having sum(e.amount) <> 0`,
          [orderId],
        )
      ).map((b) => [b.account, b.amount]),
    ),
  });
  await told('notices', 'lost');
  await fc.assert(
    fc.asyncProperty(
      fc.shuffledSubarray([0, 1, 2, 3, 4, 0, 1, 2, 3, 4], { minLength: 10 }),
      async (turns) => {
        const { orderId, charge } = await order();
        await refund(orderId, 1000);
        const [asked] = await world.app.db.query<{ id: string }>(
          'select id from card_refunds where charge_id = $1',
          [charge],
        );
        const moves = [
          { kind: 'charge', about: charge, amount: 4000, fee: 121 },
          { kind: 'refund', about: asked!.id, amount: 1000 },
          { kind: 'refund failed', about: asked!.id, amount: 1000 },
          { kind: 'disputed', about: charge, amount: 4000, fee: 1500 },
          { kind: 'dispute lost', about: charge, amount: 4000 },
        ] as const;
        const told = moves.map((m) => moveNotice(m));
        for (const turn of turns)
          expect((await send(told[turn]!.body, sign(told[turn]!.id, told[turn]!.body))).status).toBe(200);
        // The bank took all of it: it is owed, and nothing of it is lost, because the refund had come back.
        expect(await sums(orderId)).toEqual({
          received: 0,
          owed: 4000,
          cards: told.reduce((sum, { move }) => sum + effectOf(move), 0),
          fees: 1621,
          seats: -4000,
        });
      },
    ),
    { numRuns: 6 },
  );
  await told('notices', 'works');
});

test('a processor that does not answer is asked for its statement again within the hour', async () => {
  await told('cards', 'fails', 1);
  expect((await marit.try('POST /api/cards/statement')).problem.code).toBe('processor-silent');
  const [{ nextAt } = { nextAt: '' }] = await world.app.db.query<{ nextAt: string }>(
    'select next_at from card_statement',
  );
  expect(Date.parse(nextAt) - Date.parse(world.app.clock.now())).toBe(3_600_000);
  await marit.call('POST /api/cards/statement');
  expect((await marit.call('POST /api/cards/statement')).taken).toBe(0);
});

test('told again that it was declined, nobody’s seats are kept any longer for it', async () => {
  const { token, orderId } = await paid(2);
  const before = (await look(token)).heldUntil;
  await later(5);
  const id = crypto.randomUUID();
  const answer = { key: await chargeOf(orderId), ref: 'CH-AGAIN', outcome: 'declined', words: 'no' };
  const body = JSON.stringify({ id, about: 'answer', answer });
  expect((await send(body, sign(id, body))).status).toBe(200);
  expect((await look(token)).heldUntil).toBe(before);
  expect((await look(token)).payment).toBe('declined');
});

test('the account with the processor is for those who see the money of every event, and on their Desk', async () => {
  const desk = async (who: Caller) =>
    (await who.call('GET /api/desk')).entries.filter((e) => e.action.href === '/ledger?show=cards');
  expect(await desk(marit)).toEqual([]);
  const { id, body } = moveNotice({ kind: 'charge', about: 'TERMINAL', amount: 900, fee: 10 });
  await send(body, sign(id, body));
  expect(await desk(marit)).toMatchObject([{ text: expect.stringContaining('One thing') }]);
  const piers = await world.as('piers');
  expect(await desk(piers)).toEqual([]);
  expect((await piers.try('GET /api/cards')).status).toBe(403);
  expect((await world.anyone.try('GET /api/cards')).status).toBe(401);
  // A treasurer of one unit sees the books of its events, and not this.
  await world.app.db.query(
    "update staff set unit_id = (select id from units limit 1) where email like 'marit%'",
  );
  for (const key of ['GET /api/cards', 'POST /api/cards/statement'] as const)
    expect((await marit.try(key)).status).toBe(403);
  expect(
    (await marit.try('POST /api/cards/moves/:id/settle', { params: { id: 'x' }, body: { words: 'mine' } }))
      .status,
  ).toBe(403);
  await world.app.db.query("update staff set unit_id = null where email like 'marit%'");
});
