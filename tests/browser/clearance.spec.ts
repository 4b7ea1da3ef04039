import { answered } from '../../src/core/clearance/facts.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a plan is sent, sent back with questions, answered, cleared under a condition that keeps it closed, and opened', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const caller = await staff.as('odalys');
  const { id } = await caller.call('POST /api/events', { body: { publicTitle: 'Lantern Paddle' } });
  const { venues } = await caller.call('GET /api/choices');
  await caller.call('PATCH /api/events/:id', {
    params: { id },
    body: {
      version: 1,
      change: {
        startsLocal: '2026-09-12T19:00',
        endsLocal: '2026-09-12T22:00',
        capacity: 12,
        venueId: venues.find((v) => v.name === 'Sluice Landing')!.id,
        facts: answered('boats'),
        offers: [
          {
            id: crypto.randomUUID(),
            name: 'Seat',
            price: 0,
            quantity: null,
            mostPerOrder: 4,
            seatsPerUnit: 1,
            about: '',
          },
        ],
      },
    },
  });
  const odalys = await pageOf(browser, site, 'Odalys Ferrant');
  await odalys.goto(`/events/${id}/clearance`);
  await odalys.getByRole('button', { name: 'Send for clearance' }).click();
  await odalys.getByRole('dialog').getByRole('button', { name: 'Send for clearance' }).click();
  await expect(odalys.getByRole('heading', { name: 'In clearance' })).toBeVisible();

  const tobias = await pageOf(browser, site, 'Tobias Wren-Achebe');
  await tobias.getByRole('navigation').getByRole('link', { name: 'Clearance' }).click();
  await expect(tobias.getByRole('heading', { name: 'Waiting for you' })).toBeVisible();
  await checkAccess(tobias);
  await tobias.getByRole('link', { name: 'Read and decide' }).click();
  await tick(tobias.getByLabel('Send back'));
  await tobias.getByLabel('Question 1').fill('How many lamps are there?');
  await tobias.getByRole('button', { name: 'Add a question' }).click();
  await tobias.getByLabel('Question 2').fill('Who watches the shore?');
  await checkAccess(tobias);
  await tobias.getByRole('button', { name: 'Send back' }).click();
  await expect(tobias.getByRole('heading', { name: 'Sent back' })).toBeVisible();

  // The open page hears of it; nothing is sent again before both are answered.
  await expect(odalys.getByText('Answer 2 questions under Clearance.')).toBeVisible();
  await expect(odalys.getByRole('button', { name: 'Send again' })).toBeDisabled();
  await odalys.getByLabel('How many lamps are there?').fill('Two on each boat.');
  await odalys.getByRole('button', { name: 'Answer' }).first().click();
  await expect(odalys.getByText('Two on each boat.')).toBeVisible();
  await odalys.getByLabel('Who watches the shore?').fill('Imani, with a radio.');
  await odalys.getByRole('button', { name: 'Answer' }).click();
  await expect(odalys.getByText('Imani, with a radio.')).toBeVisible();
  await odalys.getByRole('button', { name: 'Send again' }).click();
  await odalys.getByRole('dialog').getByRole('button', { name: 'Send again' }).click();
  await expect(odalys.getByRole('heading', { name: 'In clearance' })).toBeVisible();

  await tobias.reload();
  await expect(tobias.getByText('Imani, with a radio.')).toBeVisible();
  await tick(tobias.getByLabel('Clear with conditions'));
  await tobias.getByLabel('Condition 1').fill('A second safety boat.');
  await tobias.getByLabel('Who sees to it').selectOption({ label: 'Odalys Ferrant' });
  await tobias.getByLabel('By', { exact: true }).fill('2026-09-01');
  await tick(tobias.getByLabel('It is not opened before this is met'));
  await tobias.getByRole('button', { name: 'Clear with conditions' }).click();
  await expect(tobias.getByRole('heading', { name: 'Cleared' })).toBeVisible();
  await tobias.context().close();

  // It cannot be opened yet, and the margin says why.
  await expect(odalys.getByText('It opens once a condition by Safety is met.')).toBeVisible();
  await expect(odalys.getByRole('button', { name: 'Open registration' })).toHaveCount(0);
  const conditions = odalys.getByRole('region', { name: 'Conditions' });
  await conditions.getByRole('button', { name: 'It is met' }).click();
  await expect(conditions.getByText(/^met /u)).toBeVisible();
  await odalys.getByRole('button', { name: 'Open registration' }).first().click();
  await odalys.getByRole('dialog').getByRole('button', { name: 'Open registration' }).click();
  await expect(odalys.getByRole('link', { name: 'Public page' })).toBeVisible();
  await checkAccess(odalys);
  await odalys.context().close();
});

test('the rules are changed on their page: a circle is named, a fact of one’s own is asked, the bench says what differs', async ({
  browser,
  site,
}) => {
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/team/clearance');
  await page.getByRole('button', { name: 'Safety', exact: true }).click();
  await tick(page.getByLabel('Finance', { exact: true }));
  await page.getByRole('button', { name: 'Finance', exact: true }).click();
  await tick(page.getByLabel('Safety', { exact: true }));
  await page.getByRole('button', { name: 'Save the rules' }).click();
  await expect(
    page.getByText('These steps wait for each other: Safety → Finance → Safety.').first(),
  ).toBeVisible();
  await expect(page.getByText('Mend what is marked to see what it would change.')).toBeVisible();
  await page.getByLabel('Safety', { exact: true }).uncheck({ force: true });
  await page.getByRole('button', { name: 'Add a fact' }).click();
  await page.getByLabel('What is so').fill('There is an open fire');
  await page.getByRole('button', { name: 'Add a step' }).click();
  const step = page
    .getByRole('listitem')
    .filter({ has: page.getByLabel('Step', { exact: true }) })
    .last();
  await step.getByLabel('Step', { exact: true }).fill('Fire');
  await step.getByLabel('What it looks at', { exact: true }).selectOption({ label: 'There is an open fire' });
  await step.getByLabel('How it is', { exact: true }).selectOption({ label: 'is so' });
  await step.getByLabel('Who decides').selectOption({ label: 'whoever approves for safety' });
  await expect(page.getByText('No past event would have needed other steps.')).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Save the rules' }).click();
  await expect(page.getByText('The rules are saved')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Fire', exact: true })).toBeVisible();
  // It is asked on every plan from now on.
  await page.goto('/season');
  await expect(page.getByRole('heading', { name: 'Season' })).toBeVisible();
  await page.keyboard.press('n');
  await page.getByLabel('Public title', { exact: true }).fill('Bonfire');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/plan');
  await expect(page.getByRole('radiogroup', { name: 'There is an open fire' })).toBeVisible();
  await page.context().close();
});
