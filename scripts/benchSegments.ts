import { mkdirSync, writeFileSync } from 'node:fs';
import { compileSegment } from '../src/core/records/compile.ts';
import type { Segment } from '../src/core/records/segment.ts';
import { foundOrganization } from '../src/demo/organization.ts';
import { makePeople, storePeople } from '../src/demo/people.ts';
import { makeRandom } from '../src/demo/random.ts';
import { readLines, searchContacts } from '../src/server/contacts/store.ts';
import { makeIds } from '../src/server/db/ids.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { openPglite } from '../src/server/db/pglite.ts';
import { countAndSample } from '../src/server/records/store.ts';

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
  insert into orders (id, event_id, buyer_given, buyer_family, due, lines, seats, state, placed_at)
    select gen_random_uuid(), id, 'x', 'y', 0, '[]', 1, 'paid', starts_at from events;
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
  insert into donations (id, contact_id, fund_id, amount, at)
    select gen_random_uuid(), p.id, (select id from funds limit 1), 1000 + (p.n % 9) * 500, now() - (p.n % 900) * interval '1 day' from p where n % 4 = 0;
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
const median = (of: number[]) => [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)]!;
const timed = async (run: () => Promise<unknown>, times: number) => {
  const all: number[] = [];
  for (let n = 0; n < times; n += 1) {
    const began = performance.now();
    await run();
    all.push(performance.now() - began);
  }
  return all;
};
const floor = median(
  await timed(
    () => db.query('select count(*) from (select contact_id from attendance group by contact_id) x'),
    5,
  ),
);
console.log(
  `\n  ${'count and sample of a segment'.padEnd(46)} ${'people'.padStart(9)} ${'ms'.padStart(7)}   against grouping all attendance (${floor.toFixed(0)} ms)`,
);
const results: object[] = [];
for (const [name, segment] of segments) {
  let found = 0;
  const ms = median(
    await timed(async () => {
      const { count, sample } = await countAndSample(db, compileSegment(segment, asked), 12);
      found = count;
      await readLines(db, sample);
    }, 5),
  );
  results.push({ name, found, ms, ofFloor: ms / floor });
  console.log(
    `  ${name.padEnd(46)} ${String(found).padStart(9)} ${ms.toFixed(0).padStart(7)}   ${(ms / floor).toFixed(2)} of it`,
  );
}
const queries = Array.from({ length: 200 }, (_, n) => {
  const p = random.pick(people);
  const kinds = [
    `${p.family.slice(0, 4)} ${p.given.slice(0, 3)}`,
    (p.email ?? p.family).slice(0, 9),
    p.family,
    p.phone?.slice(-7) ?? p.given,
    `${p.given} ${p.family.slice(0, 3)}${p.family.slice(4)}`,
  ];
  return kinds[n % kinds.length]!;
});
const searches: number[] = [];
for (const q of queries) searches.push(...(await timed(() => searchContacts(db, q, 8), 1)));
searches.sort((a, b) => a - b);
const p95 = searches[Math.floor(searches.length * 0.95)]!;
console.log(`\n  search, median ${median(searches).toFixed(1)} ms, p95 ${p95.toFixed(1)} ms`);
mkdirSync('bench-results', { recursive: true });
writeFileSync(
  'bench-results/segments.json',
  `${JSON.stringify({ contacts, registrations, floor, results, search: { median: median(searches), p95 } }, null, 2)}\n`,
);
await db.close();
