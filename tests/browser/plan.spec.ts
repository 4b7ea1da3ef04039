import { openEvent } from '../api/scenes.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('two people write on one plan: nothing typed is lost, and where both wrote the same both texts are shown', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Reed Cutting' });
  const odalys = await staff.as('odalys');
  const planNow = async () => (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan;
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  // What others do is not told at once, as on a slow network.
  await page.route('**/stream', (route) => route.abort());
  await page.goto(`/events/${event.id}/plan`);
  const standing = page.getByRole('status').filter({ hasText: /saved|saving/iu });
  const field = (label: string) => page.getByLabel(label, { exact: true });

  await test.step('a refused address holds nothing else back, and outlives leaving the stage', async () => {
    await field('Public address').fill('With Spaces');
    await field('Summary').fill('Cut and carry.');
    await field('Capacity').fill('33');
    await expect(standing).toHaveText('Not saved yet');
    await expect(page.getByRole('alert').filter({ hasText: 'Use small letters' })).toBeVisible();
    await expect.poll(planNow).toMatchObject({ summary: 'Cut and carry.', capacity: 33, slug: event.slug });
    await page.getByRole('link', { name: 'Crew', exact: true }).click();
    await page.waitForURL('**/crew');
    await page.getByRole('link', { name: 'Plan', exact: true }).click();
    await expect(field('Public address')).toHaveValue('With Spaces');
    await field('Public address').fill('reed-cutting');
    await expect(standing).toHaveText('Saved');
    await expect.poll(planNow).toMatchObject({ slug: 'reed-cutting' });
  });

  await test.step('what is saved asks for the page once, and for nothing else', async () => {
    const asked: string[] = [];
    page.on('request', (r) => {
      const { pathname } = new URL(r.url());
      // The stream, cut above, tries to come back by itself.
      if (pathname.startsWith('/api/') && !pathname.endsWith('/stream'))
        asked.push(`${r.method()} ${pathname}`);
    });
    // Not pointing at a stage, which would be fetched ahead.
    await page.mouse.move(640, 400);
    await page.waitForLoadState('networkidle');
    asked.length = 0;
    await field('Capacity').fill('34');
    await expect.poll(planNow).toMatchObject({ capacity: 34 });
    await expect(standing).toHaveText('Saved');
    await page.waitForLoadState('networkidle');
    // People count on it: what follows is asked first, and nothing does.
    expect(asked).toEqual([
      `POST /api/events/${event.id}/what-if`,
      `PATCH /api/events/${event.id}`,
      `GET /api/events/${event.id}`,
    ]);
    // Another time changes the times alone.
    asked.length = 0;
    await field('Begins').fill('10:15');
    await expect.poll(planNow).toMatchObject({ startsLocal: expect.stringContaining('T10:15') });
    await expect(standing).toHaveText('Saved');
    await page.waitForLoadState('networkidle');
    // Who is at the place at the new time is asked as it is typed, before it is saved or beside it.
    expect([...new Set(asked)].sort()).toEqual([
      `GET /api/events/${event.id}`,
      `GET /api/events/${event.id}/place`,
      `PATCH /api/events/${event.id}`,
      `POST /api/events/${event.id}/what-if`,
    ]);
    page.removeAllListeners('request');
    await field('Begins').fill('09:00');
    await expect.poll(planNow).toMatchObject({ startsLocal: expect.stringContaining('T09:00') });
  });

  await test.step('a row that was just added keeps the focus while it is saved', async () => {
    const { offers } = await planNow();
    await page.getByRole('button', { name: 'Add an offer' }).click();
    await field('Price').last().focus();
    await expect.poll(async () => (await planNow()).offers.length).toBe(offers.length + 1);
    await expect(standing).toHaveText('Saved');
    await expect(field('Price').last()).toBeFocused();
    await page
      .locator('#section-offers')
      .getByRole('button', { name: /^Remove/u })
      .last()
      .click();
    await expect.poll(async () => (await planNow()).offers.length).toBe(offers.length);
  });

  const other = async (change: object) => {
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
  };
  /** The plan as it is on the server, with nothing being asked any more. */
  const freshPlan = async (summary: string) => {
    await page.reload();
    await expect(field('Summary')).toHaveValue(summary);
  };
  await test.step('somebody else on another part does not get in the way', async () => {
    await other({ capacity: 40 });
    await field('Summary').fill('Cut, carry and rake.');
    await expect(standing).toHaveText('Saved');
    await expect.poll(planNow).toMatchObject({ capacity: 40, summary: 'Cut, carry and rake.' });
  });

  await test.step('on the same part both texts are shown, and one of them is kept', async () => {
    const two = page.getByRole('alert', { name: 'Two versions' });
    await freshPlan('Cut, carry and rake.');
    await other({ summary: 'Theirs.' });
    await field('Summary').fill('Mine.');
    await expect(two.getByRole('row', { name: 'Summary Theirs. Mine.' })).toBeVisible();
    await checkAccess(page);
    expect((await planNow()).summary).toBe('Theirs.');
    await two.getByRole('button', { name: 'Save mine over theirs' }).click();
    await expect(standing).toHaveText('Saved');
    await expect.poll(planNow).toMatchObject({ summary: 'Mine.' });
    await freshPlan('Mine.');
    await other({ summary: 'Theirs again.' });
    await field('Summary').fill('Mine again.');
    await two.getByRole('button', { name: 'Keep theirs' }).click();
    await expect(field('Summary')).toHaveValue('Theirs again.');
    await expect(standing).toHaveText('Saved');
  });

  await test.step('the date moves everything that hangs on it', async () => {
    await field('Registration closes').fill('2026-08-06');
    await field('Closes at').fill('18:00');
    await field('Date').fill('2026-08-15');
    await expect(field('Registration closes')).toHaveValue('2026-08-13');
    await expect(field('Ends on')).toHaveValue('2026-08-15');
    await expect(standing).toHaveText('Saved');
    await expect
      .poll(planNow)
      .toMatchObject({ startsLocal: '2026-08-15T09:00', registrationClosesLocal: '2026-08-13T18:00' });
  });
});
