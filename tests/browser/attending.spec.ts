import type { EventPlan } from '#contract/plan.ts';
import { openEvent, orderFor, sessionOf } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, type Site, test } from './site.ts';

const doors = { goHome: false, handover: false, most: null, certificate: null };
/** An event of today with a booking by somebody, whose plan says more. */
async function scene(
  site: Site,
  title: string,
  people: { given: string; birthDate: string }[],
  change: Partial<EventPlan>,
) {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title,
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T18:00',
  });
  const odalys = await staff.as('odalys');
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
  const { token } = await odalys.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(
        event,
        people.map((p) => ({ ...p, family: 'Sallow' })),
      ),
      buyer: { given: people[0]!.given, family: 'Sallow', email: 'sallow@post.example', phone: '' },
    },
  });
  return { event, odalys, token };
}

test('at the door: of the event and of a session, by the name of the door, a name tag, a child handed over by code, how it stands', async ({
  browser,
  site,
}) => {
  const talk = sessionOf('Herons at dusk', [1, '09:00', '10:00']);
  const { event, odalys, token } = await scene(
    site,
    'Sallow Day',
    [
      { given: 'Ada', birthDate: '1988-01-01' },
      { given: 'Kit', birthDate: '2018-01-01' },
    ],
    { doors: { ...doors, handover: true, most: 2 }, sessions: [talk] },
  );
  const door = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
  await door.waitForURL(`**/doors/${event.id}`);
  const row = (name: string) => door.getByRole('listitem').filter({ hasText: name });

  await test.step('the door has a name, by which arrivals are counted', async () => {
    await door.getByRole('button', { name: 'Name this door' }).click();
    await door.getByLabel('What this door is called').fill('Main gate');
    await door.getByLabel('What this door is called').press('Enter');
    await expect(door.getByRole('button', { name: 'Door: Main gate' })).toBeVisible();
    await row('Sallow, Kit').getByRole('button', { name: 'Arrive' }).click();
    await expect(row('Sallow, Kit').getByRole('button', { name: 'Undo' })).toBeVisible();
  });

  await test.step('at the door of a session whoever comes there comes to the event', async () => {
    await door.getByLabel('Which door').selectOption({ label: '09:00 · Herons at dusk' });
    await expect(door.getByRole('status').filter({ hasText: '0 of 2 arrived' })).toBeVisible();
    await row('Sallow, Ada').getByRole('button', { name: 'Arrive' }).click();
    await expect(row('Sallow, Ada').getByRole('button', { name: 'Undo' })).toBeVisible();
    await door.getByLabel('Which door').selectOption({ label: 'Doors of the event' });
    await expect(door.getByRole('status').filter({ hasText: '2 of 2 arrived' })).toBeVisible();
  });

  await expect(door.getByText('Full: 2 inside, 2 may be.')).toBeVisible();

  await test.step('a name tag is made, and once more', async () => {
    await row('Sallow, Ada').getByRole('button', { name: 'Ada' }).click();
    const lamp = door.getByRole('alert').filter({ hasText: 'Ada Sallow' });
    const saved = door.waitForEvent('download');
    await lamp.getByRole('button', { name: 'Name tag' }).click();
    expect((await saved).suggestedFilename()).toBe('name-tag.pdf');
    await expect(lamp.getByRole('button', { name: 'Name tag again' })).toBeVisible();
    await lamp.getByRole('button', { name: 'Close' }).click();
  });

  await test.step('how it stands: against what the place may hold, by door', async () => {
    await door.getByRole('button', { name: 'Live' }).click();
    const live = door.getByRole('region', { name: 'Live' });
    await expect(live.getByText('2 guests and 0 of the crew inside, 1 under age.')).toBeVisible();
    await expect(live.getByRole('row').filter({ hasText: 'Main gate' })).toContainText('2');
    await checkAccess(door);
    await door.getByRole('button', { name: 'Live' }).click();
  });

  const { handover } = await odalys.call('GET /api/public/orders/:token/attendance', { params: { token } });
  await test.step('whoever booked sees the code; the child leaves by it and by no other', async () => {
    const parent = await pageOf(browser, site, null, true);
    await parent.goto(`/m/${token}`);
    await expect(parent.getByText('To collect the children, say this code:')).toBeVisible();
    await expect(parent.getByText(handover!, { exact: true })).toBeVisible();
    await checkAccess(parent);
    await parent.context().close();

    // Some time passes: the clock of the demonstration stands still, and nobody leaves in the moment they came.
    await odalys.call('POST /api/clock', { body: { to: '2026-07-09T13:00:00.000Z' } as never });
    await door.getByRole('button', { name: 'Emergency list' }).click();
    await door.getByRole('button', { name: 'Kit Sallow' }).click();
    const lamp = door.getByRole('alert').filter({ hasText: 'Kit Sallow' });
    await expect(lamp.getByText('May collect:')).toContainText('Ada Sallow');
    await lamp.getByLabel('Their code, or who takes them').fill('2B2B2');
    await lamp.getByRole('button', { name: 'Hand over' }).click();
    await expect(lamp.getByText('This is not the code of their booking.')).toBeVisible();
    await lamp.getByLabel('Their code, or who takes them').fill(handover!);
    await checkAccess(door);
    await lamp.getByRole('button', { name: 'Hand over' }).click();
    await expect(row('Sallow, Kit')).toContainText('left');
  });
  await door.context().close();
});

test('afterwards: a list is taken in, somebody is corrected, somebody says it is wrong and is answered, a certificate', async ({
  browser,
  site,
}) => {
  const { event, odalys, token } = await scene(
    site,
    'Sallow Course',
    [
      { given: 'Ada', birthDate: '1988-01-01' },
      { given: 'Bo', birthDate: '1989-01-01' },
      { given: 'Cy', birthDate: '1990-01-01' },
    ],
    { doors: { ...doors, certificate: { share: 80, of: 'event' } } },
  );
  const page = await pageOf(browser, site, 'odalys');
  const row = (name: string) => page.getByRole('row').filter({ hasText: name });

  await test.step('a log with somebody to choose is looked at, then taken', async () => {
    await page.goto(`/events/${event.id}/doors?see=there`);
    await page.getByRole('button', { name: 'Take in a list' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Choose a table').setInputFiles({
      name: 'room.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('Name,Email,Join time,Leave time\nAda Sallow,,8:05,9:10\nB. Sallow,,8:10,9:00\n'),
    });
    await expect(dialog.getByRole('status')).toContainText('2 rows: 1 person clear, 1 to choose.');
    await dialog.getByLabel('Who B. Sallow is').selectOption({ label: 'Bo Sallow' });
    await checkAccess(page);
    await dialog.getByRole('button', { name: 'Mark 2 people' }).click();
    await expect(row('Sallow, Bo')).toContainText('left');
    await expect(page.getByText('room.csv: 2 rows, 2 people')).toBeVisible();
  });

  await test.step('one is corrected, with a reason; what was marked stays to be read', async () => {
    await row('Sallow, Ada').click();
    const beside = page.getByRole('dialog', { name: 'Sallow, Ada' });
    await beside.getByRole('button', { name: 'Correct' }).click();
    await beside.getByLabel('Left', { exact: true }).fill('2026-07-09T08:00');
    await beside.getByLabel('Why it is corrected').fill('Stayed on by the phone');
    await beside.getByRole('button', { name: 'Save the correction' }).click();
    await expect(beside.getByText('They left before they came.').first()).toBeVisible();
    await beside.getByLabel('Left', { exact: true }).fill('');
    await beside.getByRole('button', { name: 'Save the correction' }).click();
    await expect(beside.getByText('Stayed on by the phone').first()).toBeVisible();
    await expect(beside.getByText('does not count any more').first()).toBeVisible();
    await checkAccess(page);
    await beside.getByRole('button', { name: 'Close' }).click();
    await expect(row('Sallow, Ada')).toContainText('corrected');
  });

  await test.step('the doors are closed: who is expected is missed', async () => {
    await page.getByRole('button', { name: 'Close the doors' }).click();
    await expect(page.getByRole('dialog')).toContainText('1 still expected are missed then.');
    await page.getByRole('dialog').getByRole('button', { name: 'Close the doors' }).click();
    await expect(row('Sallow, Cy')).toContainText('missed');
  });

  await odalys.call('POST /api/clock', { body: { to: '2026-07-10T12:00:00.000Z' } as never });
  const phone = await pageOf(browser, site, null, true);
  await test.step('on a phone: what is kept, a certificate, and that it is not right', async () => {
    await phone.goto(`/m/${token}`);
    const cy = phone.getByRole('listitem').filter({ hasText: 'Cy Sallow: missed it' });
    await expect(cy).toBeVisible();
    const ada = phone.getByRole('listitem').filter({ hasText: 'Ada Sallow: came' });
    await expect(ada.getByRole('link', { name: 'Certificate of attendance' })).toBeVisible();
    await expect(cy.getByRole('link', { name: 'Certificate of attendance' })).toHaveCount(0);
    await cy.getByRole('button', { name: 'That is not right' }).click();
    await cy.getByLabel('What we should know (when, with whom)').fill('I sat by the window');
    await checkAccess(phone);
    await cy.getByRole('button', { name: 'Send' }).click();
    await expect(
      phone.getByText('You told us that this is not right. You will get an answer.'),
    ).toBeVisible();
  });

  await test.step('it waits beside the event; it is corrected and answered', async () => {
    await page.goto(`/events/${event.id}/doors`);
    await expect(page.getByText('1 person says that their attendance is not right.')).toBeVisible();
    await page.getByRole('button', { name: 'Answer' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('“I sat by the window”');
    await tick(dialog.getByLabel('Correct it'));
    await dialog.getByLabel('Words to them').fill('Thank you, Cy.');
    await checkAccess(page);
    await dialog.getByRole('button', { name: 'Send the answer' }).click();
    await expect(row('Sallow, Cy')).toContainText('corrected');
    await expect(page.getByText('1 person says that their attendance is not right.')).toHaveCount(0);
    await phone.reload();
    await expect(phone.getByText('It is corrected. Thank you, Cy.')).toBeVisible();
  });
  await phone.context().close();
});

test('without a network a party arrives at once, somebody walks in and one of the crew is ticked off; all go out later, once', async ({
  browser,
  site,
}) => {
  const { event, odalys } = await scene(
    site,
    'Sallow Fair',
    [
      { given: 'Ada', birthDate: '1988-01-01' },
      { given: 'Ben', birthDate: '1989-01-01' },
    ],
    {},
  );
  const { id: shiftId } = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: {
      role: 'Landing',
      place: '',
      startsLocal: '2026-07-09T09:00',
      endsLocal: '2026-07-09T12:00',
      wished: 1,
    } as never,
  });
  const person = await odalys.call('POST /api/contacts', { body: { given: 'Vera', family: 'Crewe' } });
  await odalys.call('POST /api/shifts/:id/assignments', {
    params: { id: shiftId },
    body: { contactId: person.id, despite: 'In a test' } as never,
  });
  const door = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
  await door.waitForURL(`**/doors/${event.id}`);
  await door.getByRole('button', { name: 'Crew', exact: true }).click();
  await expect(door.getByText('Vera Crewe')).toBeVisible();
  await door.context().setOffline(true);
  await door.getByRole('button', { name: 'Vera Crewe is here' }).click();
  await expect(door.getByText('1 of the crew here, 0 late or missing')).toBeVisible();
  await door.getByRole('button', { name: 'Crew', exact: true }).click();
  await door
    .getByRole('listitem')
    .filter({ hasText: 'Sallow, Ada' })
    .getByRole('button', { name: 'Ada' })
    .click();
  await door.getByRole('button', { name: 'All 2 of the booking' }).click();
  await expect(door.getByRole('status').filter({ hasText: '2 of 2 arrived' })).toBeVisible();
  await door.getByRole('button', { name: 'Walk-in' }).click();
  await door.getByLabel('First name').fill('Wim');
  await door.getByLabel('Last name').fill('Walker');
  await door.getByRole('button', { name: 'Register' }).click();
  await expect(door.getByText('4 marks are kept on this device and go out by themselves.')).toBeVisible();
  // What waits on the device cannot be read there either.
  const lying = await door.evaluate(
    () =>
      new Promise<string>((resolve) => {
        const opening = indexedDB.open('acolyte-door');
        opening.onsuccess = () => {
          const kept = opening.result.transaction('requests').objectStore('requests').getAll();
          kept.onsuccess = () =>
            resolve(
              kept.result
                .map((k) => JSON.stringify(k) + new TextDecoder().decode(k.content ?? new ArrayBuffer()))
                .join(' '),
            );
        };
      }),
  );
  expect(lying.length).toBeGreaterThan(100);
  expect(lying).not.toContain('Walker');
  const inside = async () =>
    (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows
      .filter((r) => r.attendance === 'arrived')
      .map((r) => r.given);
  expect(await inside()).toEqual([]);
  await door.context().setOffline(false);
  await expect.poll(inside).toEqual(['Ada', 'Ben', 'Wim']);
  await expect
    .poll(
      async () =>
        (await odalys.call('GET /api/events/:id/doors/crew', { params: { id: event.id } })).rows[0]!.inAt !==
        null,
    )
    .toBe(true);
  await expect(door.getByTestId('offline')).toHaveCount(0);
  await door.context().close();
});
