import { openEvent, orderFor } from '../api/scenes.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

test('a line is written in both languages, formatted, seen as one of its people gets it, and says where the French lags', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, { title: 'Reed Morning', capacity: 20 });
  for (const [given, language] of [
    ['Ida', 'en'],
    ['Oscar', 'fr'],
  ] as const)
    await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...orderFor(event, [{ given, family: 'Sedge' }]), language },
    });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/messages`);
  const dialog = page.getByRole('dialog');
  const change = async () => {
    await page.getByRole('button', { name: 'More to do with Reminder, a day before' }).click();
    await page.getByRole('menuitem', { name: 'Change it' }).click();
  };

  await test.step('written: a slip is said at once, a field is put in where one writes', async () => {
    await change();
    await dialog.getByRole('button', { name: 'Formatted' }).click();
    const text = dialog.getByRole('textbox', { name: 'Text', exact: true });
    await expect(text).toContainText('{{event}} is tomorrow.');
    await text.click();
    await page.keyboard.press('ControlOrMeta+End');
    await page.keyboard.press('Enter');
    await page.keyboard.type('Bring boots, {{nmae}}');
    await expect(dialog.getByText('“nmae” is not a merge field.')).toBeVisible();
    for (let n = 0; n < '{{nmae}}'.length; n += 1) await page.keyboard.press('Backspace');
    await dialog
      .getByRole('group', { name: 'Filled in for each' })
      .getByRole('button', { name: 'name', exact: true })
      .click();
    await expect(text).toContainText('Bring boots, {{name}}');
    await expect(dialog.getByText('“nmae” is not a merge field.')).toHaveCount(0);
    await dialog.getByLabel('Preview line', { exact: true }).fill('Boots, please');
  });

  await test.step('seen as it is got, in their language, before it is saved', async () => {
    await dialog.getByRole('button', { name: 'See it as they get it' }).click();
    const drawn = dialog.frameLocator('iframe');
    await expect(drawn.getByText('Bring boots, Ida')).toBeVisible();
    await expect(drawn.getByRole('link', { name: 'Your pass' })).toBeVisible();
    await dialog.getByLabel('As', { exact: true }).selectOption({ label: 'Oscar Sedge' });
    await expect(drawn.getByText('Reed Morning, c’est demain.')).toBeVisible();
    await expect(drawn.getByRole('link', { name: 'Votre billet' })).toBeVisible();
    await dialog.getByRole('button', { name: 'Plain text', exact: true }).click();
    await expect(dialog.getByText(/Vous recevez ce courriel parce que vous avez une place/u)).toBeVisible();
    await checkAccess(page);
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toHaveCount(0);
    const row = page.getByRole('listitem').filter({ hasText: 'Reminder, a day before' });
    await expect(row.getByText('French lags behind')).toBeVisible();
  });

  await test.step('what the French lags behind is said until somebody says that it fits', async () => {
    await change();
    await expect(dialog.getByText('The English was changed since the French was written.')).toBeVisible();
    await dialog.getByText('The French still says the same').click();
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toHaveCount(0);
    await expect(page.getByText('French lags behind')).toHaveCount(0);
  });

  await test.step('what went out is shown as it was sent, with its headers', async () => {
    await site.started.runner.moveTo('2026-08-07T18:00:00.000Z');
    await page.goto('/tray?state=sent');
    await page.getByLabel('Name or address').fill('ida.sedge');
    const sent = page.getByRole('row').filter({ hasText: 'Reminder, a day before' });
    await expect(sent).toHaveCount(1);
    await sent.getByText('Reminder, a day before').click();
    await expect(dialog.frameLocator('iframe').getByText('Bring boots, Ida')).toBeVisible();
    await dialog.getByText('Headers', { exact: true }).click();
    await expect(dialog.getByText('List-Unsubscribe-Post: List-Unsubscribe=One-Click')).toBeVisible();
    await checkAccess(page);
  });
});

test('a monthly series is followed from its page; its reminders come an hour and ten minutes before each date, moved with one of them; the way out is one press', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  // August 2026 begins on its first Saturday.
  const event = await openEvent(staff, {
    title: 'Reed Saturday',
    startsLocal: '2026-08-01T09:30',
    endsLocal: '2026-08-01T12:30',
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');

  await test.step('two lines for those who follow', async () => {
    await page.goto(`/events/${event.id}/messages`);
    const dialog = page.getByRole('dialog');
    for (const [name, hours, minutes] of [
      ['An hour before', '1', ''],
      ['Ten minutes before', '', '10'],
    ] as const) {
      await page.getByRole('button', { name: 'Add a line' }).click();
      await dialog.getByLabel('Name', { exact: true }).fill(name);
      await dialog.getByLabel('Days').fill('');
      await dialog.getByLabel('Hours', { exact: true }).fill(hours);
      await dialog.getByLabel('Minutes').fill(minutes);
      await dialog
        .getByLabel('To', { exact: true })
        .selectOption({ label: 'those who follow it without a seat' });
      await expect(dialog.getByLabel('Text', { exact: true })).toHaveValue(
        /More about it: \{\{event_link\}\}/u,
      );
      await dialog.getByRole('button', { name: 'Add it' }).click();
      await expect(dialog).toHaveCount(0);
    }
  });

  await odalys.call('POST /api/series', {
    body: {
      eventId: event.id,
      rule: 'FREQ=MONTHLY;BYDAY=1SA',
      extra: [],
      skipped: [],
      horizon: 3,
      startsLocal: '2026-08-01T09:30',
      opens: true,
    },
  });

  const reader = await (await browser.newContext()).newPage();
  await test.step('somebody asks on the page, and says so again from the email', async () => {
    await reader.goto(`${site.origin}/e/${event.slug}`);
    await reader.getByText('Tell me about it').click();
    await reader.getByLabel('Your name').fill('Fen Reader');
    await reader.getByLabel('Email').fill('fen.reader@fenmail.example');
    await checkAccess(reader);
    await reader.getByRole('button', { name: 'Tell me', exact: true }).click();
    await expect(reader.getByText('We wrote to you.')).toBeVisible();
    const link = await linkTo(site, 'fen.reader@fenmail.example', /http:\S+\/follow\/[\w-]+/u);
    await reader.goto(link);
    await expect(
      reader.getByRole('heading', {
        name: 'Shall we tell you about Reed Saturday, every time it takes place?',
      }),
    ).toBeVisible();
    await checkAccess(reader);
    await reader.getByRole('button', { name: 'Yes, tell me' }).click();
    await expect(reader.getByRole('heading', { name: 'We tell you about Reed Saturday.' })).toBeVisible();
  });

  const rows = page.getByRole('row').filter({ hasText: 'Fen Reader' });
  const seen = async (state: 'sent' | 'coming', name: string, times: string[]) => {
    await page.goto(`/tray?state=${state}&q=fen.reader`);
    const of = rows.filter({ hasText: name });
    await expect(of).toHaveCount(times.length);
    for (const [at, time] of times.entries()) await expect(of.nth(at)).toContainText(time);
  };
  await test.step('a date is moved, and what hangs on it with it', async () => {
    await seen('coming', 'An hour before', ['Sat 1 Aug, 08:30', 'Sat 5 Sep, 08:30', 'Sat 3 Oct, 08:30']);
    await seen('coming', 'Ten minutes before', ['Sat 1 Aug, 09:20', 'Sat 5 Sep, 09:20', 'Sat 3 Oct, 09:20']);
    const dates = await odalys.call('GET /api/events');
    const moved = dates.find((d) => d.startsLocal === '2026-09-05T09:30')!;
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: moved.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: moved.id },
      body: { version, change: { startsLocal: '2026-09-06T14:00', endsLocal: '2026-09-06T17:00' } },
    });
    await seen('coming', 'An hour before', ['Sat 1 Aug, 08:30', 'Sun 6 Sep, 13:00', 'Sat 3 Oct, 08:30']);
  });

  await test.step('they come on the day, and the way out is one press, and back', async () => {
    await site.started.runner.moveTo('2026-08-01T15:00:00.000Z');
    await seen('sent', 'before', ['Sat 1 Aug, 09:20', 'Sat 1 Aug, 08:30']);
    const out = await linkTo(site, 'fen.reader@fenmail.example', /http:\S+\/out\/[\w-]+/u);
    await reader.goto(out);
    await expect(reader.getByRole('heading', { name: 'No more reminders of Reed Saturday?' })).toBeVisible();
    await checkAccess(reader);
    await reader.getByRole('button', { name: 'No more of these' }).click();
    await expect(reader.getByRole('heading', { name: 'You get no more of these.' })).toBeVisible();
    await seen('coming', 'An hour before', []);
    await reader.getByRole('button', { name: 'Send them again' }).click();
    await expect(reader.getByRole('heading', { name: 'No more reminders of Reed Saturday?' })).toBeVisible();
    await seen('coming', 'An hour before', ['Sun 6 Sep, 13:00', 'Sat 3 Oct, 08:30']);
  });
});

test('a question is asked on the page of an event, answered by the team, and the answer is read there and by email', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Reed Questions' });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/messages?show=questions`);
  await page.getByText('A board of questions on its page').click();
  await page.getByLabel('A question is shown').selectOption('once somebody has looked at it');
  await page.getByLabel('Who answers').selectOption({ label: 'Odalys Ferrant' });
  await expect(page.getByText('Nobody has asked anything yet.')).toBeVisible();

  const reader = await (await browser.newContext()).newPage();
  await reader.goto(`${site.origin}/e/${event.slug}`);
  await expect(reader.getByRole('heading', { name: 'Asked and answered' })).toBeVisible();
  await reader.getByText('Ask something').click();
  await reader.getByLabel('Your question').fill('May I bring a dog?');
  await reader.getByLabel('Your name').fill('Fen Asker');
  await reader.getByLabel('Email').fill('fen.asker@fenmail.example');
  await checkAccess(reader);
  await reader.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(reader.getByText('Thank you. The answer comes by email.')).toBeVisible();

  await page.goto('/desk');
  await page.getByRole('link', { name: 'Answer', exact: true }).first().click();
  const question = page.getByRole('listitem').filter({ hasText: 'May I bring a dog?' });
  await expect(question.getByText('not shown yet', { exact: false })).toBeVisible();
  await question.getByLabel('The answer to Fen Asker').fill('On a leash, gladly.');
  await checkAccess(page);
  await question.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(page.getByText('Answered. It is on its way to whoever asked.')).toBeVisible();
  await expect(question.getByText('Answered by Odalys Ferrant', { exact: false })).toBeVisible();

  await reader.reload();
  await expect(reader.getByText('On a leash, gladly.')).toBeVisible();
  await expect(reader.getByText('Fen A.', { exact: false })).toBeVisible();
  expect(await linkTo(site, 'fen.asker@fenmail.example', /On a leash, gladly\./u)).toBeTruthy();
});
