import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('members hear of the last day of their membership: a line goes out all year, is seen as one of them gets it, and found in the Tray', async ({
  browser,
  site,
}) => {
  const odalys = await callers(site).as('odalys');
  const person = async (given: string, email: string, until: string) => {
    const { id } = await odalys.call('POST /api/contacts', { body: { given, family: 'Teasel', email } });
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id },
      body: { kind: 'membership', level: 'household', number: null, from: null, until },
    });
    return id;
  };
  await person('Runa', 'runa.teasel@harbourpost.example', '2026-08-20');
  const other = await person('Sten', 'sten.teasel@harbourpost.example', '2026-08-20');
  await odalys.call('POST /api/contacts/:id/ties', {
    params: { id: other },
    body: { kind: 'membership', level: 'household', number: null, from: '2026-08-21', until: '2027-08-20' },
  });

  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/tray?state=year');
  await expect(page.getByText('No line goes out all year yet.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Add a line' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: false }).first().fill('A month before it ends');
  await expect(dialog.getByText('30 days before the last day of a membership')).toBeVisible();
  // What these people do not have is not said to them.
  const text = dialog.getByLabel('Text', { exact: false }).first();
  const first = await text.inputValue();
  await text.fill(`${first}\n{{event}}`);
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog.getByText('“event” stands for nothing to these people.').first()).toBeVisible();
  await text.fill(first);
  await dialog.getByRole('button', { name: 'See it as they get it' }).click();
  const drawn = dialog.frameLocator('iframe');
  await expect(drawn.getByText('Hello Runa')).toBeVisible();
  await expect(drawn.getByText('You get this because you are, or were, a member.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog).toBeHidden();

  const row = page.getByRole('listitem').filter({ hasText: 'A month before it ends' });
  await expect(row).toContainText('2 planned');
  await row.getByRole('button', { name: 'A month before it ends', exact: true }).click();
  await expect(row.getByRole('row').filter({ hasText: 'Sten' }).last()).toContainText(
    'has a membership that goes on',
  );
  await checkAccess(page);

  await site.started.runner.moveTo('2026-07-22T12:00:00.000Z');
  await page.goto('/tray?state=sent');
  await page.getByLabel('What', { exact: true }).selectOption({ label: 'A month before it ends 1' });
  await page.getByRole('cell', { name: 'A month before it ends' }).click();
  await expect(dialog).toContainText('Thursday 20 August 2026');
  await page.keyboard.press('Escape');

  await page.goto('/tray?state=year');
  await row.getByRole('button', { name: /^More/u }).click();
  await page.getByRole('menuitem', { name: 'Remove it' }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row).toContainText('1 planned, 1 sent');
});
