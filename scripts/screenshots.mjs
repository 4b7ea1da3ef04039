import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium as driver } from '@playwright/test';
import sharp from 'sharp';
import { build, chromium, install, root, run, say, stop } from './shared.mjs';

// npm run screenshots: one picture of each main view, from the demonstration as it begins.
await install();
await build();
const executablePath = await chromium();
if (!executablePath) stop('Chromium is needed for the pictures.');
const folder = mkdtempSync(join(tmpdir(), 'acolyte-pictures-'));
if (process.env.ACOLYTE_FILLED) cpSync(process.env.ACOLYTE_FILLED, folder, { recursive: true });
else if ((await run('node', [join(root, 'dist/server/fill.js'), folder])) !== 0)
  stop('The demonstration could not be filled.');
rmSync(join(folder, 'owner.json'), { force: true });
const base = 'http://localhost:45902';
const server = spawn('node', [join(root, 'dist/server/main.js')], {
  env: { ...process.env, NODE_ENV: 'production', ACOLYTE_DATA: folder, ACOLYTE_LOG: 'off', PORT: '45902' },
  stdio: 'ignore',
});
// Whatever goes wrong below, no server is left behind to answer the next run with old pictures.
process.on('exit', () => server.kill('SIGKILL'));
server.on('exit', (code) => code && stop('The server stopped; is another one running on port 45902?'));
while (
  !(await fetch(`${base}/healthz`).then(
    (r) => r.ok,
    () => false,
  ))
)
  await new Promise((r) => setTimeout(r, 100));

const browser = await driver.launch({
  executablePath,
  args: [
    '--no-sandbox',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
  ],
});
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
const pageOf = async (email, phone = false) => {
  const context = await browser.newContext({
    baseURL: base,
    viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    timezoneId: 'America/Halifax',
    locale: 'en-CA',
  });
  if (email)
    await context.request.post('/api/sign-in', {
      data: { email, password: 'marsh-wren-2026' },
      headers: { origin: base },
    });
  return context.newPage();
};
const take = async (page, path, name, before) => {
  await page.goto(path);
  await page.waitForLoadState('networkidle').catch(() => undefined);
  await page.locator('h1').first().waitFor();
  await before?.(page);
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: join(out, `${name}.png`) });
  say(`  ${name}.png`);
};
const odalys = await pageOf('odalys@brackenmere.example');
const events = await (await odalys.request.get('/api/events')).json();
const idOf = (title, from = '') =>
  events.find((e) => e.title === title && (e.startsLocal ?? '') >= from && !e.isTemplate).id;
const water = idOf('Open Water Day', '2026-07');
const settled = (selector) => (page) => page.locator(selector).first().waitFor();
await take(odalys, '/desk', 'desk', settled('#contents section a'));
await take(odalys, '/season', 'season', settled('.table'));
await take(odalys, `/events/${water}/plan`, 'event-plan', settled('form, .form'));
await take(
  odalys,
  `/events/${idOf('Reedbed Symposium', '2026-07')}/clearance`,
  'event-clearance',
  settled('.lines'),
);
const symposium = idOf('Reedbed Symposium', '2026-07');
await take(odalys, `/events/${symposium}/plan`, 'agenda', async (page) => {
  await page.locator('#section-agenda li').first().waitFor();
  await page.evaluate(() => document.querySelector('#section-agenda').scrollIntoView());
});
await take(odalys, '/team/registers', 'places', async (page) => {
  await page.getByRole('button', { name: 'Change Town Hall' }).click();
  await page.getByLabel('Name of the room').first().waitFor();
  await page.getByLabel('Name of the room').first().scrollIntoViewIfNeeded();
});
// The page of a large event at both sizes, side by side.
const made = await odalys.request.post(`/api/events/${symposium}/preview`, { headers: { origin: base } });
const { token } = await made.json();
const halves = [];
for (const phone of [false, true]) {
  const page = await pageOf(null, phone);
  await page.goto(`/p/${token}?style=programme`);
  const programme = page.getByRole('heading', { name: 'Programme' });
  await programme.waitFor();
  await programme.evaluate((h) => h.scrollIntoView());
  await page.evaluate(() => document.fonts.ready);
  halves.push(await page.screenshot());
}
await sharp({ create: { width: 1690, height: 844, channels: 3, background: '#b9ae9b' } })
  .composite([
    { input: halves[0], left: 0, top: 0 },
    { input: halves[1], left: 1300, top: 0 },
  ])
  .png()
  .toFile(join(out, 'public-large.png'));
say('  public-large.png');
await take(odalys, `/events/${water}/registration`, 'event-registration', settled('.seats'));
await take(odalys, `/events/${water}/crew`, 'event-crew', settled('.table'));
await take(odalys, '/contacts', 'contacts', settled('.table'));
// Of those seen lately the one of whom most is known.
const seen = (await (await odalys.request.get('/api/contacts?sort=seen&limit=400')).json()).contacts;
const records = [];
for (const c of seen) records.push(await (await odalys.request.get(`/api/contacts/${c.id}`)).json());
const richness = (c) =>
  [
    c.tags.length,
    c.notes.length,
    c.related.length,
    c.companions.length,
    c.emails.length,
    c.phones.length,
    c.fields.some((f) => f.value),
    c.totals.hours,
    c.totals.givenEver,
    c.totals.attended > 5,
  ].filter(Boolean).length + new Set(c.ties.map((t) => t.kind)).size;
const known = records.sort((a, b) => richness(b) - richness(a))[0];
await take(odalys, `/contacts/${known.id}`, 'contact', settled('ol li'));
await take(odalys, '/ledger', 'ledger', settled('.table'));
await take(odalys, '/records', 'records', settled('.apexcharts-bar-area'));
await take(odalys, '/tray', 'tray', settled('.table'));
await take(odalys, '/import', 'import', async (page) => {
  await page.locator('input[type=file]').setInputFiles(join(root, 'tests/data/members.csv'));
  await page.getByRole('button', { name: /^New [1-9]/u }).waitFor();
});
await take(odalys, '/contacts/review', 'review', async (page) => {
  await page.locator('main table').waitFor();
  // One that is not plain.
  await page.getByText('needs a person to decide').or(page.locator('main table')).first().waitFor();
  for (let n = 0; n < 80 && !(await page.getByText('needs a person to decide').count()); n += 1)
    await page.keyboard.press('j');
});
await take(odalys, '/records/segments', 'segment', async (page) => {
  await page.getByRole('link', { name: 'Come often, never gave' }).click();
  await page.locator('fieldset select').first().waitFor();
  await page.getByText(/^of 1,/u).waitFor();
});
await take(
  await pageOf(null, true),
  '/e/open-water-day-2026-08-08',
  'public-event',
  settled('.pub:not(.early) h2'),
);
// The door team begins at the one door of today.
await take(await pageOf('door@brackenmere.example', true), '/doors', 'door', settled('li'));
await browser.close();
server.kill('SIGTERM');
await new Promise((r) => server.on('exit', r));
rmSync(folder, { recursive: true, force: true });
