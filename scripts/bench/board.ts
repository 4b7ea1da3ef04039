import { shiftWall } from '#core/time/wallTime.ts';
import { framesOf, openBrowser } from './browser.ts';
import { quantile, Report } from './report.ts';
import { filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- board: the board of an event with 400 shifts more, until it is there and while one is dragged, time across and down.
const report = new Report('board');
const { folder, remove } = await filledFolder();
const port = 45_908;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const cookie = await signedIn(origin);
const headers = { cookie, origin, 'content-type': 'application/json' };
const events = (await (await fetch(`${origin}/api/events`, { headers })).json()) as {
  id: string;
  title: string;
  state: string;
}[];
const event = events.find((e) => e.title === 'Open Water Day' && e.state === 'open')!;
const roles = [
  'Welcome desk',
  'Shore guide',
  'Serving',
  'Table',
  'Room host',
  'Raffle',
  'Breakfast',
  'Kitchen',
];
const added = await fetch(`${origin}/api/events/${event.id}/shifts/several`, {
  method: 'POST',
  headers: { ...headers, 'idempotency-key': crypto.randomUUID() },
  body: JSON.stringify({
    shifts: Array.from({ length: 400 }, (_, n) => {
      const startsLocal = shiftWall('2026-08-08T06:00', { minutes: (n % 50) * 15 });
      return {
        role: roles[n % roles.length],
        place: `Place ${n % 12}`,
        startsLocal,
        endsLocal: shiftWall(startsLocal, { minutes: 120 }),
        wished: 3,
      };
    }),
  }),
});
if (!added.ok) throw new Error(await added.text());

const browser = await openBrowser();
const context = await browser.newContext({ baseURL: origin, viewport: { width: 1280, height: 800 } });
const [name = '', value = ''] = cookie.split('=', 2);
await context.addCookies([{ name, value, url: origin }]);
const page = await context.newPage();
/** Until the board stands there with a number of shifts; the median of some times. */
async function there(address: string, shifts: number): Promise<number> {
  const times: number[] = [];
  for (let n = 0; n < 5; n += 1) {
    const began = performance.now();
    await page.goto(address);
    await page
      .locator('[data-shift]')
      .nth(shifts - 1)
      .waitFor({ state: 'attached' });
    times.push(performance.now() - began);
  }
  return quantile(times, 0.5);
}
const crew = `/events/${event.id}/crew`;
for (const flow of ['across', 'down'] as const) {
  // The same page with the dozen shifts of which the words “Landing” tell.
  const floor = await there(`${crew}?flow=${flow}&words=landing`, 8);
  report.row(
    `400 shifts, time ${flow}, until they are there, median`,
    await there(`${crew}?flow=${flow}`, 400),
    'ms',
    {
      floor,
      goal: { of: 'ratio', atMost: 2.5 },
    },
  );
  const bar = page.locator('[data-shift]').nth(40);
  await bar.scrollIntoViewIfNeeded();
  const box = (await bar.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const drag = async () => {
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let n = 1; n <= 60; n += 1)
      await page.mouse.move(x + (flow === 'across' ? n * 3 : 0), y + (flow === 'across' ? 0 : n * 3));
    await page.keyboard.press('Escape');
  };
  report.row(
    `a frame while one of 400 is dragged, time ${flow}, p95`,
    quantile(await framesOf(page, drag), 0.95),
    'ms',
    {
      goal: { of: 'value', atMost: 50 },
    },
  );
  await page.mouse.up();
}
await browser.close();
report.finish();
await stopped(child);
remove();
process.exit(0);
