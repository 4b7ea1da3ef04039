import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { type Browser, test as base, expect, type Page } from '@playwright/test';
import { demoPassword, demoSignIns } from '../../src/server/staff/demoSignIns.ts';
import { type Started, start } from '../../src/server/start.ts';
import { Caller } from '../api/caller.ts';
import { fillFolder, templateFolder } from '../api/founded.ts';
import type { World } from '../api/harness.ts';
import { makeWhereMissing } from '../api/template.ts';

/** The product, running on a fresh copy of the founded organization. */
export interface Site {
  origin: string;
  started: Started;
}

/** Each test has an organization of its own, so that none finds what another left, whatever ran before it. */
export const test = base.extend<{ site: Site }>({
  site: [
    // biome-ignore lint/correctness/noEmptyPattern: fixtures take their dependencies by destructuring
    async ({}, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'acolyte-browser-'));
      if (!existsSync(templateFolder)) await makeWhereMissing();
      fillFolder(folder);
      const started = await start({
        folder,
        port: 0,
        demoSignIns,
        quiet: true,
        limits: { publicWrites: 10_000, signIns: 10_000 },
      });
      const origin = `http://localhost:${started.port}`;
      started.app.origin = origin;
      await use({ origin, started });
      await started.stop();
      rmSync(folder, { recursive: true, force: true });
    },
    { timeout: 60_000 },
  ],
});
export { expect };

/** Calls the site's API as somebody of the staff, for what a test needs to be there before it begins. */
export function callers(site: Site): Pick<World, 'as'> {
  return {
    async as(who) {
      const caller = new Caller(site.origin);
      await caller.call('POST /api/sign-in', {
        body: { email: `${who}@brackenmere.example`, password: demoPassword },
      });
      return caller;
    },
  };
}

/** The product on an empty folder, as it is before its organization is set up. */
export async function emptySite(): Promise<Site & { stop: () => Promise<void> }> {
  const folder = mkdtempSync(join(tmpdir(), 'acolyte-empty-'));
  const started = await start({ folder, port: 0, quiet: true });
  const origin = `http://localhost:${started.port}`;
  started.app.origin = origin;
  return {
    origin,
    started,
    async stop() {
      await started.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A page of somebody's own, signed in by the list on the sign-in page. */
export async function pageOf(
  browser: Browser,
  site: Site,
  name: string | null,
  phone = false,
): Promise<Page> {
  const context = await browser.newContext({
    baseURL: site.origin,
    hasTouch: phone,
    viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
  });
  const page = await context.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
  if (name) {
    await page.goto('/sign-in');
    await page
      .getByRole('listitem')
      .filter({ hasText: name })
      .getByRole('button', { name: 'Sign in' })
      .click();
    await page.waitForURL(/\/(?:desk|doors)/u);
  }
  return page;
}

// No page has frames of its own: without looking for them axe takes half the time.
/** Rules about colours. They take three quarters of the time, and are asked of every screen in both themes by themselves. */
const ofColours = ['color-contrast', 'link-in-text-block'];

/** Checks the page with axe: nothing it can find may be wrong, colours aside. */
export async function checkAccess(page: Page): Promise<void> {
  await settled(page);
  await nothingWrong(
    new AxeBuilder({ page })
      .setLegacyMode(true)
      .withTags(['wcag2a', 'wcag2aa', 'wcag21aa'])
      .disableRules(ofColours),
  );
}

/** Checks what alone another theme can change: that everything can be read. */
export async function checkContrast(page: Page): Promise<void> {
  await settled(page);
  await nothingWrong(new AxeBuilder({ page }).setLegacyMode(true).withRules(ofColours));
}

/** Waits until what is being worked out, and dimmed meanwhile, is there; what still fades is at its end. */
async function settled(page: Page): Promise<void> {
  await expect(page.locator('[aria-busy=true]')).toHaveCount(0);
  await page.evaluate(() => {
    // One without an end has no end to go to.
    for (const animation of document.getAnimations())
      if (Number.isFinite(Number(animation.effect?.getComputedTiming().endTime))) animation.finish();
  });
}

async function nothingWrong(axe: AxeBuilder): Promise<void> {
  const { violations } = await axe.analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
}

/** What the last message to an address has of a kind: a link, a code. Waits for whatever sends it. */
export async function linkTo(site: Site, address: string, path: RegExp): Promise<string> {
  let found: string | undefined;
  await expect
    .poll(
      async () => {
        await site.started.runner.run();
        const mails = await site.started.app.db.query<{ body: string }>(
          'select body from standin_mail where address = $1 order by accepted_at desc, key desc',
          [address],
        );
        found = mails.map((m) => path.exec(m.body)?.[0]).find(Boolean);
        return found;
      },
      { message: `a message to ${address} with ${path}` },
    )
    .toBeDefined();
  return found as string;
}
