import { chromium } from '@playwright/test';
import QRCode from 'qrcode';
import { openEvent, orderFor } from '../api/scenes.ts';
import { cameraThatSees } from './camera.ts';
import { callers, expect, pageOf, test } from './site.ts';

test('a picture of the pass is read at the door; one of nothing says so', async ({ browser, site }) => {
  const world = callers(site);
  const event = await openEvent(world, {
    title: 'Lantern Row',
    startsLocal: '2026-07-09T19:00',
    endsLocal: '2026-07-09T21:00',
  });
  const odalys = await world.as('odalys');
  await odalys.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Perrin', family: 'Askew' }]),
  });
  const [seat] = await site.started.app.db.query<{ passCode: string }>(
    "select pass_code from registrations where event_id = $1 and state = 'confirmed'",
    [event.id],
  );
  const page = await pageOf(browser, site, 'Odalys Ferrant', true);
  await page.goto(`/doors/${event.id}`);
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  // There is no camera here, and the page says what else can be done.
  await expect(page.getByText('No camera is available.')).toBeVisible();
  const choose = page.getByLabel('Choose a picture');
  await choose.setInputFiles({
    name: 'nothing.png',
    mimeType: 'image/png',
    buffer: Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    ),
  });
  await expect(page.getByText('No readable code was found in this picture.')).toBeVisible();
  await choose.setInputFiles({
    name: 'pass.png',
    mimeType: 'image/png',
    buffer: await QRCode.toBuffer(seat!.passCode, { width: 400, margin: 3 }),
  });
  await expect(page.getByRole('alert').getByText('Perrin Askew')).toBeVisible();
  await page.getByRole('alert').getByRole('button', { name: 'Arrive' }).click();
  await expect(page.getByText('1 of 1 arrived')).toBeVisible();
  await page.context().close();
});

test('the camera reads one pass after the other, and waits while somebody is being dealt with', async ({
  site,
}, info) => {
  const world = callers(site);
  const event = await openEvent(world, {
    title: 'Lantern Walk',
    startsLocal: '2026-07-09T19:00',
    endsLocal: '2026-07-09T21:00',
  });
  const odalys = await world.as('odalys');
  await odalys.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [
      { given: 'Perrin', family: 'Askew' },
      { given: 'Quilla', family: 'Askew' },
    ]),
  });
  const seats = await site.started.app.db.query<{ passCode: string }>(
    "select pass_code from registrations where event_id = $1 and state = 'confirmed' order by given_name",
    [event.id],
  );
  const camera = cameraThatSees(seats.map((s) => s.passCode));
  const launch = info.project.use.launchOptions ?? {};
  const browser = await chromium.launch({ ...launch, args: [...(launch.args ?? []), ...camera.args] });
  const page = await pageOf(browser, site, 'Odalys Ferrant', true);
  await page.goto(`/doors/${event.id}`);
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  const answer = page.getByRole('alert');
  // The film begins again: whoever was let in may be before the camera once more.
  await page.addLocatorHandler(answer.getByText('Already in'), () =>
    answer.getByRole('button', { name: 'Close' }).click(),
  );
  const first = (await answer.getByText(/^(?:Perrin|Quilla) Askew$/u).textContent())!;
  await answer.getByRole('button', { name: 'Arrive' }).click();
  // The camera goes on by itself, and the next pass is the other one's.
  const second = first === 'Perrin Askew' ? 'Quilla Askew' : 'Perrin Askew';
  await expect(answer.getByText(second)).toBeVisible();
  await answer.getByRole('button', { name: 'Arrive' }).click();
  await expect(page.getByText('2 of 2 arrived')).toBeVisible();
  await browser.close();
  camera.remove();
});
