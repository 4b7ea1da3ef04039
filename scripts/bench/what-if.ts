import { join } from 'node:path';
import { instantOf, shiftWall } from '#core/time/wallTime.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { openPglite } from '#server/db/pglite.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- what-if: what other rules of clearance would have meant for two thousand past events, and what moving an event
// with two thousand registrations and ten thousand planned messages by a week would bring about.
const report = new Report('what-if');
const { folder, remove } = await filledFolder();
const events = 2000;
const zone = 'America/Halifax';
const db = await openPglite({ folder: join(folder, 'pg') });
const ids = makeIds({ now: () => begins });
const units = await db.query<{ id: string }>('select id from units order by name');
const venues = await db.query<{ id: string }>('select id from venues where retired_at is null order by name');
await db.transaction(async (tx) => {
  const rows = Array.from({ length: events }, (_, n) => {
    const startsLocal = shiftWall('2025-07-10T18:00', { days: -(n % 900) });
    const endsLocal = shiftWall(startsLocal, { hours: 2 + (n % 5) });
    return {
      id: ids.id(),
      slug: `past-${n}`,
      publicTitle: `Working morning ${n}`,
      unitId: units[n % units.length]!.id,
      venueId: venues[n % venues.length]!.id,
      visibility: 'everyone',
      listed: true,
      state: 'wrapped',
      isTemplate: false,
      startsLocal,
      endsLocal,
      startsAt: instantOf(startsLocal, zone),
      endsAt: instantOf(endsLocal, zone),
      zone,
      capacity: 10 + (n % 150),
      facts: { boats: n % 3 === 0, tools: n % 5 === 0, alcohol: n % 7 === 0, minors: false },
      leftBehind: [],
      version: 1,
      createdAt: begins,
      updatedAt: begins,
    };
  });
  for (let at = 0; at < rows.length; at += 200) await insert(tx, 'events', rows.slice(at, at + 200));
});

// An event with two thousand registrations and ten thousand planned messages: Open Water Day, with that many more.
const people = 2000;
const day = (
  await db.query<{ id: string; offerId: string }>(
    `select e.id, (select o.id from offers o where o.event_id = e.id order by o.position limit 1) as offer_id
     from events e where e.public_title = 'Open Water Day' and e.state = 'open'`,
  )
)[0]!;
await db.transaction(async (tx) => {
  await tx.query('update events set capacity = 5000 where id = $1', [day.id]);
  await insert(tx, 'message_lines', {
    id: ids.id(),
    eventId: day.id,
    position: 90,
    name: 'A week before',
    moment: 'start',
    offsetDays: -7,
    offsetMinutes: 0,
    audience: 'attendees',
    subject: { en: 'Next week' },
    body: { en: 'Hello {{name}}, {{event}} is next week.' },
  });
  const rows = Array.from({ length: people }, (_, n) => ({
    contact: ids.id(),
    email: ids.id(),
    order: ids.id(),
    seat: ids.id(),
    given: `Given${n}`,
    family: `Family${n}`,
    address: `person${n}@harbourpost.example`,
  }));
  const json = JSON.stringify(rows);
  const of =
    'from jsonb_to_recordset($1::jsonb) as r(contact uuid, email uuid, "order" uuid, seat uuid, given text, family text, address text)';
  await tx.query(
    `insert into contacts (id, given_name, family_name, language, source, created_at, updated_at) select contact, given, family, 'en', 'bench', $2, $2 ${of}`,
    [json, begins],
  );
  await tx.query(
    `insert into contact_emails (id, contact_id, email, email_key, position) select email, contact, address, address, 0 ${of}`,
    [json],
  );
  await tx.query(
    `insert into orders (id, event_id, currency, buyer_contact_id, buyer_given, buyer_family, buyer_email, due, lines, seats, state, placed_at)
     select "order", $2, 'CAD', contact, given, family, address, 0, '[]', 1, 'paid', $3 ${of}`,
    [json, day.id, begins],
  );
  await tx.query(
    `insert into registrations (id, order_id, event_id, offer_id, unit_number, seat_number, contact_id, given_name, family_name, state, created_at, confirmed_at)
     select seat, "order", $2, $3, 1, 1, contact, given, family, 'confirmed', $4, $4 ${of}`,
    [json, day.id, day.offerId, begins],
  );
  await tx.query(
    `insert into messages (id, event_id, line_id, recipient_key, kind, contact_id, name, address, state, reason, planned_for, next_try_at, created_at)
     select gen_random_uuid(), $2, s.id, case when s.audience = 'orders' then r."order"::text else r.seat::text end, s.moment, r.contact,
       r.given || ' ' || r.family, r.address, case when s.moment = 'registration made' then 'sent' else 'planned' end, s.name, '2026-08-07T12:00:00Z',
       case when s.moment <> 'registration made' then '2026-08-07T12:00:00Z'::timestamptz end, $3
     ${of} cross join message_lines s where s.event_id = $2 and s.removed_at is null and s.audience <> 'crew'`,
    [json, day.id, begins],
  );
});
const [planned] = await db.query<{ n: number }>(
  "select count(*)::int as n from messages where event_id = $1 and state = 'planned'",
  [day.id],
);
if (planned!.n < 10_000) throw new Error(`only ${planned!.n} messages are planned`);
await db.query('analyze');
await db.close();

const port = 45_909;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const headers = { cookie: await signedIn(origin), origin, 'content-type': 'application/json' };
const ask = async <T>(method: string, path: string, body?: object): Promise<T> => {
  const reply = await fetch(`${origin}${path}`, {
    method,
    headers,
    ...(body && { body: JSON.stringify(body) }),
  });
  if (!reply.ok) throw new Error(`${method} ${path} was answered ${reply.status}: ${await reply.text()}`);
  return (await reply.json()) as T;
};
const floor = quantile(await timed(200, () => fetch(`${origin}/healthz`).then((r) => r.text())), 0.95);
const goal = { floor, goal: { of: 'value' as const, atMost: 1000 } };

interface Book {
  rules: { step: string; workingDays: number }[];
  facts: object[];
}
const book = await ask<Book>('GET', '/api/clearance/rules');
const other = {
  facts: book.facts,
  rules: book.rules.map((rule) =>
    rule.step === 'Safety' ? { ...rule, when: [[{ fact: 'headcount', atLeast: 60 }]] } : rule,
  ),
};
const tried = await ask<{ events: number; changed: object[] }>('POST', '/api/clearance/rules/try', other);
if (tried.events < events || !tried.changed.length) throw new Error('the bench of rules saw nothing');
report.row(
  'other rules tried on 2,000 past events, p95',
  quantile(await timed(20, () => ask('POST', '/api/clearance/rules/try', other)), 0.95),
  'ms',
  goal,
);

const season = await ask<{ id: string; title: string; state: string }[]>('GET', '/api/events');
const water = season.find((e) => e.state === 'open' && e.title === 'Open Water Day')!;
const { version } = await ask<{ version: number }>('GET', `/api/events/${water.id}`);
const moved = {
  version,
  change: {
    startsLocal: '2026-08-15T09:00',
    endsLocal: '2026-08-15T16:30',
    doorsLocal: '2026-08-15T08:30',
    registrationClosesLocal: '2026-08-15T07:00',
  },
};
report.row(
  'what moving an event with 2,000 registrations and 10,000 planned messages would bring about, p95',
  quantile(await timed(20, () => ask('POST', `/api/events/${water.id}/what-if`, moved)), 0.95),
  'ms',
  goal,
);
report.finish();
await stopped(child);
remove();
process.exit(0);
