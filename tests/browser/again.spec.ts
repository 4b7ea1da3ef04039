import { openEvent } from '../api/scenes.ts';
import { FrameOf } from './pages/frame.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

/** The most that may lie between Season and the complete draft of last year's event. */
const mostActions = 6;

test('last year’s event is planned again in a few actions; begun without a date, its times and shifts wait', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Marsh Day',
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T16:30',
    price: 1200,
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: { role: 'Gate', startsLocal: '2026-08-08T08:30', endsLocal: '2026-08-08T12:00', wished: 2 },
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  let actions = 0;
  const act = async (does: Promise<unknown>) => {
    actions += 1;
    await does;
  };

  await test.step('from its row in Season, on the same Saturday of next year', async () => {
    await page.goto('/season');
    const row = page.getByRole('row').filter({ hasText: 'Marsh Day' });
    await act(row.getByRole('button', { name: 'Plan it again' }).click());
    const dialog = page.getByRole('dialog', { name: 'Plan Marsh Day again' });
    await expect(dialog.getByLabel('Public title')).toHaveValue('Marsh Day');
    await checkAccess(page);
    await act(dialog.getByRole('button', { name: 'The same Saturday: 7 Aug 2027' }).click());
    await expect(dialog.getByText(/^a Saturday, \d+ days from now/u)).toBeVisible();
    await act(dialog.getByRole('button', { name: 'Begin', exact: true }).click());
    await page.waitForURL('**/plan');
    await expect(page.getByText('Saturday 7 August 2027, 09:00–16:30')).toBeVisible();
    await expect(page.getByLabel('Price', { exact: true })).toHaveValue('12.00');
    expect(actions).toBeLessThanOrEqual(mostActions);
    // What did not come along, and what can be done about it.
    await page.getByText('What was left behind').click();
    await page.getByRole('link', { name: 'Fill the shifts' }).first().click();
    await expect(page.getByRole('heading', { name: '0 of 2 places filled' })).toBeVisible();
  });

  await test.step('found by what is typed, grouped, and begun without a date', async () => {
    await page.goto('/season');
    await expect(page.getByRole('heading', { name: 'Season' })).toBeVisible();
    await page.keyboard.press('n');
    const dialog = page.getByRole('dialog', { name: 'Plan an event' });
    await dialog.getByLabel('Begin from').first().fill('marsh');
    await expect(dialog.getByText('7 Aug 2027 · 2 times')).toBeVisible();
    await dialog.getByRole('button', { name: 'Marsh Day' }).click();
    await page.getByRole('button', { name: 'Begin', exact: true }).click();
    await page.waitForURL('**/plan');
    await expect(page.getByText(/it began at 09:00\) and 1 shift wait/u)).toBeVisible();
    await checkAccess(page);
    await page.getByLabel('Date', { exact: true }).fill('2027-09-11');
    await page.getByLabel('Begins', { exact: true }).fill('09:00');
    await expect(page.getByText('Saturday 11 September 2027, 09:00–16:30')).toBeVisible();
    await expect(page.getByLabel('Ends', { exact: true })).toHaveValue('16:30');
    await new FrameOf(page).stage('Crew');
    await expect(page.getByRole('heading', { name: '0 of 2 places filled' })).toBeVisible();
  });

  await test.step('from the search, and from the event itself', async () => {
    await page.keyboard.press('/');
    await page.keyboard.type('marsh day');
    await page.getByRole('option', { name: 'Plan Marsh Day again' }).click();
    await expect(page.getByRole('dialog', { name: 'Plan Marsh Day again' })).toBeVisible();
    await page.goto(`/events/${event.id}/plan`);
    await page.getByRole('button', { name: 'More to do with this event' }).click();
    await page.getByRole('menuitem', { name: 'Plan it again' }).click();
    await expect(page.getByText('As on 8 Aug 2026.')).toBeVisible();
  });
  await page.context().close();
});
