import { openEvent } from '../api/scenes.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a page begins at its top, and one comes back to where one was', async ({ browser, site }) => {
  const event = await openEvent(callers(site), {
    title: 'Reed Morning',
    startsLocal: '2026-08-05T09:30',
    endsLocal: '2026-08-05T12:30',
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant', true);
  const down = () => page.evaluate(() => Math.round(window.scrollY));
  await page.goto(`/events/${event.id}/plan`);
  const repeat = page.getByRole('link', { name: 'Repeat it: make a series…' });
  await repeat.scrollIntoViewIfNeeded();
  const was = await down();
  expect(was).toBeGreaterThan(300);
  await repeat.click();
  await expect(page.getByRole('heading', { name: 'Make Reed Morning a series' })).toBeInViewport();
  expect(await down()).toBe(0);
  await page.goBack();
  await expect(repeat).toBeInViewport();
  expect(await down()).toBe(was);
  await page.context().close();
});

test('a page that stayed open while the product was renewed is loaded anew; without a network it says so', async ({
  browser,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Reed Morning' });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.evaluate(() => Object.assign(window, { sinceBefore: true }));
  const isSinceBefore = () => page.evaluate(() => 'sinceBefore' in window);
  const records = page.getByRole('navigation').getByRole('link', { name: 'Records' });

  await test.step('a part that is gone', async () => {
    let gone = 0;
    // As a renewed server does: the parts of before are not there, those it names now are.
    await page.route('**/assets/Records-*.js', async (route) => {
      gone += 1;
      if (await isSinceBefore()) await route.fulfill({ status: 404 });
      else await route.continue();
    });
    await records.click();
    await expect(page.getByRole('heading', { name: 'Records' })).toBeVisible();
    expect([gone > 1, await isSinceBefore()]).toEqual([true, false]);
  });

  await test.step('one that stays away is said to, once; the other pages are there', async () => {
    await page.route('**/assets/Ledger-*.js', (route) => route.fulfill({ status: 404 }));
    await page.getByRole('navigation').getByRole('link', { name: 'Ledger' }).click();
    await expect(page.getByRole('alert')).toContainText('A part of it did not arrive.');
    await checkAccess(page);
    await page.getByRole('navigation').getByRole('link', { name: 'Desk' }).click();
    await expect(page.getByRole('alert')).toHaveCount(0);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.unroute('**/assets/Ledger-*.js');
    await page.getByRole('navigation').getByRole('link', { name: 'Ledger' }).click();
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('heading', { name: 'Ledger' })).toBeVisible();
  });

  await test.step('on a public page too, in French', async () => {
    const visitor = await pageOf(browser, site, null, true);
    await visitor.goto(`/e/${event.slug}`);
    await visitor.getByRole('button', { name: 'Français' }).click();
    await visitor.context().setOffline(true);
    await visitor.getByRole('link', { name: 'S’inscrire' }).first().click();
    await expect(visitor.getByRole('alert')).toContainText('Vérifiez votre connexion');
    await visitor.context().setOffline(false);
    await visitor.getByRole('button', { name: 'Réessayer' }).click();
    await expect(visitor.getByRole('alert')).toHaveCount(0);
    await expect(visitor.getByRole('heading', { level: 1 })).toHaveText('S’inscrire');
    await visitor.context().close();
  });
  await page.context().close();
});
