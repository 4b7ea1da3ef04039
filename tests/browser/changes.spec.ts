import { unplaced } from '#core/agenda/session.ts';
import { openEvent, orderFor } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a date is moved: what follows is seen, somebody is not told with why, it is taken back, and done again', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Heron Walk', capacity: 2 });
  const odalys = await staff.as('odalys');
  for (const given of ['Ida', 'Ole'])
    await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: 'Sedge' }]),
    });
  await odalys.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Una', family: 'Sedge' }], { waitlist: true }),
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByLabel('Date', { exact: true }).fill('2026-08-15');
  await expect(page.getByText('Not saved yet: date and time.')).toBeVisible();
  await expect(page.getByText('Waits for you')).toBeVisible();
  // It stays with the event wherever one looks, and can be left as it was.
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Crew' }).click();
  await expect(page.getByText('Not saved yet: date and time.')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it as it was' }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();
  await expect(page.getByLabel('Date', { exact: true })).toHaveValue('2026-08-08');

  await page.getByLabel('Date', { exact: true }).fill('2026-08-15');
  await page.getByRole('button', { name: 'See what follows' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('Tell 2 people with a seat')).toBeVisible();
  await expect(sheet.getByText(/Reminder, a day before: 2 messages from Fri 7 Aug/u)).toBeVisible();
  await checkAccess(page);
  await sheet.getByLabel('What you want to say about it').fill('The tide is kinder a week later.');
  await sheet.getByRole('button', { name: 'Read it' }).first().click();
  await expect(sheet.getByText('The tide is kinder a week later.').last()).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Save it and tell 3 people' })).toBeEnabled();
  await sheet.getByText('Tell 1 person on the waitlist').click();
  await sheet.getByRole('button', { name: 'Save it and tell 2 people' }).click();
  await expect(sheet.getByText('Say why they are not told; the words are kept.').first()).toBeVisible();
  await sheet.getByLabel('Why not?').fill('We ring her.');
  await sheet.getByRole('button', { name: 'Save it and tell 2 people' }).click();
  await expect(page.getByText(/2 letters go out at/u)).toBeVisible();
  await expect(page.getByText('Saturday 15 August 2026')).toBeVisible();

  await page.getByRole('button', { name: 'Take it back' }).click();
  await checkAccess(page);
  await page.getByRole('dialog').getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Saturday 8 August 2026')).toBeVisible();
  await expect(page.getByLabel('Date', { exact: true })).toHaveValue('2026-08-08');
  await page.getByText('Changes that people were told of').click();
  await expect(page.getByText('taken back by Odalys Ferrant')).toBeVisible();
  await expect(page.getByText('Not told: the waitlist (We ring her.)')).toBeVisible();

  // The other way: the letters go out, and there is no way back any more.
  await page.getByLabel('Date', { exact: true }).fill('2026-08-22');
  await page.getByRole('button', { name: 'See what follows' }).click();
  await sheet.getByRole('button', { name: 'Save it and tell 3 people' }).click();
  await page.getByRole('button', { name: 'Send the letters now' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Send the letters now' }).click();
  await expect(page.getByRole('button', { name: 'Take it back' })).toHaveCount(0);
  await page.context().close();
});

test('less room: whose seats no longer fit go back to the waitlist with it', async ({ browser, site }) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Smaller Walk', capacity: 4 });
  const odalys = await staff.as('odalys');
  for (const given of ['Ida', 'Ole', 'Una'])
    await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: 'Sedge' }]),
    });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByLabel('Capacity', { exact: true }).fill('2');
  await page.getByRole('button', { name: 'See what follows' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('1 seat more than there is room for')).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Save it', exact: true })).toBeEnabled();
  await tick(sheet.getByRole('group', { name: 'Back to the head of the waitlist' }).getByRole('checkbox'));
  await expect(sheet.getByText('Tell 1 person who loses their seat')).toBeVisible();
  await checkAccess(page);
  await sheet.getByRole('button', { name: 'Save it and tell 1 person' }).click();
  await expect(page.getByText(/1 letter goes out at/u)).toBeVisible();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Registration' }).click();
  await expect(page.getByText('0 free · 1 person waitlisted in 1 party')).toBeVisible();
  await page.context().close();
});

test('what a date is at odds with is settled with it: another leads it, and its sessions move along', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const day = (date: string) => ({ startsLocal: `${date}T10:00`, endsLocal: `${date}T12:00` });
  const event = await openEvent(staff, { title: 'Otter Talk', unit: 'Night Herons', ...day('2026-08-09') });
  const other = await openEvent(staff, { title: 'Heron Count', ...day('2026-08-16') });
  const odalys = await staff.as('odalys');
  for (const { id } of [event, other])
    await odalys.call('POST /api/events/:id/team', {
      params: { id },
      body: { name: 'Piers Hollin', email: 'piers@brackenmere.example', part: 'lead' },
    });
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: {
      version,
      change: {
        sessions: [{ ...unplaced(event.id, { en: 'Holts' }), day: 1, begins: '10:15', ends: '11:00' }],
      },
    },
  });
  await odalys.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Ida', family: 'Sedge' }]),
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByLabel('Ends', { exact: true }).fill('14:00');
  await page.getByLabel('Begins', { exact: true }).fill('11:30');
  await page.getByLabel('Date', { exact: true }).fill('2026-08-16');
  await page.getByRole('button', { name: 'See what follows' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('The same lead as Heron Count')).toBeVisible();
  await expect(sheet.getByText('A session does not fit: Holts')).toBeVisible();
  await sheet.getByText('Move every session along with the start').click();
  await sheet.getByText(/^Take .* off the team here$/u).click();
  await sheet.getByLabel('Who leads it instead').fill('tobias@brackenmere.example');
  await expect(sheet.getByText('Settled: it is at odds with nothing any more.')).toBeVisible();
  await checkAccess(page);
  await sheet.getByRole('button', { name: 'Save it and tell' }).click();
  await expect(page.getByText('Sunday 16 August 2026')).toBeVisible();
  const { members } = await odalys.call('GET /api/events/:id/team', { params: { id: event.id } });
  expect(members.map((m) => [m.email, m.part])).toEqual([['tobias@brackenmere.example', 'lead']]);
  const { plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  expect(plan.sessions[0]).toMatchObject({ begins: '11:45', ends: '12:30' });
  await page.context().close();
});

test('an event is called off: each who paid is asked, one leaves it as a gift, the other has it back', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Storm Walk', price: 2500 });
  const odalys = await staff.as('odalys');
  const orders: string[] = [];
  for (const given of ['Ida', 'Ole']) {
    const { token } = await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: 'Sedge' }]),
    });
    await odalys.call('POST /api/public/orders/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0001', expiry: '08/29' },
    });
    orders.push(token);
  }
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Call off' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('2 orders were paid: $50 in all')).toBeVisible();
  await tick(sheet.getByLabel('Each is asked: have it back, leave it as a gift, or move to another date'));
  await checkAccess(page);
  await sheet.getByRole('button', { name: 'Call it off and tell' }).click();
  await expect(sheet.getByText('Say why; the words are kept with the event.').first()).toBeVisible();
  await sheet.getByLabel('Why, as people will read it').fill('A storm is coming.');
  await sheet.getByRole('button', { name: 'Call it off and tell' }).click();
  await expect(page.getByText('Odalys Ferrant called it off')).toBeVisible();
  await page.context().close();

  const [ida, ole] = orders;
  const hers = await pageOf(browser, site, null, true);
  await hers.goto(`/m/${ida}`);
  await expect(hers.getByRole('heading', { name: 'This event was called off.' })).toBeVisible();
  await tick(hers.getByLabel('I leave it as a gift'));
  await checkAccess(hers);
  await hers.getByRole('button', { name: 'Give $25' }).click();
  await expect(hers.getByText('Thank you for your gift.')).toBeVisible();
  await expect(hers.getByRole('link', { name: 'Passes as PDF' })).toHaveCount(0);
  await expect(hers.getByRole('button', { name: 'Give seats up' })).toHaveCount(0);
  await hers.context().close();
  const his = await pageOf(browser, site, null, true);
  await his.goto(`/m/${ole}`);
  await tick(his.getByLabel('I would like it back'));
  await his.getByRole('button', { name: 'Have $25 back' }).click();
  await expect(his.getByText('It goes back the way it came.')).toBeVisible();
  await his.context().close();
  const { rows } = await odalys.call('GET /api/ledger', { query: { eventId: event.id } });
  expect(rows.reduce((sum, r) => sum + r.amount, 0)).toBe(2500);
});
