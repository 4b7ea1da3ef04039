import { applyAll, bringInFile } from './pages/imports.ts';
import { checkAccess, expect, pageOf, test } from './site.ts';

test('people are brought in, put right, decided from the keyboard, merged and taken apart', async ({
  browser,
  site,
}) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');

  await test.step('a first list; a date that tells no order is asked about', async () => {
    await bringInFile(page, {
      name: 'walkers.csv',
      content:
        'Name,Telephone,Born on\nKatherine Thistlewood,902 555 0141,02/03/1970\nTariq Quill,902 555 0142,04/05/1981\n,902 555 0143,\n',
    });
    await expect(page.getByRole('button', { name: 'New 2' })).toBeVisible();
    await page.getByRole('button', { name: 'Apply', exact: true }).click();
    await page.getByRole('button', { name: /^Apply \d+ rows/u }).click();
    // The dialog says it too.
    await expect(page.getByRole('dialog').getByRole('alert')).toContainText(
      'Say whether the day or the month comes first',
    );
    await page.getByRole('button', { name: 'Close' }).click();
    await page.getByLabel('Order of dates in Born on').selectOption('day first');
    await expect(page.getByRole('button', { name: 'Rejected 1' })).toBeVisible();
    await checkAccess(page);
  });

  await test.step('a rejected row is put right in place', async () => {
    await page.getByRole('button', { name: 'Rejected 1' }).click();
    await page.getByRole('cell', { name: 'There is no name in this row.' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Name', { exact: true }).fill('Selma & Otto Vane');
    await sheet.getByRole('button', { name: 'Save these cells' }).click();
    await expect(sheet).toHaveCount(0);
    // Two people in one cell are two rows of one line.
    await expect(page.getByRole('button', { name: 'New 4' })).toBeVisible();
    await page.getByRole('button', { name: 'New 4' }).click();
    await expect(page.getByRole('row', { name: /^4 Otto Vane also named there New/u })).toBeVisible();
    await applyAll(page);
  });

  await test.step('a second list has one of them under another name, with less to go by', async () => {
    await bringInFile(page, {
      name: 'stall.csv',
      content: 'Name,Email\nKate Thistlewood,kate@fenmail.example\nTariq Quill,tariq@fenmail.example\n',
    });
    await page.getByRole('button', { name: 'To review 2' }).click();
    await expect(page.getByText('given names that are short for each other')).toBeVisible();
    await applyAll(page);
  });

  await test.step('the pair is decided from the keyboard and taken back', async () => {
    await page.goto('/contacts');
    await page.getByRole('link', { name: 'Who is who: 2 to decide' }).click();
    await expect(page.getByText('1 of 2')).toBeVisible();
    await checkAccess(page);
    // The likelier one first: the same name, nothing against it.
    await expect(page.getByRole('button', { name: 'Tariq Quill' })).toHaveCount(2);
    await page.keyboard.press('d');
    await expect(page.getByText('Two people. You won’t be asked about them again.')).toBeVisible();
    await expect(page.getByText('1 of 1')).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByText('1 of 2')).toBeVisible();
    await page.keyboard.press('j');
    await expect(page.getByText('given names that are short for each other')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Kate Thistlewood' })).toBeVisible();
    await page.keyboard.press('s');
    await expect(page.getByText(/is one contact now/u)).toBeVisible();
    await expect(page.getByText('1 of 1')).toBeVisible();
  });

  await test.step('the merged contact has both addresses, and is taken apart again', async () => {
    await page.goto('/contacts');
    await page.getByLabel('Filter contacts').fill('thistlewood');
    await expect(page.getByRole('row')).toHaveCount(2);
    await page.getByRole('row').nth(1).getByText('Thistlewood').click();
    const slide = page.getByRole('dialog');
    await expect(slide.getByText('kate@fenmail.example')).toBeVisible();
    await expect(slide.getByText('(902) 555-0141')).toBeVisible();
    await slide.getByRole('button', { name: 'Take apart' }).click();
    await page
      .getByRole('dialog', { name: /a separate contact again/u })
      .getByRole('button', { name: 'Take apart' })
      .click();
    await expect(page.getByText(/^Two contacts again/u)).toBeVisible();
    await page.goto('/contacts');
    await page.getByLabel('Filter contacts').fill('thistlewood');
    await expect(page.getByRole('row')).toHaveCount(3);
  });

  await test.step('rows are chosen by keyboard, tagged together, and that is undone', async () => {
    await page.getByRole('region', { name: 'Contacts' }).focus();
    await page.keyboard.press('j');
    await page.keyboard.press('x');
    await page.keyboard.press('j');
    await page.keyboard.press('x');
    await expect(page.getByText('2 chosen')).toBeVisible();
    await page.getByRole('button', { name: 'Tag', exact: true }).click();
    await page.getByLabel('Tag', { exact: true }).fill('stall');
    await page.getByRole('button', { name: 'Add the tag' }).click();
    await expect(page.getByText('“stall” added to 2 contacts.')).toBeVisible();
    await expect(page.getByRole('cell', { name: 'stall' })).toHaveCount(2);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect(page.getByRole('cell', { name: 'stall' })).toHaveCount(0);
  });

  await test.step('a task reaches the Desk', async () => {
    await page.getByRole('row').nth(1).getByText('Thistlewood').click();
    await page.getByLabel('A note').fill('ask about the boardwalk');
    await page.getByLabel('Due on').fill('2026-07-09');
    await page.getByRole('button', { name: 'Add the task' }).click();
    await expect(page.getByRole('dialog').getByLabel('Done: ask about the boardwalk')).toBeVisible();
    await checkAccess(page);
    await page.goto('/desk');
    await expect(page.getByText('ask about the boardwalk')).toBeVisible();
  });
});

test('a segment is asked, read back, explained and kept', async ({ browser, site }) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await bringInFile(page, {
    name: 'students.csv',
    content:
      'Name,Email,Level\nYara Sorrel,yara.sorrel@fenmail.example,Student\nNils Sorrel,nils.sorrel@fenmail.example,Life\n',
  });
  await applyAll(page);
  await page.goto('/records');
  await page.getByRole('link', { name: 'Segments' }).click();
  await expect(page.getByRole('button', { name: 'A new segment' })).toBeVisible();
  await page.keyboard.press('n');
  await page.getByLabel('Name of the segment').fill('Students with an email');
  await page.getByLabel('Question 1: what is asked').selectOption('is a member');
  await page.getByLabel('Question 1: level').selectOption('Student');
  await page.getByRole('button', { name: 'Add a question' }).click();
  await page.getByLabel('Question 2: what is asked').selectOption('has');
  await expect(page.getByText('People who are members (Student) and have an email.')).toBeVisible();
  const found = page.getByLabel('Who it finds');
  await expect(found.getByRole('button', { name: 'Yara Sorrel' })).toBeVisible();
  await expect(found.getByRole('button', { name: 'Nils Sorrel' })).toHaveCount(0);
  await checkAccess(page);

  await page.getByPlaceholder('Part of a name').fill('nils sorrel');
  await found.getByRole('button', { name: /Nils Sorrel/u }).click();
  await expect(found.getByText('is not in it.')).toBeVisible();
  await expect(found.getByText('are members (Student)')).toBeVisible();
  await expect(found.getByText('no: member (Life)')).toBeVisible();

  await page.getByRole('button', { name: 'Freeze as it is today' }).click();
  await expect(page.getByText(/^Frozen on 9 Jul 2026 with 1 person/u)).toBeVisible();
  await page.goto('/records/segments');
  await expect(page.getByRole('link', { name: 'Students with an email' })).toBeVisible();
  await expect(
    page.getByText('People who are members (Student) and have an email. Frozen 9 Jul 2026.'),
  ).toBeVisible();
});
