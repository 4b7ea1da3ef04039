import type { Page } from '@playwright/test';
import { Caller } from '../api/caller.ts';
import { openEvent } from '../api/scenes.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

const fill = async (page: Page, given: string, family: string) => {
  await page.getByLabel('First name').fill(given);
  await page.getByLabel('Last name').fill(family);
  await page.getByLabel('Email', { exact: true }).fill(`${given.toLowerCase()}@stepney.example`);
};
const own = (site: Parameters<typeof linkTo>[0], given: string) =>
  linkTo(site, `${given.toLowerCase()}@stepney.example`, /\/crew\/[\w-]+/u);

test('a full shift is waited for; given back it goes to whoever waits, on a phone, and two change places', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Reed Regatta',
    startsLocal: '2026-08-22T09:00',
    endsLocal: '2026-08-22T17:00',
  });
  const odalys = await staff.as('odalys');
  const add = (role: string, from: string, to: string) =>
    odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, startsLocal: `2026-08-22T${from}`, endsLocal: `2026-08-22T${to}`, wished: 1 },
    });
  const bar = await add('Bar', '10:00', '12:00');
  const gate = await add('Gate keeper', '14:00', '16:00');
  await add('Float', '17:00', '18:00');
  const anyone = new Caller(site.origin);
  const signUp = (id: string, given: string) =>
    anyone.call('POST /api/public/shifts/:id/sign-up', {
      params: { id },
      body: { given, family: 'Stepney', email: `${given.toLowerCase()}@stepney.example` },
    });
  await signUp(bar.id, 'Abel');
  await signUp(gate.id, 'Gwen');

  const phone = await pageOf(browser, site, null, true);
  await test.step('somebody narrows the list down and waits for a place on a full shift', async () => {
    await phone.goto('/shifts?day=2026-08-22');
    await expect(phone.getByRole('link', { name: 'Reed Regatta' })).toHaveCount(3);
    await checkAccess(phone);
    await phone.getByLabel('How they are shown').selectOption('Month');
    await phone.getByLabel('Month', { exact: true }).selectOption('August');
    await phone.getByRole('link', { name: /Float, Reed Regatta/u }).click();
    // It is carried along: its form stands open on the page of its event.
    await expect(phone.getByRole('button', { name: 'Sign up for Float' })).toBeVisible();
    await phone.goto(`/e/${event.slug}/shifts`);
    await phone.getByLabel('Role').selectOption('Bar');
    await expect(phone.getByRole('button', { name: 'Wait for a place' })).toHaveCount(1);
    await phone.getByRole('button', { name: 'Wait for a place' }).click();
    await fill(phone, 'Wilma', 'Stepney');
    await checkAccess(phone);
    await phone.locator('form').getByRole('button', { name: 'Wait for a place' }).click();
    await expect(phone.getByText('as soon as a place comes free')).toBeVisible();
    await phone.goto(await own(site, 'Wilma'));
    await expect(phone.getByText('You are asked first as soon as a place comes free.')).toBeVisible();
    await checkAccess(phone);
  });

  await test.step('it is given back with a word why, and they say yes', async () => {
    const abel = await pageOf(browser, site, null, true);
    await abel.goto(await own(site, 'Abel'));
    await abel.getByRole('button', { name: 'Give this shift back' }).click();
    await expect(abel.getByText('Somebody else is asked to take it then, straight away.')).toBeVisible();
    await abel.getByLabel('Why, if you like to say').fill('A cold');
    await checkAccess(abel);
    await abel.getByRole('button', { name: 'Give this shift back' }).click();
    await expect(abel.getByText('No shifts are coming.')).toBeVisible();
    await abel.context().close();
    await phone.reload();
    await expect(phone.getByRole('heading', { name: 'Can you step in?' })).toBeVisible();
    await expect(phone.getByText('Kept for you until')).toBeVisible();
    await checkAccess(phone);
  });

  const imani = await pageOf(browser, site, 'Imani Okarro');
  await test.step('the crew lead sees who was asked, and who gave it back and why', async () => {
    await imani.goto(`/events/${event.id}/crew`);
    await imani.getByRole('button', { name: /^Bar, .*10:00–12:00/u }).click();
    const stepping = imani.getByRole('region', { name: 'Who steps in' });
    await expect(stepping).toContainText('Abel Stepney');
    await expect(stepping).toContainText('“A cold”');
    await expect(stepping).toContainText('Wilma Stepney');
    await expect(stepping).toContainText('asked, until');
    await checkAccess(imani);
    await phone.getByRole('button', { name: 'Yes, I take it' }).click();
    await expect(phone.getByText('Thank you. The shift is yours.')).toBeVisible();
    // What is open beside knows it without being loaded anew.
    await expect(stepping).toContainText('took it');
    await expect(stepping).toContainText('Filled again.');
    await imani.getByRole('button', { name: 'Close', exact: true }).click();
  });

  await test.step('two would rather have the other’s: the crew lead lets them swap', async () => {
    await phone.getByRole('button', { name: 'Swap it' }).click();
    await phone
      .getByRole('checkbox', { name: /Gate keeper/u })
      .locator('..')
      .click();
    await checkAccess(phone);
    await phone.getByRole('button', { name: 'Wish for these' }).click();
    await expect(phone.getByText('You would swap it for:')).toContainText('Gate keeper');
    const gwen = await pageOf(browser, site, null, true);
    await gwen.goto(await own(site, 'Gwen'));
    await expect(gwen.getByRole('heading', { name: 'Would you swap?' })).toBeVisible();
    await expect(gwen.getByText('Wilma')).toHaveCount(0);
    await checkAccess(gwen);
    await gwen.getByRole('button', { name: 'I would swap' }).click();
    await expect(gwen.getByText('You would swap it for:')).toContainText('Bar');
    await imani.getByRole('button', { name: 'Swaps (2)' }).click();
    const swaps = imani.getByRole('dialog', { name: 'Swaps' });
    await expect(swaps.getByText('instead of Bar')).toBeVisible();
    await checkAccess(imani);
    await swaps.getByRole('button', { name: 'Let them swap' }).click();
    await expect(swaps.getByText('Nothing works out yet.')).toBeVisible();
    await imani.keyboard.press('Escape');
    await expect(imani.getByRole('button', { name: /^Bar, .*10:00–12:00/u })).toContainText('Gwen');
    await expect(gwen.getByText('10:00–12:00')).toBeVisible();
    await gwen.context().close();
  });

  await test.step('she writes to the crew, and each reads their own shifts', async () => {
    await imani.getByRole('button', { name: 'Print and more' }).click();
    await imani.getByRole('menuitem', { name: 'Write to the crew' }).click();
    const mail = imani.getByRole('dialog', { name: 'Write to the crew' });
    await mail.getByLabel('Subject').fill('Bring a hat');
    await mail.getByLabel('What you have to say').fill('No shade on the quay.');
    await expect(mail.getByText('2 people get it')).toBeVisible();
    await expect(mail.getByRole('region', { name: /^As .* reads it$/u })).toContainText(
      'No shade on the quay.',
    );
    await checkAccess(imani);
    await mail.getByRole('button', { name: 'Send it to 2 people' }).click();
    await expect(mail).toHaveCount(0);
    await imani.getByRole('button', { name: 'Print and more' }).click();
    await imani.getByRole('menuitem', { name: 'Figures' }).click();
    const figures = imani.getByRole('dialog', { name: 'Figures' });
    await expect(figures.getByText('1 shift was given up')).toBeVisible();
    await checkAccess(imani);
  });
  await phone.context().close();
  await imani.context().close();
});

test('the door team ticks the crew off on a phone; who is missing shows at once, and hours are put right', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Evening Paddle',
    startsLocal: '2026-07-09T18:00',
    endsLocal: '2026-07-09T20:00',
  });
  const odalys = await staff.as('odalys');
  const { id } = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: { role: 'Set up', startsLocal: '2026-07-09T09:00', endsLocal: '2026-07-09T12:00', wished: 2 },
  });
  for (const given of ['Hedda', 'Milo']) {
    const contact = await odalys.call('POST /api/contacts', {
      body: { given, family: 'Doorway', email: `${given.toLowerCase()}@doorway.example` },
    });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id },
      body: { contactId: contact.id },
    });
  }
  const imani = await pageOf(browser, site, 'Imani Okarro');
  await imani.goto(`/events/${event.id}/crew`);
  await expect(imani.getByRole('heading', { name: '2 of 2 places filled' })).toBeVisible();
  // Where nobody ticks the crew off, nobody is called missing.
  await expect(imani.getByText('whose shift goes on are here')).toHaveCount(0);
  const door = await pageOf(browser, site, 'Door Team', true);
  await door.goto(`/doors/${event.id}`);
  await door.getByRole('button', { name: 'Crew', exact: true }).click();
  await expect(door.getByText('0 of the crew here, 2 late or missing')).toBeVisible();
  await checkAccess(door);
  await door.getByRole('button', { name: 'Hedda Doorway is here' }).click();
  await expect(door.getByText('1 of the crew here, 1 late or missing')).toBeVisible();
  await expect(imani.getByText('1 of 2 whose shift goes on are here.')).toBeVisible();
  await expect(imani.getByRole('button', { name: 'Who instead of Milo Doorway?' })).toBeVisible();
  await checkAccess(imani);
  await door.getByRole('button', { name: 'Hedda Doorway leaves' }).click();
  await expect(door.getByRole('button', { name: 'Back again' })).toBeVisible();
  await door.context().close();
  await imani.getByRole('button', { name: 'Milo Doorway missed it' }).click();
  await imani.getByRole('button', { name: /^Set up, .*09:00–12:00/u }).click();
  const panel = imani.getByRole('dialog', { name: 'Set up' });
  await expect(panel).toContainText('missed');
  await panel.getByRole('button', { name: 'Correct the hours of Hedda Doorway' }).click();
  const correct = imani.getByRole('dialog', { name: 'Hours of Hedda Doorway' });
  await correct.getByLabel('Hours served').fill('2.5');
  await correct.getByLabel('Why', { exact: false }).fill('Carried the boats before');
  await checkAccess(imani);
  await correct.getByRole('button', { name: 'Save' }).click();
  await expect(panel).toContainText('to 2.5 h by Imani Okarro: Carried the boats before');
  await imani.goto('/volunteers/hours?by=role');
  await expect(imani.getByRole('row').filter({ hasText: 'Set up' })).toContainText('2.5');
  await checkAccess(imani);
  await imani.context().close();
});
