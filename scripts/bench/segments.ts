import { compileSegment } from '#core/records/compile.ts';
import type { Segment } from '#core/records/segment.ts';
import { readLines } from '#server/contacts/store.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { countAndSample } from '#server/records/store.ts';
import { foundWith, takeSeats } from './large.ts';
import { quantile, Report, timed } from './report.ts';

// npm run bench -- segments: how fast count and sample follow an edit, with many contacts and registrations.
const contacts = Number(process.argv[2] ?? 100_000);
const registrations = Number(process.argv[3] ?? 1_000_000);
const db = await openPglite({});
await migrate(db);
const now = '2026-07-09T12:20:00.000Z';
console.log(`  ${contacts} contacts, ${registrations} registrations …`);
const { founded } = await foundWith(db, contacts, 7, now);
await db.script(`
  insert into events (id, public_title, category, unit_id, state, zone, starts_local, starts_at, ends_at, created_at, updated_at)
    select gen_random_uuid(), 'Event ' || g, (array['talk', 'on the water', 'work party'])[1 + g % 3],
      (select id from units order by id offset g % 6 limit 1), 'wrapped', 'America/Halifax',
      timestamp '2023-07-10 18:00' + g * interval '3 days 14 hours', timestamptz '2023-07-10 21:00Z' + g * interval '3 days 14 hours',
      timestamptz '2023-07-10 23:00Z' + g * interval '3 days 14 hours', now(), now() from generate_series(1, 300) g;
  insert into offers (id, event_id, position, name, price) select gen_random_uuid(), id, 0, 'Seat', 0 from events where not is_template;
`);
await takeSeats(db, registrations, now);

const ever = { when: 'ever' } as const;
const asked = { today: '2026-07-09', zone: 'America/Halifax', currency: 'CAD' };
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
