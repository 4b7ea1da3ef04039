import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { build, type PreviewServer, preview } from 'vite';
import { checkAccess, checkContrast, expect, test } from './site.ts';

const config = join(import.meta.dirname, '../../vite.kit.config.ts');
let served: PreviewServer;

test.beforeAll(async () => {
  await build({ configFile: config, logLevel: 'silent' });
  served = await preview({ configFile: config, logLevel: 'silent', preview: { port: 0, open: false } });
});
test.afterAll(() => served.close());

for (const colorScheme of ['light', 'dark'] as const)
  for (const [width, height] of [
    [1280, 800],
    [390, 844],
  ] as const)
    test(`every part of the kit, ${colorScheme}, ${width} wide: axe finds nothing wrong, nothing is cut off`, async ({
      browser,
    }) => {
      // Contrast is the same however wide a page is.
      const check = async (at: Page) => {
        await checkAccess(at);
        if (width === 1280) await checkContrast(at);
      };
      const context = await browser.newContext({ viewport: { width, height }, colorScheme });
      const page = await context.newPage();
      page.on('pageerror', (error) => {
        throw error;
      });
      await page.goto(`${served.resolvedUrls!.local[0]}kit.html`);
      await page.getByRole('button', { name: 'Add the shift' }).click();
      await expect(page.getByText(/things to correct/u)).toBeVisible();
      await expect(page.getByLabel('Role')).toBeFocused();
      await check(page);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      await page.getByRole('button', { name: 'Ask' }).click();
      await expect(page.getByRole('dialog', { name: 'Call off?' })).toBeVisible();
      await check(page);
      await page.keyboard.press('Escape');
      await page.getByRole('button', { name: 'Look beside' }).click();
      await expect(page.getByRole('dialog', { name: 'Person' })).toBeVisible();
      await page.keyboard.press('Escape');
      await page.getByRole('button', { name: 'Say', exact: true }).click();
      await expect(page.getByText('Withdrawn')).toBeVisible();
      await page.getByLabel('Event').fill('otter');
      await expect(page.getByRole('option', { name: /Fen Talk/u })).toBeVisible();
      await check(page);
      await context.close();
    });
