import { openEvent } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, linkTo, pageOf, test } from './site.ts';

test('from a call to a filled day: people apply with a certificate and painted hours, are asked and accepted, the gaps are filled, somebody drops out and another steps in', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Reed Regatta',
    startsLocal: '2026-08-22T09:00',
    endsLocal: '2026-08-22T15:00',
  });
  const lead = await staff.as('imani');
  const ticket = (await lead.call('POST /api/skills', { body: { name: 'Launch ticket', certificate: true } }))
    .id;
  for (const [name, needs] of [
    ['Umpire launch', [ticket]],
    ['Bailing', []],
  ] as const)
    await lead.call('POST /api/roles', { body: { name, needs: [...needs] } });
  for (const [role, startsLocal, endsLocal] of [
    ['Umpire launch', '2026-08-22T09:00', '2026-08-22T12:00'],
    ['Bailing', '2026-08-22T09:00', '2026-08-22T12:00'],
    ['Bailing', '2026-08-22T12:00', '2026-08-22T15:00'],
  ] as const)
    await lead.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, startsLocal, endsLocal, wished: 1 },
    });
  const imani = await pageOf(browser, site, 'Imani Okarro');
  await imani.goto(`/events/${event.id}/crew`);

  await test.step('the crew lead calls for volunteers from the crew page', async () => {
    await imani.getByRole('button', { name: 'Call for volunteers' }).click();
    const dialog = imani.getByRole('dialog', { name: 'New call for volunteers' });
    await expect(dialog.getByLabel('What it is called')).toHaveValue('Reed Regatta');
    // The roles its shifts have are offered.
    await expect(dialog.getByRole('checkbox', { name: 'Umpire launch' })).toBeChecked();
    await expect(dialog.getByRole('checkbox', { name: 'Bailing' })).toBeChecked();
    await expect(dialog.getByRole('checkbox', { name: 'Kitchen' })).not.toBeChecked();
    await checkAccess(imani);
    await dialog.getByRole('button', { name: 'Open the call' }).click();
    await expect(dialog).toHaveCount(0);
    await expect(imani.getByRole('link', { name: 'Applications' })).toBeVisible();
  });
  const [call] = await lead.call('GET /api/calls', { query: { eventId: event.id } });

  const hour = (page: typeof imani, from: number) =>
    page.getByRole('button', {
      name: `Sat 22 Aug, ${String(from).padStart(2, '0')}:00 to ${String(from + 1).padStart(2, '0')}:00`,
    });
  const offer = async (page: typeof imani, given: string) => {
    await page.goto(`/e/${event.slug}`);
    await page.getByRole('link', { name: 'Offer to help' }).click();
    await page.getByLabel('First name').fill(given);
    await page.getByLabel('Last name').fill('Oarsby');
    await page.getByLabel('Email', { exact: true }).fill(`${given.toLowerCase()}@oarsby.example`);
  };
  await test.step('somebody applies on a phone: roles, hours painted by key, a certificate with its file', async () => {
    const nell = await pageOf(browser, site, null, true);
    await offer(nell, 'Nell');
    await nell.getByRole('button', { name: 'Offer to help' }).click();
    await expect(nell.getByText('Choose what you would like to do.').first()).toBeVisible();
    await expect(nell.getByText('Say when you can be there.').first()).toBeVisible();
    await nell.getByLabel('Umpire launch', { exact: true }).selectOption({ label: 'above all' });
    await hour(nell, 9).focus();
    await nell.keyboard.press('Space');
    for (const _ of [10, 11, 12, 13, 14]) await nell.keyboard.press('Shift+ArrowDown');
    await expect(hour(nell, 14)).toHaveAttribute('aria-pressed', 'true');
    await tick(nell.getByRole('checkbox', { name: 'Launch ticket' }));
    await nell.getByLabel('Number', { exact: true }).fill('L-77');
    await nell.locator('input[type=file]').setInputFiles({
      name: 'ticket.txt',
      mimeType: 'text/plain',
      buffer: Buffer.from('Launch ticket L-77'),
    });
    await expect(nell.getByText('ticket.txt')).toBeVisible();
    await checkAccess(nell);
    await nell.getByRole('button', { name: 'Offer to help' }).click();
    await expect(nell.getByText('goes by mail to you (nell@oarsby.example)')).toBeVisible();
    await nell.context().close();
    const otis = await pageOf(browser, site, null);
    await offer(otis, 'Otis');
    await otis.getByLabel('Bailing', { exact: true }).selectOption({ label: 'gladly' });
    // All of the day at once, by what stands over it.
    await otis.getByRole('button', { name: 'Sat 22 Aug', exact: true }).click();
    await otis.getByRole('button', { name: 'Offer to help' }).click();
    await expect(otis.getByText('goes by mail to you (otis@oarsby.example)')).toBeVisible();
    await otis.context().close();
  });

  await test.step('the crew lead reads them, asks something, sees the certificate, and accepts both', async () => {
    await imani.goto(`/volunteers/${call!.id}`);
    const rows = imani.locator('main tbody tr');
    await expect(rows).toHaveCount(2);
    await checkAccess(imani);
    await rows.filter({ hasText: 'Nell Oarsby' }).click();
    const panel = imani.getByRole('dialog', { name: 'Nell Oarsby' });
    await expect(panel.getByText('Sat 22 Aug 09:00–15:00')).toBeVisible();
    await expect(panel.getByRole('link', { name: 'ticket.txt' })).toBeVisible();
    await panel.getByRole('button', { name: 'Ask something' }).click();
    const ask = imani.getByRole('dialog', { name: 'Ask Nell Oarsby' });
    await ask.getByLabel('What would you like to know?').fill('Can you steer in fog?');
    await ask.getByRole('button', { name: 'Send' }).click();
    await expect(ask).toHaveCount(0);
    const nell = await pageOf(browser, site, null, true);
    await nell.goto(await linkTo(site, 'nell@oarsby.example', /\/helping\/[\w-]+/u));
    await expect(nell.getByText('Can you steer in fog?')).toBeVisible();
    await nell.getByLabel('Your answer').fill('With a horn, yes.');
    await nell.getByRole('button', { name: 'Answer', exact: true }).click();
    await expect(nell.getByText('You answered: With a horn, yes.')).toBeVisible();
    await checkAccess(nell);
    await nell.context().close();
    await expect(panel.getByText('Their answer: With a horn, yes.')).toBeVisible();
    await panel.getByRole('button', { name: 'I have seen Launch ticket' }).click();
    await expect(panel.getByText('seen', { exact: true })).toBeVisible();
    await checkAccess(imani);
    await panel.getByRole('button', { name: 'Close', exact: true }).click();
    await tick(imani.getByRole('checkbox', { name: 'Choose all shown' }));
    await imani.getByRole('button', { name: 'Accept', exact: true }).click();
    const decide = imani.getByRole('dialog', { name: 'Accept 2 people?' });
    await decide.getByLabel('A word to them').fill('Bring boots.');
    await checkAccess(imani);
    await decide.getByRole('button', { name: 'Accept', exact: true }).click();
    await expect(imani.getByRole('button', { name: 'Accepted 2' })).toBeVisible();
  });

  await test.step('the gaps are filled, and what is proposed is put on', async () => {
    await imani.goto(`/events/${event.id}/crew`);
    await imani.getByRole('button', { name: 'Fill the gaps' }).click();
    const fill = imani.getByRole('dialog', { name: 'Fill the open places' });
    await expect(fill.getByText('2 people were accepted')).toBeVisible();
    await fill.getByText('5 seconds', { exact: true }).click();
    await fill.getByRole('button', { name: 'Work it out' }).click();
    await expect(fill.getByText('Nothing better is possible.')).toBeVisible({ timeout: 60_000 });
    const who = fill.getByRole('region', { name: 'Who would be where' });
    await expect(who.getByRole('listitem').filter({ hasText: 'Umpire launch' })).toContainText('Nell Oarsby');
    await fill.getByRole('button', { name: 'By person' }).click();
    await expect(who.getByRole('listitem')).toHaveCount(2);
    await checkAccess(imani);
    await fill.getByRole('button', { name: 'Put 3 on' }).click();
    await expect(fill.getByText('Nobody is left to be put on.')).toBeVisible();
    await fill.getByRole('button', { name: 'Close', exact: true }).click();
    await expect(imani.getByRole('heading', { name: '3 of 3 places filled' })).toBeVisible();
  });

  await test.step('somebody drops out, another steps in by moving, and the sheet says who is where', async () => {
    const params = { id: event.id };
    const crew = async () => (await lead.call('GET /api/events/:id/crew', { params })).shifts;
    // Whoever comes late in the day is put where Nell’s second shift is free.
    const launch = (await crew()).find((s) => s.role === 'Umpire launch')!;
    const early = (await crew()).find((s) => s.role === 'Bailing' && s.startsLocal.endsWith('09:00'))!;
    expect(early.assignments.map((a) => a.name)).toEqual(['Otis Oarsby']);
    await lead.call('POST /api/assignments/:id/state', {
      params: { id: early.assignments[0]!.id },
      body: { state: 'dropped' },
    });
    await imani.getByRole('button', { name: /^Bailing, .*09:00–12:00/u }).click();
    await imani.getByRole('button', { name: 'Who steps in?' }).click();
    const stepIn = imani.getByRole('dialog', { name: 'Who steps in' });
    // Nell is on the launch then, and nobody else has the ticket: nobody can.
    await expect(stepIn.getByText('Nobody who was accepted could step in')).toBeVisible();
    await checkAccess(imani);
    await stepIn.getByRole('button', { name: 'Close', exact: true }).click();
    const id = await lead.call('POST /api/contacts', {
      body: { given: 'Pia', family: 'Oarsby', email: 'pia@oarsby.example' },
    });
    await lead.call('POST /api/calls/:id/invite', {
      params: { id: call!.id },
      body: { contactIds: [id.id] },
    });
    const pia = await pageOf(browser, site, null, true);
    await pia.goto(await linkTo(site, 'pia@oarsby.example', /\/helping\/[\w-]+/u));
    await pia.getByLabel('Bailing', { exact: true }).selectOption({ label: 'I could' });
    await pia.getByRole('button', { name: 'Sat 22 Aug', exact: true }).click();
    await pia.getByRole('button', { name: 'Yes, I am there' }).click();
    await expect(pia.getByText('Thank you. It is kept.')).toBeVisible();
    await pia.context().close();
    const { applications } = await lead.call('GET /api/calls/:id/applications', { params: { id: call!.id } });
    await lead.call('POST /api/applications/decide', {
      body: { ids: [applications.find((a) => a.name === 'Pia Oarsby')!.id], to: 'accepted' },
    });
    await imani.getByRole('button', { name: 'Who steps in?' }).click();
    await expect(stepIn.getByText('Pia Oarsby')).toBeVisible();
    await stepIn.getByRole('button', { name: 'Put 1 person there' }).click();
    await expect(stepIn).toHaveCount(0);
    await expect
      .poll(async () => (await crew()).find((s) => s.id === early.id)!.assignments.map((a) => a.name))
      .toEqual(['Pia Oarsby']);
    expect(launch.assignments.map((a) => a.name)).toEqual(['Nell Oarsby']);
    const sheet = await imani.request.get(`/api/events/${event.id}/crew.csv`);
    expect(await sheet.text()).toContain('Pia Oarsby');
  });
  await imani.context().close();
});

test('a deposit from the call to its way back: asked for with the call, paid on a phone, and given back in part with why', async ({
  browser,
  site,
}) => {
  const lead = await callers(site).as('imani');
  await lead.call('POST /api/roles', { body: { name: 'Lantern keeper' } });
  const imani = await pageOf(browser, site, 'Imani Okarro');

  await test.step('the crew lead calls for a season and asks for a deposit', async () => {
    await imani.goto('/volunteers');
    await imani.getByRole('button', { name: 'Call for volunteers' }).click();
    const dialog = imani.getByRole('dialog', { name: 'New call for volunteers' });
    await dialog.getByLabel('What it is called').fill('Lantern walks');
    await dialog.getByLabel('First day').fill('2026-11-01');
    await dialog.getByLabel('Last day').fill('2026-12-20');
    await tick(dialog.getByRole('checkbox', { name: 'Lantern keeper' }));
    for (const asked of ['when they can be there', 'what they can do, and their certificates'])
      await dialog.getByText(asked, { exact: true }).click();
    await tick(dialog.getByRole('checkbox', { name: 'Whoever is accepted leaves a deposit' }));
    await dialog.getByRole('button', { name: 'Open the call' }).click();
    await expect(dialog.getByRole('textbox', { name: 'How much' })).toHaveAttribute('aria-invalid', 'true');
    await dialog.getByRole('textbox', { name: 'How much' }).fill('25');
    await checkAccess(imani);
    await dialog.getByRole('button', { name: 'Open the call' }).click();
    await expect(imani.getByRole('heading', { name: 'Lantern walks' })).toBeVisible();
  });

  const ona = await pageOf(browser, site, null, true);
  await test.step('somebody who applies knows of it, and pays it once accepted', async () => {
    await ona.goto('/help/lantern-walks');
    await expect(ona.getByText('Whoever is taken on leaves a deposit of $25.')).toBeVisible();
    await ona.getByLabel('First name').fill('Ona');
    await ona.getByLabel('Last name').fill('Lampley');
    await ona.getByLabel('Email', { exact: true }).fill('ona@lampley.example');
    await ona.getByLabel('Lantern keeper', { exact: true }).selectOption({ label: 'gladly' });
    await ona.getByRole('button', { name: 'Offer to help' }).click();
    await expect(ona.getByText('goes by mail to you (ona@lampley.example)')).toBeVisible();
    await imani.locator('main tbody tr').filter({ hasText: 'Ona Lampley' }).click();
    await imani
      .getByRole('dialog', { name: 'Ona Lampley' })
      .getByRole('button', { name: 'Accept', exact: true })
      .click();
    await expect(imani.getByText('They are asked for a deposit of $25')).toBeVisible();
    await imani
      .getByRole('dialog')
      .last()
      .getByRole('button', { name: /^Accept/u })
      .click();
    await ona.goto(await linkTo(site, 'ona@lampley.example', /\/helping\/[\w-]+/u));
    await expect(ona.getByRole('heading', { name: 'Your deposit of $25' })).toBeVisible();
    await checkAccess(ona);
    await ona.getByRole('button', { name: '9000 0000 0000 0001' }).click();
    await ona.getByRole('button', { name: 'Pay $25' }).click();
    await expect(ona.getByText('Thank you. We have your deposit of $25.')).toBeVisible();
  });

  await test.step('it stands in the list, and a part of it goes back with why', async () => {
    await imani.goto('/volunteers');
    await imani.getByText('Lantern walks').first().click();
    await expect(imani.locator('main tbody tr').filter({ hasText: 'has come in' })).toHaveCount(1);
    await imani.locator('main tbody tr').filter({ hasText: 'Ona Lampley' }).click();
    const panel = imani.getByRole('dialog', { name: 'Ona Lampley' });
    await expect(panel.getByText('$25 would go back now. No shift came of it.')).toBeVisible();
    await panel.getByRole('button', { name: 'Give it back' }).click();
    const settle = imani.getByRole('dialog', { name: 'Deposit of Ona Lampley: $25' });
    await settle.getByLabel('Goes back').fill('20');
    await expect(settle.getByText('The rest, $5, is kept.')).toBeVisible();
    await settle.getByLabel('Why').fill('One lantern was lost.');
    await settle.getByRole('button', { name: 'Give it back' }).click();
    await expect(panel.getByText('$5 is kept. One lantern was lost.')).toBeVisible();
    await expect(
      ona.getByText('Part of your deposit went back to you; $5 is kept. One lantern was lost.'),
    ).toBeVisible({
      timeout: 30_000,
    });
  });
});
