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

  await page.getByLabel('Organization', { exact: true }).fill('Tarn Hill Ramblers');
  await page.getByLabel('Email address messages come from').fill('walks@tarnhill.example');
  await page.getByLabel('Your name').fill('Esme Vallow');
  await page.getByLabel('Your email').fill('esme@tarnhill.example');
  await page.getByLabel('Your password').fill('a long pebble path');
  await page.getByRole('button', { name: 'Set up' }).click();
  await page.waitForURL('**/sign-in');
  await page.getByLabel('Email', { exact: true }).fill('esme@tarnhill.example');
  await page.getByLabel('Password').fill('a long pebble path');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/desk');
  await expect(page.getByRole('link', { name: 'Tarn Hill Ramblers' })).toBeVisible();

  // Setting up happens once; the public sees its listing now.
  await page.goto('/setup');
  await expect(page).not.toHaveURL(/setup/u);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Coming events' })).toBeVisible();
  await page.context().close();
  await site.stop();
});
