import ICAL from 'ical.js';
import { openEvent, orderFor } from '../api/scenes.ts';
import { Registering } from './pages/registering.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a monthly series: made in words, one date moved, a change taken over for later ones, all called off', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Reed Morning',
    startsLocal: '2026-08-05T09:30',
    endsLocal: '2026-08-05T12:30',
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  const dates = page.getByRole('row');

  await test.step('its next twelve dates are seen before it is made', async () => {
    await page.goto(`/events/${event.id}/plan`);
    await page.getByRole('link', { name: 'Repeat it: make a series…' }).click();
    await expect(page.getByRole('heading', { name: 'Make Reed Morning a series' })).toBeVisible();
    const next = page.getByRole('region', { name: 'The next dates' });
    await expect(next.getByText('first Wednesday of every month')).toBeVisible();
    await expect(next.getByRole('listitem')).toHaveCount(12);
    // Another rule is shown as it is put together; what is not a rule is said beside it.
    await page.getByLabel('Every', { exact: true }).fill('0');
    await expect(next.getByText('The dates are shown once the rule can be read.')).toBeVisible();
    await page.getByRole('button', { name: 'Make the series' }).click();
    await expect(page.getByRole('alert')).toContainText('INTERVAL=0');
    await page.getByLabel('Every', { exact: true }).fill('1');
    await next.getByRole('button', { name: 'Leave out Wed 2 Sep 2026' }).click();
    await expect(next.getByText('Left out: Wed 2 Sep 2026')).toBeVisible();
    await next.getByRole('button', { name: 'Put Wed 2 Sep 2026 back' }).click();
    await page.getByLabel('Dates are made ahead for').selectOption('3 months');
    await checkAccess(page);
    await page.getByRole('button', { name: 'Make the series' }).click();
    await expect(page.getByRole('heading', { name: 'Series: Reed Morning' })).toBeVisible();
    await expect(dates).toHaveCount(4);
  });

  await test.step('one date is moved by hand; another field is taken over for later dates', async () => {
    await dates.filter({ hasText: 'Wed 2 Sep 2026' }).click();
    await expect(page.getByText('It says what the series says.')).toBeVisible();
    await page.getByLabel('Date', { exact: true }).fill('2026-09-03');
    await page.getByLabel('Capacity', { exact: true }).fill('12');
    await expect(page.getByText('Of its own: Begins, Capacity.')).toBeVisible();
    await page.getByRole('button', { name: 'Take over into the series…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Take over into the series' });
    await dialog.getByText('Capacity', { exact: true }).click();
    await expect(dialog.getByText('Changes on 1 date: Wed 7 Oct 2026.')).toBeVisible();
    await checkAccess(page);
    await dialog.getByRole('button', { name: 'Take over', exact: true }).click();
    await expect(page.getByText('Taken over on 1 date.')).toBeVisible();
    await page.getByRole('link', { name: 'The series', exact: true }).click();
    await expect(dates.filter({ hasText: 'Thu 3 Sep 2026' })).toContainText('Begins');
  });

  await test.step('a changed rule asks about the date with people on it', async () => {
    const anyone = await staff.as('odalys');
    await anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Una', family: 'Reed' }]),
    });
    await page.reload();
    await page.getByLabel('Weekday', { exact: true }).selectOption('Thursday');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const dialog = page.getByRole('dialog', { name: 'What becomes of its dates' });
    await expect(dialog.getByText('1 person', { exact: true })).toBeVisible();
    await expect(dialog.getByRole('button', { name: 'Save it and tell 1 person' })).toBeDisabled();
    await dialog.getByLabel('What becomes of Wed 5 Aug 2026').selectOption('stays as it is');
    const change = dialog.getByRole('button', { name: 'Change the series' });
    await expect(change).toBeEnabled();
    await checkAccess(page);
    await change.click();
    await expect(dates.filter({ hasText: 'Wed 5 Aug 2026' })).toBeVisible();
    await expect(dates.filter({ hasText: 'Thu 1 Oct 2026' })).toBeVisible();
  });

  await test.step('all called off, with what people read', async () => {
    await page.getByRole('button', { name: 'Call off all…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Call off the dates to come' });
    await expect(dialog.getByText('1 person is on them')).toBeVisible();
    await dialog.getByLabel('What people read about it').fill('The path is under water.');
    // Whoever is registered is told, unless somebody says no in words that are kept.
    await dialog.getByText('Tell 1 person with a seat').click();
    await dialog.getByRole('button', { name: /^Call them off/u }).click();
    await expect(dialog.getByText('Say why they are not told; the words are kept.').first()).toBeVisible();
    await dialog.getByText('Tell 1 person with a seat').click();
    await dialog.getByRole('button', { name: 'Read it' }).first().click();
    await expect(dialog.getByText('The path is under water.').last()).toBeVisible();
    await expect(dialog.getByRole('button', { name: /^Call them off and tell/u })).toBeEnabled();
    await checkAccess(page);
    await dialog.getByRole('button', { name: /^Call them off and tell/u }).click();
    await expect(page.getByText('No more dates are made.')).toBeVisible();
    await expect(dates.filter({ hasText: 'Wed 5 Aug 2026' })).toContainText('Called off');
  });

  await test.step('and taken back as one, before a letter has gone out', async () => {
    await expect(page.getByText('Odalys Ferrant called it off')).toBeVisible();
    await page.getByRole('button', { name: 'Take it back' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Take it back' }).click();
    await expect(dates.filter({ hasText: 'Wed 5 Aug 2026' })).toContainText('Open');
    await expect(dates.filter({ hasText: 'Thu 1 Oct 2026' })).toContainText('Draft');
  });
  await page.context().close();
});

test('Season: a ribbon moved by wheel and keys, narrowed by its address, and a month', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  await openEvent(staff, {
    title: 'Heron Night',
    unit: 'Night Herons',
    startsLocal: '2026-07-20T20:00',
    endsLocal: '2026-07-20T23:00',
  });
  await openEvent(staff, {
    title: 'Heron Talk',
    unit: 'Night Herons',
    startsLocal: '2026-07-20T21:00',
    endsLocal: '2026-07-20T22:00',
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/season?by=venue');
  const ribbon = page.getByRole('region', { name: 'The year as a ribbon' });
  const mark = ribbon.getByRole('link', { name: /^Heron Night/u });
  await expect(mark).toBeVisible();
  await checkAccess(page);
  await mark.hover();
  await expect(ribbon.getByRole('status')).toContainText('same people as Heron Talk');
  const group = ribbon.getByRole('group', { name: /^Ribbon of time/u });
  const left = async () => (await mark.boundingBox())!.x;
  const before = await left();
  await group.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(left).toBeLessThan(before - 50);
  await page.keyboard.press('t');
  await expect.poll(left).toBeCloseTo(before, 0);
  await group.hover({ position: { x: 400, y: 60 } });
  await page.mouse.wheel(0, -400);
  await expect.poll(left).not.toBe(before);
  await page.getByLabel('Search titles').fill('talk');
  await expect(mark).toBeHidden();
  await page.reload();
  await expect(ribbon.getByRole('link', { name: /^Heron Talk/u })).toBeVisible();
  await expect(mark).toBeHidden();
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('button', { name: 'Month', exact: true }).first().click();
  await expect(
    page.getByRole('table', { name: 'July 2026' }).getByRole('link', { name: /Heron Night/u }),
  ).toBeVisible();
  await page.context().close();
});

test('the public calendar: narrowed, by month with a card, subscribed to as it is narrowed', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  await openEvent(staff, {
    title: 'Free Walk',
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T12:00',
  });
  await openEvent(staff, {
    title: 'Paid Paddle',
    price: 2500,
    startsLocal: '2026-08-09T09:00',
    endsLocal: '2026-08-09T12:00',
  });
  const page = await pageOf(browser, site, null);
  await page.goto('/');
  await expect(page.getByText('2 events')).toBeVisible();
  await page.getByText('Narrow it down').click();
  await page.getByLabel('Price').selectOption('with a price');
  await expect(page.getByText('1 event')).toBeVisible();
  await page.getByRole('button', { name: 'Month', exact: true }).click();
  await page.getByLabel('Month', { exact: true }).selectOption('August');
  const table = page.getByRole('table', { name: 'August 2026' });
  await expect(table.getByRole('link')).toHaveCount(1);
  await table.getByRole('link', { name: /^Paid Paddle/u }).hover();
  await expect(page.getByText('Sluice Landing · $25')).toBeVisible();
  await page.mouse.move(5, 5);
  await expect(page.getByText('Sluice Landing · $25')).toBeHidden();
  // From the keyboard too.
  await table.getByRole('link', { name: /^Paid Paddle/u }).focus();
  await expect(page.getByText('Sluice Landing · $25')).toBeVisible();
  await checkAccess(page);
  await page.getByText('Subscribe', { exact: true }).click();
  const address = await page.getByLabel('Address of the calendar').inputValue();
  const calendar = new ICAL.Component(ICAL.parse(await (await fetch(address)).text()));
  const entries = calendar.getAllSubcomponents('vevent').map((v) => new ICAL.Event(v));
  expect(entries.map((e) => [e.summary, `${e.startDate}`])).toEqual([['Paid Paddle', '2026-08-09T09:00:00']]);
  // The frame for other sites has no scripts, and may stand in them.
  const frame = await fetch(`${site.origin}/embed?price=paid`);
  expect(frame.headers.get('content-security-policy')).toContain('frame-ancestors *');
  expect(frame.headers.get('x-frame-options')).toBeNull();
  const html = await frame.text();
  expect(html).toContain('Paid Paddle');
  expect(html).not.toMatch(/<script|Free Walk/u);
  // A filter that cannot be read narrows nothing.
  expect(await (await fetch(`${site.origin}/embed?price=cheap`)).text()).toContain('Free Walk');
  // In the colour of the page around it; anything else that is asked for is not written.
  const coloured = async (accent: string) =>
    (await fetch(`${site.origin}/embed?accent=${encodeURIComponent(accent)}`)).text();
  expect(await coloured('8833aa')).toContain('.embedded a{color:#8833aa}');
  expect(await coloured('red}</style><script>')).not.toMatch(/embedded a\{|<script/u);
  expect((await fetch(`${site.origin}/`)).headers.get('content-security-policy')).toContain(
    "frame-ancestors 'none'",
  );
  await page.context().close();
});

test('somebody signs in by a code on a phone, sees what is for members, books several dates, and finds them on their page', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, {
    title: 'Members Morning',
    startsLocal: '2026-08-05T09:30',
    endsLocal: '2026-08-05T12:30',
  });
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { visibility: 'members' } },
  });
  await odalys.call('POST /api/series', {
    body: {
      eventId: event.id,
      rule: 'FREQ=MONTHLY;BYDAY=1WE',
      startsLocal: '2026-08-05T09:30',
      extra: [],
      skipped: [],
      horizon: 3,
      opens: true,
    },
  });
  const { id } = await odalys.call('POST /api/contacts', {
    body: { given: 'Una', family: 'Sallow', email: 'una.sallow@fenmail.example' } as never,
  });
  await odalys.call('POST /api/contacts/:id/ties', {
    params: { id },
    body: { kind: 'membership', level: 'Adult', from: '2020-01-01' } as never,
  });
  const page = await pageOf(browser, site, null, true);
  await page.goto(`/e/${event.slug}`);
  await expect(page.getByRole('heading', { name: 'Page not found' })).toBeVisible();
  await page.getByRole('link', { name: 'Sign in' }).click();
  await page.getByLabel('Email').fill('una.sallow@fenmail.example');
  await checkAccess(page);
  await page.getByRole('button', { name: 'Send the code' }).click();
  await page.getByLabel('Code').fill('000 000');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('This code does not work here.');
  const [mail] = await site.started.app.db.query<{ body: string }>(
    "select body from standin_mail where address = 'una.sallow@fenmail.example'",
  );
  await page.getByLabel('Code').fill(/\d{3} \d{3}/u.exec(mail!.body)![0]);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Hello Una' })).toBeVisible();
  await checkAccess(page);
  await page.getByRole('link', { name: 'Members Morning' }).first().click();
  await expect(page.getByText('Takes place first Wednesday of every month.')).toBeVisible();
  await page.getByRole('link', { name: 'Register' }).click();
  await page.getByRole('button', { name: 'All of them' }).click();
  await page.getByLabel('First name').fill('Una');
  await page.getByLabel('Last name').fill('Sallow');
  await page.getByLabel('Email').fill('una.sallow@fenmail.example');
  await new Registering(page).comes();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Register', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Booked for 3 dates' })).toBeVisible();
  await page.getByRole('link', { name: 'Your page' }).click();
  await expect(page.getByRole('heading', { name: 'Your seats' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Members Morning' })).toHaveCount(3);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.goto(`/e/${event.slug}`);
  await expect(page.getByRole('heading', { name: 'Page not found' })).toBeVisible();
  await page.context().close();
});
