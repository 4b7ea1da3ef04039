import type { Page } from '@playwright/test';
import { demoPassword, demoSignIns } from '#server/staff/demoSignIns.ts';
import { openBrowser } from './browser.ts';
import { quantile, Report } from './report.ts';
import { filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- web: what somebody waits for in the browser, on the demonstration: from signing in to the Desk, from stage
// to stage, and until a public event page can be read and used on a slow phone.
const rounds = 7;
const report = new Report('web');
const { folder, remove } = await filledFolder();
const port = 45_906;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const browser = await openBrowser();

/** Milliseconds until something is there. */
async function until(start: () => Promise<unknown>, there: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await start();
  await there();
  return performance.now() - began;
}
/** Sums up what jumps on a page (Layout Instability). */
async function shifts(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const sum = { value: 0 };
    Object.assign(window, { shiftSum: sum });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as unknown as { value: number; hadRecentInput: boolean }[])
        if (!entry.hadRecentInput) sum.value += entry.value;
    }).observe({ type: 'layout-shift', buffered: true });
  });
}
const shifted = (page: Page): Promise<number> =>
  page.evaluate(() => (window as unknown as { shiftSum: { value: number } }).shiftSum.value);

const toDesk: number[] = [];
const jumps: number[] = [];
for (let n = 0; n < rounds; n += 1) {
  const context = await browser.newContext({ baseURL: origin, viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await shifts(page);
  await page.goto('/sign-in');
  await page.getByLabel('Email').fill(demoSignIns[0]!.email);
  await page.getByLabel('Password').fill(demoPassword);
  toDesk.push(
    await until(
      () => page.getByRole('button', { name: 'Sign in', exact: true }).first().click(),
      () => page.getByRole('heading', { name: 'Open now' }).waitFor(),
    ),
  );
  jumps.push(await shifted(page));
  await context.close();
}
report.row('from signing in to the Desk, median', quantile(toDesk, 0.5), 'ms', {
  goal: { of: 'value', atMost: 1000 },
});

const context = await browser.newContext({
  baseURL: origin,
  viewport: { width: 1280, height: 800 },
});
const cookie = await signedIn(origin);
const [name = '', ...value] = cookie.split(';')[0]!.split('=');
await context.addCookies([{ name, value: value.join('='), url: origin }]);
const page = await context.newPage();
const season = (await (await context.request.get('/api/events')).json()) as {
  id: string;
  title: string;
  state: string;
}[];
const event = season.find((e) => e.title === 'Open Water Day' && e.state === 'open') ?? season[0]!;
await page.goto(`/events/${event.id}/plan`);
const stages = page.getByRole('navigation', { name: 'Stages' });
await stages.waitFor();
const moves: number[] = [];
const arrived: Record<string, string> = {
  Clearance: 'Cleared',
  Registration: 'Add registration',
  Crew: 'Add a shift',
  Messages: 'Nothing goes out twice.',
};
for (let n = 0; n < rounds; n += 1)
  for (const [stage, sign] of Object.entries(arrived)) {
    const link = stages.getByRole('link', { name: stage, exact: true });
    // Somebody points at a stage some time before the button goes down.
    await link.hover();
    await page.waitForTimeout(120);
    moves.push(
      await until(
        () => link.click(),
        () => page.getByRole('region', { name: stage }).getByText(sign).first().waitFor(),
      ),
    );
  }
report.row('from stage to stage, median', quantile(moves, 0.5), 'ms', { goal: { of: 'value', atMost: 200 } });
report.row('from stage to stage, p95', quantile(moves, 0.95), 'ms');
report.row('what jumped on the way to the Desk (layout shift)', quantile(jumps, 0.5), '', {
  goal: { of: 'value', atMost: 0.1 },
});
await context.close();

// A phone of some years ago on a slow network: 1.6 Mbit/s, 150 ms, a processor four times slower.
const { events: listing } = (await (await fetch(`${origin}/api/public/events`)).json()) as {
  events: { slug: string; title: string }[];
};
const shown = listing.find((e) => e.title === 'Open Water Day') ?? listing[0]!;
const read: number[] = [];
const used: number[] = [];
for (let n = 0; n < 3; n += 1) {
  const phone = await browser.newContext({ baseURL: origin, viewport: { width: 390, height: 844 } });
  const slow = await phone.newPage();
  const wire = await phone.newCDPSession(slow);
  await wire.send('Network.enable');
  await wire.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 150,
    downloadThroughput: (1.6 * 1024 * 1024) / 8,
    uploadThroughput: (0.75 * 1024 * 1024) / 8,
  });
  await wire.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  const began = performance.now();
  await slow.goto(`/e/${shown.slug}`, { waitUntil: 'commit' });
  await slow.getByRole('heading', { name: shown.title }).waitFor();
  read.push(performance.now() - began);
  // Drawn by the page itself, with the way in.
  await slow.locator('.pub:not(.early)').waitFor();
  used.push(performance.now() - began);
  await phone.close();
}
report.row('slow phone: an event can be read', quantile(read, 0.5), 'ms', {
  goal: { of: 'value', atMost: 1500 },
});
report.row('slow phone: an event can be used', quantile(used, 0.5), 'ms');

await browser.close();
await stopped(child);
remove();
report.finish();
