import { openEvent, orderFor } from '../api/scenes.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('what is owed is paid by cheque, a part of it goes back, and the accounts add up', async ({
  browser,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Paid Later', price: 2500 });
  const odalys = await callers(site).as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given: 'Greta', family: 'Owing' }]),
  });
  const page = await pageOf(browser, site, 'Marit Solvang');
  await page.goto('/ledger');
  await page.getByRole('button', { name: 'Owed', exact: true }).click();
  const row = page.getByRole('row').filter({ hasText: 'Greta Owing' });
  await expect(row).toContainText('$25');
  await checkAccess(page);
  await row.getByRole('button', { name: /^Record money/u }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('$25 still to come.')).toBeVisible();
  await expect(dialog.getByLabel('Amount')).toHaveValue('25.00');
  await checkAccess(page);
  // A nought too many, and why something is let off, are said beside their fields.
  await dialog.getByText('Some of it is let off').click();
  await dialog.getByLabel('Amount').fill('250');
  await dialog.getByRole('button', { name: 'Let $250 off' }).click();
  await expect(dialog.getByText('Say why', { exact: false }).first()).toBeVisible();
  await dialog.getByText('Money came in').click();
  await dialog.getByLabel('How').selectOption('by cheque');
  await dialog.getByLabel('Reference').fill('cheque 118');
  await dialog.getByRole('button', { name: 'Record $25' }).click();
  await expect(page.getByText('Nobody owes anything', { exact: false })).toBeVisible();

  await page.goto(`/events/${event.id}/registration`);
  await page.getByRole('row').filter({ hasText: 'Greta' }).getByRole('cell').nth(2).click();
  await page.getByRole('button', { name: 'Money', exact: true }).click();
  await dialog.getByText('Money goes back').click();
  await dialog.getByLabel('Amount').fill('10');
  await dialog.getByLabel('Why').fill('it rained');
  await dialog.getByRole('button', { name: 'Pay $10 back' }).click();
  await expect(page.getByText('It goes back.')).toBeVisible();

  await page.goto('/ledger?show=accounts');
  const account = (name: string) => page.getByRole('row').filter({ hasText: name });
  await expect(account('Cash and cheques')).toContainText('$15');
  await expect(account('Money back as a favour')).toContainText('$10');
  await expect(account('In all')).toContainText('$25');
  await page.getByLabel('Period').selectOption('Last month');
  await expect(page.getByText('Nothing was posted then.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Show everything' }).click();

  // What an account is made of: of one event, of one person.
  await account('Money back as a favour').click();
  await expect(page.getByRole('heading', { name: 'Money back as a favour: every entry' })).toBeVisible();
  await page.getByLabel('Event').selectOption(event.id);
  await expect(page.getByRole('row').filter({ hasText: 'Greta Owing' })).toContainText('$10');
  await page.getByRole('combobox', { name: 'Person' }).fill('Greta Ow');
  await page.getByRole('option', { name: /Greta Owing/u }).click();
  await expect(page.getByRole('row').filter({ hasText: 'In all' })).toContainText('$10');
  await checkAccess(page);
  await page.getByRole('button', { name: 'All accounts' }).click();
  await expect(account('Cash and cheques')).toContainText('$15');
});

test('a month is settled with a file of the bank, by keyboard; what was wrong is taken back', async ({
  browser,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Banked', price: 4000 });
  const odalys = await callers(site).as('odalys');
  const marit = await callers(site).as('marit');
  for (const [given, method] of [
    ['Tove', 'transfer'],
    ['Chic', 'cheque'],
    ['Olive', null],
  ] as const) {
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given, family: 'Banker' }]),
    });
    if (!method) continue;
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await marit.call('POST /api/orders/:id/payments', {
      params: { id: rows.find((r) => r.given === given)!.orderId },
      body: { method, amount: 4000, reason: '' },
    });
  }
  const day = site.started.app.clock.now().slice(0, 10);
  const page = await pageOf(browser, site, 'Marit Solvang');
  await page.goto('/ledger?show=bank');
  await expect(page.getByText('No file of the bank was brought in yet.', { exact: false })).toBeVisible();
  const bring = (lines: string) =>
    page
      .getByLabel('Bring in a file of the bank')
      .last()
      .setInputFiles({
        name: 'july.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(`Date,Description,Amount\n${lines}`),
      });
  await bring(
    `${day},E-TRANSFER TOVE BANKER,40.00\n${day},DEPOSIT CHIC BANKER,40.00\n${day},E-TRANSFER OLIVE BANKER,40.00\n${day},SERVICE CHARGE,-7.50\nsoon,broken,1\n`,
  );
  await expect(page.getByText('0 of 4 lines settled')).toBeVisible();
  await expect(page.getByText('1 line could not be read: 6.')).toBeVisible();
  await checkAccess(page);
  const list = page.getByRole('list', { name: 'To settle' });
  const line = (words: RegExp) => list.getByRole('listitem').filter({ hasText: words });
  // Three are settled without the mouse; what stands first is the likeliest, by name.
  for (const words of [/TRANSFER TOVE/u, /DEPOSIT CHIC/u, /TRANSFER OLIVE/u]) {
    await line(words).focus();
    await page.keyboard.press('Enter');
    await expect(line(words)).toHaveCount(0);
  }
  await line(/SERVICE/u)
    .getByRole('button', { name: 'Something else' })
    .click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What it is').fill('monthly');
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Every line of the bank is settled.')).toBeVisible();
  await expect(page.getByText('4 of 4 lines settled')).toBeVisible();
  // The same file again brings nothing; days that can be read either way are asked about.
  await bring(`${day},SERVICE CHARGE,-7.50\n`);
  await expect(page.getByText('0 lines brought in, 1 known already.')).toBeVisible();
  await bring('03/04/2026,either,5.00\n');
  await page.getByRole('button', { name: 'Month first', exact: false }).click();
  await expect(line(/either/u)).toContainText('4 Mar');
  await page.getByRole('button', { name: 'Take back: SERVICE CHARGE' }).click();
  await expect(line(/SERVICE/u)).toBeVisible();

  await page.getByRole('button', { name: 'Accounts', exact: true }).click();
  await page.getByRole('button', { name: 'Codes of accounts' }).click();
  await dialog.getByLabel('Bank', { exact: true }).fill('1010');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Bank' })).toContainText('$120');
});

test('the account of an event: planned, spent, taken back', async ({ browser, site }) => {
  const event = await openEvent(callers(site), { title: 'Accounted', price: 4000, capacity: 20 });
  const page = await pageOf(browser, site, 'Marit Solvang');
  await page.goto(`/events/${event.id}/wrap-up`);
  await expect(
    page.getByText('Nothing is planned yet, and nothing came or went.', { exact: false }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Plan it' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Amount').first().fill('40');
  await dialog.getByLabel('Name').nth(1).fill('Hall');
  await dialog.getByLabel('Amount').nth(1).fill('300');
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('It pays for itself from 8 people on.')).toBeVisible();
  await page.getByRole('button', { name: 'Record a cost' }).click();
  await dialog.getByLabel('What it was for').fill('Town Hall');
  await dialog.getByLabel('Amount').fill('310');
  await dialog.getByLabel('Line of the plan').selectOption('Hall');
  await dialog.getByRole('button', { name: 'Record a cost' }).click();
  await expect(page.getByText('-$310', { exact: false })).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Take back: Town Hall' }).click();
  await expect(page.getByRole('button', { name: 'Take back: Town Hall' })).toHaveCount(0);
  // For receipts: what a seat is worth, and what is shared out beside it.
  await page.getByRole('button', { name: 'What a seat is worth' }).click();
  await expect(
    dialog.getByText('Guided paddle, $40: nobody said what it is worth', { exact: false }),
  ).toBeVisible();
  await dialog.getByLabel('What that is worth for each seat').fill('4');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog.getByText('Say what it is.').first()).toBeVisible();
  await dialog.getByLabel('What is shared out beside it').fill('a jar of honey');
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
});
