import { bookFor, openEvent } from '../api/scenes.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

test('a mailing calls those who have no seat, in both languages; its words are taken again; who books after it is counted', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, { title: 'Reed Supper' });
  const ids: string[] = [];
  for (const given of ['Asta', 'Bodil'])
    ids.push(
      (
        await odalys.call('POST /api/contacts', {
          body: { given, family: 'Sedge', email: `${given.toLowerCase()}.sedge@harbourpost.example` },
        })
      ).id,
    );
  const segment = await odalys.call('POST /api/segments', { body: { name: 'Supper friends', ids } });
  await bookFor({ anyone: odalys }, event, ['Asta']);

  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/records/segments/${segment.id}`);
  await page.getByRole('button', { name: 'Write to them' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name for the team').fill('Come to supper');
  const seat = dialog.getByLabel('Only who has no seat at');
  const supper = seat.locator('option', { hasText: 'Reed Supper' });
  await seat.selectOption((await supper.getAttribute('value'))!);
  // Whoever is called to something is invited: who said no to that is left out.
  await expect(dialog.getByLabel('What it is about')).toHaveValue('invitations');
  await dialog.getByLabel('Subject', { exact: true }).fill('A chair is free at {{event}}');
  await dialog.getByLabel('Subject, French').fill('Une chaise est libre : {{event}}');
  await dialog
    .getByLabel('Text', { exact: true })
    .fill('Dear {{name}},\n\nsoup on {{when}}: {{event_link}}\n\n{{organization}}');
  await dialog.getByLabel('Text, French').fill('De la soupe : {{shift}}');
  await expect(dialog.getByText('“shift” stands for nothing to these people.')).toBeVisible();
  await dialog.getByLabel('Text, French').fill('De la soupe : {{event_link}}');
  await dialog.getByText('As Bodil Sedge gets it').click();
  await expect(dialog.frameLocator('iframe').getByText('Dear Bodil,').last()).toBeVisible();
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Send it to 1 now' }).click();
  await expect(page.getByText('It goes to 1. See the Tray.')).toBeVisible();

  // What it says is there for the next one, and goes again at a word.
  await page.getByRole('button', { name: 'Write to them' }).click();
  await dialog.getByLabel('Begin with the words of').selectOption({ label: 'Come to supper' });
  await dialog.getByRole('button', { name: 'Take its words' }).click();
  await expect(dialog.getByLabel('Subject, French')).toHaveValue('Une chaise est libre : {{event}}');
  await dialog.getByRole('button', { name: 'Have mine back' }).click();
  await expect(dialog.getByLabel('Subject, French')).toHaveValue('');
  await dialog
    .getByRole('button', { name: 'Cancel' })
    .or(dialog.getByRole('button', { name: 'Close' }))
    .first()
    .click();

  const phone = await pageOf(browser, site, null, true);
  await phone.goto(await linkTo(site, 'bodil.sedge@harbourpost.example', /http\S+\/l\/[\w-]+/u));
  await expect(phone.getByRole('heading', { name: 'Reed Supper' })).toBeVisible();
  // A little later.
  await site.started.runner.moveTo('2026-07-09T12:45:00.000Z');
  await bookFor({ anyone: odalys }, event, ['Bodil']);
  await page.goto('/tray?state=many');
  await page.getByRole('cell', { name: 'Come to supper' }).click();
  await expect(dialog).toContainText(/Booked within 14 days\s*1/u);
  await expect(dialog.getByRole('listitem').filter({ hasText: '/e/reed-supper' })).toContainText('1 http');
  await expect(dialog.getByText('De la soupe', { exact: false })).toBeVisible();
  await checkAccess(page);
});

test('a date of a series shows which of its messages are its own, and takes one as the series has it', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, {
    title: 'Reed Cut',
    startsLocal: '2026-09-02T09:30',
    endsLocal: '2026-09-02T12:30',
  });
  const series = await odalys.call('POST /api/series', {
    body: {
      eventId: event.id,
      rule: 'FREQ=MONTHLY;BYDAY=1WE',
      startsLocal: '2026-09-02T09:30',
      extra: [],
      skipped: [],
      horizon: 4,
      opens: false,
    },
  });
  const { dates } = await odalys.call('GET /api/series/:id', { params: { id: series.id } });
  const { id } = dates[1]!;
  const { version, plan } = await odalys.call('GET /api/events/:id', { params: { id } });
  const day = plan.messages.find((l) => l.name === 'Reminder, a day before')!;
  const others = plan.messages.filter((l) => l.id !== day.id && l.name !== 'Confirmation');
  await odalys.call('PATCH /api/events/:id', {
    params: { id },
    body: {
      version,
      change: {
        messages: [{ ...day, offsetDays: -3 }, ...others, { ...day, id: crypto.randomUUID(), name: 'Boots' }],
      },
    },
  });

  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${id}/messages`);
  const row = (name: string) =>
    page.getByRole('listitem').filter({ has: page.getByRole('button', { name, exact: true }) });
  await expect(row('Reminder, a day before')).toContainText('not as in the series');
  await expect(row('Boots')).toContainText('on this date only');
  await expect(page.getByText('The series has these too, and this date does not:')).toBeVisible();
  await checkAccess(page);
  await row('Reminder, a day before').getByRole('button', { name: /^More/u }).click();
  await page.getByRole('menuitem', { name: 'As in the series' }).click();
  await expect(row('Reminder, a day before')).not.toContainText('not as in the series');
  await expect(row('Reminder, a day before')).toContainText('1 day before the start');
  await page.getByRole('button', { name: 'Add it', exact: true }).click();
  await expect(row('Confirmation')).toBeVisible();
  await expect(page.getByText('The series has these too, and this date does not:')).toHaveCount(0);
  await expect(row('Boots')).toContainText('on this date only');
});
