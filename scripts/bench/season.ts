import { join } from 'node:path';
import { RRuleTemporal } from 'rrule-temporal';
import { Temporal } from 'temporal-polyfill';
import { readRule } from '#core/series/rule.ts';
import { slotsOf } from '#core/series/slots.ts';
import { instantOf, shiftWall } from '#core/time/wallTime.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { openPglite } from '#server/db/pglite.ts';
import { framesOf, openBrowser } from './browser.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- season: expanding five hundred series; two thousand events in Season, in the public list and in the feed; the
// ribbon in the browser, until it is there and while it is dragged.
const report = new Report('season');

const zone = 'America/Halifax';
const rules = [
  'FREQ=WEEKLY;BYDAY=TU',
  'FREQ=MONTHLY;BYDAY=1WE',
  'FREQ=WEEKLY;INTERVAL=2;BYMONTH=3,4,5;BYDAY=FR',
  'FREQ=MONTHLY;BYMONTHDAY=-1',
  'FREQ=YEARLY;BYMONTH=8;BYDAY=2SA',
];
const series = Array.from({ length: 500 }, (_, n) => ({
  rule: rules[n % rules.length]!,
  startsLocal: `2026-07-${String((n % 28) + 1).padStart(2, '0')}T19:00`,
}));
const [first, last] = ['2026-07-01T00:00', '2029-07-01T00:00'];
const expand = async () => {
  for (const { rule, startsLocal } of series) {
    const read = readRule(rule);
    if ('rule' in read)
      slotsOf({ rule: read.rule, startsLocal, zone, extra: [], skipped: [] }, first, last, 2000);
  }
};
const plain = (wall: string) => Temporal.ZonedDateTime.from(`${wall}:00[UTC]`);
const alone = async () => {
  for (const { rule, startsLocal } of series)
    new RRuleTemporal({
      rruleString: `DTSTART:${startsLocal.replaceAll(/[-:]/gu, '')}00Z\nRRULE:${rule}`,
      tzid: 'UTC',
      cache: false,
    }).between(plain(first), plain(last), true);
};
// In turns, so that what else the machine does is in both.
const ours: number[] = [];
const library: number[] = [];
for (let n = 0; n < 7; n += 1) {
  library.push(...(await timed(1, alone)));
  ours.push(...(await timed(1, expand)));
}
report.row('500 series over three years, median', quantile(ours, 0.5), 'ms', {
  floor: quantile(library, 0.5),
  goal: { of: 'ratio', atMost: 3 },
});

const { folder, remove } = await filledFolder();
const events = 2000;
const db = await openPglite({ folder: join(folder, 'pg') });
const ids = makeIds({ now: () => begins });
const units = await db.query<{ id: string }>('select id from units order by name');
const venues = await db.query<{ id: string }>('select id from venues where retired_at is null order by name');
await db.transaction(async (tx) => {
  const rows = Array.from({ length: events }, (_, n) => {
    const startsLocal = shiftWall('2026-07-10T09:00', { days: n % 700, hours: n % 9 });
    const endsLocal = shiftWall(startsLocal, { hours: 2 });
    return {
      id: ids.id(),
      slug: `bench-${n}`,
      publicTitle: `Working morning ${n}`,
      summary: 'A morning with sickle and saw.',
      category: ['walk', 'talk', 'work party', 'count'][n % 4],
      draws: n % 3 ? [] : ['free food'],
      unitId: units[n % units.length]!.id,
      venueId: venues[n % venues.length]!.id,
      visibility: 'everyone',
      listed: true,
      state: 'open',
      isTemplate: false,
      startsLocal,
      endsLocal,
      startsAt: instantOf(startsLocal, zone),
      endsAt: instantOf(endsLocal, zone),
      zone,
      capacity: 30,
      leftBehind: [],
      version: 1,
      createdAt: begins,
      updatedAt: begins,
    };
  });
  for (let at = 0; at < rows.length; at += 200) await insert(tx, 'events', rows.slice(at, at + 200));
  const offers = rows.flatMap((e) =>
    [0, 1500].map((price, position) => ({
      id: ids.id(),
      eventId: e.id,
      position,
      name: price ? 'Supporter' : 'Helper',
      about: '',
      price,
      seatsPerUnit: 1,
      quantity: null,
      mostPerOrder: 8,
    })),
  );
  for (let at = 0; at < offers.length; at += 400) await insert(tx, 'offers', offers.slice(at, at + 400));
});
await db.query('analyze');
await db.close();

const port = 45_907;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const cookie = await signedIn(origin);
const floor = quantile(await timed(200, () => fetch(`${origin}/healthz`).then((r) => r.text())), 0.95);
const asked = async (path: string, headers: Record<string, string> = {}) => {
  const ask = async () => {
    const reply = await fetch(`${origin}${path}`, { headers });
    if (!reply.ok) throw new Error(`${path} was answered ${reply.status}`);
    await reply.text();
  };
  await timed(3, ask);
  return quantile(await timed(40, ask), 0.95);
};
const goal = (atMost: number) => ({ floor, goal: { of: 'value' as const, atMost } });
report.row('Season with 2,000 events, p95', await asked('/api/events', { cookie }), 'ms', goal(600));
report.row('public list, first page, p95', await asked('/api/public/events'), 'ms', goal(400));
report.row(
  'public list, a month, p95',
  await asked('/api/public/events?hide=none&from=2026-08-01&to=2026-08-31&limit=300'),
  'ms',
  goal(400),
);
report.row('feed of a kind, p95', await asked('/api/public/calendar.ics?with=walk'), 'ms', goal(600));

const browser = await openBrowser();
const context = await browser.newContext({ baseURL: origin, viewport: { width: 1280, height: 800 } });
const [name = '', value = ''] = cookie.split('=', 2);
await context.addCookies([{ name, value, url: origin }]);
const page = await context.newPage();
const painted: number[] = [];
for (let n = 0; n < 5; n += 1) {
  const began = performance.now();
  await page.goto('/season?form=ribbon');
  await page.locator('[aria-label^="Ribbon of time"] a').first().waitFor();
  painted.push(performance.now() - began);
}
report.row('ribbon with 2,000 events, until it is there, median', quantile(painted, 0.5), 'ms', {
  goal: { of: 'value', atMost: 3000 },
});
const box = (await page.locator('[aria-label^="Ribbon of time"]').boundingBox())!;
const drag = async () => {
  await page.mouse.move(box.x + 900, box.y + 60);
  await page.mouse.down();
  for (let n = 0; n < 60; n += 1) await page.mouse.move(box.x + 900 - n * 10, box.y + 60);
  await page.mouse.up();
};
report.row('a frame while it is dragged, p95', quantile(await framesOf(page, drag), 0.95), 'ms', {
  goal: { of: 'value', atMost: 50 },
});
const wheel = async () => {
  await page.mouse.move(box.x + 600, box.y + 60);
  for (let n = 0; n < 30; n += 1) await page.mouse.wheel(0, 40);
};
report.row('a frame while it goes further away, p95', quantile(await framesOf(page, wheel), 0.95), 'ms');
await browser.close();

report.finish();
await stopped(child);
remove();
process.exit(0);
