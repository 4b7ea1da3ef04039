import { plainExtra, plainOffer } from '../../src/core/offers/offer.ts';
import { saveIt } from '../api/plans.ts';
import { openEvent } from '../api/scenes.ts';
import { Registering } from './pages/registering.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a gala from order to receipt: a seat with a gift, a table paid later by cheque, guests named after, a sponsor, receipts', async ({
  browser,
  site,
}) => {
  const odalys = await callers(site).as('odalys');
  const gala = await openEvent(callers(site), {
    title: 'Lantern Gala',
    startsLocal: '2026-07-25T18:30',
    endsLocal: '2026-07-25T22:30',
    capacity: 60,
  });
  const sponsor = await odalys.call('POST /api/contacts', {
    body: { kind: 'organization', given: '', family: 'Reed & Rope', email: 'hello@rope.example' } as never,
  });
  await saveIt(odalys, gala.id, {
    balanceDays: 7,
    offers: [
      { ...plainOffer, id: gala.offers[0]!.id, name: 'Single seat', price: 12_000, valueReceived: 4500 },
      {
        ...plainOffer,
        id: crypto.randomUUID(),
        name: 'Table of eight',
        price: 90_000,
        valueReceived: 36_000,
        seatsPerUnit: 8,
        pricing: 'later',
      },
    ],
    extras: [
      {
        ...plainExtra,
        id: crypto.randomUUID(),
        name: 'Raffle ticket',
        price: 500,
        chance: true,
        quantity: 4,
      },
    ],
    sponsors: [
      {
        id: crypto.randomUUID(),
        contactId: sponsor.id,
        name: 'Reed & Rope',
        level: 'Lanterns',
        address: 'https://rope.example',
        pictureId: null,
      },
    ],
  });

  const una = await pageOf(browser, site, null, true);
  await test.step('a single seat, raffle tickets and a gift, by card', async () => {
    await una.goto(`/e/${gala.slug}`);
    await expect(una.getByText('Reed & Rope')).toBeVisible();
    await expect(una.getByText('$900 · book now, pay later', { exact: false })).toBeVisible();
    const form = new Registering(una);
    await una.goto(`/e/${gala.slug}/register`);
    await form.more('Single seat').click();
    await form.comes();
    await form.name('You', { given: 'Una', family: 'Marlowe' });
    await form.email('una@fenmail.example');
    for (let n = 0; n < 2; n += 1) await una.getByRole('button', { name: '+ Raffle ticket' }).click();
    await una.getByRole('button', { name: '$50', exact: true }).click();
    await expect(una.getByText('$180').first()).toBeVisible();
    await una.getByRole('button', { name: 'Register and pay $180' }).click();
    await form.pay('$180');
    await expect(una.getByRole('heading', { name: 'You are registered' })).toBeVisible();
  });

  const host = await pageOf(browser, site, null, true);
  await test.step('a table is booked, and paid later; a guest is named after', async () => {
    const form = new Registering(host);
    await host.goto(`/e/${gala.slug}/register`);
    await form.more('Table of eight').click();
    await form.comes();
    await form.name('You', { given: 'Berit', family: 'Host' });
    await form.email('berit@fenmail.example');
    await expect(host.getByText('$900 is to be paid until Saturday 18 July', { exact: false })).toBeVisible();
    await checkAccess(host);
    await host.getByRole('button', { name: 'Register', exact: true }).click();
    await expect(host.getByRole('heading', { name: 'You are registered' })).toBeVisible();
    await expect(host.getByText('Please pay $900 until', { exact: false })).toBeVisible();
    await host.getByRole('button', { name: 'Pay $900 by card' }).click();
    await expect(host.getByLabel('Card number')).toBeVisible();
    await expect(host.getByText('Guest to be named')).toHaveCount(7);
    await host.getByRole('button', { name: 'Name this guest' }).first().click();
    await host.getByLabel('First name').fill('Odd');
    await host.getByLabel('Last name').fill('Guest');
    await host.getByRole('button', { name: 'Save' }).click();
    await expect(host.getByText('Odd Guest')).toBeVisible();
    await checkAccess(host);
  });

  const marit = await pageOf(browser, site, 'Marit Solvang');
  const dialog = marit.getByRole('dialog');
  await test.step('the cheque for the table comes', async () => {
    await marit.goto('/ledger?show=owed');
    const row = marit.getByRole('row').filter({ hasText: 'Berit Host' });
    await expect(row).toContainText('until 18 Jul 2026');
    await row.getByRole('button', { name: /^Record money/u }).click();
    await dialog.getByLabel('How').selectOption('by cheque');
    await dialog.getByLabel('Reference').fill('cheque 7');
    await dialog.getByRole('button', { name: 'Record $900' }).click();
    await expect(marit.getByText('Nobody owes anything', { exact: false })).toBeVisible();
    await host.reload();
    await expect(host.getByText('Please pay', { exact: false })).toHaveCount(0);
    await expect(host.getByText('Paid $900', { exact: false })).toBeVisible();
  });

  await test.step('one guest paid for their own seat, as whoever booked says', async () => {
    await marit.goto(`/events/${gala.id}/registration`);
    await marit.getByRole('row').filter({ hasText: 'Odd' }).getByRole('cell').nth(2).click();
    await dialog.getByRole('button', { name: 'Money', exact: true }).click();
    await dialog.getByText('Berit Host says that Odd Guest paid for this seat', { exact: false }).click();
    await expect(dialog.getByRole('checkbox', { name: /Odd Guest paid/u })).toBeChecked();
    await checkAccess(marit);
  });

  await test.step('after the evening each has a receipt for what is a gift, in one run', async () => {
    for (const [given, family] of [
      ['Una', 'Marlowe'],
      ['Berit', 'Host'],
      ['Odd', 'Guest'],
    ] as const)
      await site.started.app.db.query(
        "update contacts set street = '7 Weir Street', postal_code = 'B0J 1A0' where given_name = $1 and family_name = $2",
        [given, family],
      );
    await odalys.call('POST /api/clock', { body: { to: '2026-07-27T12:00:00.000Z' } as never });
    await marit.goto('/ledger?show=receipts');
    await marit.getByRole('button', { name: 'Fill it in' }).click();
    for (const [label, value] of [
      ['Name as registered', 'Brackenmere Wetland Trust'],
      ['Registration number', '80012 3456 RR0001'],
      ['Address as registered', '4 Sluice Lane\nPort Ansley NS'],
      ['Place of issue', 'Port Ansley'],
      ['Who signs', 'Marit Solvang'],
    ] as const)
      await dialog.getByLabel(label).fill(value);
    await dialog.getByRole('button', { name: 'Save' }).click();
    await marit.getByRole('button', { name: 'Receipts for 2026' }).click();
    // 120 − 45 and the gift of 50; the table 900 − 360, shared by who paid; raffle tickets are none.
    await expect(dialog.getByText('3 people get a receipt, for $665 in all', { exact: false })).toBeVisible();
    await checkAccess(marit);
    // However far the run was when it was asked about first, its end is seen.
    await marit.route(
      '**/api/receipts?year=2026',
      async (route) => {
        const read = await (await route.fetch()).json();
        const batches = read.batches.map((batch: object) => ({ ...batch, state: 'running' }));
        await route.fulfill({ json: { ...read, rows: [], batches } });
      },
      { times: 1 },
    );
    await dialog.getByRole('button', { name: 'Write them' }).click();
    const receipt = (name: string) => marit.getByRole('row').filter({ hasText: name });
    await expect(receipt('Una Marlowe')).toContainText('$125');
    await expect(receipt('Berit Host')).toContainText('$472.50');
    await expect(receipt('Odd Guest')).toContainText('$67.50');
  });

  await test.step('it stands on their records, and in the account of the evening', async () => {
    const recordOf = async (name: string) => {
      await marit
        .getByRole('row')
        .filter({ hasText: name })
        .getByRole('button', { name, exact: true })
        .click();
      await expect(dialog.getByRole('heading', { name })).toBeVisible();
    };
    await recordOf('Una Marlowe');
    for (const said of ['receipt 2026-0000', 'donation', 'payment'])
      await expect(dialog.getByText(said, { exact: false }).first()).toBeVisible();
    await checkAccess(marit);
    await marit.keyboard.press('Escape');
    const coordinator = await pageOf(browser, site, 'Odalys Ferrant');
    await coordinator.goto(`/contacts/${sponsor.id}`);
    await expect(coordinator.getByText('sponsor of', { exact: false })).toBeVisible();
    await marit.goto(`/events/${gala.id}/wrap-up`);
    await expect(marit.getByRole('heading', { name: 'What it brought and cost' })).toBeVisible();
    const row = (name: string) => marit.getByRole('row').filter({ hasText: new RegExp(`^${name}\\$`, 'u') });
    await expect(row('Seats')).toContainText('$1,020');
    await expect(row('Gifts')).toContainText('$50');
  });
});
