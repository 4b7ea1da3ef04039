import { Writable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { propose } from '#core/bank/proposing.ts';
import { readBankFile } from '#core/bank/reading.ts';
import { readTable } from '#core/exchange/table.ts';
import { makeRandom } from '#demo/random.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { post } from '#server/money/account.ts';
import { ofMoney, readBalances, readOwed } from '#server/money/bookSums.ts';
import { type PrintedReceipt, streamReceipts } from '#server/print/receipt.ts';
import { Report } from './report.ts';
import { begins, openSite } from './site.ts';

// npm run bench -- money [postings]: posting beside bare inserts of the same rows; the sums of a million entries. With DATABASE_URL it is
// measured on an empty database of a server.
process.env.NODE_ENV = 'production';
const postings = Number(process.argv[2] ?? 1500);
const random = makeRandom(1);
const url = process.env.DATABASE_URL;
const db = url ? await openPostgres(url) : await openPglite({});
await migrate(db);
const site = await openSite(db, random.bytes);
const ids = makeIds({ now: () => begins }, random.bytes);
const report = new Report('money');

const events = 2000;
const orders = 40_000;
console.log(`  ${events} events, ${orders} orders …`);
await db.script(`
  insert into events (id, public_title, zone, state, starts_local, starts_at, ends_at, created_at, updated_at)
    select gen_random_uuid(), 'Event ' || g, 'America/Halifax', 'wrapped', timestamp '2023-07-10 18:00' + g * interval '12 hours',
      timestamptz '2023-07-10 21:00Z' + g * interval '12 hours', timestamptz '2023-07-10 23:00Z' + g * interval '12 hours', now(), now()
    from generate_series(1, ${events}) g;
  insert into orders (id, event_id, currency, buyer_given, buyer_family, due, lines, seats, state, placed_at)
    select gen_random_uuid(), e.id, 'CAD', 'Una', 'Order ' || n, 0, '[]', 1, 'paid', e.starts_at - n % 30 * interval '1 day'
    from (select id, starts_at, row_number() over (order by starts_at) as at from events) e
      join generate_series(1, ${orders}) n on n % ${events} = e.at - 1;
  create table bare_postings (like postings);
  create table bare_entries (like entries);`);
const some = await db.query<{ orderId: string; eventId: string; currency: string }>(
  `select id as order_id, event_id, currency from orders limit ${postings}`,
);
const [fund] = await db.query<{ id: string }>('select id from funds limit 1');
const entries = [
  { account: 'cards' as const, fundId: null, amount: 5500 },
  { account: 'seats' as const, fundId: null, amount: -4000 },
  { account: 'gifts' as const, fundId: fund!.id, amount: -1500 },
];
const perSecond = async (write: (of: (typeof some)[number]) => Promise<unknown>) => {
  const began = performance.now();
  for (const of of some) await write(of);
  return some.length / ((performance.now() - began) / 1000);
};
const bare = await perSecond((of) =>
  db.transaction(async (tx) => {
    const id = ids.id();
    await insert(tx, 'bare_postings', { id, at: begins, kind: 'received', ...of, actor: 'bench' });
    await insert(
      tx,
      'bare_entries',
      entries.map((e) => ({ postingId: id, ...e })),
    );
  }),
);
const actor = { name: 'bench', staffId: null, requestId: null };
const kept = await perSecond((of) =>
  db.transaction((tx) => post({ tx, app: site.app, now: begins, actor } as never, of, entries)),
);
report.row('bare inserts of the same rows', bare, 'per s');
report.row('postings, balanced, kept and summed', kept, 'per s', {
  floor: bare,
  goal: { of: 'ratio', atLeast: 0.5 },
});

console.log('  a million entries …');
await db.script(`
  alter table postings disable trigger user; alter table entries disable trigger user;
  insert into postings (id, at, kind, order_id, event_id, currency, actor)
    select gen_random_uuid(), placed_at + g * interval '1 day', 'received', id, event_id, currency, 'bench'
    from orders join generate_series(1, 9) g on true;
  insert into entries (posting_id, account, fund_id, amount)
    select p.id, a.account, case when a.account = 'gifts' then (select id from funds limit 1) end, a.amount
    from postings p join (values ('cards', 5500), ('seats', -4000), ('gifts', -1500)) a (account, amount) on true
    where not exists (select 1 from entries e where e.posting_id = p.id);
  alter table postings enable trigger user; alter table entries enable trigger user;
  delete from book_sums;
  insert into book_sums (account, fund_id, event_id, currency, day, amount)
    select e.account, e.fund_id, p.event_id, p.currency, (p.at at time zone 'America/Halifax')::date, sum(e.amount)
    from entries e join postings p on p.id = e.posting_id group by 1, 2, 3, 4, 5;
  analyze;`);
const [count] = await db.query<{ n: number }>('select count(*)::int as n from entries');
report.row('entries', count!.n, 'rows');
const median = async (work: () => Promise<unknown>) => {
  const times: number[] = [];
  for (let n = 0; n < 7; n += 1) {
    const began = performance.now();
    await work();
    times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[3]!;
};
const all = ofMoney({});
const within = { goal: { of: 'value' as const, atMost: 200 } };
report.row('balances of all', await median(() => readBalances(db, all)), 'ms', within);
report.row(
  'balances of a month',
  await median(() => readBalances(db, { ...all, from: '2025-06-01', until: '2025-06-30' })),
  'ms',
  within,
);
report.row(
  'balances of an event',
  await median(() => readBalances(db, { ...all, eventId: some[0]!.eventId })),
  'ms',
  within,
);
report.row('what is owed at an event', await median(() => readOwed(db, some[0]!.eventId)), 'ms', within);

console.log('  receipts as one PDF …');
const receipts = 5000;
const receipt = (n: number): PrintedReceipt => ({
  content: {
    number: `2025-${String(n).padStart(5, '0')}`,
    issuedOn: '2026-01-15',
    country: 'CA',
    issuer: {
      legalName: 'Brackenmere Wetland Trust',
      address: '4 Sluice Lane',
      registration: '80012 3456 RR0001',
      place: 'Port Ansley',
      signer: 'Marit Solvang',
      signerRole: 'Treasurer',
    },
    giver: { name: `Una Order ${n}`, address: `${n} Reed Row` },
    lines: [
      {
        on: '2025-10-15',
        what: 'Fen Supper',
        amount: 12_000,
        advantage: 4500,
        received: 'Supper',
        eligible: 7500,
        thing: '',
        appraisedBy: '',
      },
    ],
    amount: 12_000,
    advantage: 4500,
    eligible: 7500,
    currency: 'CAD',
    replaces: null,
    abroad: false,
  },
  sha256: 'a'.repeat(64),
  state: 'issued',
  replacedBy: null,
  language: n % 4 ? 'en' : 'fr',
  verifyAt: `https://acolyte.example/verify?number=${n}`,
});
let bytes = 0;
let most = 0;
const sink = new Writable({
  write(chunk: Buffer, _, done) {
    bytes += chunk.length;
    most = Math.max(most, process.memoryUsage.rss());
    done();
  },
});
const rss = process.memoryUsage.rss();
async function* lots() {
  for (let n = 1; n <= receipts; n += 50) yield Array.from({ length: 50 }, (_, at) => receipt(n + at));
}
const drew = performance.now();
await streamReceipts('receipts', lots(), sink);
await finished(sink);
report.row('5,000 receipts in one PDF', (performance.now() - drew) / 1000, 's');
report.row('its size', bytes / 1e6, 'MB');
report.row('memory beyond what was there', Math.max(0, most - rss) / 1e6, 'MB');

console.log('  lines of the bank …');
const names = Array.from({ length: 800 }, (_, n) => `Una Order${n}`);
const candidates = Array.from({ length: 6000 }, (_, n) => ({
  kind: (['payout', 'transfer', 'hand'] as const)[n % 3]!,
  id: `c${n}`,
  on: `2026-${String(1 + (n % 12)).padStart(2, '0')}-${String(1 + (n % 28)).padStart(2, '0')}`,
  amount: 1000 + ((n * 7919) % 90_000),
  name: names[n % 800]!,
  numbers: [`PO-${n}`],
}));
const csv = `Date,Description,Amount\n${candidates
  .slice(0, 5000)
  .map((c) => `${c.on},${c.name} ${c.numbers[0]},${(c.amount / 100).toFixed(2)}`)
  .join('\n')}`;
const bytesOf = new TextEncoder().encode(csv);
const began = performance.now();
readTable(bytesOf);
const parsed = performance.now() - began;
report.row('5,000 lines of a bank parsed bare', parsed, 'ms');
report.row(
  '5,000 lines read, keyed and proposed for',
  await median(async () => {
    const file = readBankFile(readTable(bytesOf), 2);
    if ('why' in file) throw new Error(file.why);
    propose(file.lines, candidates);
  }),
  'ms',
  { floor: parsed },
);
report.finish();
await site.close();
process.exit();
