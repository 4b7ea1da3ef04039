import { openEvent } from '../api/scenes.ts';
import { Registering } from './pages/registering.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('members first, then by code; a guest list from a table; what is sold reckons itself line by line', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Eel Supper', price: 5000, capacity: 40 });
  const odalys = await staff.as('odalys');
  const plan = async () => (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan;
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
    await page.getByLabel('Whoever has it may register, and sees hidden tickets').check({ force: true });
    await page.getByRole('button', { name: 'Taxes', exact: true }).click();
    const tax = page.getByRole('region', { name: 'Taxes' });
    await tax.getByLabel('Name', { exact: true }).fill('HST');
    await checkAccess(page);
    // Where anything follows it waits to be looked over; nobody is on it yet.
    await expect.poll(async () => (await plan()).taxes[0]?.name).toBe('HST');
    expect((await plan()).offers[0]!.prices).toMatchObject([
      { kind: 'early', untilLocal: '2026-08-01T23:59' },
    ]);
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
    await expect.poll(async () => (await plan()).admission.ways.map((w) => w.kind)).toEqual(['code', 'list']);
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
    await new Registering(phone).comes();
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

test('an organizer accepts people: they ask on a phone, are asked back and answer; one is accepted, one declined', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, { title: 'Owl Evening', capacity: 5 });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/plan`);
  await page.getByRole('button', { name: 'Who may register', exact: true }).click();
  await page.getByText('You accept people one by one').click();
  const odalys = await staff.as('odalys');
  await expect
    .poll(
      async () =>
        (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.admission.accepts,
    )
    .toBe(true);

  const phone = await pageOf(browser, site, null, true);
  for (const given of ['Ida', 'Ole']) {
    await phone.goto(`/e/${event.slug}/register`);
    await expect(phone.getByText('The organizer decides who comes')).toBeVisible();
    await phone.getByLabel('First name').first().fill(given);
    await phone.getByLabel('Last name').first().fill('Sedge');
    await phone.getByLabel('Email').fill(`${given.toLowerCase()}@sedge.example`);
    await new Registering(phone).comes();
    await phone.getByRole('button', { name: 'Ask for seats' }).click();
    await expect(phone.getByRole('heading', { name: 'Your request is with the organizer' })).toBeVisible();
  }
  await expect(phone.getByText('You hold no seat yet.')).toBeVisible();
  await expect(phone.getByRole('link', { name: 'Passes as PDF' })).toHaveCount(0);
  await checkAccess(phone);

  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Registration' }).click();
  const queue = page.getByRole('region', { name: 'Who asked for seats' });
  await expect(queue.getByText('2 parties ask for seats')).toBeVisible();
  await queue.getByLabel('Choose Ole Sedge').check({ force: true });
  await queue.getByRole('button', { name: 'Ask back' }).click();
  const asking = page.getByRole('dialog', { name: 'Ask them back' });
  await expect(asking.getByText('1 party gets your question by mail')).toBeVisible();
  await asking.getByLabel('What you want to know').fill('Have you a torch?');
  await checkAccess(page);
  await asking.getByRole('button', { name: 'Ask them back' }).click();
  await phone.reload();
  await phone.getByLabel('Your answer').fill('Two of them.');
  await phone.getByRole('button', { name: 'Send' }).click();
  await expect(phone.getByText('Two of them.')).toBeVisible();
  await expect(queue.getByText('Two of them.')).toBeVisible();

  await queue.getByLabel('Choose Ole Sedge').check({ force: true });
  await queue.getByRole('button', { name: 'Accept 1' }).click();
  const accepting = page.getByRole('dialog', { name: 'Accept them' });
  await expect(accepting.getByText('1 party has its seats, and the confirmation goes out.')).toBeVisible();
  await accepting.getByRole('button', { name: 'Accept them' }).click();
  await expect(queue.getByText('1 party asks for seats')).toBeVisible();
  await queue.getByRole('button', { name: 'Choose all' }).click();
  await queue.getByRole('button', { name: 'Decline' }).click();
  await page.getByRole('dialog').getByLabel('What you want to say with it').fill('We are full of owls.');
  await page.getByRole('dialog').getByRole('button', { name: 'Decline them' }).click();
  await expect(queue).toHaveCount(0);
  await phone.reload();
  await expect(phone.getByRole('heading', { name: 'You are registered' })).toBeVisible();
  await expect(phone.getByRole('link', { name: 'Passes as PDF' })).toBeVisible();
  await phone.context().close();
  await page.context().close();
});
