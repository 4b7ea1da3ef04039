import { openEvent, orderFor } from '../api/scenes.ts';
import { tickAll } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a shared device at the entrance takes one person after the other, shows nobody else and leads nowhere else', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Lamp Supper',
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T23:00',
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: {
      ...orderFor(event, [{ given: 'Brage', family: 'Lund' }]),
      buyer: { given: 'Brage', family: 'Lund', email: 'brage@lund.example', phone: '' },
    },
  });
  const { page: address } = await odalys.call('PUT /api/events/:id/self-check-in', {
    params: { id: event.id },
    body: { on: true },
  });
  const page = await pageOf(browser, site, null);
  await page.goto(`${new URL(address!).pathname}?kiosk`);
  const say = async (given: string, known: string) => {
    await page.getByLabel('First name').fill(given);
    await page.getByLabel('Last name').fill('Lund');
    await page.getByLabel('Your email, or the last digits of your telephone').fill(known);
    await page.getByRole('button', { name: 'I am here' }).click();
  };
  await expect(page.getByLabel('First name')).toBeVisible();
  await checkAccess(page);
  await expect(page.getByRole('main').getByRole('link')).toHaveCount(0);
  await expect(page.getByRole('banner').getByRole('link')).toHaveCount(0);
  await expect(page.getByRole('contentinfo').getByRole('link')).toHaveCount(0);
  await say('Nobody', 'nobody@lund.example');
  await expect(page.getByLabel('First name')).toHaveCount(0);
  await expect(page.getByText('Brage')).toHaveCount(0);
  await page.getByRole('main').getByRole('button').first().click();
  await say('Brage', 'brage@lund.example');
  await expect
    .poll(
      async () =>
        (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows[0]!.attendance,
    )
    .toBe('arrived');
  // It forgets whoever was there by itself.
  await expect(page.getByLabel('First name')).toHaveValue('');
  await expect(page.getByText('Brage')).toHaveCount(0);
  await page.context().close();
});

test('on a shared device a parent signs for the children in one go, and they are in; then it forgets them', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Lamp Camp',
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T23:00',
    so: ['minors'],
    waiver: 'Children in our care',
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: {
      ...orderFor(event, [
        { given: 'Inga', family: 'Lund', birthDate: '1988-01-01' },
        { given: 'Jon', family: 'Lund', birthDate: '2016-01-01' },
        { given: 'Kari', family: 'Lund', birthDate: '2018-01-01' },
      ]),
      buyer: { given: 'Inga', family: 'Lund', email: 'inga@lund.example', phone: '' },
    },
  });
  const { kiosk } = await odalys.call('PUT /api/events/:id/self-check-in', {
    params: { id: event.id },
    body: { on: true },
  });
  const page = await pageOf(browser, site, null, true);
  await page.goto(new URL(kiosk!).pathname + new URL(kiosk!).search);
  await page.getByLabel('First name').fill('Inga');
  await page.getByLabel('Last name').fill('Lund');
  await page.getByLabel('Your email, or the last digits of your telephone').fill('inga@lund.example');
  await page.getByRole('button', { name: 'I am here' }).click();
  await expect(page.getByText('Welcome, Inga. You are checked in.')).toBeVisible();
  await page.getByRole('button', { name: '2 more of my booking are here, too' }).click();
  await expect(page.getByText('This is to be signed before you come in.')).toBeVisible();
  await expect(page.getByText('Jon Lund · I sign as a parent or guardian')).toBeVisible();
  await tickAll(page.getByRole('main'));
  await page.getByLabel('Type your first and last name').fill('Inga Lund');
  await checkAccess(page);
  await page.getByRole('button', { name: 'Sign for 2 people' }).click();
  await expect(page.getByText('Welcome, Inga. You are checked in.')).toBeVisible();
  await expect
    .poll(
      async () =>
        (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows.filter(
          (r) => r.attendance === 'arrived',
        ).length,
    )
    .toBe(3);
  await expect(page.getByLabel('First name')).toHaveValue('');
  await expect(page.getByText('Inga')).toHaveCount(0);
  await page.context().close();
});
