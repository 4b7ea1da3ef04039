import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { everybody } from '#core/contacts/listing.ts';
import type { Segment } from '#core/records/segment.ts';
import { shiftDate } from '#core/time/dates.ts';
import type { App } from '#server/app/app.ts';
import { storeDemoClock } from '#server/app/clocks.ts';
import { estimateModel } from '#server/contacts/model.ts';
import { findPairs } from '#server/contacts/pairs.ts';
import { type Database, insert } from '#server/db/database.ts';
import { markFolder } from '#server/db/folder.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { holdFolder } from '#server/db/owner.ts';
import { openPglite } from '#server/db/pglite.ts';
import { carryOver } from '#server/money/carrying.ts';
import { readStatement } from '#server/money/statement.ts';
import { assemble } from '#server/start.ts';
import { playApplying } from './applying.ts';
import { playAttending } from './attending.ts';
import { storeBelonging } from './belonging.ts';
import { recurring } from './calendar.ts';
import { playComing } from './coming.ts';
import { playCounting } from './counting.ts';
import { briefShifts, storeSkills } from './crew.ts';
import { accountForSupper, playGiving, writeLastYear } from './gifts.ts';
import { ordersWritten, resetNumbers, writePastEvent } from './history.ts';
import { playLeaving } from './leaving.ts';
import { writeLessons } from './lessons.ts';
import { foundOrganization } from './organization.ts';
import { writeStatement } from './paidOut.ts';
import { makePeople, storePeople } from './people.ts';
import { dressPages } from './pictures.ts';
import { writeProgramme } from './programme.ts';
import { makeRandom } from './random.ts';
import { storeRemembered } from './remembering.ts';
import { writeReports } from './reporting.ts';
import { playSigning } from './signing.ts';
import { playSteppingIn } from './steppingIn.ts';
import { playSurveys } from './surveying.ts';
import { chainPast, type WaiverWritten } from './waivers.ts';
import { playWriting, wish } from './writing.ts';

/** The moment the demonstration begins: Thursday 9 July 2026, 09:20 in Halifax. */
export const demoBegins = '2026-07-09T12:20:00.000Z';
const playFrom = '2026-06-15T12:00:00.000Z';

/** The secret of the demonstration, so that its links are the same on every machine. */
export const demoSecret = 'brackenmere demonstration secret';

/**
 * Fills a database with the demonstration: the same seed gives the same people and events everywhere. `contacts`
 * is how many people; the coming weeks are only played when `play` is set.
 */
export async function fill(
  db: Database,
  options: { contacts: number; play: boolean; say?: (text: string) => void },
): Promise<void> {
  const say = options.say ?? (() => undefined);
  const random = makeRandom(20260709);
  const clock = { at: '2023-07-01T12:00:00.000Z', now: () => clock.at };
  const ids = makeIds(clock, random.bytes);
  resetNumbers();
  const founded = await db.transaction((tx) =>
    foundOrganization({ tx, now: clock.at, app: { ids } as never }),
  );
  const idAt = (date: string) => {
    clock.at = `${date}T14:00:00.000Z`;
    return ids.id();
  };
  const people = makePeople(
    random,
    idAt,
    options.contacts,
    Object.keys(founded.units),
    '2023-07-01',
    '2026-06-10',
  );
  say(`${people.length} people`);
  await db.transaction((tx) => storePeople(tx, people, random, ids));
  await db.transaction((tx) => storeSkills(tx, makeRandom(18), people, founded.skills, '2026-07-09'));
  await db.transaction((tx) => storeBelonging(tx, people, founded, ids, '2026-06-10'));
  await db.transaction((tx) => storeRemembered(tx, people, ids, '2026-07-09'));
  const waivers = await db.query<WaiverWritten>(
    'select waiver_id as id, id as version_id, version, text from waiver_versions',
  );
  const past = recurring
    .flatMap((of) => of.dates.map((date) => ({ of, date })))
    .filter((p) => p.date < '2026-07-09')
    .sort((a, b) => (a.date < b.date ? -1 : 1));
  for (const { of, date } of past) {
    clock.at = `${shiftDate(date, -60)}T13:00:00.000Z`;
    await db.transaction((tx) =>
      writePastEvent(tx, of, date, people, founded, random, ids, waivers, date > '2026-06-20'),
    );
  }
  await chainPast(db);
  await db.transaction((tx) => writeLessons(tx, makeIds(clock, makeRandom(50).bytes), founded));
  await db.query(`select setval('order_number', ${Math.max(1, ordersWritten())})`);
  await carryOver({ db, ids: makeIds(clock, makeRandom(48).bytes) });
  say(`${past.length} past events, ${ordersWritten()} orders`);
  await storeDemoClock(db, { standsAt: options.play ? playFrom : demoBegins, movingTo: null });
  if (!options.play) return;
  const { app, runner } = await assemble(db, demoSecret, 'http://localhost:4400', true);
  app.ids = makeIds(app.clock, random.bytes);
  // A stream of its own: what the processor does changes nothing of what people do.
  app.cardsAround.ids = makeIds(app.clock, makeRandom(49).bytes);
  await wish(app, founded.staff);
  await playComing(app, runner, people, founded, random, demoBegins);
  await playApplying(app);
  await briefShifts(db, 'Open Water Day');
  await dressPages(app, founded.staff['Odalys Ferrant'] ?? null);
  await writeProgramme(app, founded.staff['Odalys Ferrant'] ?? null);
  await db.transaction((tx) => writeStatement(tx, demoBegins));
  await readStatement(app);
  await playGiving(app);
  await readStatement(app);
  await writeLastYear(app);
  await accountForSupper(app);
  await playWriting(app, founded.staff['Odalys Ferrant'] ?? null);
  await playSteppingIn(app);
  await playLeaving(app);
  await playSigning(app);
  await playAttending(app, founded.staff['Odalys Ferrant'] ?? null);
  await playSurveys(app);
  await playCounting(app, founded);
  await writeReports(app);
  await runner.run();
  await readStatement(app);
  await runner.stop();
  await keepSegments(app, founded.units['Small Boats']!);
  await estimateModel(app);
  const { found } = await findPairs(app);
  say(`${found} pairs of contacts that may be one person`);
  say('the weeks before 9 July played');
}

/** Segments that the organization keeps. */
async function keepSegments(app: App, boats: string): Promise<void> {
  const ever = { when: 'ever' } as const;
  const kept: [string, Segment][] = [
    [
      'Come often, never gave',
      {
        all: [
          { ask: 'attended', times: { is: 'at least', n: 3 }, of: {}, within: { when: 'days', days: 730 } },
          { ask: 'donated', amount: { is: 'exactly', n: 0 }, within: ever },
          { not: { ask: 'not to be contacted' } },
        ],
      },
    ],
    [
      'Paddlers who drifted away',
      {
        all: [
          { ask: 'attended', times: { is: 'at least', n: 2 }, of: { unitId: boats }, within: ever },
          { not: { ask: 'last seen', within: { when: 'days', days: 365 } } },
        ],
      },
    ],
    [
      'Families with young children',
      {
        all: [
          { ask: 'in the household of', who: { ask: 'age', to: 10 } },
          { ask: 'age', from: 19 },
        ],
      },
    ],
  ];
  const at = app.clock.now();
  for (const [name, segment] of kept)
    await insert(app.db, 'segments', { id: app.ids.id(), name, segment, createdAt: at, updatedAt: at });
  const usual = { ...everybody, hidden: ['added'] };
  for (const [name, filter] of [
    ['Seen lately', { ...usual, kind: 'person', sort: 'seen' }],
    ['Organizations', { ...usual, kind: 'organization', hidden: ['added', 'seen', 'postal'] }],
  ] as const)
    await insert(app.db, 'views', { id: app.ids.id(), place: 'contacts', name, filter, createdAt: at });
}

/** Fills a data folder afresh. */
export async function fillFolder(
  folder: string,
  contacts: number,
  say: (text: string) => void,
): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const letGo = await holdFolder(folder, null);
  try {
    rmSync(join(folder, 'pg'), { recursive: true, force: true });
    rmSync(join(folder, 'complete'), { force: true });
    rmSync(join(folder, 'acolyte.json'), { force: true });
    const db = await openPglite({ folder: join(folder, 'pg') });
    await migrate(db);
    await fill(db, { contacts, play: true, say });
    await db.query('analyze');
    await db.close();
    writeFileSync(join(folder, 'secret'), demoSecret, { mode: 0o600 });
    markFolder(folder);
    writeFileSync(join(folder, 'complete'), 'filled\n');
  } finally {
    await letGo();
  }
}

// Run by hand or by the demo command: node dist/server/fill.js FOLDER [CONTACTS]
if (process.argv[1]?.endsWith('fill.js') || process.argv[1]?.endsWith('fill.ts')) {
  const began = Date.now();
  await fillFolder(process.argv[2] ?? 'data/demo', Number(process.argv[3] ?? 1200), (text) =>
    process.stdout.write(`  ${text}\n`),
  );
  process.stdout.write(`  filled in ${((Date.now() - began) / 1000).toFixed(1)} s\n`);
}
