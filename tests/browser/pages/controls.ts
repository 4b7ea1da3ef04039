import { expect, type Locator, type Page } from '@playwright/test';

/** Ticks a box or picks one of a few. The control is drawn by its label, which takes the click for it. */
export const tick = (box: Locator): Promise<void> => box.check({ force: true });

/** Ticks every box within something. */
export async function tickAll(within: Locator): Promise<void> {
  for (const box of await within.getByRole('checkbox').all()) await tick(box);
}

/**
 * Walks by Tab, and by nothing else, until something has the focus. Fails when it cannot be reached so.
 */
export async function tabTo(page: Page, to: Locator, most = 80): Promise<void> {
  await expect(to).toBeVisible();
  for (let step = 0; step < most; step += 1) {
    if (await to.evaluate((el) => el === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Not reached by Tab within ${most} steps: ${to}`);
}

/** Reaches something by Tab and presses Enter. */
export async function pressByKey(page: Page, button: Locator): Promise<void> {
  await tabTo(page, button);
  await page.keyboard.press('Enter');
}

/** Reaches a field by Tab and types. */
export async function typeByKey(page: Page, field: Locator, text: string): Promise<void> {
  await tabTo(page, field);
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type(text);
}
