import { writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { searchWords } from '#core/contacts/search.ts';
import { standingClock } from '#core/time/clock.ts';
import { recurring } from '#demo/calendar.ts';
import { planRows } from '#demo/history.ts';
import { foundOrganization } from '#demo/organization.ts';
import { makePeople, storePeople } from '#demo/people.ts';
import { makeRandom } from '#demo/random.ts';
import { type Database, insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { makeServer } from '#server/http/server.ts';
import { demoPassword, demoSignIns } from '#server/staff/demoSignIns.ts';
import { assemble } from '#server/start.ts';
import { storeDemoClock } from '#server/time/clocks.ts';
import { vacuumTables } from '../src/server/db/upkeep.ts';

const begins = '2026-07-09T12:20:00.000Z';
/** Orders measured with each number of clients. */
const orders = 300;
const searches = 300;
const contacts = Number(process.env.BENCH_CONTACTS ?? 100_000);
const random = makeRandom(1);
const p95 = (times: number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!;

process.env.NODE_ENV = 'production';
const db = await openPglite({});
await migrate(db);
const ids = makeIds(standingClock(begins), random.bytes);
const founded = await db.transaction((tx) => foundOrganization({ tx, now: begins, app: { ids } as never }));
await storeDemoClock(db, { standsAt: begins, movingTo: null });
const { app, runner } = await assemble(db, 'bench', 'http://localhost', true);
const server = makeServer(app, {
  runner: () => runner,
  demoSignIns,
  dist: null,
  limits: { publicWrites: 1e9, signIns: 1e9 },
});
const http = await new Promise<Server>((resolve) => {
  const listening = server.listen(0, '127.0.0.1', () => resolve(listening));
});
http.keepAliveTimeout = 300_000;
const origin = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;

/** An open, free event with one question and a capacity that half of the orders fit into. */
async function openEvent(
  title: string,
  capacity: number,
): Promise<{ id: string; slug: string; offerId: string; questionId: string }> {
  const of = { ...recurring.find((r) => r.key === 'reed-cut')!, title, capacity };
  const { event, offers, steps, survey } = planRows(of, '2026-08-05', founded, ids, begins, {
    state: 'open',
    absencesAt: null,
  });
  await insert(db, 'events', event);
  await insert(db, 'offers', offers);
  await insert(db, 'message_steps', steps);
  await insert(db, 'surveys', survey);
  const questionId = ids.id();
  await insert(db, 'questions', {
    id: questionId,
    eventId: event.id,
    position: 0,
    scope: 'attendee',
    kind: 'text',
    prompt: { en: 'Anything?' },
    required: false,
    choices: [],
    atDoor: false,
  });
  return {
    id: event.id,
    slug: (event as unknown as { slug: string }).slug,
    offerId: (offers[0] as { id: string }).id,
    questionId,
  };
}

/** Orders of two with answers and a donation, through HTTP: contacts matched, messages planned. */
async function measure(title: string, clients: number): Promise<{ perSecond: number; oversold: number }> {
  const event = await openEvent(title, orders);
  let n = 0;
  const client = async () => {
    for (;;) {
      n += 1;
      const mine = n;
      if (mine > orders) return;
      const body = {
        buyer: { given: 'Una', family: `${title}${mine}`, email: `una.${title}${mine}@fenmail.example` },
        lines: [{ offerId: event.offerId, units: 2 }],
        attendees: [0, 1].map((k) => ({
          given: k ? 'Wyn' : 'Una',
          family: `${title}${mine}`,
          answers: { [event.questionId]: 'no nuts' },
        })),
        donation: { amount: 1000, fundId: null },
      };
      const placed = await fetch(`${origin}/api/public/events/${event.slug}/orders`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
        body: JSON.stringify(body),
      });
      const answer = (await placed.json()) as { token: string; standing: string };
      if (placed.status !== 201) throw new Error(`an order was answered ${placed.status}`);
      if (answer.standing !== 'held') continue;
      const paid = await fetch(`${origin}/api/public/orders/${answer.token}/pay`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ card: '9000 0000 0000 0001', expiry: '08/29' }),
      });
      if (!paid.ok) throw new Error(`a payment was answered ${paid.status}`);
    }
  };
  const began = performance.now();
  await Promise.all(Array.from({ length: clients }, client));
  const seconds = (performance.now() - began) / 1000;
  const [taken] = await db.query<{ n: number }>(
    "select count(*)::int as n from registrations where event_id = $1 and state in ('held', 'offered', 'confirmed')",
    [event.id],
  );
  return { perSecond: orders / seconds, oversold: Math.max(0, taken!.n - orders) };
}

/** The floor: a bare loop that writes as many rows into the same tables, one transaction an order. */
async function floor(database: Database): Promise<number> {
  const [source] = await database.query<{ id: string }>(
    'select id from orders where donation > 0 and state = $1 limit 1',
    ['paid'],
  );
  const tables = [
    'orders',
    'registrations',
    'registration_states',
    'answers',
    'attendance',
    'payment_attempts',
    'payments',
    'donations',
    'messages',
    'audit',
    'links',
    'idempotency',
    'contacts',
    'contact_emails',
  ];
  await database.script(
    tables.map((t) => `create table floor_${t} (like ${t} including indexes);`).join('\n'),
  );
  const rowsOf: Record<string, string> = {
    orders: 'select * from orders where id = $1',
    registrations: 'select * from registrations where order_id = $1',
    registration_states:
      'select s.* from registration_states s join registrations r on r.id = s.registration_id where r.order_id = $1',
    answers: 'select * from answers where order_id = $1',
    attendance:
      'select a.* from attendance a join registrations r on r.id = a.registration_id where r.order_id = $1',
    payment_attempts: 'select * from payment_attempts where order_id = $1',
    payments: 'select * from payments where order_id = $1',
    donations: 'select * from donations where order_id = $1',
    messages:
      'select m.* from messages m where m.recipient_key = $1 or m.recipient_key in (select id::text from registrations where order_id::text = $1)',
    audit: "select * from audit where subject_id = $1 and subject_kind = 'order'",
    links: 'select * from links where subject_id = $1',
    contacts: 'select c.* from contacts c join registrations r on r.contact_id = c.id where r.order_id = $1',
    contact_emails:
      'select x.* from contact_emails x join orders o on o.buyer_contact_id = x.contact_id where o.id = $1',
  };
  const rows: [string, object[]][] = [];
  for (const [table, sql] of Object.entries(rowsOf))
    rows.push([table, await database.query<object>(sql, [source!.id])]);
  const began = performance.now();
  for (let n = 0; n < orders; n += 1)
    await database.transaction(async (tx) => {
      for (const [table, list] of rows) {
        const fresh = list.map((row) => ({
          ...row,
          ...('id' in row ? { id: ids.id() } : {}),
          ...('number' in row ? { number: 1_000_000 + n } : {}),
          ...('tokenHash' in row ? { tokenHash: ids.id(), subjectId: ids.id() } : {}),
          ...('passCode' in row ? { passCode: ids.id(), orderId: ids.id() } : {}),
          ...('registrationId' in row && table === 'attendance' ? { registrationId: ids.id() } : {}),
          ...('attemptId' in row ? { attemptId: ids.id() } : {}),
          ...('recipientKey' in row ? { recipientKey: ids.id() } : {}),
          ...(table === 'contact_emails' ? { contactId: ids.id() } : {}),
          ...(table === 'payment_attempts' ? { orderId: ids.id() } : {}),
        }));
        await insert(tx, `floor_${table}`, fresh);
      }
    });
  return orders / ((performance.now() - began) / 1000);
}

/** With “search” only the search is measured. */
const searchOnly = process.argv[3] === 'search';
const registering = searchOnly ? {} : await measureRegistering();
async function measureRegistering() {
  process.stdout.write('  registrations …\n');
  await measure('warm', 4);
  const one = await measure('one', 1);
  const fifty = await measure('fifty', 50);
  return { one, fifty, floorPerSecond: await floor(db) };
}

process.stdout.write(`  ${contacts} contacts …\n`);
const people = makePeople(
  random,
  () => ids.id(),
  contacts,
  Object.keys(founded.units),
  '2023-07-01',
  '2026-06-10',
);
await storePeople(db, people, random, ids);
await vacuumTables(db);
const signIn = await fetch(`${origin}/api/sign-in`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ email: 'odalys@brackenmere.example', password: demoPassword }),
});
const cookie = signIn.headers.get('set-cookie')!.split(';')[0]!;
const queries = Array.from({ length: searches }, (_, n) => {
  const p = random.pick(people);
  return n % 3 === 0
    ? `${p.family.slice(0, 4)} ${p.given.slice(0, 3)}`
    : n % 3 === 1
      ? (p.email ?? p.family).slice(0, 9)
      : p.family;
});
const bare: number[] = [];
const over: number[] = [];
for (const q of queries) {
  const words = searchWords(q).map((w) => `%${w}%`);
  let began = performance.now();
  await db.query(
    `select id, given_name, family_name from contacts where ${words.map((_, at) => `search_text like $${at + 1}`).join(' and ')} limit 8`,
    words,
  );
  bare.push(performance.now() - began);
  began = performance.now();
  await (await fetch(`${origin}/api/search?q=${encodeURIComponent(q)}`, { headers: { cookie } })).json();
  over.push(performance.now() - began);
}
writeFileSync(
  process.argv[2]!,
  JSON.stringify({
    ...registering,
    search: { contacts: people.length, bareP95: p95(bare), httpP95: p95(over) },
  }),
);
http.closeAllConnections();
http.close();
await runner.stop();
await db.close();
process.exit(0);
