import { openEvent } from '../api/scenes.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('members first, then by code; a guest list from a table; what is sold reckons itself line by line', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Eel Supper', price: 5000, capacity: 40 });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);

  await test.step('another price, an extra, a code and a tax are written', async () => {
    await page.getByText('Other prices, limits, ages, windows …').first().click();
    await page.getByRole('button', { name: 'Another price: for members, early, for groups' }).click();
    await page.getByLabel('Another price').selectOption('early');
    await page.getByLabel('Until', { exact: true }).first().fill('2026-08-01');
    await page.getByLabel('Price', { exact: true }).nth(1).fill('40');
    await expect(page.getByText('$40 until Sat 1 Aug, 23:59')).toBeVisible();
    await page.getByRole('button', { name: 'Codes', exact: true }).click();
    await page.getByLabel('Code', { exact: true }).fill('EEL-10');
    await page.getByLabel('It shows tickets that are hidden').check({ force: true });
    await page.getByRole('button', { name: 'Taxes', exact: true }).click();
    const tax = page.getByRole('region', { name: 'Taxes' });
    await tax.getByLabel('Name', { exact: true }).fill('HST');
    await checkAccess(page);
    // It waits to be looked over: people may be on it.
    const look = page.getByRole('button', { name: 'See what follows' });
    await expect(look.or(page.getByText('Saved', { exact: true })).first()).toBeVisible();
    if (await look.isVisible()) {
      await look.click();
      await page
        .getByRole('dialog')
        .getByRole('button', { name: /^Save it/u })
        .click();
    }
    await expect(page.getByText('Saved', { exact: true }).first()).toBeVisible();
  });

  await test.step('who may register, and a list of guests', async () => {
    await page.getByRole('button', { name: 'Who may register', exact: true }).click();
    await page.getByLabel('Who', { exact: true }).selectOption('who has a code');
    await page.getByRole('button', { name: 'Others too, at their own time' }).click();
    await page.getByLabel('Who', { exact: true }).nth(1).selectOption('who is on a guest list');
    await page.getByRole('button', { name: 'Add a guest list' }).click();
    const making = page.getByRole('dialog');
    await making.getByLabel('Name').fill('The band');
    await making.getByText('A seat costs them nothing').click();
    await making.getByRole('button', { name: 'Save' }).click();
    await page.getByRole('button', { name: 'The band' }).click();
    await page.getByRole('button', { name: 'Put people on it' }).click();
    const adding = page.getByRole('dialog', { name: 'Put people on it' });
    await adding
      .getByLabel('A table of people, with headings')
      .fill('First,Last,Email\nOrrin,Fiddler,orrin@band.example\n,,\n');
    await checkAccess(page);
    await adding.getByRole('button', { name: 'Put them on the list' }).click();
    await expect(page.getByRole('dialog', { name: 'The band' }).getByText('Orrin Fiddler')).toBeVisible();
    await page.context().close();
  });

  await test.step('somebody with nothing is told who may; with the code they register, and see what it comes to', async () => {
    const phone = await pageOf(browser, site, null, true);
    await phone.goto(`/e/${event.slug}`);
    await expect(phone.getByText('Registration is not open to you just now.')).toBeVisible();
    await expect(phone.getByText('people on a guest list')).toBeVisible();
    await checkAccess(phone);
    await phone.getByRole('link', { name: 'I have a code' }).click();
    await phone.getByRole('button', { name: 'I have a code' }).click();
    await phone.getByLabel('Code', { exact: true }).fill('wrong');
    await phone.getByRole('button', { name: 'Use it' }).click();
    await expect(phone.getByText('This code is not known here.')).toBeVisible();
    await phone.getByLabel('Code', { exact: true }).fill('eel 10');
    await phone.getByLabel('Code', { exact: true }).press('Enter');
    await expect(phone.getByText('It takes 10 % off.')).toBeVisible();
    await phone.getByRole('button', { name: '+ Guided paddle' }).click();
    await phone.getByLabel('First name').first().fill('Ida');
    await phone.getByLabel('Last name').first().fill('Sedge');
    await phone.getByLabel('Email').fill('ida@sedge.example');
    // Twice 40, 10 % off, and 15 % of the rest: 82.80.
    await expect(phone.getByText('early price')).toBeVisible();
    await expect(phone.getByText('HST 15 %')).toBeVisible();
    await checkAccess(phone);
    await phone.getByRole('button', { name: 'Register and pay $82.80' }).click();
    await expect(phone.getByRole('button', { name: 'Pay $82.80' })).toBeVisible();
    await phone.context().close();
  });

  await test.step('a guest signs in, and their seat costs nothing', async () => {
    const phone = await pageOf(browser, site, null, true);
    await phone.goto(`/e/${event.slug}`);
    await phone.getByRole('link', { name: 'Sign in, so that we know whether you are one of them' }).click();
    await phone.getByLabel('Email').fill('orrin@band.example');
    await phone.getByRole('button', { name: 'Send the code' }).click();
    const said = await phone
      .getByText(/\d{3} \d{3}/u)
      .first()
      .textContent();
    await phone.getByLabel('Code').fill(/\d{3} \d{3}/u.exec(said!)![0]);
    await phone.getByRole('button', { name: 'Sign in' }).click();
    await expect(phone.getByRole('heading', { name: 'How many?' })).toBeVisible();
    await expect(phone.getByText('as our guest')).toBeVisible();
    await phone.context().close();
  });
});
