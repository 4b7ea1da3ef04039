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
  await page.getByRole('button', { name: 'Last month' }).click();
  await expect(page.getByText('Nothing was posted then.', { exact: false })).toBeVisible();
});
