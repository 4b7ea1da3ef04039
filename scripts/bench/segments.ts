import { compileSegment } from '#core/records/compile.ts';
import type { Segment } from '#core/records/segment.ts';
import { foundOrganization } from '#demo/organization.ts';
import { makePeople, storePeople } from '#demo/people.ts';
import { makeRandom } from '#demo/random.ts';
import { readLines } from '#server/contacts/store.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { countAndSample } from '#server/records/store.ts';
import { quantile, Report, timed } from './report.ts';

// npm run bench -- segments: how fast count and sample follow an edit, with many contacts and registrations.
const contacts = Number(process.argv[2] ?? 100_000);
const registrations = Number(process.argv[3] ?? 1_000_000);
const db = await openPglite({});
await migrate(db);
const random = makeRandom(7);
const clock = { now: () => '2026-07-09T12:20:00.000Z' };
const ids = makeIds(clock, random.bytes);
const founded = await db.transaction((tx) =>
  foundOrganization({ tx, now: clock.now(), app: { ids } as never }),
);
console.log(`  ${contacts} contacts …`);
const people = makePeople(
  random,
  () => ids.id(),
  contacts,
  Object.keys(founded.units),
  '2023-07-01',
  '2026-06-10',
);
await storePeople(db, people, random, ids);
console.log(`  ${registrations} registrations …`);
// What triggers keep is written at once afterwards: one by one it takes a quarter of an hour.
await db.script(`
  alter table registrations disable trigger user;
  alter table attendance disable trigger user;
  insert into events (id, public_title, category, unit_id, state, zone, starts_local, starts_at, ends_at, created_at, updated_at)
    select gen_random_uuid(), 'Event ' || g, (array['talk', 'on the water', 'work party'])[1 + g % 3],
      (select id from units order by id offset g % 6 limit 1), 'wrapped', 'America/Halifax',
      timestamp '2023-07-10 18:00' + g * interval '3 days 14 hours', timestamptz '2023-07-10 21:00Z' + g * interval '3 days 14 hours',
      timestamptz '2023-07-10 23:00Z' + g * interval '3 days 14 hours', now(), now() from generate_series(1, 300) g;
  insert into offers (id, event_id, position, name, price) select gen_random_uuid(), id, 0, 'Seat', 0 from events;
  insert into orders (id, event_id, currency, buyer_given, buyer_family, due, lines, seats, state, placed_at)
    select gen_random_uuid(), id, 'CAD', 'x', 'y', 0, '[]', 1, 'paid', starts_at from events;
  create temp table e as select e.id, e.starts_at, o.id as order_id, f.id as offer_id, row_number() over (order by e.starts_at) - 1 as n
    from events e join orders o on o.event_id = e.id join offers f on f.event_id = e.id;
  create temp table p as select id, row_number() over (order by id) - 1 as n from contacts;
  create index on p (n);
  insert into registrations (id, order_id, event_id, offer_id, unit_number, seat_number, contact_id, state, created_at, confirmed_at)
    select gen_random_uuid(), e.order_id, e.id, e.offer_id, 1, g, p.id, 'confirmed', e.starts_at, e.starts_at
    from generate_series(1, ${registrations}) g join e on e.n = (g::bigint * 7919 / 13) % 300
      join p on p.n = ((g::bigint * 7368787 + g::bigint / 300 * 15485863) % ${contacts});
  insert into attendance (registration_id, event_id, contact_id, state, arrived_at)
    select id, event_id, contact_id, case when seat_number % 5 = 0 then 'missed' else 'arrived' end,
      case when seat_number % 5 = 0 then null else created_at end from registrations;
  insert into donations (id, contact_id, fund_id, currency, amount, at)
    select gen_random_uuid(), p.id, (select id from funds limit 1), 'CAD', 1000 + (p.n % 9) * 500, now() - (p.n % 900) * interval '1 day' from p where n % 4 = 0;
  insert into participation (contact_id, event_id, registered, attended, missed, last_seen)
    select contact_id, event_id, true, bool_or(state = 'arrived'), bool_or(state = 'missed'), max(arrived_at)
    from attendance group by contact_id, event_id;
  insert into contact_totals (contact_id, registered, attended, missed, last_seen)
    select contact_id, count(*), count(*) filter (where attended), count(*) filter (where missed), max(last_seen)
    from participation group by contact_id;
  alter table registrations enable trigger user;
  alter table attendance enable trigger user;
`);
await db.script('vacuum analyze');

const ever = { when: 'ever' } as const;
const asked = { today: '2026-07-09', zone: 'America/Halifax' };
const segments: [string, Segment][] = [
  ['has a tag', { ask: 'tag', tag: 'bees' }],
  [
    'came twice this year, never gave',
    {
      all: [
        { ask: 'attended', times: { is: 'at least', n: 2 }, of: {}, within: { when: 'this year' } },
        { ask: 'donated', amount: { is: 'exactly', n: 0 }, within: ever },
      ],
    },
  ],
  [
    'came to a unit in the last year',
    {
      ask: 'attended',
      times: { is: 'at least', n: 1 },
      of: { unitId: founded.units['Small Boats']! },
      within: { when: 'days', days: 365 },
    },
  ],
  ['came five times ever', { ask: 'attended', times: { is: 'at least', n: 5 }, of: {}, within: ever }],
  [
    'drifted away',
    {
      all: [
        { ask: 'attended', times: { is: 'at least', n: 2 }, of: {}, within: ever },
        { not: { ask: 'last seen', within: { when: 'days', days: 365 } } },
      ],
    },
  ],
  [
    'missed at most once',
    { ask: 'missed', times: { is: 'at most', n: 1 }, of: {}, within: { when: 'last year' } },
  ],
];
const report = new Report('segments');
const median = (of: readonly number[]) => quantile(of, 0.5);
const floor = median(
  await timed(5, () =>
    db.query('select count(*) from (select contact_id from attendance group by contact_id) x'),
  ),
);
report.row('grouping all attendance by person', floor, 'ms');
for (const [name, segment] of segments) {
  let found = 0;
  const ms = median(
    await timed(5, async () => {
      const { count, sample } = await countAndSample(db, compileSegment(segment, asked), 12);
      found = count;
      await readLines(db, sample);
    }),
  );
  report.row(`count and sample: ${name} (${found} people)`, ms, 'ms', {
    floor,
    goal: { of: 'ratio', atMost: 1 },
  });
}
report.finish();
await db.close();
