import { checkAccess, emptySite, expect, pageOf, test } from './site.ts';

test('the first visit sets the organization up, and its first coordinator begins', async ({ browser }) => {
  const site = await emptySite();
  const page = await pageOf(browser, site, null);
  await page.goto('/');
  await page.waitForURL('**/setup');
  await expect(page.getByRole('heading', { name: 'Set up your organization' })).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByRole('alert').first()).toBeVisible();

  await page.getByLabel('Organization', { exact: true }).fill('Tarn Hill');
  await page.getByLabel('Country').selectOption({ label: 'Ireland' });
  await page.getByLabel('Currency').selectOption({ label: 'Euro (EUR)' });
  await page.getByLabel('Time zone').fill('Europe/Dublin');
  await page.getByLabel('Email address messages come from').fill('walks@tarnhill.example');
  await page.getByLabel('Your name').fill('Esme Vallow');
  await page.getByLabel('Your email').fill('esme@tarnhill.example');
  await page.getByLabel('Your password').fill('a long pebble path');
  await page.getByRole('button', { name: 'Set up' }).click();
  // Signed in already.
  await page.waitForURL('**/desk');
  await expect(page.getByRole('link', { name: 'Tarn Hill', exact: true })).toBeVisible();

  // An empty organization says what to begin with; what was said when it was set up can be put right.
  await page.getByRole('link', { name: 'Plan an event' }).click();
  await expect(page.getByRole('dialog', { name: 'Plan an event' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.goto('/team/organization');
  await page.getByLabel('Organization', { exact: true }).fill('Tarn Hill Ramblers');
  await page.getByRole('button', { name: 'Save', exact: true }).first().click();
  await expect(page.getByRole('link', { name: 'Tarn Hill Ramblers' })).toBeVisible();
  await page.goto('/team/registers');
  await page.getByRole('button', { name: 'Add a unit' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Wlakers');
  await page.getByRole('dialog').getByRole('button', { name: 'Add a unit' }).click();
  await page.getByRole('button', { name: 'Rename Wlakers' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Walkers');
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('button', { name: 'Rename Walkers' })).toBeVisible();

  // Setting up happens once; the public sees its listing now.
  await page.goto('/setup');
  await expect(page).not.toHaveURL(/setup/u);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Coming events' })).toBeVisible();
  await page.context().close();
  await site.stop();
});
