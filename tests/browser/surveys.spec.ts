import { openEvent, orderFor } from '../api/scenes.ts';
import { FrameOf } from './pages/frame.ts';
import { callers, checkAccess, expect, linkTo, pageOf, type Site, test } from './site.ts';

const names = ['Ada', 'Bo', 'Cai', 'Dov', 'Eli', 'Fin'];

/** An event that some people have a seat at, each with an address of their own. */
async function scene(site: Site, title: string) {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title,
    startsLocal: '2026-07-10T09:00',
    endsLocal: '2026-07-10T12:00',
    capacity: 20,
  });
  const odalys = await staff.as('odalys');
  for (const given of names)
    await odalys.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: 'Sallow' }], { email: `${given.toLowerCase()}@post.example` }),
    });
  return { event, odalys };
}

/** Checks everybody in and goes to the day after. */
async function over(site: Site, { event, odalys }: Awaited<ReturnType<typeof scene>>) {
  await odalys.call('POST /api/clock', { body: { to: '2026-07-10T12:30:00.000Z' } as never });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  for (const row of rows)
    await odalys.call('POST /api/registrations/:id/attendance', {
      params: { id: row.id },
      body: { eventId: event.id, state: 'arrived' },
    });
  await odalys.call('POST /api/clock', { body: { to: '2026-07-11T15:00:00.000Z' } as never });
  const answer = async (given: string, answers: object) => {
    const link = await linkTo(site, `${given.toLowerCase()}@post.example`, /\/s\/[\w-]+/u);
    await odalys.call('POST /api/public/surveys/:token', {
      params: { token: link.split('/').at(-1)! },
      body: { answers, mayFollow: false } as never,
    });
  };
  return answer;
}

test('a survey is built, answered on a phone from its first question in the mail, read with its bounds, and compared with last year’s', async ({
  browser,
  site,
}) => {
  const it = await scene(site, 'Sallow Walk');
  const page = await pageOf(browser, site, 'Odalys Ferrant');

  await test.step('built: begun from a template, with a choice, what hangs on it, and another page', async () => {
    await page.goto(`/events/${it.event.id}/plan`);
    await page.getByRole('button', { name: 'Survey', exact: true }).click();
    await page.getByRole('button', { name: 'Another survey' }).click();
    await page.getByRole('menuitem', { name: 'Short: how was it (Those who came)' }).click();
    const phone = page.getByRole('region', { name: 'On a phone' });
    await expect(phone.getByText('How did you like it?')).toBeVisible();
    await page.getByRole('button', { name: 'Another question' }).click();
    const entry = page
      .getByRole('listitem')
      .filter({ has: page.getByLabel('Question', { exact: true }) })
      .last();
    await entry.getByLabel('Question', { exact: true }).fill('What was best?');
    await entry.getByLabel('Answer', { exact: true }).selectOption({ label: 'one choice' });
    await entry.getByLabel('Choice 1', { exact: true }).fill('The soup');
    await entry.getByLabel('Choice 2', { exact: true }).fill('The walk');
    await entry
      .getByLabel('Asked', { exact: true })
      .selectOption({ label: 'if “How did you like it?” was answered' });
    await entry.getByLabel('with at least').fill('4');
    await entry.getByLabel('and at most').fill('5');
    await expect(phone.getByText('What was best?')).toHaveCount(0);
    await phone.getByText('5', { exact: true }).first().click();
    await expect(phone.getByText('What was best?')).toBeVisible();
    await page.getByRole('button', { name: 'Another page' }).click();
    await page.getByLabel('Question', { exact: true }).last().fill('Anything else?');
    await page.getByLabel('Answer', { exact: true }).last().selectOption({ label: 'words' });
    await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
    await checkAccess(page);
  });

  const answer = await over(site, it);

  await test.step('answered on a phone: one tap in the mail, then the rest', async () => {
    const mail = await linkTo(site, 'ada@post.example', /\/s\/[\w-]+\?a=5/u);
    const ada = await pageOf(browser, site, null, true);
    await ada.goto(mail);
    await expect(ada.getByText('Your answer is noted, thank you.')).toBeVisible();
    await expect(ada.getByRole('radio', { name: '5', exact: true }).first()).toBeChecked();
    await expect(ada.getByText('Page 1 of 2')).toBeVisible();
    await ada.getByText('10', { exact: true }).click();
    await ada.getByText('The walk').click();
    await checkAccess(ada);
    await ada.getByRole('button', { name: 'Next' }).click();
    await ada.getByLabel('Anything else?').fill('More otters.');
    await ada.getByRole('button', { name: 'Send' }).click();
    await expect(ada.getByRole('heading', { name: 'Thank you' })).toBeVisible();
    await ada.goto(mail);
    await expect(ada.getByText('Your answers are kept.')).toBeVisible();
    await ada.context().close();
  });

  await test.step('read: how many answered, each question in a sentence, beside an earlier year', async () => {
    for (const [at, given] of names.slice(1).entries())
      await answer(given, { liked: 3 + (at % 3), recommend: 8 });
    await page.goto(`/events/${it.event.id}/wrap-up?see=survey`);
    await expect(page.getByText('6 of 6 asked have answered: 100% (between 61% and 100%).')).toBeVisible();
    await expect(page.getByText(/^4\.0 of 5 on average, 6 answers/u)).toBeVisible();
    await expect(page.getByText('More otters.')).toBeVisible();
    await page.getByLabel('Told apart by').selectOption({ label: 'ticket' });
    await checkAccess(page);
  });

  await test.step('compared: the same question next year, worded otherwise', async () => {
    const { id } = await it.odalys.call('POST /api/events', {
      body: { publicTitle: 'Sallow Walk', from: it.event.id, date: '2027-07-09' },
    });
    await page.goto(`/events/${id}/plan`);
    await page.getByText('How did you like it?').first().click();
    await page.getByLabel('Question', { exact: true }).first().fill('All in all, how did you like it?');
    await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
    await page.goto(`/events/${id}/wrap-up?see=survey`);
    await expect(page.getByText('Then: “How did you like it?”')).toBeVisible();
    await expect(page.getByText('Nobody was asked yet.')).toBeVisible();
  });
});

test('a survey without names: shown in fives, and what is tapped in the mail is not sent by itself', async ({
  browser,
  site,
}) => {
  const it = await scene(site, 'Sallow Supper');
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${it.event.id}/plan`);
  await page.getByRole('button', { name: 'Survey', exact: true }).click();
  await page.getByRole('button', { name: 'Another survey' }).click();
  await page.getByRole('menuitem', { name: 'Without names (Those who came)' }).click();
  await expect(page.getByText('Answers show once five are together')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
  const answer = await over(site, it);

  const ada = await pageOf(browser, site, null, true);
  await ada.goto(await linkTo(site, 'ada@post.example', /\/s\/[\w-]+\?a=2/u));
  await expect(ada.getByText('Nothing is sent until you send it.')).toBeVisible();
  await expect(ada.getByText('nobody can tell who gave them')).toBeVisible();
  await ada.getByRole('button', { name: 'Send' }).click();
  await expect(ada.getByRole('heading', { name: 'Thank you' })).toBeVisible();
  await ada.context().close();

  for (const given of names.slice(1, 4)) await answer(given, { liked: 5 });
  await page.goto(`/events/${it.event.id}/wrap-up?see=survey`);
  await expect(page.getByText('4 of 6 asked have answered', { exact: false })).toBeVisible();
  await expect(page.getByText('Shown once five have answered.').first()).toBeVisible();
  await expect(page.getByText('on average')).toHaveCount(0);
  await answer('Eli', { liked: 5 });
  await expect(page.getByText(/^4\.4 of 5 on average, 5 answers/u)).toBeVisible();
  await new FrameOf(page).stage('Plan');
  await checkAccess(page);
});
