import { openEvent } from '../api/scenes.ts';
import { callers, expect, pageOf, test } from './site.ts';

/** Kilobytes of script, packed as they travel, that an event page may ask for. */
const mostScript = 172;

test('an event is read before any script runs, in the language of the reader, and its scripts are few', async ({
  browser,
  site,
}) => {
  const { slug } = await openEvent(callers(site), {
    title: 'Sedge Walk',
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T12:00',
  });
  const plain = await browser.newContext({ baseURL: site.origin, javaScriptEnabled: false, locale: 'fr-CA' });
  const early = await plain.newPage();
  await early.goto(`/e/${slug}`);
  await expect(early.getByRole('heading', { name: 'Sedge Walk', level: 1 })).toBeVisible();
  await expect(early.getByText('samedi 8 août 2026')).toBeVisible();
  expect(await early.locator('html').getAttribute('lang')).toBe('fr');
  await early.goto('/');
  await expect(early.getByRole('link', { name: 'Sedge Walk' })).toBeVisible();
  await plain.close();

  const page = await pageOf(browser, site, null, true);
  const scripts: Promise<number>[] = [];
  page.on('response', (response) => {
    if (response.request().resourceType() === 'script')
      scripts.push(
        response
          .request()
          .sizes()
          .then((s) => s.responseBodySize),
      );
  });
  await page.goto(`/e/${slug}`);
  await expect(page.getByRole('link', { name: 'Register' })).toBeVisible();
  const bytes = (await Promise.all(scripts)).reduce((sum, n) => sum + n, 0);
  expect(bytes).toBeGreaterThan(50_000);
  expect(Math.round(bytes / 1000)).toBeLessThanOrEqual(mostScript);
  await page.context().close();
});
