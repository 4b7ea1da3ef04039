import { clearAndOpen, openEvent, orderFor } from '../api/scenes.ts';
import { callers, checkAccess, expect, linkTo, pageOf, type Site, test } from './site.ts';

test('something is counted by the code of a poster, comes to an initiative, and stands on another web page', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, {
    title: 'Sluice Morning',
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T20:00',
  });
  await odalys.call('POST /api/initiatives', { body: { name: 'Clear Sluice' } });
  const order = await odalys.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Ada', family: 'Sallow' }], { email: 'ada@post.example' }),
  });
  expect(order.token).toBeTruthy();
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  await odalys.call('POST /api/registrations/:id/attendance', {
    params: { id: rows[0]!.id },
    body: { eventId: event.id, state: 'arrived' },
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');

  await test.step('a measure is made, and chosen in the plan with what is hoped for', async () => {
    await page.goto('/team/registers');
    await page.getByRole('button', { name: 'Add a measure' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name', { exact: false }).first().fill('Silt taken out');
    await dialog.getByLabel('Unit', { exact: true }).fill('kg');
    await checkAccess(page);
    await dialog.getByRole('button', { name: 'Add a measure' }).click();
    await expect(page.getByText('Silt taken out')).toBeVisible();
    await page.goto(`/events/${event.id}/plan`);
    await page.getByRole('button', { name: 'Outcomes', exact: true }).click();
    await page.getByRole('button', { name: 'Count something' }).click();
    await page.getByRole('menuitem', { name: 'Silt taken out' }).click();
    await page.getByLabel('Planned, kg').fill('50');
    await page.getByText('Clear Sluice', { exact: true }).click();
    await expect(page.getByText('From Thu 9 Jul, 08:00 until')).toBeVisible();
    await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
  });

  const address = await test.step('people are let count, by a poster', async () => {
    await page.goto(`/events/${event.id}/wrap-up?see=outcomes`);
    await page.getByRole('button', { name: 'Let people count' }).click();
    await expect(page.getByRole('link', { name: 'Print the poster' })).toBeVisible();
    return page.getByRole('link', { name: /\/count\// }).getAttribute('href');
  });

  await test.step('on a phone: what is wrong is said beside it; what is right is taken down', async () => {
    const ada = await pageOf(browser, site, null, true);
    await ada.goto(new URL(address!).pathname);
    await ada.getByLabel('Silt taken out (kg)').fill('12 m');
    await ada.getByLabel('First name').fill('Ada');
    await ada.getByLabel('Last name').fill('Sallow');
    await ada.getByLabel(/Your email/u).fill('ada@post.example');
    await ada.getByRole('button', { name: 'Send it' }).click();
    await expect(ada.getByText('This is counted in kg, which m cannot be made into.').first()).toBeVisible();
    await ada.getByLabel('Silt taken out (kg)').fill('26 lb');
    await checkAccess(ada);
    await ada.getByRole('button', { name: 'Send it' }).click();
    await expect(ada.getByText('Thank you. What you counted was taken down.')).toBeVisible();
    await expect(ada.getByText('So far: Silt taken out: 12 kg')).toBeVisible();
    await ada.getByRole('button', { name: 'Count something more' }).click();
    await ada.getByLabel('Silt taken out (kg)').fill('9');
    await ada.getByLabel('First name').fill('Somebody');
    await ada.getByLabel(/Your email/u).fill('some@body.example');
    await ada.getByRole('button', { name: 'Send it' }).click();
    await expect(ada.getByText('Thank you. What you counted was taken down.')).toBeVisible();
  });

  await test.step('what is not known to be theirs waits; one is counted, corrected, and the other set aside', async () => {
    await expect(page.getByText('1 tally waits to be looked at', { exact: true })).toBeVisible();
    await expect(page.getByText('Nobody of that name has a seat or a shift here.').first()).toBeVisible();
    await checkAccess(page);
    await page.getByRole('button', { name: 'Count', exact: true }).first().click();
    await expect(page.getByRole('heading', { name: 'Silt taken out: 21 kg' })).toBeVisible();
    const row = page.getByRole('row').filter({ hasText: 'Somebody' });
    await row.getByRole('button', { name: 'Correct' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Counted').fill('19');
    await dialog.getByRole('button', { name: 'Correct' }).click();
    await expect(dialog.getByText('Say why; the words are kept with it.').first()).toBeVisible();
    await dialog.getByLabel('Why').fill('Misread');
    await dialog.getByRole('button', { name: 'Correct' }).click();
    await expect(page.getByRole('heading', { name: 'Silt taken out: 31 kg' })).toBeVisible();
    await expect(row.getByText('Said 9 until Odalys Ferrant corrected it: Misread')).toBeVisible();
    await row.getByRole('button', { name: 'Set aside' }).click();
    await expect(page.getByRole('heading', { name: 'Silt taken out: 12 kg' })).toBeVisible();
  });

  await test.step('it comes to the goal of the initiative, which stands on other pages', async () => {
    await page.goto('/records?show=initiatives');
    await page.getByRole('link', { name: 'Clear Sluice' }).click();
    await page.getByRole('button', { name: 'Set goals' }).click();
    await page.getByRole('button', { name: 'Add a goal' }).click();
    await page.getByLabel('Which measure').selectOption({ label: 'Silt taken out' });
    await page.getByLabel('Target, kg').fill('100');
    await page.getByLabel('Counts from').fill('2026-01-01');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('12 kg of 100 kg so far.')).toBeVisible();
    await expect(
      page.getByRole('row').filter({ hasText: 'Sluice Morning' }).getByText('12 kg'),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Show it', exact: true }).click();
    const widget = await page.getByRole('link', { name: 'See how it looks' }).getAttribute('href');
    const other = await pageOf(browser, site, null);
    await other.goto(new URL(widget!).pathname);
    await expect(other.getByText('12 kg of 100 kg, by')).toBeVisible();
  });
});

/** A walk held every fortnight from the summer on: two people stop coming. */
async function walks(site: Site) {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  let last = await openEvent(staff, {
    title: 'Fortnight Walk',
    startsLocal: '2026-07-13T10:00',
    endsLocal: '2026-07-13T12:00',
  });
  for (let n = 0; n < 8; n += 1) {
    const day = new Date(Date.UTC(2026, 6, 13 + n * 14)).toISOString().slice(0, 10);
    if (n > 0) {
      const { id } = await odalys.call('POST /api/events', {
        body: { publicTitle: 'Fortnight Walk', from: last.id, date: day },
      });
      await clearAndOpen(staff, id);
      const { plan } = await odalys.call('GET /api/events/:id', { params: { id } });
      last = { id, slug: plan.slug!, offers: plan.offers as never, questions: [] };
    }
    for (const given of n < 4 ? ['Hedda', 'Ivar', 'Jorun'] : ['Jorun'])
      await odalys.call('POST /api/public/events/:slug/orders', {
        params: { slug: last.slug },
        body: orderFor(last, [{ given, family: 'Sallow' }], { email: `${given.toLowerCase()}@post.example` }),
      });
    await odalys.call('POST /api/clock', { body: { to: `${day}T13:30:00.000Z` } as never });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: last.id } });
    for (const row of rows)
      await odalys.call('POST /api/registrations/:id/attendance', {
        params: { id: row.id },
        body: { eventId: last.id, state: 'arrived' },
      });
    await odalys.call('POST /api/clock', { body: { to: `${day}T22:00:00.000Z` } as never });
  }
  await odalys.call('POST /api/clock', { body: { to: '2026-11-20T15:00:00.000Z' } as never });
}

test('people drifting away are found and written to; events are compared; a report for the board is written and printed', async ({
  browser,
  site,
}) => {
  await walks(site);
  const page = await pageOf(browser, site, 'Odalys Ferrant');

  await test.step('who drifts away, and why; chosen, they are written to', async () => {
    await page.goto('/records?show=drifting');
    await expect(page.getByRole('heading', { name: '2 people drift away' })).toBeVisible();
    await expect(
      page
        .getByRole('row')
        .filter({ hasText: 'Hedda Sallow' })
        .getByText(/every 2 weeks or so .* Fortnight Walk took place 4 times since\./u),
    ).toBeVisible();
    await checkAccess(page);
    await page.getByRole('button', { name: 'Choose those who can be written to' }).click();
    await page.getByRole('button', { name: 'Write to them' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name for the team').fill('We miss you');
    await dialog.getByLabel('Subject', { exact: true }).fill('We miss you on the walk');
    await dialog.getByRole('button', { name: /Send it to 2/u }).click();
    await expect(dialog).toHaveCount(0);
    expect(await linkTo(site, 'hedda@post.example', /https?:\/\/\S+/u)).toBeTruthy();
  });

  await test.step('events side by side', async () => {
    await page.goto('/records');
    const rows = page.getByRole('row').filter({ hasText: 'Fortnight Walk' });
    await rows.nth(0).getByRole('checkbox').check();
    await rows.nth(6).getByRole('checkbox').check();
    await page.getByRole('button', { name: 'Compare 2 events' }).click();
    await expect(page.getByRole('heading', { name: 'Side by side' })).toBeVisible();
    await expect(page.getByRole('row', { name: /^Registered/u }).getByRole('cell')).toHaveText(['1', '3']);
    await checkAccess(page);
  });

  await test.step('a report of the year: said from the figures, written over, printed', async () => {
    await page.goto('/records?show=reports');
    await page.getByRole('button', { name: 'Begin a report' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Begin', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'The year 2026' })).toBeVisible();
    await expect(page.getByText(/8 events were held\. 16 people came/u)).toBeVisible();
    await page.getByRole('button', { name: 'Write', exact: true }).click();
    await page.getByLabel('What we ask').fill('A second pair of boots.');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('A second pair of boots.')).toBeVisible();
    await checkAccess(page);
    const href = await page.getByRole('link', { name: 'As PDF' }).getAttribute('href');
    const pdf = await page.request.get(href!);
    expect(pdf.headers()['content-type']).toBe('application/pdf');
    expect((await pdf.body()).length).toBeGreaterThan(5000);
    await page.getByRole('button', { name: 'Throw away' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Throw away' }).click();
    await expect(page.getByText('No report was written yet.')).toBeVisible();
  });
});

test('thanks go out with their receipts once all of it was seen', async ({ browser, site }) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, {
    title: 'Thanked Walk',
    startsLocal: '2026-07-10T09:00',
    endsLocal: '2026-07-10T12:00',
  });
  for (const given of ['Ada', 'Bo'])
    await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: 'Sallow' }], { email: `${given.toLowerCase()}@post.example` }),
    });
  await odalys.call('POST /api/clock', { body: { to: '2026-07-10T12:30:00.000Z' } as never });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  for (const row of rows)
    await odalys.call('POST /api/registrations/:id/attendance', {
      params: { id: row.id },
      body: { eventId: event.id, state: 'arrived' },
    });
  await odalys.call('POST /api/clock', { body: { to: '2026-07-11T15:00:00.000Z' } as never });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/wrap-up?see=thanks`);
  await page.getByRole('button', { name: 'See what goes out' }).click();
  await expect(page.getByRole('heading', { name: '2 mails and 0 receipts' })).toBeVisible();
  await page.getByText('Thank you for Thanked Walk').first().click();
  await expect(page.getByText('Thank you for being part of Thanked Walk.').first()).toBeVisible();
  await checkAccess(page);
  // What was changed since has to be seen again.
  await page.getByLabel('Subject', { exact: true }).fill('Thanks, {{name}}');
  await expect(page.getByText('Look once more: something was changed since.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Send/u })).toHaveCount(0);
  await page.getByRole('button', { name: 'See what goes out' }).click();
  await page.getByRole('button', { name: 'Send 2 mails' }).click();
  await expect(page.getByText('Thanks go out to 2 people.')).toBeVisible();
  await page.getByRole('button', { name: 'See what goes out' }).click();
  await expect(page.getByText('2 people were thanked for this event before.')).toBeVisible();
});
