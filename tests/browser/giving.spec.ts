import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a page to give on is made, somebody gives on a phone, and at the year’s end gets a receipt that is verified', async ({
  browser,
  site,
}) => {
  const marit = await pageOf(browser, site, 'Marit Solvang');
  await marit.goto('/ledger?show=gifts');
  await marit.getByRole('button', { name: 'New page to give on' }).click();
  const dialog = marit.getByRole('dialog');
  await dialog.getByLabel('Title', { exact: true }).fill('A ramp for the hide');
  await dialog.getByLabel('What it is for', { exact: true }).fill('So that everybody sees the herons.');
  await dialog.getByLabel('What donors are thanked with').fill('The herons thank you.');
  await dialog.getByLabel('Goal').fill('500');
  await dialog.getByLabel('Amounts that are suggested').fill('20, 50, 50');
  await dialog.getByRole('button', { name: 'Make the page' }).click();
  await expect(dialog.getByText('An amount is there twice.').first()).toBeVisible();
  await dialog.getByLabel('Amounts that are suggested').fill('20, 50');
  await checkAccess(marit);
  await dialog.getByRole('button', { name: 'Make the page' }).click();
  await expect(marit.getByRole('link', { name: 'A ramp for the hide' })).toBeVisible();

  const phone = await pageOf(browser, site, null, true);
  await phone.goto('/give/a-ramp-for-the-hide');
  await expect(phone.getByText('$0 of $500')).toBeVisible();
  await checkAccess(phone);
  // Nothing is chosen beforehand.
  await expect(phone.getByLabel('Or another amount')).toHaveValue('');
  await phone.getByRole('button', { name: '$50', exact: true }).click();
  await phone.getByLabel('First name').fill('Ida');
  await phone.getByLabel('Last name').fill('Sallow');
  await phone.getByRole('button', { name: 'Go on to pay $50' }).click();
  await expect(phone.getByText('This is not an email address.').first()).toBeVisible();
  await phone.getByLabel('Email', { exact: false }).first().fill('ida@fenmail.example');
  await phone.getByText('Your address, for a receipt').click();
  await phone.getByLabel('Street and number').fill('9 Osier Lane');
  await phone.getByLabel('Town and province or state').fill('Port Ansley NS');
  await phone.getByRole('button', { name: 'Go on to pay $50' }).click();
  // Declined; then one that wants a code from the bank, mistyped at first.
  await phone.getByLabel('Card number').fill('9000 0000 0000 0002');
  await phone.getByLabel('Month and year').fill('08/29');
  await phone.getByRole('button', { name: 'Pay $50' }).click();
  await expect(phone.getByText('The card was declined.', { exact: false })).toBeVisible();
  await phone.getByLabel('Card number').fill('9000 0000 0000 0006');
  await phone.getByLabel('Month and year').fill('08/29');
  await phone.getByRole('button', { name: 'Pay $50' }).click();
  await phone.getByLabel('Code from your bank').fill('1111');
  await phone.getByRole('button', { name: 'Go on with the payment' }).click();
  await expect(phone.getByText('That is not the code.', { exact: false })).toBeVisible();
  await checkAccess(phone);
  await phone.getByLabel('Code from your bank').fill('2468');
  await phone.getByRole('button', { name: 'Go on with the payment' }).click();
  await expect(phone.getByRole('heading', { name: 'Thank you, Ida.' })).toBeVisible();
  await expect(phone.getByText('The herons thank you.')).toBeVisible();
  await phone.getByRole('link', { name: 'Back to A ramp for the hide' }).click();
  await expect(phone.getByText('$50 of $500')).toBeVisible();
  await expect(phone.getByText('Ida Sallow')).toBeVisible();

  // The treasurer says what receipts say, sees for whom they are, and writes them in one run.
  await marit.goto('/ledger?show=receipts');
  await expect(marit.getByText('Receipts have to say who you are', { exact: false })).toBeVisible();
  await marit.getByRole('button', { name: 'Fill it in' }).click();
  for (const [label, value] of [
    ['Name as registered', 'Brackenmere Wetland Trust'],
    ['Registration number', '80012 3456 RR0001'],
    ['Address as registered', '4 Sluice Lane\nPort Ansley NS'],
    ['Place of issue', 'Port Ansley'],
    ['Who signs', 'Marit Solvang'],
  ] as const)
    await dialog.getByLabel(label).fill(value);
  await checkAccess(marit);
  await dialog.getByRole('button', { name: 'Save' }).click();
  const year = new Date(site.started.app.clock.now()).getFullYear();
  await marit.getByRole('button', { name: `Receipts for ${year}` }).click();
  await expect(dialog.getByText('1 person gets a receipt, for $50 in all', { exact: false })).toBeVisible();
  await checkAccess(marit);
  await dialog.getByRole('button', { name: 'Write them' }).click();
  const row = marit.getByRole('row').filter({ hasText: 'Ida Sallow' });
  await expect(row).toContainText(`${year}-00001`);
  await expect(row).toContainText('$50');
  // Replaced, it is kept with a trace.
  await row.getByRole('button', { name: `Replace receipt ${year}-00001` }).click();
  await dialog.getByLabel('Why').fill('the address was wrong');
  await dialog.getByRole('button', { name: 'Replace', exact: true }).click();
  await expect(marit.getByText(`void, replaced by ${year}-00002`)).toBeVisible();
  await checkAccess(marit);

  const [kept] = await site.started.app.db.query<{ sha256: string }>(
    'select sha256 from receipts where number = $1',
    [`${year}-00002`],
  );
  await phone.goto(`/verify?number=${year}-00002`);
  await phone.getByLabel('Code').fill('0000-0000-0000-0000');
  await phone.getByRole('button', { name: 'Look it up' }).click();
  await expect(phone.getByText('There is no receipt of ours', { exact: false })).toBeVisible();
  await phone.getByLabel('Code').fill(kept!.sha256.slice(0, 16));
  await phone.getByRole('button', { name: 'Look it up' }).click();
  await expect(phone.getByText('It is ours, and it stands', { exact: false })).toBeVisible();
  await checkAccess(phone);
});

test('a monthly gift is changed and ended from its link; staff record a cheque; what the processor does not explain is settled', async ({
  browser,
  site,
}) => {
  const marit = await callers(site).as('marit');
  const { funds } = await marit.call('GET /api/giving/choices');
  const { slug } = await marit.call('POST /api/giving/pages', {
    body: {
      title: { en: 'Every month' },
      words: { en: '' },
      thanks: { en: '' },
      fundId: funds[0]!.id,
      initiativeId: null,
      eventId: null,
      goal: null,
      untilOn: null,
      suggested: [],
      monthly: true,
      showsGivers: true,
      open: true,
    },
  });
  const page = await pageOf(browser, site, null);
  await page.goto(`/give/${slug}`);
  await page.getByLabel('Amount').fill('15');
  await page.getByText('Every month', { exact: true }).last().click();
  await page.getByLabel('First name').fill('Otto');
  await page.getByLabel('Last name').fill('Fenner');
  await page.getByLabel('Email', { exact: false }).first().fill('otto@fenmail.example');
  await page.getByRole('button', { name: 'Go on to pay $15 every month' }).click();
  await page.getByRole('button', { name: '9000 0000 0000 0001' }).click();
  await page.getByRole('button', { name: 'Pay $15' }).click();
  await expect(page.getByRole('heading', { name: 'Thank you, Otto.' })).toBeVisible();
  await site.started.runner.run();
  const [mail] = await site.started.app.db.query<{ body: string }>(
    "select body from standin_mail where address = 'otto@fenmail.example' and subject = 'Your monthly gift'",
  );
  await page.goto(new URL(/(\/pledge\/\S+)/u.exec(mail!.body)![1]!, site.origin).href);
  await expect(page.getByText('$15 every month', { exact: false })).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Another amount' }).click();
  await page.getByLabel('Another amount').fill('20');
  await page.getByRole('button', { name: 'Give $20 from now on' }).click();
  await expect(page.getByText('$20 every month', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByText('It is paused.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'End it' }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('button', { name: 'End it' }).click();
  await page.getByRole('alert').getByRole('button', { name: 'End it' }).click();
  await expect(page.getByText('It has ended.', { exact: false })).toBeVisible();

  const desk = await pageOf(browser, site, 'Marit Solvang');
  await desk.goto('/ledger?show=gifts');
  await expect(desk.getByRole('row').filter({ hasText: 'Otto Fenner' }).first()).toContainText('ended');
  await desk.getByRole('button', { name: 'Record a gift' }).click();
  const dialog = desk.getByRole('dialog');
  await dialog.getByLabel('First name').fill('Berthe');
  await dialog.getByLabel('Last name').fill('Alder');
  await dialog.getByText('Things', { exact: true }).click();
  await dialog.getByLabel('What it is worth', { exact: true }).fill('300');
  await dialog.getByRole('button', { name: 'Record $300' }).click();
  await expect(dialog.getByText('Say what was given.').first()).toBeVisible();
  await dialog.getByLabel('What it is', { exact: true }).fill('A telescope');
  await dialog.getByRole('button', { name: 'Record $300' }).click();
  await expect(desk.getByRole('row').filter({ hasText: 'A telescope' })).toContainText('$300');

  await site.started.app.db.query(
    `insert into standin_moves (id, at, kind, about, amount, fee, currency) values ('MV-TERMINAL', $1, 'charge', 'TERMINAL 7', 900, 47, 'CAD')`,
    [site.started.app.clock.now()],
  );
  await desk.getByRole('button', { name: 'Card processor' }).click();
  await desk.getByRole('button', { name: 'Read the statement now' }).click();
  await expect(desk.getByText('Put aside: nothing of ours explains it')).toBeVisible();
  await checkAccess(desk);
  await desk.getByRole('button', { name: 'Say what it is' }).click();
  await dialog.getByLabel('What it is').fill('Honey sold on the terminal');
  await dialog.getByRole('button', { name: 'Post it' }).click();
  await expect(desk.getByText('Nothing is open with the processor.')).toBeVisible();
  await expect(desk.getByText('The processor and the books agree.', { exact: false })).toBeVisible();
});
