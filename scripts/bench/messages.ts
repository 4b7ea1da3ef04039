import { firstTexts } from '#core/messages/firstTexts.ts';
import { type Line, plainLine } from '#core/messages/lines.ts';
import { nothingKnown } from '#core/messages/moments.ts';
import { planLines, type Recipient } from '#core/messages/planning.ts';
import { recurring } from '#demo/calendar.ts';
import { planRows } from '#demo/history.ts';
import { makeRandom } from '#demo/random.ts';
import { inTransaction, systemActor } from '#server/app/app.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { replan } from '#server/messages/planning.ts';
import { killedRun } from '#tests/api/killedRun.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, ended, filledFolder, openSite, startShipped } from './site.ts';

// npm run bench -- messages [kills]: a plan of a hundred thousand messages worked out anew, in core and with what is written for it, and what
// one order takes of that.
process.env.NODE_ENV = 'production';
const people = 12_500;
const lines = 8;
const kills = Number(process.argv[2] ?? 50);
const rows = people * lines;
const report = new Report('messages');
const once = async (work: () => unknown): Promise<number> => (await timed(1, async () => work()))[0]!;

const event = {
  startsAt: '2026-08-08T12:00:00.000Z',
  endsAt: '2026-08-08T19:30:00.000Z',
  doorsAt: null,
  registrationClosesAt: null,
  absencesAt: null,
  zone: 'America/Halifax',
  balanceDays: 7,
  namesDays: 2,
  salesOpenLocal: null,
  admission: { ways: [] },
};
const lineOf = (n: number): Line => ({
  ...plainLine,
  id: String(n),
  name: `Line ${n}`,
  moment: 'start',
  offset: { days: -n, minutes: 0 },
  audience: 'attendees',
  late: n % 2 ? 'last' : 'skip',
  addedAt: null,
  sentByHandAt: null,
});
const recipients = Array.from(
  { length: people },
  (_, n): Recipient => ({
    key: String(n),
    contactId: String(n),
    name: `Person ${n}`,
    reach: { email: `person${n}@harbourpost.example`, 'text message': null },
    bounced: false,
    left: false,
    anchor: begins,
    // Some come so late that they miss lines.
    since: n % 5 ? begins : '2026-08-05T12:00:00.000Z',
    coveredBy: null,
    forOthers: false,
    quiet: null,
    standing: nothingKnown,
    household: null,
    zone: n % 3 ? null : 'America/Vancouver',
  }),
);
const of = Array.from({ length: lines }, (_, n) => ({ line: lineOf(n + 1), recipients }));
const rules = { quiet: { from: '21:00', until: '08:00' }, holidays: [] };
report.row(
  `${rows.toLocaleString('en')} messages worked out, p95`,
  quantile(await timed(8, async () => planLines(of, event, rules)), 0.95),
  'ms',
  { goal: { of: 'value', atMost: 2000 } },
);

const random = makeRandom(1);
const db = await openPglite({});
await migrate(db);
const site = await openSite(db, random.bytes);
const ids = makeIds({ now: () => begins }, random.bytes);
const plan = planRows(
  { ...recurring.find((r) => r.key === 'reed-cut')!, title: 'Everybody', capacity: people },
  '2026-08-08',
  site.founded,
  ids,
  begins,
  { state: 'open', absencesAt: null },
);
const eventId = plan.event.id;
const orderIds = Array.from({ length: people }, () => ids.id());
await db.transaction(async (tx) => {
  await insert(tx, 'events', plan.event);
  await insert(tx, 'offers', plan.offers);
  await insert(
    tx,
    'message_lines',
    Array.from({ length: lines }, (_, n) => ({
      ...plainLine,
      id: ids.id(),
      eventId,
      position: n,
      name: `Line ${n}`,
      moment: 'start',
      offsetDays: -(n + 1),
      offsetMinutes: 0,
      audience: 'attendees',
      subject: firstTexts.start.subject,
      body: firstTexts.start.body,
    })),
  );
  const json = JSON.stringify(
    orderIds.map((order, n) => ({
      order,
      contact: ids.id(),
      email: ids.id(),
      seat: ids.id(),
      given: `Given${n}`,
      address: `person${n}@harbourpost.example`,
    })),
  );
  const from =
    'from jsonb_to_recordset($1::jsonb) as r("order" uuid, contact uuid, email uuid, seat uuid, given text, address text)';
  await tx.query(
    `insert into contacts (id, given_name, family_name, language, source, created_at, updated_at) select contact, given, 'Bench', 'en', 'bench', $2, $2 ${from}`,
    [json, begins],
  );
  await tx.query(
    `insert into contact_emails (id, contact_id, email, email_key, position) select email, contact, address, address, 0 ${from}`,
    [json],
  );
  await tx.query(
    `insert into orders (id, event_id, currency, buyer_contact_id, buyer_given, buyer_family, buyer_email, due, lines, seats, state, placed_at)
     select "order", $2, 'CAD', contact, given, 'Bench', address, 0, '[]', 1, 'paid', $3 ${from}`,
    [json, eventId, begins],
  );
  await tx.query(
    `insert into registrations (id, order_id, event_id, offer_id, unit_number, seat_number, contact_id, given_name, family_name, state, created_at, confirmed_at)
     select seat, "order", $2, $3, 1, 1, contact, given, 'Bench', 'confirmed', $4, $4 ${from}`,
    [json, eventId, plan.planned.offers[0]!.id, begins],
  );
});
await db.query('analyze');
const anew = (orderId: string | null = null) =>
  inTransaction(site.app, systemActor, (w) => replan(w, eventId, orderId));
const first = await once(() => anew());
const [{ n: planned }] = (await db.query<{ n: number }>(
  "select count(*)::int as n from messages where event_id = $1 and state = 'planned'",
  [eventId],
)) as [{ n: number }];
if (planned !== rows) throw new Error(`${planned} messages are planned, not ${rows}`);
await db.query('analyze');
report.row(`${rows.toLocaleString('en')} messages planned for the first time`, first, 'ms');
report.row(
  'the plan worked out anew, where nothing differs',
  quantile(await timed(5, () => anew()), 0.5),
  'ms',
  { goal: { of: 'value', atMost: 2000 } },
);
report.row('what concerns one order, p95', quantile(await timed(40, (n) => anew(orderIds[n])), 0.95), 'ms', {
  goal: { of: 'value', atMost: 100 },
});
const bare = await once(() =>
  db.query(
    "update messages set planned_for = planned_for + interval '1 minute', next_try_at = next_try_at + interval '1 minute' where event_id = $1",
    [eventId],
  ),
);
report.row('a bare update of as many rows', bare, 'ms');
await db.query(
  "update events set starts_at = starts_at + interval '7 days', ends_at = ends_at + interval '7 days', doors_at = null where id = $1",
  [eventId],
);
report.row('every message moved, because the date did', await once(() => anew()), 'ms', { floor: bare });
await db.query("update messages set state = 'held back', next_try_at = null where event_id = $1", [eventId]);

// What is due, sent: each is claimed with its text, handed over, and marked. The floor does as much with ready rows.
const dueNow = async (count: number) =>
  inTransaction(site.app, systemActor, async (w) => {
    await w.tx.query(
      `insert into messages (id, recipient_key, kind, channel, contact_id, name, address, language, reason, state, planned_for, next_try_at, subject, body, attempts, created_at)
       select gen_random_uuid(), 'bench ' || gen_random_uuid(), 'our answer', 'email', null, 'Person ' || n, 'person' || n || '@harbourpost.example', 'en', 'bench', 'planned',
         $2::timestamptz, $2::timestamptz, 'Hello', 'Hello', 0, $2::timestamptz from generate_series(1, $1::int) n`,
      [count, w.now],
    );
  });
const sending = 2000;
await dueNow(sending);
const ready = await db.query<{ id: string }>("select id from messages where kind = 'our answer'");
const loop = await once(async () => {
  for (const { id } of ready) {
    await db.transaction(async (tx) => {
      await tx.query('select * from messages where id = $1 for update', [id]);
      await tx.query("update messages set state = 'due', attempts = attempts + 1 where id = $1", [id]);
    });
    await db.query(
      "insert into standin_mail (key, address, subject, body, accepted_at) values ($1, 'a@b.example', 'Hello', 'Hello', now()) on conflict do nothing",
      [id],
    );
    await db.transaction((tx) =>
      tx.query("update messages set state = 'sent', sent_at = now(), next_try_at = null where id = $1", [id]),
    );
  }
});
await dueNow(sending);
const sent = await once(() => site.run());
const [{ n: left }] = (await db.query<{ n: number }>(
  "select count(*)::int as n from messages where kind = 'our answer' and state <> 'sent'",
)) as [{ n: number }];
if (left) throw new Error(`${left} messages were not sent`);
report.row(
  `a bare loop over ${sending.toLocaleString('en')} ready rows`,
  (sending / loop) * 1000,
  'messages/s',
);
report.row('the runner', (sending / sent) * 1000, 'messages/s', {
  floor: (sending / loop) * 1000,
  goal: { of: 'ratio', atLeast: 0.5 },
});

// A mailing to ten thousand: what writing it takes, until the last has gone, and what it leaves in memory.
const to = 10_000;
const contacts = await db.query<{ id: string }>(
  "select id from contacts where family_name = 'Bench' order by id limit $1",
  [to],
);
globalThis.gc?.();
const memory = process.memoryUsage().rss;
let peak = memory;
const watching = setInterval(() => {
  peak = Math.max(peak, process.memoryUsage().rss);
}, 50);
const write = await once(async () => {
  const reply = await fetch(`${site.origin}/api/mailings`, {
    method: 'POST',
    headers: { ...site.headers, 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
    body: JSON.stringify({
      name: 'To ten thousand',
      ids: contacts.map((c) => c.id),
      topic: 'notice',
      said: {
        subject: { en: 'Hello {{name}}' },
        body: { en: 'Hello {{name}}, see https://brackenmere.example/fen' },
      },
      expect: to,
    }),
  });
  if (!reply.ok) throw new Error(await reply.text());
});
report.row(`a mailing to ${to.toLocaleString('en')} written`, write, 'ms', {
  goal: { of: 'value', atMost: 10_000 },
});
// Whoever asks for something meanwhile has their turn between two of them.
let held = 0;
let beat = performance.now();
const beating = setInterval(() => {
  held = Math.max(held, performance.now() - beat);
  beat = performance.now();
}, 5);
const last = await once(() => site.run());
clearInterval(beating);
clearInterval(watching);
const [{ n: reached }] = (await db.query<{ n: number }>(
  "select count(*)::int as n from messages where mailing_id is not null and state = 'sent'",
)) as [{ n: number }];
if (reached !== to) throw new Error(`${reached} of the mailing were sent, not ${to}`);
report.row('until the last of it has gone', last / 1000, 's');
report.row('others are held up by it, at most', held, 'ms', { goal: { of: 'value', atMost: 500 } });
report.row('memory beyond what was there', (peak - memory) / 1e6, 'MB', {
  goal: { of: 'value', atMost: 300 },
});
await site.close();

// Killed again and again while it sends, with a gateway that fails.
if (kills) {
  const port = 45_913;
  const { folder, remove } = await filledFolder();
  const outcome = await killedRun({
    folder,
    origin: `http://localhost:${port}`,
    start: () => startShipped(folder, port, { ACOLYTE_PAGES: 'off' }),
    end: async (child, signal) => {
      const gone = ended(child);
      child.kill(signal);
      await gone;
    },
    messages: sending,
    kills,
    worksFor: (kill) => 100 + ((kill * 397) % 900),
  });
  report.row(
    `messages of ${sending.toLocaleString('en')} sent, killed ${kills} times`,
    outcome.states.sent ?? 0,
    'messages',
    {
      goal: { of: 'value', atLeast: sending },
    },
  );
  report.row('of them at the gateway', outcome.atGateway, 'messages', {
    goal: { of: 'value', atMost: sending },
  });
  report.row('tried', outcome.tries, 'times');
  report.row('not there, or there for somebody else', outcome.astray, 'messages', {
    goal: { of: 'value', atMost: 0 },
  });
  remove();
}
report.finish();
process.exit(0);
