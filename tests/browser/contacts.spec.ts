import { readFileSync } from 'node:fs';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

const picture = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
  'base64',
);

test('a contact: what they belong to on a day, fields of our own, a photo, an address that ended', async ({
  browser,
  site,
}) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await test.step('a field is added in the registers', async () => {
    await page.goto('/team/registers');
    await page.getByRole('button', { name: 'Add a field' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name', { exact: true }).fill('Boot size');
    await dialog.getByLabel('Kind').selectOption('number');
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByText('number, 0 filled in')).toBeVisible();
  });

  await test.step('somebody is added, with all that is known', async () => {
    await page.goto('/contacts');
    await expect(page.getByRole('heading', { name: 'Contacts' })).toBeVisible();
    await page.keyboard.press('n');
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('First name').fill('Ottoline');
    await dialog.getByLabel('Last name').fill('Marsh');
    await dialog.getByLabel('Email').fill('ottoline@old.example');
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Ottoline Marsh' })).toBeVisible();
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    await dialog.getByLabel('Street').fill('4 Chapel Hill');
    await dialog.getByLabel('Boot size').fill('forty');
    await dialog.getByLabel('Also reads').fill('de mi');
    await dialog.getByRole('button', { name: 'No longer theirs' }).click();
    await dialog.getByRole('button', { name: 'Add an email' }).click();
    await dialog.getByLabel('Email 2', { exact: true }).fill('ottoline@new.example');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog.getByText('This is not a number.').first()).toBeVisible();
    await dialog.getByLabel('Boot size').fill('40');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toHaveCount(0);
    await expect(page.getByText('English, German, Māori')).toBeVisible();
    await expect(page.getByText('not theirs since 9 Jul 2026')).toBeVisible();
  });

  await test.step('membership by dates: what held on a day', async () => {
    await page.getByRole('button', { name: /^Add a membership/u }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Level').fill('Household');
    await dialog.getByLabel('From').fill('2024-01-01');
    await dialog.getByLabel('Last day').fill('2023-12-31');
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(dialog.getByText('The last day is before the first.').first()).toBeVisible();
    await dialog.getByLabel('Last day').fill('2025-12-31');
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    const ties = page.getByRole('region', { name: 'Belongs to' });
    await expect(ties).toContainText('Not a member on this day');
    await ties.getByLabel('What held on this day').fill('2025-12-31');
    await expect(ties).toContainText('A member on 31 Dec 2025');

    await page.getByRole('button', { name: /^Add a membership/u }).click();
    await dialog.getByLabel('Kind').selectOption('unit');
    await dialog.getByLabel('Unit').selectOption('Small Boats');
    await dialog.getByLabel('What they do there').fill('Treasurer');
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(ties).toContainText('Small Boats, Treasurer');
    await ties.getByRole('button', { name: 'Remove: Small Boats, Treasurer' }).click();
    await expect(ties).not.toContainText('Treasurer');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(ties).toContainText('Small Boats, Treasurer');
  });

  await test.step('where they work is a contact of its own, with its people', async () => {
    await page.getByRole('button', { name: /^Add a membership/u }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Kind').selectOption('organization');
    await dialog.getByLabel('Organization').fill('Causeway Veterinary');
    await dialog.getByLabel('What they do there').fill('veterinarian');
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    await checkAccess(page);
    await page.getByRole('button', { name: 'Causeway Veterinary', exact: true }).click();
    await dialog.getByRole('link', { name: 'Open the page' }).click();
    await expect(page.getByRole('heading', { name: 'Causeway Veterinary' })).toBeVisible();
    await expect(page.getByRole('region', { name: 'People' })).toContainText('Ottoline Marsh, veterinarian');
    await expect(page.getByRole('button', { name: 'Erase this organization' })).toBeVisible();
    await checkAccess(page);
    await page.goBack();
  });

  await test.step('a photo is put there, a file that is none is refused', async () => {
    await page.getByLabel('Photo').setInputFiles({
      name: 'sheet.xlsx',
      mimeType: 'image/png',
      buffer: Buffer.from('PK not a picture'),
    });
    await expect(page.getByText('“sheet.xlsx” is not a picture that can be read.')).toBeVisible();
    await page
      .getByLabel('Photo')
      .setInputFiles({ name: 'ottoline.png', mimeType: 'image/png', buffer: picture });
    const photo = page.getByRole('img', { name: 'Ottoline Marsh' });
    await expect(photo).toBeVisible();
    expect(await photo.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1);
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await expect(photo).toHaveCount(0);
  });

  await test.step('the unit names them in the registers', async () => {
    await page.goto('/team/registers');
    await page.getByText('Small Boats', { exact: true }).click();
    await expect(page.getByText('Ottoline Marsh, Treasurer')).toBeVisible();
  });
});

test('contacts are filtered, chosen, kept as a segment and a view, written to and taken along', async ({
  browser,
  site,
}) => {
  const odalys = await callers(site).as('odalys');
  for (const given of ['Alba', 'Bruno', 'Cora'])
    await odalys.call('POST /api/contacts', {
      body: { given, family: 'Quistgaard', email: `${given.toLowerCase()}@quistgaard.example` },
    });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/contacts');
  await page.getByLabel('Filter contacts').fill('quistgaard');
  await expect(page.getByText('3 contacts')).toBeVisible();

  await test.step('a view is kept and opened again', async () => {
    await page.getByRole('button', { name: 'Save this view' }).click();
    await page.getByLabel('Name of the view').fill('The Quistgaards');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const chip = page.getByRole('button', { name: 'The Quistgaards' });
    await expect(chip).toHaveAttribute('aria-pressed', 'true');
    await page.getByLabel('Filter contacts').fill('');
    await expect(chip).toHaveAttribute('aria-pressed', 'false');
    await chip.click();
    await expect(page.getByText('3 contacts')).toBeVisible();
    await expect(page.getByLabel('Filter contacts')).toHaveValue('quistgaard');
    await checkAccess(page);
  });

  await test.step('two of them become a segment kept by hand', async () => {
    const table = page.getByRole('region', { name: 'Contacts' });
    await table.focus();
    await page.keyboard.press('j');
    await page.keyboard.press('x');
    await page.keyboard.press('j');
    await page.keyboard.press('x');
    await expect(page.getByText('2 chosen')).toBeVisible();
    await page.getByRole('button', { name: 'Add to a segment' }).click();
    await page.getByLabel('Name of the new segment').fill('Boat keepers');
    await page.getByRole('button', { name: 'Add them' }).click();
    await expect(page.getByText('“Boat keepers” was made with 2 contacts.')).toBeVisible();
    await checkAccess(page);
  });

  await test.step('the chosen are taken along as a table', async () => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Export 2 as CSV' }).click();
    const file = await (await download).path();
    const lines = readFileSync(file, 'utf8').split('\r\n').filter(Boolean);
    expect(lines).toHaveLength(3);
    expect(lines[1]).toContain('alba@quistgaard.example');
  });

  await test.step('a message says who gets it, and goes to just those', async () => {
    await page.getByRole('button', { name: 'Write to them' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('What it is about').selectOption('newsletter');
    await expect(dialog.getByText('2 left out, never said yes to the newsletter')).toBeVisible();
    await expect(dialog.getByRole('button', { name: 'Send it to 0 now' })).toBeDisabled();
    await dialog.getByLabel('What it is about').selectOption('notice');
    await dialog.getByLabel('Name for the team').fill('Keys of the boat shed');
    await dialog.getByLabel('Subject', { exact: true }).fill('The keys, {{name}}');
    await dialog.getByText('As Alba Quistgaard gets it').click();
    await expect(dialog.getByText('The keys, Alba')).toBeVisible();
    await dialog.getByRole('button', { name: 'Send it to 2 now' }).click();
    await expect(page.getByText('It goes to 2. See the Tray.')).toBeVisible();
    await page.goto('/tray?state=many');
    const row = page.getByRole('row').filter({ hasText: 'Keys of the boat shed' });
    await expect(row).toContainText('Odalys Ferrant');
    await page.getByRole('button', { name: /^Sent \d/u }).click();
    await expect(page.getByRole('cell', { name: 'bruno@quistgaard.example' })).toBeVisible();
  });

  await test.step('somebody is taken out of the segment, and comes back', async () => {
    await page.goto('/records/segments');
    await page.getByRole('link', { name: 'Boat keepers' }).click();
    await expect(page.getByText('People put together by hand.')).toBeVisible();
    await page.getByRole('button', { name: 'Take out Bruno Quistgaard' }).click();
    await expect(page.getByText('1 contact', { exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByText('2 contacts', { exact: true })).toBeVisible();
    await checkAccess(page);
    await page.goto('/contacts');
    await page.getByLabel('In the segment').selectOption('Boat keepers (2)');
    await expect(page.getByText('2 contacts')).toBeVisible();
  });
});
