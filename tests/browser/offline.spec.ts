import { openEvent, orderFor } from '../api/scenes.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('an arrival given without a network is kept on the device, also when the tab closes, and goes out later', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Dusk Count',
    startsLocal: '2026-07-09T18:00',
    endsLocal: '2026-07-09T23:00',
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [
      { given: 'Torben', family: 'Reed' },
      { given: 'Ulrika', family: 'Reed' },
    ]),
  });
  const arrived = async () =>
    (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).arrived;

  // The door team begins at the one door of today.
  const door = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
  await door.waitForURL(`**/doors/${event.id}`);
  const row = (page: typeof door, name: string) => page.getByRole('listitem').filter({ hasText: name });
  await expect(row(door, 'Reed, Torben')).toBeVisible();
  await door.context().setOffline(true);
  await row(door, 'Reed, Torben').getByRole('button', { name: 'Arrive' }).click();
  await expect(door.getByText('1 mark is kept on this device and goes out by itself.')).toBeVisible();
  await expect(door.getByRole('status').filter({ hasText: '1 of 2 arrived' })).toBeVisible();
  await checkAccess(door);
  expect(await arrived()).toBe(0);

  // The tab is closed before the network is back.
  const context = door.context();
  await door.close();
  await context.setOffline(false);
  const again = await context.newPage();
  await again.goto(`${site.origin}/doors`);
  await expect(again.getByRole('status').filter({ hasText: '1 of 2 arrived' })).toBeVisible();
  await expect(again.getByText(/kept on this device/u)).toHaveCount(0);
  await expect.poll(arrived).toBe(1);
  const [mark] = await site.started.app.db.query<{ n: number }>(
    `select count(*)::int as n from attendance_marks m join registrations r on r.id = m.registration_id where r.event_id = $1`,
    [event.id],
  );
  expect(mark!.n, 'marked once').toBe(1);
  await context.close();
});
