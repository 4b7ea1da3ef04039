import { bookFor, openEvent } from '../api/scenes.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

test('a letter is written our own way; whoever gets it writes back, and is answered; the team is told', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Full House', capacity: 1 });
  const anyone = await staff.as('odalys');
  await bookFor({ anyone }, event, ['First']);
  const page = await pageOf(browser, site, 'Odalys Ferrant');

  await page.goto('/account');
  const told = page.getByRole('region', { name: 'What you are told of by email' });
  await told.getByLabel('Reply or question by mail').selectOption('soon');
  await told.getByLabel('Gift', { exact: true }).selectOption('each morning');
  await told.getByLabel('Gifts from this amount on').fill('250');
  await checkAccess(page);
  await told.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await page.reload();
  await expect(told.getByLabel('Gifts from this amount on')).toHaveValue('250.00');

  await page.goto('/tray?state=letters');
  await page.getByRole('cell', { name: 'A party joined the waitlist' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Subject', { exact: true }).fill('Patience: {{event}}');
  await dialog.getByLabel('Text', { exact: true }).fill('Hello {{nobody}}');
  await expect(dialog.getByText('nobody', { exact: false }).first()).toBeVisible();
  await dialog.getByLabel('Text', { exact: true }).fill('Hello {{name}}, we are full.');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog.getByText('It needs manage_link', { exact: false }).first()).toBeVisible();
  await dialog.getByLabel('Text', { exact: true }).fill('Hello {{name}}, we are full: {{manage_link}}');
  await dialog.getByRole('button', { name: 'See it as they get it' }).click();
  await expect(dialog.frameLocator('iframe').getByText('Hello Mai, we are full').last()).toBeVisible();
  await checkAccess(page);
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Kept. It goes out like this from now on.')).toBeVisible();
  await expect(page.getByRole('row', { name: /Patience: .*The French may no longer say/u })).toBeVisible();

  await bookFor({ anyone }, event, ['Second']);
  await linkTo(site, 'second.sedge@harbourpost.example', /\/m\//u);
  await page.goto('/tray?state=sent&q=second');
  await page.getByRole('cell', { name: 'waitlisted' }).click();
  await expect(dialog.getByRole('heading', { name: 'Patience: Full House' })).toBeVisible();
  await dialog.getByText('Try it: reply as Second Sedge').click();
  await dialog.getByLabel('What they write').fill('How long may it take?\n\n> Hello Second');
  await dialog.getByRole('button', { name: 'Hand it in' }).click();
  await expect(page.getByText('It came in.')).toBeVisible();
  await page.keyboard.press('Escape');

  await page.goto('/desk');
  await expect(page.getByText('One reply or question waits for an answer.')).toBeVisible();
  await page.goto('/tray?state=in');
  await expect(page.getByText('How long may it take?')).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Answer', exact: true }).click();
  await page.getByLabel('Answer to Second Sedge').fill('Until Friday, we think.');
  // Somebody else answers meanwhile, and this page does not know yet.
  let release: () => void = () => undefined;
  const released = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route(/\/api\/incoming(?:\?|$)/u, async (route) => {
    await released;
    await route.continue();
  });
  const [came] = (await anyone.call('GET /api/incoming')).rows;
  await anyone.call('POST /api/incoming/:id/answer', {
    params: { id: came!.id },
    body: { words: 'Hard to say.' },
  });
  await page.getByRole('button', { name: 'Send the answer' }).click();
  await expect(page.getByText('Read it, then send yours', { exact: false })).toBeVisible();
  release();
  await expect(page.getByText('Hard to say.')).toBeVisible();
  await expect(page.getByText('Is yours still needed?', { exact: false })).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Send the answer' }).click();
  await expect(page.getByText('Until Friday, we think.')).toBeVisible();
  await expect(page.getByText('Answered by Odalys Ferrant', { exact: false })).toBeVisible();
  expect(await linkTo(site, 'second.sedge@harbourpost.example', /Until Friday, we think\./u)).toBeTruthy();
});
