import { openEvent, orderFor } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a line by text message is added, copied, moved, taken away and had back, sent by hand; one person’s messages are seen, and sent to oneself', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Reed Morning', capacity: 20 });
  const odalys = await staff.as('odalys');
  for (const [given, phone] of [
    ['Ida', '902 555 0141'],
    ['Ole', '902 555 0142'],
    ['Una', ''],
  ] as const) {
    const order = orderFor(event, [{ given, family: 'Sedge' }]);
    await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...order, buyer: { ...order.buyer, ...(phone && { phone }) } },
    });
  }
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/messages`);
  const dialog = page.getByRole('dialog');
  const sheet = page.getByRole('region', { name: 'Messages' });
  const lineOf = (name: string) =>
    sheet.getByRole('listitem').filter({ has: page.getByRole('button', { name, exact: true }) });
  const more = async (name: string, entry: string) => {
    await page.getByRole('button', { name: `More to do with ${name}`, exact: true }).click();
    await page.getByRole('menuitem', { name: entry }).click();
  };

  // Whatever sign is typed, before stays before; what goes by text is counted as it is sent.
  await page.getByRole('button', { name: 'Add a line' }).click();
  await dialog.getByLabel('Moment').selectOption({ label: 'the start' });
  await dialog.getByLabel('Days').fill('');
  await dialog.getByLabel('Hours', { exact: true }).fill('-1');
  await dialog.getByLabel('Minutes').fill('10');
  await expect(dialog.getByText('1 hour 10 minutes before the start')).toBeVisible();
  await dialog.getByLabel('Sent by').selectOption('text message');
  await expect(dialog.getByLabel('Text', { exact: true })).toHaveValue(/^\{\{event\}\}: \{\{when\}\}/u);
  await dialog.getByLabel('Text', { exact: true }).fill('See you at {{evnt}}.');
  await expect(dialog.getByText('“evnt” is not a merge field.')).toBeVisible();
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog.getByText('Give the line a name.').first()).toBeVisible();
  await dialog.getByLabel('Name').fill('See you');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog.getByText(/is not a merge field/u).first()).toBeVisible();
  await dialog.getByLabel('Text', { exact: true }).fill('See you at {{event}}, {{name}}.');
  await expect(dialog.getByText('1 message, 121 more characters')).toBeVisible();
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(lineOf('See you')).toContainText(
    '1 hour 10 minutes before the start, by text message to attendees · first Sat 8 Aug, 07:50',
  );
  await expect(lineOf('See you')).toContainText('2 planned');

  // A copy waits until it was looked at.
  await more('See you', 'Copy it');
  await expect(lineOf('See you, again')).toContainText('switched off');
  await more('See you, again', 'Move up');
  await expect(sheet.getByRole('listitem').last()).toContainText('first Sat 8 Aug, 07:50');
  await more('See you, again', 'Remove it');
  await expect(lineOf('See you, again')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(lineOf('See you, again')).toBeVisible();
  await more('See you, again', 'Remove it');
  await expect(lineOf('See you, again')).toHaveCount(0);

  // Switched off it holds everything back, and gives it back.
  await tick(page.getByRole('checkbox', { name: 'Survey is on' }));
  await page.getByRole('checkbox', { name: 'Reminder, an hour before is on' }).uncheck({ force: true });
  await expect(lineOf('Reminder, an hour before')).toContainText('switched off');
  await page.getByRole('checkbox', { name: 'Reminder, an hour before is on' }).check({ force: true });
  await expect(lineOf('Reminder, an hour before')).toContainText('3 planned');

  await more('See you', 'Send now');
  await expect(dialog.getByText('It goes to 2 people: Ida Sedge, Ole Sedge.')).toBeVisible();
  await expect(dialog.getByText('Whoever comes later still gets it')).toBeVisible();
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Send it to 2 people' }).click();
  await expect(lineOf('See you')).toContainText('2 sent');
  await expect(lineOf('See you')).toContainText('sent by hand');
  expect(await site.started.app.db.query('select number, body from standin_texts order by number')).toEqual([
    { number: '+19025550141', body: 'See you at Reed Morning, Ida.' },
    { number: '+19025550142', body: 'See you at Reed Morning, Ole.' },
  ]);

  // What will Una get, and when?
  await page.getByRole('button', { name: 'Person by person' }).click();
  await page.getByLabel('Whose messages').fill('una');
  await page.getByRole('option', { name: /Una Sedge/u }).click();
  const row = (name: string) => sheet.getByRole('row').filter({ hasText: name });
  await expect(row('Confirmation')).toContainText('sent');
  await expect(row('Reminder, a day before')).toContainText('Fri 7 Aug, 09:00');
  await expect(row('See you')).toContainText('no mobile number');
  await expect(row('Waiver still missing')).toContainText('no waiver is asked at this event');
  await checkAccess(page);
  await row('Reminder, a day before').getByRole('button', { name: 'preview' }).click();
  await expect(dialog.getByText('Tomorrow: Reed Morning')).toBeVisible();
  await expect(dialog.frameLocator('iframe').getByText('Hello Una,')).toBeVisible();
  await dialog.getByRole('button', { name: 'Send a test to yourself' }).click();
  await expect(page.getByText('A test is on its way to odalys@brackenmere.example.')).toBeVisible();
  await page.context().close();
});

test('quiet hours are set for the organization, and what can wait moves', async ({ browser, site }) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Late Paddle', endsLocal: '2026-08-08T21:00' });
  await (await staff.as('odalys')).call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Ida', family: 'Sedge' }]),
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/team/organization');
  await page.getByRole('checkbox', { name: 'Nothing that can wait is sent at night' }).check({ force: true });
  const quiet = page.locator('section').filter({ has: page.getByRole('heading', { name: 'Quiet hours' }) });
  await quiet.getByLabel('Until').fill('09:15');
  await quiet.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saved').first()).toBeVisible();
  await checkAccess(page);
  await page.goto(`/events/${event.id}/messages`);
  await expect(page.getByText(/first Sun 9 Aug, 09:15/u)).toBeVisible();
  await page.context().close();
});

test('everything is stopped in one step, is seen to be, and goes on', async ({ browser, site }) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Halted Walk' });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/tray');
  await page.getByRole('button', { name: 'Stop everything' }).click();
  await expect(page.getByText('No message leaves from now on')).toBeVisible();
  await checkAccess(page);
  await page.getByRole('dialog').getByRole('button', { name: 'Stop everything' }).click();
  await expect(page.getByText('Nothing is sent: Odalys Ferrant stopped it')).toBeVisible();
  await (await staff.as('odalys')).call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Ida', family: 'Sedge' }]),
  });
  await page.goto('/desk');
  await expect(page.getByText('Odalys Ferrant stopped it. One message is due and waits.')).toBeVisible();
  await page.getByRole('link', { name: 'Open the Tray' }).click();
  await expect(page.getByText('1 message is due and waits.')).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Let it go on' }).click();
  await expect(page.getByRole('button', { name: 'Stop everything' })).toBeVisible();
  await page.goto(`/events/${event.id}/messages`);
  await expect(page.getByRole('listitem').filter({ hasText: 'Confirmation' }).first()).toContainText(
    '1 sent',
  );
  await page.context().close();
});
