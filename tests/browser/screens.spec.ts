import type { Page } from '@playwright/test';
import { saveIt } from '../api/plans.ts';
import { openEvent, orderFor } from '../api/scenes.ts';
import { callers, checkAccess, checkContrast, expect, pageOf, type Site, test } from './site.ts';

const sizes = [
  [1280, 800],
  [390, 844],
] as const;

const parts = [
  'of events, people and money',
  'of records',
  'of messages and the team',
  'of an event and the public',
] as const;

/** Every main screen: its address and the heading that says it is there. */
async function screensOf(
  site: Site,
): Promise<Record<(typeof parts)[number], [path: string, heading: string][]>> {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Screen Paddle',
    startsLocal: '2026-07-11T18:00',
    endsLocal: '2026-07-11T23:00',
    price: 1500,
    capacity: 3,
    waiver: 'On the water',
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [
      { given: 'Wen', family: 'Screen', birthDate: '1980-01-01' },
      { given: 'Xi', family: 'Screen', birthDate: '2016-01-01' },
    ]),
  });
  const { contacts } = await odalys.call('GET /api/contacts', { query: { q: 'wen screen' } });
  const { id: segment } = await odalys.call('POST /api/segments', {
    body: { name: 'Screens', segment: { all: [{ ask: 'reach', by: 'email' }] } },
  });
  const morning = await openEvent(staff, {
    title: 'Screen Morning',
    startsLocal: '2026-08-05T09:30',
    endsLocal: '2026-08-05T12:30',
  });
  const { id: series } = await odalys.call('POST /api/series', {
    body: {
      eventId: morning.id,
      rule: 'FREQ=MONTHLY;BYDAY=1WE',
      startsLocal: '2026-08-05T09:30',
      extra: [],
      skipped: [],
      horizon: 3,
      opens: true,
    },
  });
  const { id: role } = await odalys.call('POST /api/roles', { body: { name: 'Screen hand' } });
  const call = await odalys.call('POST /api/calls', {
    body: {
      eventId: morning.id,
      title: { en: 'Hands for the screen' },
      words: { en: 'Two hours are plenty.' },
      asks: ['availability', 'skills', 'limits', 'company', 'shirt', 'birth date', 'experience'],
      roles: [role],
      open: true,
    },
  });
  await odalys.call('POST /api/public/calls/:slug', {
    params: { slug: call.slug },
    body: {
      person: { given: 'Yoko', family: 'Screen', email: 'yoko.screen@fenmail.example' },
      said: {
        wishes: [{ roleId: role, weight: 2 }],
        available: { kind: 'dates', stretches: [{ date: '2026-08-05', from: '09:00', to: '12:00' }] },
      },
    },
  });
  // One that is over, with what was counted at it towards something.
  const past = await openEvent(staff, {
    title: 'Screen Past',
    startsLocal: '2026-07-10T10:00',
    endsLocal: '2026-07-10T12:00',
    unit: 'Small Boats',
  });
  for (const given of ['Ada', 'Bo'])
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: past.id },
      body: orderFor(past, [{ given, family: 'Past' }], {
        email: `${given.toLowerCase()}.past@post.example`,
      }),
    });
  const { id: measureId } = await odalys.call('POST /api/measures', {
    body: {
      name: { en: 'Screens wiped' },
      unit: { en: 'kg' },
      kind: 'sum',
      direction: 'more',
      decimals: 0,
      most: null,
      enteredBy: 'anyone',
      lookedAt: false,
    },
  });
  const { id: initiative } = await odalys.call('POST /api/initiatives', { body: { name: 'Clean screens' } });
  await saveIt(odalys, past.id, {
    outcomes: {
      measures: [{ measureId, planned: 20 }],
      opensDays: 30,
      closesDays: 7,
      initiativeIds: [initiative],
    },
  });
  const counting = await odalys.call('PUT /api/events/:id/counting', {
    params: { id: past.id },
    body: { on: true },
  });
  for (const countedLocal of ['2026-06-20T09:00', '2026-07-01T09:00', '2026-07-08T09:00'])
    await odalys.call('POST /api/events/:id/tallies', {
      params: { id: past.id },
      body: { entries: [{ measureId, said: '4' }], countedLocal },
    });
  await odalys.call('PUT /api/initiatives/:id', {
    params: { id: initiative },
    body: {
      about: '',
      fundId: null,
      version: 1,
      goals: [
        {
          id: crypto.randomUUID(),
          of: 'measure',
          measureId,
          target: 40,
          from: '2026-06-01',
          by: '2026-12-31',
        },
      ],
    },
  });
  const report = await odalys.call('POST /api/reports', {
    body: { title: 'Screens of the year', from: '2026-01-01', until: '2026-12-31' },
  });
  const ofRecords: [string, string][] = [
    ['/records', 'Records'],
    ...['series', 'returns', 'audiences', 'drifting', 'timing', 'units', 'initiatives', 'reports'].map(
      (show): [string, string] => [`/records?show=${show}`, 'Records'],
    ),
    [`/records?show=initiatives&id=${initiative}`, 'Clean screens'],
    [`/records?show=reports&id=${report.id}`, 'Screens of the year'],
    [`/records?show=compare&of=${past.id},${event.id}`, 'Side by side'],
    ['/records/segments', 'Segments'],
    [`/records/segments/${segment}`, 'Screens'],
  ];
  const ofTheOrganization: [string, string][] = [
    ['/desk', 'Thursday 9 July'],
    ['/clearance', 'Waiting for you'],
    ['/team/clearance', 'Rules of clearance'],
    ['/season', 'Season'],
    ['/season?form=month', 'Season'],
    [`/season/series/${series}`, 'Series: Screen Morning'],
    ['/contacts', 'Contacts'],
    [`/contacts/${contacts[0]!.id}`, 'Wen Screen'],
    ['/contacts/review', 'Who is who'],
    ['/contacts/changes', 'Changes people asked for'],
    ['/import', 'Import contacts'],
    ['/volunteers', 'Volunteers who apply'],
    [`/volunteers/${call.id}`, 'Hands for the screen'],
    ['/ledger', 'Ledger'],
    ['/ledger?show=accounts', 'Ledger'],
    ['/ledger?show=owed', 'Ledger'],
    ['/ledger?show=gifts', 'Ledger'],
    ['/ledger?show=receipts', 'Ledger'],
    ['/ledger?show=cards', 'Ledger'],
    ['/ledger?show=bank', 'Ledger'],
    ['/tray', 'Tray'],
    ['/tray?state=many', 'Tray'],
    ['/tray?state=year', 'Tray'],
    ['/team', 'Team and roles'],
    ['/team/organization', 'Organization'],
    ['/team/registers', 'Places, units and funds'],
    ['/team/waivers', 'Waivers'],
    ['/team/waivers/new', 'Add a waiver'],
    ['/team/trail', 'Who did what'],
    ['/account', 'Your account'],
  ];
  const ofAnEvent: [string, string][] = [
    ...['plan', 'clearance', 'registration', 'crew', 'messages', 'doors', 'wrap-up'].map(
      (stage): [string, string] => [`/events/${event.id}/${stage}`, 'Screen Paddle'],
    ),
    [`/events/${event.id}/wrap-up?see=survey`, 'Screen Paddle'],
    [`/events/${event.id}/wrap-up?see=lessons`, 'Screen Paddle'],
    [`/events/${event.id}/wrap-up?see=thanks`, 'Screen Paddle'],
    [`/events/${past.id}/wrap-up?see=outcomes`, 'Screen Past'],
    [new URL(counting.page!).pathname, 'What did you count?'],
    [`/doors/${event.id}`, 'Screen Paddle'],
    [`/e/${event.slug}`, 'Screen Paddle'],
    [`/e/${event.slug}/register`, 'Register'],
    [`/e/${morning.slug}/register`, 'Register'],
    [`/help/${call.slug}`, 'Hands for the screen'],
    ['/', 'Coming events'],
    ['/?show=month&month=2026-08', 'Coming events'],
    ['/mine', 'Sign in'],
  ];
  const half = ofTheOrganization.findIndex(([path]) => path === '/tray');
  return {
    'of events, people and money': ofTheOrganization.slice(0, half),
    'of records': ofRecords,
    'of messages and the team': ofTheOrganization.slice(half),
    'of an event and the public': ofAnEvent,
  };
}

/** Nothing stands out of the page to the right: what does is named. */
async function fits(page: Page, path: string, width: number): Promise<void> {
  const outside = await page.evaluate((most) => {
    if (document.documentElement.scrollWidth <= most) return [];
    return [...document.querySelectorAll('body *')]
      .filter((el) => el.getBoundingClientRect().right > most + 1)
      .map((el) => `${el.tagName} ${el.textContent?.slice(0, 60)}`)
      .slice(-4);
  }, width);
  expect(outside, path).toEqual([]);
}

for (const part of parts)
  test(`every screen ${part}, in both themes and both sizes: axe finds nothing wrong, nothing is cut off`, async ({
    browser,
    site,
  }) => {
    // Dozens of screens, each looked at four times: on a slow machine that takes its time.
    test.setTimeout(600_000);
    const screens = (await screensOf(site))[part];
    const page = await pageOf(browser, site, 'Odalys Ferrant');
    for (const [path, heading] of screens) {
      await page.goto(path);
      await expect(page.getByRole('heading', { name: heading }).first()).toBeVisible();
      for (const [width, height] of sizes) {
        await page.setViewportSize({ width, height });
        await test.step(`${path}, ${width} wide`, () => checkAccess(page));
        // Contrast is the same however wide a page is.
        if (width === sizes[0][0])
          for (const colorScheme of ['dark', 'light'] as const) {
            await page.emulateMedia({ colorScheme });
            await test.step(`${path}, ${colorScheme}`, () => checkContrast(page));
          }
        await fits(page, path, width);
      }
    }
    // A page at 200 % has half the pixels in each direction.
    const { cookies } = await page.context().storageState();
    const magnified = await browser.newContext({
      baseURL: site.origin,
      viewport: { width: 640, height: 400 },
      deviceScaleFactor: 2,
    });
    await magnified.addCookies(cookies);
    const large = await magnified.newPage();
    for (const [path, heading] of screens) {
      await large.goto(path);
      await expect(large.getByRole('heading', { name: heading }).first()).toBeVisible();
      await fits(large, `${path} at 200 %`, 640);
    }
    await magnified.close();
  });

test('the list of keys is shown and closed by keys', async ({ browser, site }) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/desk');
  await expect(page.getByRole('heading', { name: 'Thursday 9 July' })).toBeVisible();
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
  await expect(page.getByRole('heading', { name: 'Cette page n’existe pas' })).toBeVisible();
  await page.goto(`${site.origin}/m/altered-link-that-leads-nowhere`);
  await expect(page.getByRole('heading', { name: 'Cette page n’existe pas' })).toBeVisible();
});
