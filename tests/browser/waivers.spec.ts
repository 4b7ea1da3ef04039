import { openEvent, orderFor } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

test('a waiver written, asked, signed for a family on its own page, verified, and not asked again', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const page = await pageOf(browser, site, 'odalys');

  await test.step('the coordinator writes it, with a choice, initials and questions', async () => {
    await page.goto('/team/waivers');
    await page.getByRole('link', { name: 'Add a waiver' }).click();
    await expect(page.getByText('This is not legal advice')).toBeVisible();
    await page.getByRole('button', { name: 'Add the waiver' }).click();
    // What is missing stands beside its field.
    await expect(page.getByText('Write the clause.').first()).toBeVisible();
    await page.getByLabel('Title', { exact: true }).fill('Reed beds, for the year');
    await page.getByLabel('Text', { exact: true }).fill('I stay on the path.');
    await page.getByRole('button', { name: 'Add a clause' }).click();
    const second = page
      .getByRole('listitem')
      .filter({ has: page.getByLabel('Text', { exact: true }) })
      .last();
    await second.getByLabel('Heading', { exact: true }).fill('Photographs');
    await second.getByLabel('Text', { exact: true }).fill('I may be photographed.');
    await second.getByLabel('What is done with it').selectOption('choice');
    await page.getByRole('button', { name: 'Add the usual ones' }).click();
    const preview = page.getByRole('region', { name: 'As it is signed' });
    await expect(preview.getByText('I may be photographed.')).toBeVisible();
    await expect(preview.getByText('Allergies and medicines')).toBeVisible();
    await page.getByLabel('For how long a signature holds').selectOption('year');
    await tick(page.getByLabel('It has a page of its own, where people sign without a booking'));
    await checkAccess(page);
    await page.getByRole('button', { name: 'Add the waiver' }).click();
    await expect(page.getByRole('heading', { name: 'Reed beds, for the year' }).first()).toBeVisible();
  });
  const waiver = (await odalys.call('GET /api/waivers')).find((w) => w.title.startsWith('Reed beds'))!;

  const event = await openEvent(staff, {
    title: 'Reed Walk',
    startsLocal: '2026-08-15T09:00',
    endsLocal: '2026-08-15T12:00',
  });
  await test.step('it is asked of everybody at an event', async () => {
    await page.goto(`/events/${event.id}/plan`);
    await page.getByRole('button', { name: 'Ask for a waiver' }).click();
    await page.locator('summary').filter({ hasText: 'everybody with a seat' }).click();
    await page.getByLabel('Waiver', { exact: true }).selectOption({ label: 'Reed beds, for the year' });
    await expect
      .poll(async () =>
        (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.waivers.map(
          (r) => r.waiverId,
        ),
      )
      .toEqual([waiver.id]);
  });

  const phone = await pageOf(browser, site, null, true);
  await test.step('a mother signs for herself and a child, on a phone, without a booking', async () => {
    await phone.goto('/sign/reed-beds-for-the-year');
    await phone.getByRole('button', { name: 'Sign', exact: true }).tap();
    await expect(phone.getByText('Please tick this clause, or do not sign.').first()).toBeVisible();
    await tick(phone.getByLabel('I stay on the path.'));
    await phone.getByText('no', { exact: true }).first().tap();
    await phone.getByLabel('First name', { exact: true }).fill('Sylvi');
    await phone.getByLabel('Last name', { exact: true }).fill('Torfmoor');
    await phone.getByLabel('Birth date').fill('1986-06-06');
    await phone.getByLabel('Email').fill('sylvi@torfmoor.example');
    await phone.getByLabel('Whom do we call').fill('Jan, 902-555-0177');
    await phone.getByRole('button', { name: 'Add a child' }).tap();
    await phone.getByLabel('First name', { exact: true }).nth(1).fill('Kaja');
    await expect(phone.getByLabel('Last name', { exact: true }).nth(1)).toHaveValue('Torfmoor');
    await phone.getByLabel('Birth date').nth(1).fill('2016-01-01');
    await phone.getByLabel('Whom do we call').nth(1).fill('Sylvi, 902-555-0178');
    await phone.getByLabel('Allergies').nth(1).fill('Nettles');
    await tick(phone.getByLabel(/^I am of age/u));
    await phone.getByLabel('Type your first and last name').fill('Sylvi Torfmoor');
    await checkAccess(phone);
    await phone.getByRole('button', { name: 'Sign', exact: true }).tap();
    await expect(phone.getByText('Signed for 2 people.')).toBeVisible();
    await expect(phone.getByText('sylvi@torfmoor.example')).toBeVisible();
  });

  await test.step('her copy opens by mail; the file proves itself, another one does not', async () => {
    await phone.goto(await linkTo(site, 'sylvi@torfmoor.example', /\/signed\/[\w-]+/u));
    await expect(phone.getByText('Kaja Torfmoor')).toBeVisible();
    await checkAccess(phone);
    const pdf = await phone.evaluate(async () => {
      const address = document.querySelector<HTMLAnchorElement>('a[href$="copy.pdf"]')!.href;
      return [...new Uint8Array(await (await fetch(address)).arrayBuffer())];
    });
    await phone.goto('/verify');
    const choose = phone.locator('input[type=file]');
    await choose.setInputFiles({ name: 'copy.pdf', mimeType: 'application/pdf', buffer: Buffer.from(pdf) });
    await expect(phone.getByText('This is a copy made by')).toBeVisible();
    await expect(phone.getByText('2 signatures in it count today.')).toBeVisible();
    await choose.setInputFiles({
      name: 'other.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from([...pdf, 10]),
    });
    await expect(phone.getByText('No copy made here has this fingerprint')).toBeVisible();
  });

  await test.step('who is missing is asked; she, who signed, is not', async () => {
    for (const [given, family, email] of [
      ['Sylvi', 'Torfmoor', 'sylvi@torfmoor.example'],
      ['Ruben', 'Ellerbrook', 'ruben@ellerbrook.example'],
    ] as const)
      await odalys.call('POST /api/events/:id/orders', {
        params: { id: event.id },
        body: {
          ...orderFor(event, [{ given, family, birthDate: '1986-06-06' }]),
          buyer: { given, family, email, phone: '' },
        },
      });
    await page.goto(`/events/${event.id}/doors?see=signing`);
    await expect(page.getByRole('heading', { name: '1 of 2 have signed' })).toBeVisible();
    await expect(page.getByRole('row').filter({ hasText: 'Ruben Ellerbrook' })).toContainText(
      'not asked yet',
    );
    await checkAccess(page);
    await page.getByRole('button', { name: 'Ask 1 person now' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Ask 1 person now' }).click();
    await expect(page.getByText('1 letter goes out.')).toBeVisible();
    await page.goto(`/team/waivers/${waiver.id}?view=signed`);
    await expect(page.getByRole('row').filter({ hasText: 'Kaja Torfmoor' })).toContainText('as guardian');
    await checkAccess(page);
  });
});
