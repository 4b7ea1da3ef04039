import { openEvent, orderFor } from '../api/scenes.ts';
import { pressByKey, tabTo, typeByKey } from './pages/controls.ts';
import { DoorList } from './pages/doors.ts';
import { Registering } from './pages/registering.ts';
import { callers, expect, pageOf, test } from './site.ts';

test('a party registers by keyboard alone, from the list to the confirmation', async ({ browser, site }) => {
  const event = await openEvent(callers(site), { title: 'Key Paddle', waiver: 'On the water' });
  const page = await pageOf(browser, site, null);
  await page.goto('/');
  await pressByKey(page, page.getByRole('link', { name: 'Key Paddle', exact: true }));
  await pressByKey(page, page.getByRole('link', { name: 'Register' }));
  await page.waitForURL(`**/e/${event.slug}/register`);
  const party = new Registering(page);
  await pressByKey(page, party.more('Guided paddle'));
  const first = page.getByLabel('First name').first();
  await typeByKey(page, first, 'Ines');
  await page.keyboard.press('Enter');
  // What is missing is said at once, and the first of it has the focus.
  await expect(page.getByLabel('Last name').first()).toBeFocused();
  await page.keyboard.type('Harrow');
  await typeByKey(page, page.getByLabel('Email', { exact: true }).first(), 'ines@fenmail.example');
  await tabTo(page, page.getByRole('radio', { name: 'yes' }).first());
  await page.keyboard.press('Space');
  await tabTo(page, party.seat('You').getByLabel('Birth date'));
  await page.keyboard.type('03141990');
  await typeByKey(page, party.seat('Seat 2').getByLabel('First name'), 'Omar');
  await typeByKey(page, party.seat('Seat 2').getByLabel('Last name'), 'Harrow');
  await tabTo(page, party.seat('Seat 2').getByLabel('Birth date'));
  await page.keyboard.type('03141991');
  await pressByKey(page, page.getByRole('button', { name: 'Register', exact: true }));
  await expect(page.getByRole('heading', { name: 'You are registered' })).toBeVisible();
  // Signing: every clause by Space, the name, Enter.
  const form = page
    .locator('form')
    .filter({ has: page.getByLabel('Type your first and last name') })
    .first();
  for (const clause of await form.getByRole('checkbox').all()) {
    await tabTo(page, clause);
    await page.keyboard.press('Space');
    await expect(clause).toBeChecked();
  }
  await typeByKey(page, form.getByLabel('Type your first and last name'), 'Ines Harrow');
  await page.keyboard.press('Enter');
  await expect(form).toHaveCount(0);
  await page.context().close();
});

test('an event is planned and sent for clearance by keyboard alone', async ({ browser, site }) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await pressByKey(page, page.getByRole('navigation').getByRole('link', { name: 'Season' }));
  await expect(page.getByRole('heading', { name: 'Season' })).toBeVisible();
  await page.keyboard.press('n');
  await typeByKey(page, page.getByLabel('Public title', { exact: true }), 'Key Count');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/plan');
  await tabTo(page, page.getByLabel('Date', { exact: true }));
  await page.keyboard.type('08142026');
  await tabTo(page, page.getByLabel('Begins', { exact: true }));
  await page.keyboard.type('0930AM');
  await typeByKey(page, page.getByLabel('Capacity', { exact: true }), '12');
  await pressByKey(page, page.getByRole('button', { name: 'Add an offer' }));
  await typeByKey(page, page.getByLabel('Price', { exact: true }), '5');
  await pressByKey(page, page.getByRole('button', { name: 'Nothing else applies' }));
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
  await expect(page.getByText('Friday 14 August 2026, 09:30')).toBeVisible();
  // Out of what is typed into; then the key of the stage.
  await page.keyboard.press('Escape');
  await pressByKey(
    page,
    page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Clearance' }),
  );
  await pressByKey(page, page.getByRole('button', { name: 'Send for clearance' }));
  const asking = page.getByRole('dialog');
  await pressByKey(page, asking.getByRole('button', { name: 'Send for clearance' }));
  await expect(page.getByRole('heading', { name: /^(In clearance|Cleared)$/u })).toBeVisible();
  await page.context().close();
});

test('somebody is let in at the door by keyboard alone, and the mark is taken back', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Key Evening',
    // Not today: the door team begins at the only door there is today, which another test looks at.
    startsLocal: '2026-07-10T18:00',
    endsLocal: '2026-07-10T23:00',
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [
      { given: 'Una', family: 'Tarn' },
      { given: 'Vito', family: 'Tarn' },
    ]),
  });
  const page = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
  const doors = new DoorList(page);
  await doors.open(event.id);
  await typeByKey(page, doors.search, 'vito');
  await page.keyboard.press('Enter');
  await expect(doors.answer.getByRole('heading', { name: 'Another day' })).toBeVisible();
  await typeByKey(page, doors.answer.getByLabel('Reason for letting them in'), 'A rehearsal of the door.');
  await pressByKey(page, doors.answer.getByRole('button', { name: 'Arrive' }));
  await doors.arrived('1 of 2');
  await typeByKey(page, doors.search, 'vito tarn');
  await pressByKey(page, doors.row('Tarn, Vito').getByRole('button', { name: 'Undo' }));
  await doors.arrived('0 of 2');
  await page.context().close();
});
