import { existsSync } from 'node:fs';
import { type Browser, chromium, type Page } from '@playwright/test';

/** Chromium as the benches use it. */
export async function openBrowser(more: readonly string[] = []): Promise<Browser> {
  const executablePath = process.env.CHROMIUM ?? '/usr/bin/chromium';
  if (!existsSync(executablePath)) throw new Error('This bench needs Chromium; set CHROMIUM to its path.');
  return chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--no-first-run',
      ...more,
    ],
  });
}

/** How long the frames took that were drawn while something was done. */
export async function framesOf(page: Page, act: () => Promise<unknown>): Promise<number[]> {
  // As text: what names functions while this is run would name them with a helper that the page has not.
  await page.evaluate(`{
    let before = performance.now();
    window.frameTimes = [];
    window.frameOn = true;
    requestAnimationFrame(function next(now) {
      window.frameTimes.push(now - before);
      before = now;
      if (window.frameOn) requestAnimationFrame(next);
    });
  }`);
  await act();
  return page.evaluate(() => {
    const w = window as unknown as { frameOn: boolean; frameTimes: number[] };
    w.frameOn = false;
    return w.frameTimes.slice(2);
  });
}
