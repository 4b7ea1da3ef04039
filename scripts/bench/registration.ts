import { plainCode, plainExtra, plainOffer } from '#core/offers/offer.ts';
import { type Asking, quote, type Shop, type Wanted } from '#core/offers/quote.ts';
import { type NarrowedSeat, narrowed } from '#core/seats/narrowing.ts';
import { recurring } from '#demo/calendar.ts';
import { planRows } from '#demo/history.ts';
import { makeRandom } from '#demo/random.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { Report } from './report.ts';
import { begins, openSite } from './site.ts';

// npm run bench -- registration [orders]: orders of two with answers and a gift, paid by card, over HTTP: contacts matched,
// messages planned and sent. Beside it a bare loop that writes the same rows, one transaction an order. With DATABASE_URL
// it is measured on an empty database of a server.
process.env.NODE_ENV = 'production';
const orders = Number(process.argv[2] ?? 300);
const random = makeRandom(1);
const url = process.env.DATABASE_URL;
const db = url ? await openPostgres(url) : await openPglite({});
await migrate(db);
const site = await openSite(db, random.bytes);
const ids = makeIds({ now: () => begins }, random.bytes);

/** An open, free event with one question and a capacity that the orders fill up. */
async function openEvent(title: string) {
  const of = { ...recurring.find((r) => r.key === 'reed-cut')!, title, capacity: orders * 2 };
  const { event, offers, lines, surveys } = planRows(of, '2026-08-05', site.founded, ids, begins, {
    state: 'open',
    absencesAt: null,
  });
  await insert(db, 'events', event);
  await insert(db, 'offers', offers);
  await insert(db, 'message_lines', lines);
  await insert(db, 'surveys', surveys);
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
  });
  const slug = (event as unknown as { slug: string }).slug;
  return { id: event.id, slug, offerId: (offers[0] as { id: string }).id, questionId };
}
type Opened = Awaited<ReturnType<typeof openEvent>>;

async function order(event: Opened, family: string): Promise<void> {
  const post = (path: string, body: object) =>
    fetch(`${site.origin}/api/public/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
      body: JSON.stringify(body),
    });
  const placed = await post(`events/${event.slug}/orders`, {
    buyer: { given: 'Una', family, email: `una.${family}@fenmail.example` },
    lines: [{ offerId: event.offerId, units: 2 }],
    attendees: ['Una', 'Wyn'].map((given) => ({
      given,
      family,
      answers: { [event.questionId]: 'no nuts' },
    })),
    donation: { amount: 1000, fundId: null },
  });
  const answer = (await placed.json()) as { token: string; standing: string };
  if (placed.status !== 201) throw new Error(`an order was answered ${placed.status}`);
  const paid = await post(`orders/${answer.token}/pay`, { card: '9000 0000 0000 0001', expiry: '08/29' });
  if (!paid.ok) throw new Error(`a payment was answered ${paid.status}`);
}

/** A family name of letters that nobody else has. */
const nameOf = (title: string, n: number): string =>
  title + [...String(n)].map((digit) => 'bcdfghklmn'[Number(digit)]).join('a');

/** Orders a second, and how many seats more than there are were taken. */
async function measure(title: string, clients: number): Promise<{ perSecond: number; oversold: number }> {
  const event = await openEvent(title);
  let n = 0;
  const client = async () => {
    while (n < orders) {
      n += 1;
      await order(event, nameOf(title, n));
    }
  };
  const began = performance.now();
  await Promise.all(Array.from({ length: Math.min(clients, orders) }, client));
  const perSecond = orders / ((performance.now() - began) / 1000);
  const [taken] = await db.query<{ n: number }>(
    "select count(*)::int as n from registrations where event_id = $1 and state in ('held', 'offered', 'confirmed')",
    [event.id],
  );
  return { perSecond, oversold: Math.max(0, taken!.n - orders * 2) };
}

/** The rows that one order wrote, by table: whatever a transaction since then has touched. */
async function rowsOfOneOrder(): Promise<[string, Record<string, unknown>[]][]> {
  const event = await openEvent('rows');
  await order(event, nameOf('first', 1));
  await settled();
  const [before] = await db.query<{ at: string }>('select pg_current_xact_id()::text as at');
  await order(event, nameOf('rows', 1));
  await settled();
  const tables = await db.query<{ name: string }>(
    "select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace order by 1",
  );
  const rows: [string, Record<string, unknown>[]][] = [];
  for (const { name } of tables) {
    if (['sessions', 'contact_version', 'demo_clock', 'row_floors', 'leases'].includes(name)) continue;
    const of = await db.query<Record<string, unknown>>(
      `select t.* from "${name}" t where t.xmin::text::bigint > $1`,
      [before!.at],
    );
    if (of.length) rows.push([name, of]);
  }
  return rows;
}

/** Waits until nothing is left to be sent. */
async function settled(): Promise<void> {
  for (;;) {
    const [due] = await db.query<{ n: number }>(
      "select count(*)::int as n from messages where state in ('planned', 'due') and next_try_at <= $1",
      [begins],
    );
    if (!due!.n) return;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

const anId = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/gu;

type Rows = Awaited<ReturnType<typeof rowsOfOneOrder>>;

/** The floor: a bare loop that writes the same rows into tables like theirs, one transaction an order. */
async function floor(rows: Rows): Promise<number> {
  const count = rows.reduce((n, [, list]) => n + list.length, 0);
  process.stdout.write(`  the floor writes ${count} rows into ${rows.length} tables\n`);
  await db.script(rows.map(([t]) => `create table floor_${t} (like ${t} including indexes);`).join('\n'));
  const began = performance.now();
  for (let n = 0; n < orders; n += 1) {
    const fresh = new Map<string, string>();
    const idFor = (id: string) => {
      if (!fresh.has(id)) fresh.set(id, ids.id());
      return fresh.get(id)!;
    };
    const mine = JSON.parse(JSON.stringify(rows).replace(anId, idFor)) as typeof rows;
    await db.transaction(async (tx) => {
      for (const [table, list] of mine)
        await insert(
          tx,
          `floor_${table}`,
          list.map((row) => ({
            ...row,
            ...('number' in row ? { number: 1_000_000 + n } : {}),
            ...('tokenHash' in row ? { tokenHash: ids.id() } : {}),
            ...(row.passCode ? { passCode: ids.id() } : {}),
            ...(row.ref ? { ref: ids.id() } : {}),
            ...(table === 'standin_moves' ? { id: ids.id() } : {}),
            ...(table === 'contact_keys' ? { key: `${row.key}${n}` } : {}),
          })),
        );
    });
  }
  return orders / ((performance.now() - began) / 1000);
}

/**
 * The same rows in the product's own tables, with their references, checks and triggers: the least that keeping what
 * the tables promise costs. What triggers write is left to them.
 */
async function ownTables(rows: Rows): Promise<number> {
  const references = await db.query<{ child: string; parent: string }>(
    `select distinct conrelid::regclass::text as child, confrelid::regclass::text as parent from pg_constraint
     where contype = 'f' and conrelid <> confrelid`,
  );
  const byTriggers = ['participation', 'contact_totals', 'event_counts', 'book_sums'];
  let left = rows.filter(([table]) => !byTriggers.includes(table));
  const inOrder: Rows = [];
  while (left.length) {
    const free = left.filter(
      ([t]) => !references.some((r) => r.child === t && left.some(([other]) => other === r.parent)),
    );
    const next = free.length ? free : left;
    inOrder.push(...next);
    left = left.filter((l) => !next.includes(l));
  }
  const written = new Set(rows.flatMap(([, list]) => list.map((row) => row.id).filter(Boolean)));
  const began = performance.now();
  for (let n = 0; n < orders; n += 1) {
    const fresh = new Map<string, string>();
    const idFor = (id: string) => {
      if (!written.has(id)) return id;
      if (!fresh.has(id)) fresh.set(id, ids.id());
      return fresh.get(id)!;
    };
    const mine = JSON.parse(JSON.stringify(inOrder).replace(anId, idFor)) as Rows;
    await db.transaction(async (tx) => {
      for (const [table, list] of mine)
        await insert(
          tx,
          table,
          list.map((row) => ({
            ...row,
            ...(table === 'orders' ? { number: 2_000_000 + n } : {}),
            ...('tokenHash' in row ? { tokenHash: ids.id() } : {}),
            ...(row.passCode ? { passCode: ids.id() } : {}),
            ...('ref' in row ? { ref: ids.id() } : {}),
            ...(table === 'contact_keys' ? { key: `${row.key}own${n}` } : {}),
            ...(table === 'standin_moves' ? { id: ids.id() } : {}),
            ...('key' in row && (table.startsWith('standin_') || table === 'idempotency')
              ? { key: ids.id() }
              : {}),
          })),
        );
    });
  }
  return orders / ((performance.now() - began) / 1000);
}

/** Milliseconds that something takes, the median of some times. */
async function median(times: number, work: () => unknown): Promise<number> {
  const taken: number[] = [];
  for (let n = 0; n < times; n += 1) {
    const began = performance.now();
    await work();
    taken.push(performance.now() - began);
  }
  return taken.sort((a, b) => a - b)[Math.floor(times / 2)]!;
}

/** The quote of an order of sixty lines with a code and two taxes, beside adding sixty numbers up as often as there are units. */
async function quotes(): Promise<void> {
  const offers = Array.from({ length: 30 }, (_, n) => ({
    ...plainOffer,
    id: `o${n}`,
    name: `Ticket ${n}`,
    price: 1000 + 37 * n,
  }));
  const extras = Array.from({ length: 30 }, (_, n) => ({
    ...plainExtra,
    id: `x${n}`,
    name: `Extra ${n}`,
    price: 500 + 11 * n,
  }));
  const shop: Shop = {
    currency: 'CAD',
    offers,
    extras,
    codes: [{ ...plainCode, id: 'c', code: 'REEDS', off: { percent: 12_500 } }],
    taxes: [
      { name: 'Tax', rate: 5000, included: false },
      { name: 'Other tax', rate: 9975, included: false },
    ],
  };
  const wanted: Wanted = {
    lines: offers.map((o) => ({ offerId: o.id, units: 3 })),
    extras: extras.map((x) => ({ extraId: x.id, optionId: null, units: 2 })),
    code: 'reeds',
    donation: 1000,
  };
  const asking: Asking = {
    nowLocal: '2026-07-09T12:00',
    member: false,
    known: false,
    has: new Map(),
    uses: new Map(),
    guest: 0,
    team: false,
  };
  const took = await median(200, () => {
    if ('problems' in quote(shop, wanted, asking)) throw new Error('the quote was refused');
  });
  report.row('quote of an order of 60 lines', took, 'ms', { goal: { of: 'value', atMost: 5 } });
}

/** The table of staff with twenty thousand seats, beside reading and writing out the same rows bare. */
async function table(): Promise<void> {
  const event = await openEvent('table');
  const seats = 20_000;
  const ordersOf = Array.from({ length: seats / 2 }, () => ids.id());
  await insert(
    db,
    'orders',
    ordersOf.map((id, n) => ({
      id,
      number: 5_000_000 + n,
      eventId: event.id,
      buyerGiven: 'Una',
      buyerFamily: nameOf('row', n),
      buyerEmail: `una${n}@fenmail.example`,
      language: 'en',
      currency: 'CAD',
      due: 0,
      donation: 0,
      donationAnonymous: false,
      lines: [{ offerId: event.offerId, units: 2 }],
      seats: 2,
      state: 'paid',
      channel: 'public',
      placedAt: begins,
    })),
  );
  const rowsOf = ordersOf.flatMap((orderId, n) =>
    [1, 2].map((seat) => ({
      id: ids.id(),
      orderId,
      eventId: event.id,
      offerId: event.offerId,
      unitNumber: seat,
      seatNumber: seat,
      givenName: seat === 1 ? 'Una' : 'Wyn',
      familyName: nameOf('row', n),
      saidMinor: false,
      state: 'confirmed',
      passCode: ids.id(),
      walkIn: false,
      linkReasons: [],
      createdAt: begins,
      confirmedAt: begins,
    })),
  );
  await insert(db, 'registrations', rowsOf);
  await insert(
    db,
    'answers',
    rowsOf.map((r) => ({
      id: ids.id(),
      orderId: r.orderId,
      registrationId: r.id,
      questionId: event.questionId,
      value: 'no nuts',
    })),
  );
  await db.query('analyze');
  const bare = await median(5, async () =>
    JSON.stringify(
      await db.query(
        `select r.*, o.*, a.value from registrations r join orders o on o.id = r.order_id left join answers a on a.registration_id = r.id
         where r.event_id = $1`,
        [event.id],
      ),
    ),
  );
  const get = async (path: string) => {
    const answer = await fetch(`${site.origin}/api/events/${event.id}/${path}`, { headers: site.headers });
    if (!answer.ok) throw new Error(`${path} was answered ${answer.status}`);
    return answer.text();
  };
  const page = await median(5, () => get('registrations'));
  report.row('staff table of 20,000 seats', page, 'ms', { floor: bare, goal: { of: 'ratio', atMost: 4 } });
  const { rows } = JSON.parse(await get('registrations')) as { rows: NarrowedSeat[] };
  const only = {
    q: 'una',
    conditions: [{ column: event.questionId, is: 'holds' as const, values: ['nuts'] }],
  };
  const narrows = await median(9, () => narrowed(rows, only, (at) => at.slice(0, 10)));
  report.row('narrowed by words and an answer', narrows, 'ms', { goal: { of: 'value', atMost: 100 } });
  report.row('the same as CSV', await median(3, () => get('registrations.csv')), 'ms', { floor: bare });
}

/** The passes and the calendar file of an order of four. */
async function papers(): Promise<void> {
  const event = await openEvent('papers');
  const placed = await fetch(`${site.origin}/api/public/events/${event.slug}/orders`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      buyer: { given: 'Una', family: 'Papers', email: 'una.papers@fenmail.example' },
      lines: [{ offerId: event.offerId, units: 4 }],
      attendees: ['Una', 'Wyn', 'Ida', 'Ole'].map((given) => ({ given, family: 'Papers' })),
    }),
  });
  const { token } = (await placed.json()) as { token: string };
  const get = async (path: string) => {
    const answer = await fetch(`${site.origin}/api/public/orders/${token}/${path}`);
    if (!answer.ok) throw new Error(`${path} was answered ${answer.status}`);
    await answer.arrayBuffer();
  };
  report.row('four passes as PDF', await median(9, () => get('passes.pdf')), 'ms', {
    goal: { of: 'value', atMost: 300 },
  });
  report.row('calendar file of an order', await median(9, () => get('calendar.ics')), 'ms', {
    goal: { of: 'value', atMost: 30 },
  });
}

const report = new Report(url ? 'registration-server' : 'registration');
await measure('warm', 4);
const rows = await rowsOfOneOrder();
const least = await floor(rows);
report.row('the same rows in a bare loop', least, 'per s');
const promised = await ownTables(rows);
report.row('the same rows with references, checks and triggers', promised, 'per s', { floor: least });
for (const clients of [1, 50, 500]) {
  const { perSecond, oversold } = await measure(nameOf('clients', clients), clients);
  const who = `${clients} client${clients === 1 ? '' : 's'}`;
  report.row(`orders over HTTP, ${who}`, perSecond, 'per s', {
    floor: least,
    goal: { of: 'ratio', atLeast: 0.5 },
  });
  report.row(`orders over HTTP beside rows with references, ${who}`, perSecond, 'per s', { floor: promised });
  report.row(`seats oversold, ${who}`, oversold, 'seats', { goal: { of: 'value', atMost: 0 } });
}
await quotes();
await table();
await papers();
report.finish();
await site.close();
process.exit(0);
