import type { Locator } from '@playwright/test';

/** Ticks a box or picks one of a few. The control is drawn by its label, which takes the click for it. */
export const tick = (box: Locator): Promise<void> => box.check({ force: true });

/** Ticks every box within something. */
export async function tickAll(within: Locator): Promise<void> {
  for (const box of await within.getByRole('checkbox').all()) await tick(box);
}
