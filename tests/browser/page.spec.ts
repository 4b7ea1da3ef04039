import sharp from 'sharp';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a page from nothing: formatted text, pictures, French, questions and answers; previewed, undone, put back', async ({
  browser,
  site,
}) => {
  // The longest job of all: it walks through everything a page can have.
  test.slow();
  const odalys = await callers(site).as('odalys');
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Reedbed Walk' } });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${id}/plan`);
  const standing = page.getByRole('status').filter({ hasText: /saved|saving/iu });
  const add = page.getByRole('group', { name: 'Add:' });
  const planNow = async () => (await odalys.call('GET /api/events/:id', { params: { id } })).plan;
  const saved = () => expect(standing).toHaveText('Saved');

  await test.step('a small event sees only what it needs', async () => {
    await expect(add.getByRole('button')).toHaveText([
      'Description',
      'Pictures',
      'French',
      'Draws',
      'Speakers',
      'Agenda',
      'Call for sessions',
      'Sponsors',
      'Who may register',
      'Extras',
      'Codes',
      'Taxes',
      'Currency',
      'Giving seats up',
      'A gift with the booking',
      'Questions',
      'Words around registering',
      'Questions and answers',
      'Buttons',
      'Team',
      'Who people turn to',
      'Files and links for the day',
      'Page style',
      'Survey',
      'Outcomes',
      'Search engines',
      'Notes for the team',
    ]);
    await expect(page.getByRole('textbox', { name: 'Description', exact: true })).toHaveCount(0);
  });

  await test.step('text is formatted; a link leads where links may', async () => {
    await add.getByRole('button', { name: 'Description' }).click();
    const text = page.getByRole('textbox', { name: 'Description', exact: true });
    await text.click();
    const tools = page.getByRole('toolbar', { name: 'Formatting of Description' });
    await tools.getByRole('button', { name: 'Heading', exact: true }).click();
    await page.keyboard.type('Bring');
    await page.keyboard.press('Enter');
    await tools.getByRole('button', { name: 'List', exact: true }).click();
    await page.keyboard.type('boots');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await tools.getByRole('button', { name: 'Link', exact: true }).click();
    const dialog = page.getByRole('dialog', { name: 'Link' });
    await dialog.getByLabel('Address').fill('javascript:alert(1)');
    await dialog.getByRole('button', { name: 'Insert' }).click();
    await expect(dialog.getByText('Give the address of a web page')).toBeVisible();
    await dialog.getByLabel('Address').fill('brackenmere.example');
    await dialog.getByRole('button', { name: 'Insert' }).click();
    await saved();
    await expect
      .poll(async () => JSON.stringify((await planNow()).description))
      .toContain('https://brackenmere.example/');
    expect((await planNow()).description.content.map((b) => b.type)).toEqual([
      'heading',
      'bulletList',
      'paragraph',
    ]);
    await checkAccess(page);
  });

  await test.step('a picture is brought in, described and cut; one that is too large is refused at once', async () => {
    await add.getByRole('button', { name: 'Pictures' }).click();
    await page.getByRole('button', { name: 'Choose a picture' }).click();
    const file = page.locator('input[type=file]');
    await file.setInputFiles({ name: 'huge.jpg', mimeType: 'image/jpeg', buffer: Buffer.alloc(20_000_001) });
    await expect(page.getByText('This picture is larger than 20 MB.')).toBeVisible();
    await checkAccess(page);
    const buffer = await sharp({ create: { width: 900, height: 900, channels: 3, background: '#9DB8AD' } })
      .png()
      .toBuffer();
    await file.setInputFiles({ name: 'landing.png', mimeType: 'image/png', buffer });
    const dialog = page.getByRole('dialog', { name: 'Bring in a picture' });
    await dialog.getByRole('button', { name: 'Use this picture' }).click();
    await expect(dialog.getByText('Say what is on it').first()).toBeVisible();
    await dialog.getByLabel('What is on it', { exact: false }).first().fill('The landing in the morning');
    await dialog.getByLabel('Cut').selectOption({ label: 'wide, for over a page' });
    await dialog.getByRole('button', { name: /What matters is/u }).press('ArrowUp');
    await checkAccess(page);
    await dialog.getByRole('button', { name: 'Use this picture' }).click();
    await expect(page.getByRole('img', { name: 'The landing in the morning' })).toBeVisible();
    await saved();
    expect((await planNow()).bannerId).not.toBeNull();
    // Chosen again, from those used before.
    await page.getByRole('button', { name: 'Add a picture' }).click();
    await page.getByRole('button', { name: 'Use this picture: The landing in the morning' }).click();
    await expect(page.getByRole('img', { name: 'The landing in the morning' })).toHaveCount(2);
  });

  await test.step('French stands beside it, and says where the English changed since', async () => {
    await add.getByRole('button', { name: 'French' }).click();
    await page.getByLabel('Title in French', { exact: true }).fill('Promenade dans la roselière');
    await saved();
    await page.getByLabel('Public title', { exact: true }).fill('Reedbed Walk at dawn');
    await saved();
    await expect(page.getByText('The English was changed since this was written.')).toBeVisible();
  });

  await test.step('questions and answers, and words for those who registered', async () => {
    await add.getByRole('button', { name: 'Questions and answers' }).click();
    const faqs = page.getByRole('region', { name: 'Questions and answers' });
    await faqs.getByLabel('Question', { exact: true }).fill('Is there parking?');
    await faqs.getByLabel('Answer', { exact: true }).fill('At the weir.');
    await saved();
    expect((await planNow()).faqs).toMatchObject([{ question: { en: 'Is there parking?' } }]);
  });

  await test.step('a draft is previewed as the public will see it, in both languages', async () => {
    await page.getByRole('button', { name: 'More to do with this event' }).click();
    await page.getByRole('menuitem', { name: 'Preview' }).click();
    await page.getByRole('button', { name: 'Make a preview link' }).click();
    const link = await page.getByLabel('Link of the preview').inputValue();
    const shown = page.frameLocator('iframe[title=Preview]');
    await expect(shown.getByRole('heading', { name: 'Reedbed Walk at dawn' })).toBeVisible();
    await expect(shown.getByRole('img', { name: 'The landing in the morning' }).first()).toBeVisible();
    const stranger = await pageOf(browser, site, null, true);
    await stranger.goto(`${link}?lang=fr`);
    await expect(stranger.getByRole('heading', { name: 'Promenade dans la roselière' })).toBeVisible();
    await expect(stranger.getByText('Is there parking?')).toBeVisible();
    await checkAccess(stranger);
    await page.getByRole('button', { name: 'Stop the link' }).click();
    await expect(page.getByRole('button', { name: 'Make a preview link' })).toBeVisible();
    await stranger.reload();
    await expect(stranger.getByText(/incomplet/u)).toBeVisible();
    await stranger.context().close();
    await page.keyboard.press('Escape');
  });

  await test.step('the last change is undone, and an earlier one put back', async () => {
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await planNow()).faqs).toEqual([]);
    await page.getByText('What was changed').click();
    const changes = page.getByRole('list', { name: 'What was changed' }).getByRole('listitem');
    await changes
      .filter({ hasText: 'Public title' })
      .getByRole('button', { name: /^Put back what Public title/u })
      .click();
    const asks = page.getByRole('dialog', { name: 'Put Public title back?' });
    await expect(asks.getByText('Reedbed Walk at dawn')).toBeVisible();
    await checkAccess(page);
    await asks.getByRole('button', { name: 'Put back' }).click();
    await expect(page.getByRole('heading', { name: 'Reedbed Walk', exact: true })).toBeVisible();
  });

  await test.step('it is kept as a template, which is listed apart; the draft is deleted for good', async () => {
    await page.getByRole('button', { name: 'More to do with this event' }).click();
    await page.getByRole('menuitem', { name: 'Keep as a template' }).click();
    await page.getByRole('dialog').getByLabel('Public title').fill('Any walk');
    await page.getByRole('button', { name: 'Keep the template' }).click();
    await expect(page.getByText('This is a template')).toBeVisible();
    await page.goto(`/events/${id}/plan`);
    await page.getByRole('button', { name: 'More to do with this event' }).click();
    await page.getByRole('menuitem', { name: 'Delete for good' }).click();
    await expect(page.getByText('The plan goes, with 0 tickets')).toBeVisible();
    await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click();
    await expect(page.getByText('“Reedbed Walk” was deleted.')).toBeVisible();
    await page.getByRole('button', { name: /^Templates/u }).click();
    await expect(page.getByRole('row').filter({ hasText: 'Any walk' })).toHaveCount(1);
    await expect(page.getByRole('row').filter({ hasText: 'Reedbed Walk' })).toHaveCount(0);
    await checkAccess(page);
  });
  await page.context().close();
});
