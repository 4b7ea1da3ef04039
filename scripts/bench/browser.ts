import { existsSync } from 'node:fs';
import { type Browser, chromium } from '@playwright/test';

/** Chromium as the benches use it. */
export async function openBrowser(): Promise<Browser> {
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
    ],
  });
}
