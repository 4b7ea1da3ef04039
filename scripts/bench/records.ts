import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { makePeople, storePeople } from '#demo/people.ts';
import { makeRandom } from '#demo/random.ts';
import { openArchive } from '#server/archive/archive.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { takeSeats } from './large.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, openSite } from './site.ts';

// npm run bench -- records: every view of Records over a hundred thousand contacts, two thousand events and a million registrations; how
// long the archive takes to be read, and what it takes of memory.
const [contacts, events, registrations] = [
  Number(process.argv[2] ?? 100_000),
  Number(process.argv[3] ?? 2000),
  Number(process.argv[4] ?? 1_000_000),
];
setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;
const memory = () => {
  collect();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1e6;
};
const report = new Report('records');
const db = await openPglite({});
await migrate(db);
const random = makeRandom(20);
const site = await openSite(db, random.bytes);
const ids = makeIds({ now: () => begins }, random.bytes);
console.log(`  ${contacts} contacts, ${events} events, ${registrations} registrations …`);
const people = makePeople(
  random,
  () => ids.id(),
  contacts,
  Object.keys(site.founded.units),
  '2017-07-01',
  '2026-06-10',
);
await storePeople(db, people, random, ids);
// Sixty kinds of events, each held again and again over nine years.
await db.script(`
  insert into events (id, public_title, category, unit_id, state, zone, starts_local, ends_local, starts_at, ends_at, capacity, created_at, updated_at)
    select gen_random_uuid(), 'Event ' || g % 60, (array['talk', 'on the water', 'work party'])[1 + g % 3],
      (select id from units order by id offset g % 6 limit 1), 'wrapped', 'America/Halifax', s, s + interval '2 hours',
      s at time zone 'America/Halifax', (s + interval '2 hours') at time zone 'America/Halifax', 600, now(), now()
    from (select g, timestamp '2017-07-10 09:00' + g * interval '39 hours' as s from generate_series(1, ${events}) g) x;
  update events e set first_of = f.id from (select public_title, (array_agg(id order by starts_at))[1] as id from events group by 1) f where f.public_title = e.public_title;
  insert into offers (id, event_id, position, name, price) select gen_random_uuid(), id, 0, 'Seat', 0 from events where not is_template;
`);
await takeSeats(db, registrations, begins);
await db.script(`
  insert into shifts (id, event_id, role, place, starts_local, ends_local, starts_at, ends_at, least, wished)
    select gen_random_uuid(), id, (select name from roles order by name limit 1), '', starts_local, ends_local, starts_at, ends_at, 5, 5 from events where not is_template;
  create temp table p as select id, row_number() over (order by id) - 1 as n from contacts;
  create index on p (n);
  insert into assignments (id, shift_id, contact_id, state, source, hours, made_at)
    select gen_random_uuid(), s.id, p.id, 'served', 'staff', 2, s.starts_at
    from (select id, starts_at, row_number() over (order by starts_at) as n from shifts) s cross join generate_series(0, 9) k join p on p.n = (s.n * 31 + k) % ${Math.floor(contacts / 20)};
  insert into measures (id, name, unit, kind, direction, decimals, entered_by, looked_at, made_at)
    values ('00000000-0000-7000-8000-000000000001', '{"en": "Litter"}', '{"en": "kg"}', 'sum', 'more', 0, 'team', false, now());
  insert into tallies (id, event_id, measure_id, value, said, counted_at, state, entered_at)
    select gen_random_uuid(), e.id, '00000000-0000-7000-8000-000000000001', 10 + k, '', e.starts_at, 'counted', e.starts_at from events e cross join generate_series(1, 8) k where not e.is_template;
  analyze`);

const ask = async (path: string): Promise<string> => {
  const response = await fetch(`${site.origin}/api/records/${path}`, { headers: site.headers });
  const body = await response.text();
  if (!response.ok) throw new Error(`${path}: ${response.status} ${body}`);
  return body;
};
const floor = quantile(
  await timed(5, () =>
    db.query('select count(*) from (select contact_id from attendance group by contact_id) x'),
  ),
  0.95,
);
report.row('grouping all attendance by person, p95', floor, 'ms');

const before = memory();
const [opened] = await timed(1, () =>
  db.transaction((tx) => openArchive({ app: site.app, tx, now: site.app.clock.now() })),
);
report.row('reading the archive the first time', opened!, 'ms', { floor });
report.row('memory of the archive', memory() - before, 'MB', { goal: { of: 'value', atMost: 150 } });

const { archive } = await db.transaction((tx) =>
  openArchive({ app: site.app, tx, now: site.app.clock.now() }),
);
const some = archive.events.slice(-12).map((e) => e.id);
const views: [string, string][] = [
  ['twelve events side by side', `events?ids=${some.join(',')}`],
  ['series', 'series'],
  ['returns', 'returns'],
  ['paths', 'paths'],
  ['audiences and what coming leads to', 'audiences'],
  ['who drifts away', 'drifting'],
  ['lead times and best dates', 'timing'],
  ['units', 'units'],
];
for (const [name, path] of views) {
  await ask(path);
  const p95 = quantile(await timed(20, () => ask(path)), 0.95);
  report.row(`${name}, p95`, p95, 'ms', { floor, goal: { of: 'value', atMost: 1000 } });
}
// While somebody is ticked off between any two looks.
const [seat] = await db.query<{ id: string; eventId: string }>(
  "select registration_id as id, event_id from attendance where state = 'missed' limit 1",
);
let here = false;
const meanwhile = await timed(20, async () => {
  here = !here;
  await db.query('update attendance set state = $2 where registration_id = $1', [
    seat!.id,
    here ? 'arrived' : 'missed',
  ]);
  await ask('returns');
});
report.row('returns, with an arrival between any two looks, p95', quantile(meanwhile, 0.95), 'ms', {
  floor,
  goal: { of: 'value', atMost: 1000 },
});
report.finish();
await site.close();
