import type { Page } from '@playwright/test';
import { plainQuestion } from '#core/questions/question.ts';
import { openEvent } from '../api/scenes.ts';
import { tickAll } from './pages/controls.ts';
import { Registering } from './pages/registering.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

/** Counts what is tapped on a page beside fields that are typed into. */
function taps() {
  let count = 0;
  return {
    async on(locator: ReturnType<Page['getByRole']>) {
      count += 1;
      await locator.tap();
    },
    count: () => count,
  };
}
test('a family of four with waivers on a phone, in twenty taps beyond typing', async ({ browser, site }) => {
  const event = await openEvent(callers(site), {
    title: 'Family Paddle',
    so: ['boats', 'minors'],
    waiver: 'On the water',
    questions: [
      {
        ...plainQuestion,
        id: crypto.randomUUID(),
        scope: 'order',
        kind: 'text',
        choices: [],
        prompt: { en: 'Telephone' },
        keeps: 'phone',
      },
      {
        ...plainQuestion,
        id: crypto.randomUUID(),
        kind: 'long text',
        choices: [],
        prompt: { en: 'Allergies' },
        keeps: 'dietary',
        sensitive: true,
      },
    ],
  });
  const page = await pageOf(browser, site, null, true);
  await page.goto(`/e/${event.slug}/register`);
  const tap = taps();
  for (let n = 1; n < 4; n++) await tap.on(page.getByRole('button', { name: '+ Guided paddle' }));
  await page.getByLabel('First name').first().fill('Mai');
  await page.getByLabel('Last name').first().fill('Delacroix-Nguyen');
  await page.getByLabel('Email').fill('mai@harbourpost.example');
  await page.getByLabel('Telephone').fill('902 555 0144');
  // Whoever registers is not assumed to come: they say so.
  await expect(page.getByRole('radio', { name: 'yes' })).not.toBeChecked();
  await tap.on(page.getByText(/^yes$/iu));
  await page.getByLabel('Birth date').first().fill('1986-02-11');
  const family = [
    ['Théo', '2015-05-02'],
    ['Linh', '2017-09-30'],
    ['Bao', '1985-07-07'],
  ] as const;
  for (const [n, [given, born]] of family.entries()) {
    const seat = page.getByRole('group', { name: `Seat ${n + 2}` });
    await seat.getByLabel('First name').fill(given);
    await tap.on(seat.getByRole('button', { name: 'Last name Delacroix-Nguyen too' }));
    await expect(seat.getByLabel('Last name')).toHaveValue('Delacroix-Nguyen');
    await seat.getByLabel('Birth date').fill(born);
  }
  await page.getByRole('group', { name: 'Seat 2' }).getByLabel('Allergies').fill('nuts');
  await checkAccess(page);

  // Nothing is lost by going away and coming back, on this device.
  await page.goto('/');
  await page.goto(`/e/${event.slug}/register`);
  await expect(page.getByRole('group', { name: 'Seat 2' }).getByLabel('Allergies')).toHaveValue('nuts');
  await tap.on(page.getByRole('button', { name: 'Register', exact: true }));

  await expect(page.getByRole('heading', { name: 'You are registered' })).toBeVisible();
  // One signature for oneself and both children; the other grown-up signs alone.
  await expect(page.getByText('Bao Delacroix-Nguyen · I sign for myself')).toHaveCount(0);
  const sign = async (name: string, button: string) => {
    const form = page.getByRole('form', { name: 'On the water' });
    const clauses = form.getByRole('checkbox');
    for (let n = 0; n < (await clauses.count()); n++)
      await tap.on(form.locator('label:has(input[type=checkbox])').nth(n));
    await form.getByLabel('Type your first and last name').fill(name);
    await tap.on(form.getByRole('button', { name: button }));
  };
  await checkAccess(page);
  await sign('Mai Delacroix-Nguyen', 'Sign for 3 people');
  await expect(page.getByText('Waiver signed')).toHaveCount(3);
  await tap.on(page.getByRole('button', { name: 'Bao signs' }));
  await sign('Bao Delacroix-Nguyen', 'Sign');
  await expect(page.getByText('Waiver signed')).toHaveCount(4);
  expect(tap.count()).toBeLessThanOrEqual(20);
  await page.context().close();
});

test('a table with guests who name themselves; an answer is changed', async ({ browser, site }) => {
  const menu = {
    ...plainQuestion,
    id: crypto.randomUUID(),
    kind: 'one of' as const,
    choices: ['fish', 'no fish'],
    required: true,
    prompt: { en: 'What do you eat?' },
  };
  const event = await openEvent(callers(site), { title: 'Long Table', seatsPerUnit: 4, questions: [menu] });
  const host = await pageOf(browser, site, null, true);
  await host.goto(`/e/${event.slug}/register`);
  await host.getByLabel('First name').first().fill('Berit');
  await host.getByLabel('Last name').first().fill('Host');
  await host.getByLabel('Email').fill('berit@host.example');
  // A booking that is not said to include whoever books is not sent.
  await host.getByRole('button', { name: 'Register', exact: true }).tap();
  await expect(host.getByRole('alert')).toContainText('Are you coming yourself?');
  await host.getByText(/^yes$/iu).tap();
  await host.getByRole('group', { name: 'You', exact: true }).getByText('fish', { exact: true }).tap();
  await host.getByRole('button', { name: 'Register', exact: true }).tap();
  await expect(host.getByText('Guest to be named')).toHaveCount(3);
  await host.getByRole('button', { name: 'Send them a link' }).first().tap();
  await host.getByLabel('Email of the guest').fill('vigdis@guest.example');
  await host.getByRole('button', { name: 'Send', exact: true }).tap();

  await test.step('the guest fills it in, and has a pass', async () => {
    await expect(host.getByText('A link went to vigdis@guest.example.')).toBeVisible();
    const guest = await pageOf(browser, site, null, true);
    await guest.goto(await linkTo(site, 'vigdis@guest.example', /\/g\/[\w-]+/u));
    await expect(guest.getByText('Berit booked it for you: Guided paddle.')).toBeVisible();
    await checkAccess(guest);
    await guest.getByLabel('First name').fill('Vigdis');
    await guest.getByLabel('Last name').fill('Guest');
    await guest.getByRole('button', { name: 'Save' }).tap();
    await expect(guest.getByRole('alert')).toContainText('What do you eat?');
    await guest.getByText('no fish', { exact: true }).tap();
    await guest.getByRole('button', { name: 'Save' }).tap();
    await expect(guest.getByText('Thank you, Vigdis Guest: your seat is filled in.')).toBeVisible();
    await expect(guest.getByRole('img', { name: /^Pass/u })).toBeVisible();
    await guest.context().close();
  });

  await test.step('whoever booked sees who it is, and names another', async () => {
    await host.reload();
    await expect(host.getByText('Filled in by themselves (vigdis@guest.example).')).toBeVisible();
    await host.getByRole('button', { name: 'Name this guest' }).first().tap();
    await host.getByLabel('First name').fill('Odd');
    await host.getByLabel('Last name').fill('Guest');
    await host.getByText('fish', { exact: true }).tap();
    await checkAccess(host);
    await host.getByRole('button', { name: 'Save' }).tap();
    await expect(host.getByText('Odd Guest')).toBeVisible();
    await host.context().close();
  });
});

test('questions are built with a preview: what hangs on an answer, circles, a set', async ({
  browser,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Asking Day' });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByRole('button', { name: 'Questions', exact: true }).click();
  const section = page.getByRole('region', { name: 'Questions', exact: true });
  const preview = page.getByRole('region', { name: 'As people see it on a phone' });
  await section.getByRole('button', { name: 'Telephone' }).click();
  await expect(preview.getByLabel('Telephone')).toBeVisible();
  await section.getByRole('button', { name: 'Ask something of your own' }).click();
  await section.getByLabel('Question', { exact: true }).last().fill('By car?');
  await section.getByLabel('Answer', { exact: true }).selectOption('yes or no');
  await section.getByRole('button', { name: 'Ask something of your own' }).click();
  await section.getByLabel('Question', { exact: true }).last().fill('Free seats');
  await section.getByLabel('Answer', { exact: true }).last().selectOption('number');
  await section.getByLabel('Asked', { exact: true }).last().selectOption('if “By car?” is answered');
  await expect(preview.getByLabel('Free seats')).toHaveCount(0);
  await preview.getByText('yes', { exact: true }).click();
  await expect(preview.getByLabel('Free seats')).toBeVisible();
  await checkAccess(page);
  await section.getByRole('button', { name: 'Move Free seats up' }).click();
  await expect(section.getByText('It hangs on a question that comes after it.')).toBeVisible();
  await section.getByRole('button', { name: 'Move Free seats down' }).click();
  await section.getByRole('button', { name: 'Sets of questions' }).click();
  await page.getByRole('menuitem', { name: 'Keep these as a set…' }).click();
  await page.getByRole('dialog').getByLabel('Name of the set').fill('Coming');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep the set' }).click();
  await expect(page.getByText('Kept. It can be asked at every event now.')).toBeVisible();
  await section.getByRole('button', { name: 'Sets of questions' }).click();
  await page.getByRole('menuitem', { name: 'Ask “Coming”: 3 questions' }).click();
  const asked = async () =>
    (await (await callers(site).as('odalys')).call('GET /api/events/:id', { params: { id: event.id } })).plan
      .questions;
  // The telephone is asked of the same people already: that is said, and the rest waits with it.
  await expect(section.getByText('Look at this.')).toBeVisible();
  expect((await asked()).map((q) => q.prompt.en)).toEqual(['Telephone', 'By car?', 'Free seats']);
  await page.context().close();
});

test('on a slow network that loses an answer: nothing typed is lost, and it is one booking', async ({
  browser,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Far From The Mast', capacity: 9 });
  const phone = await pageOf(browser, site, null, true);
  const network = await phone.context().newCDPSession(phone);
  // What it is about can be read before any script has come.
  await phone.route(/\.js$/u, (route) => route.abort());
  await phone.goto(`/e/${event.slug}`);
  await expect(phone.getByRole('heading', { name: 'Far From The Mast' })).toBeVisible();
  await phone.unroute(/\.js$/u);
  await phone.goto(`/e/${event.slug}/register`);
  const form = new Registering(phone);
  await form.comes();
  await form.name('You', { given: 'Marsh', family: 'Slow' });
  await form.email('marsh@slow.example');
  await network.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 600,
    downloadThroughput: 25_000,
    uploadThroughput: 12_000,
  });
  const sent: string[] = [];
  await phone.route(`**/api/public/events/${event.slug}/orders`, async (route) => {
    sent.push(route.request().headers()['idempotency-key'] ?? '');
    const answer = await route.fetch();
    // The first answer does not arrive.
    await (sent.length === 1 ? route.abort('connectionreset') : route.fulfill({ response: answer }));
  });
  const register = phone.getByRole('button', { name: 'Register', exact: true });
  await register.tap();
  await expect(phone.getByRole('alert').first()).toBeVisible();
  await expect(phone.getByLabel('First name').first()).toHaveValue('Marsh');
  await register.tap();
  await expect(phone.getByRole('heading', { name: 'You are registered' })).toBeVisible({ timeout: 20_000 });
  expect(sent).toHaveLength(2);
  expect(new Set(sent).size).toBe(1);
  const { rows } = await (await callers(site).as('odalys')).call('GET /api/events/:id/registrations', {
    params: { id: event.id },
  });
  expect(rows.map((r) => [r.given, r.state])).toEqual([['Marsh', 'confirmed']]);
});

test('two waivers: that of the event for everybody, that of a ticket for whoever takes it', async ({
  browser,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Two To Sign', waiver: 'On the water' });
  const odalys = await callers(site).as('odalys');
  const page = await pageOf(browser, site, 'odalys');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByRole('button', { name: 'Ask for a waiver' }).click();
  await expect
    .poll(
      async () =>
        (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.waivers.length,
    )
    .toBe(2);
  const phone = await pageOf(browser, site, null, true);
  const form = new Registering(phone);
  await phone.goto(`/e/${event.slug}/register`);
  await form.more('Guided paddle').tap();
  await form.comes();
  await form.name('You', { given: 'Una', family: 'Quill', birthDate: '1985-04-04' });
  await form.email('una@two.example');
  await form.name('Seat 2', { given: 'Tove', family: 'Quill', birthDate: '2016-02-02' });
  await phone.getByRole('button', { name: 'Register', exact: true }).tap();
  await expect(phone.getByRole('form', { name: 'Children in our care' })).toBeVisible();
  await checkAccess(phone);
  const sign = async (title: string) => {
    const of = phone.getByRole('form', { name: title });
    await tickAll(of);
    await of.getByLabel('Type your first and last name').fill('Una Quill');
    await of.getByRole('button', { name: /^Sign/u }).tap();
    await expect(of).toHaveCount(0);
  };
  await sign('On the water');
  // One of the two is not both.
  await expect(phone.getByText('Waiver signed')).toHaveCount(1);
  await sign('Children in our care');
  await expect(phone.getByText('Waiver signed')).toHaveCount(2);
});
