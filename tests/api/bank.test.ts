import { afterAll, beforeAll, describe, expect, test } from 'vitest';
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
    title: 'Banked',
    price: 4000,
    startsLocal: '2026-12-05T18:00',
    endsLocal: '2026-12-05T21:00',
  });
});
afterAll(() => world.close());

const bring = (csv: string | Buffer, dates: 'day first' | 'month first' | null = null) =>
  marit.try('POST /api/bank/files', {
    body: { fileName: 'bank.csv', content: Buffer.from(csv).toString('base64'), dates },
  });
const bank = () => marit.call('GET /api/bank');
const settle = (id: string, body: object) =>
  marit.try('POST /api/bank/lines/:id/settle', { params: { id }, body: body as never });
const undo = (id: string) => marit.try('POST /api/bank/lines/:id/undo', { params: { id } });
const balances = async () =>
  Object.fromEntries(
    (await marit.call('GET /api/books', { query: {} })).flatMap((t) =>
      t.balances.map((b) => [b.account, b.amount]),
    ),
  );
const today = () => world.app.clock.now().slice(0, 10);
/** Somebody owes for a seat; paid where a way is named. */
async function owing(
  given: string,
  method: 'cash' | 'cheque' | 'transfer' | null = null,
): Promise<{ orderId: string; number: number }> {
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given, family: 'Banker' }]),
  });
  const [row] = await world.app.db.query<{ orderId: string; number: number }>(
    'select id as order_id, number from orders order by number desc limit 1',
  );
  if (method)
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: row!.orderId },
      body: { method, amount: 4000, reason: '' },
    });
  return row!;
}
const lineOf = async (words: string) => (await bank()).open.find((l) => l.words.includes(words))!;

test('a month is settled: payout, transfer, cheques taken there together, what was owed, a fee, and what nobody explains', async () => {
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Carded', family: 'Banker' }]),
  });
  await world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '08/29' },
  });
  await world.moveTo('2026-07-14T12:00:00.000Z');
  const [payout] = (await marit.call('GET /api/cards')).payouts;
  await owing('Tove', 'transfer');
  await owing('Chic', 'cheque');
  await owing('Cass', 'cash');
  const owed = await owing('Olive');
  const before = await balances();
  const file = [
    'Date,Description,Amount',
    `2026-07-14,CARDS ${payout!.id},${(payout!.amount / 100).toFixed(2)}`,
    `${today()},E-TRANSFER TOVE BANKER,40.00`,
    `${today()},COUNTER DEPOSIT,80.00`,
    `${today()},E-TRANSFER OLIVE BANKER,40.00`,
    `${today()},SERVICE CHARGE,-7.50`,
    `${today()},MYSTERY,12.34`,
    `${today()},MYSTERY,12.34`,
    'never,broken,1.00',
  ].join('\n');
  expect((await bring(file)).body).toEqual({
    brought: 7,
    known: 0,
    unread: [{ line: 9, why: 'no date' }],
    dates: 'year first',
    decimals: '.',
  });
  // Brought in again, nothing is there twice.
  expect((await bring(file)).body).toMatchObject({ brought: 0, known: 7 });
  expect((await bank()).open.filter((l) => l.twice)).toHaveLength(1);

  const take = async (words: string, kind: string) => {
    const line = await lineOf(words);
    const [best] = line.proposals;
    expect([words, best!.kind]).toEqual([words, kind]);
    expect((await settle(line.id, { how: best!.kind, ids: best!.ids })).status).toBe(201);
    return line;
  };
  await take('CARDS', 'payout');
  await take('TOVE', 'transfer');
  const deposit = await take('COUNTER', 'hand');
  expect(deposit.proposals[0]!.reasons).toEqual([{ of: 'adds up', count: 2 }]);
  await take('OLIVE', 'owed');
  const fee = await lineOf('SERVICE');
  expect(fee.proposals).toEqual([]);
  expect((await settle(fee.id, { how: 'fee', said: 'monthly' })).status).toBe(201);
  const [mystery, twin] = (await bank()).open;
  expect((await settle(mystery!.id, { how: 'fee', said: 'came in' })).problem.code).toBe('fee-came-in');
  expect((await settle(mystery!.id, { how: 'unexplained', said: 'nobody knows' })).status).toBe(201);
  expect((await settle(twin!.id, { how: 'elsewhere', said: 'the same line twice' })).status).toBe(201);
  expect(await bank()).toMatchObject({ open: [], all: 7, done: 7 });

  const after = await balances();
  const moved = (account: string) => (after[account] ?? 0) - (before[account] ?? 0);
  expect(moved('cash')).toBe(-8000);
  expect(moved('bank')).toBe(8000 + 4000 - 750 + 1234);
  expect(moved('owed')).toBe(-4000);
  expect(moved('fees')).toBe(750);
  expect(moved('unexplained')).toBe(-1234);
  const [order] = await world.app.db.query('select balance, state from orders where id = $1', [owed.orderId]);
  expect(order).toEqual({ balance: 0, state: 'paid' });
});

test('a line stands for a cost that was recorded, which is then taken back only after the line', async () => {
  const record = async (amount: number, paidFrom: 'bank' | 'cash' = 'bank') =>
    (
      await marit.call('POST /api/events/:id/costs', {
        params: { id: event.id },
        body: { what: 'Ledlow Marquees', line: '', amount, on: today(), paidFrom },
      })
    ).id;
  const cost = await record(64_050);
  await record(71_000, 'cash');
  await bring(
    [
      'Date,Description,Amount',
      `${today()},LEDLOW MARQUEES LTD,-640.50`,
      `${today()},LEDLOW MARQUEES LTD,-710.00`,
    ].join('\n'),
  );
  const before = await balances();
  const [line, cash] = (await bank()).open.filter((l) => l.words.includes('LEDLOW'));
  expect(line!.proposals[0]).toMatchObject({
    kind: 'cost',
    ids: [cost],
    reasons: [{ of: 'same amount' }, { of: 'days apart', days: 0 }, { of: 'name in it' }],
  });
  // What was paid in cash is none of the bank's.
  expect(cash!.proposals).toEqual([]);
  expect((await settle(cash!.id, { how: 'cost', ids: [cost] })).problem.code).toBe('line-other-amount');
  expect((await settle(line!.id, { how: 'cost', ids: [cost] })).status).toBe(201);
  // It was posted when it was recorded.
  expect(await balances()).toEqual(before);
  const takeBack = () =>
    marit.try('POST /api/events/:id/costs/:cost/undo', { params: { id: event.id, cost } });
  expect((await takeBack()).problem.code).toBe('cost-at-bank');
  await undo(line!.id);
  expect((await takeBack()).status).toBe(201);
  expect((await balances()).bank).toBe(before.bank! + 64_050);
  expect((await settle(line!.id, { how: 'cost', ids: [cost] })).problem.code).toBe('line-other-amount');
  for (const left of (await bank()).open.filter((l) => l.words.includes('LEDLOW')))
    await settle(left.id, { how: 'elsewhere', said: 'not of these books' });
});

describe('what was said of a line', () => {
  test('is taken back with what was posted, and can be said anew', async () => {
    await owing('Undone', 'cheque');
    await bring(`Date,Text,Amount\n${today()},UNDO ME,40.00\n`);
    const line = await lineOf('UNDO ME');
    const before = await balances();
    const best = line.proposals.find((p) => p.kind === 'hand')!;
    await settle(line.id, { how: 'hand', ids: best.ids });
    expect((await settle(line.id, { how: 'hand', ids: best.ids })).problem.code).toBe('line-settled');
    expect((await undo(line.id)).status).toBe(201);
    expect((await undo(line.id)).problem.code).toBe('line-open');
    expect(await balances()).toEqual(before);
    expect((await settle(line.id, { how: 'hand', ids: best.ids })).status).toBe(201);
    const found = await marit.try('POST /api/bank/lines/:id/undo', { params: { id: crypto.randomUUID() } });
    expect(found.status).toBe(404);
  });

  test('comes to its amount, is not spoken for, and is settled once by two at the same moment', async () => {
    await owing('Racer', 'transfer');
    await bring(
      `Date,Text,Amount\n${today()},RACE ONE,40.00\n${today()},RACE TWO,40.00\n${today()},OTHER,39.00\n`,
    );
    const [one, two, other] = [await lineOf('RACE ONE'), await lineOf('RACE TWO'), await lineOf('OTHER')];
    const { ids } = one.proposals.find((p) => p.kind === 'transfer')!;
    const both = await Promise.all([
      settle(one.id, { how: 'transfer', ids }),
      settle(two.id, { how: 'transfer', ids }),
    ]);
    expect(both.map((r) => r.status).sort()).toEqual([201, 409]);
    expect((await settle(other.id, { how: 'transfer', ids })).problem.code).toBe('line-other-amount');
    for (const body of [
      { how: 'payout', ids: ['PO-NONE'] },
      { how: 'hand', ids },
      { how: 'transfer', ids: [crypto.randomUUID()] },
      { how: 'owed', ids: [(await owing('Elsewise')).orderId] },
    ])
      expect((await settle(other.id, body)).problem.code).toBe('line-other-amount');
    // One that nobody has spoken for, and of another amount.
    await owing('Fresh', 'transfer');
    const [fresh] = await world.app.db.query<{ id: string }>(
      'select id from payments order by at desc, id desc limit 1',
    );
    expect((await settle(other.id, { how: 'transfer', ids: [fresh!.id] })).problem.code).toBe(
      'line-other-amount',
    );
    expect((await settle(other.id, { how: 'unexplained', said: '' })).status).toBe(422);
    expect((await settle(other.id, { how: 'elsewhere', said: 'kept in other books' })).status).toBe(201);
  });
});

test('a file that cannot be read says why, in other signs and encodings it can', async () => {
  for (const [csv, code, path] of [
    ['Name,Amount\na,1.00\n', 'bank-no-date', 'content'],
    ['Date,Text\n2026-07-01,a\n', 'bank-no-amount', 'content'],
    ['Date,Text,Amount\n03/04/2026,a,1.00\n', 'bank-dates', 'dates'],
    [Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 0]), 'file-is', 'content'],
  ] as const) {
    const reply = await bring(csv);
    expect([reply.status, reply.problem.fields?.[0]?.path, reply.problem.fields?.[0]?.code]).toEqual([
      422,
      path,
      code,
    ]);
  }
  expect((await bring('Date,Text,Amount\n03/04/2026,either,1.00\n', 'month first')).body).toMatchObject({
    brought: 1,
    dates: 'month first',
  });
  const french = Buffer.from(
    'Date;Libell\u00e9;Montant\n31.07.2026;Caf\u00e9 du marais;1.250,00\n',
    'latin1',
  );
  expect((await bring(french)).body).toMatchObject({ brought: 1, decimals: ',', dates: 'day first' });
  expect(await lineOf('Café')).toMatchObject({ amount: 125_000, on: '2026-07-31' });
});

test('accounts have codes that stand beside every entry; both are for those who see all money', async () => {
  await marit.call('PUT /api/account-codes', {
    body: {
      codes: [
        { account: 'bank', code: '1010' },
        { account: 'fees', code: '' },
      ],
    },
  });
  expect(await marit.call('GET /api/account-codes')).toEqual([{ account: 'bank', code: '1010' }]);
  expect(String(await marit.call('GET /api/books.csv', { query: {} }))).toMatch(/,bank,1010,/u);
  const piers = await world.as('piers');
  expect((await piers.try('GET /api/bank')).status).toBe(403);
  await world.app.db.query(
    "update staff set unit_id = (select id from units limit 1) where email like 'marit%'",
  );
  expect((await marit.try('GET /api/bank')).status).toBe(403);
  expect((await bring('Date,Text,Amount\n2026-07-01,a,1.00\n')).status).toBe(403);
  await world.app.db.query("update staff set unit_id = null where email like 'marit%'");
});
