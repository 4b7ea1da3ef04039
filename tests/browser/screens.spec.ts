import { checkAccess, expect, pageOf, test } from './site.ts';

test('the places of the coordinator are reachable by keyboard, and axe finds nothing wrong in light and dark, nor on a phone', async ({
  browser,
  site,
}) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  // In both themes and both sizes.
  for (const [colorScheme, width, height] of [
    ['light', 1280, 800],
    ['dark', 390, 844],
  ] as const) {
    await page.emulateMedia({ colorScheme });
    await page.setViewportSize({ width, height });
    for (const [path, heading] of [
      ['/desk', 'Thursday 9 July'],
      ['/season', 'Season'],
      ['/contacts', 'Contacts'],
      ['/ledger', 'Ledger'],
      ['/records', 'Records'],
      ['/tray', 'Tray'],
      ['/team', 'Team and roles'],
      ['/team/registers', 'Places, units, funds and waivers'],
      ['/import', 'Bring people in'],
      ['/contacts/review', 'Who is who'],
      ['/records/segments', 'Segments'],
    ] as const) {
      await page.goto(path);
      await expect(page.getByRole('heading', { name: heading })).toBeVisible();
      await checkAccess(page);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(
        width,
      );
    }
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('roles see their places only, and signing out ends it', async ({ browser, site }) => {
  const page = await pageOf(browser, site, 'Wilhelmina Nguyen');
  // The door team begins at its doors, and has nothing else.
  await page.waitForURL(/\/doors/u);
  await page.goto('/doors?all');
  await expect(page.getByRole('heading', { name: 'Doors today' })).toBeVisible();
  await expect(page.getByRole('navigation')).toHaveCount(0);
  await page.goto('/desk');
  await page.waitForURL(/\/doors/u);
  await page.goto('/doors?all');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL('**/sign-in');
  await page.goto('/desk');
  await page.waitForURL('**/sign-in?back=%2Fdesk');
});

test('public pages speak French, and say plainly what is not there', async ({ browser, site }) => {
  const page = await pageOf(browser, site, null, true);
  await page.goto(`${site.origin}/`);
  await expect(page.getByRole('heading', { name: 'Coming events' })).toBeVisible();
  await page.getByRole('button', { name: 'Français' }).click();
  await expect(page.getByRole('heading', { name: 'Activités à venir' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.lang)).toBe('fr');
  const missing = await page.goto(`${site.origin}/e/nothing-here`);
  expect(missing?.status()).toBe(404);
  await expect(page.getByRole('heading', { name: "Cette page n'existe pas" })).toBeVisible();
  await page.goto(`${site.origin}/m/altered-link-that-leads-nowhere`);
  await expect(page.getByRole('heading', { name: "Cette page n'existe pas" })).toBeVisible();
});
