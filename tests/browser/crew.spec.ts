import { openEvent } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, checkContrast, expect, linkTo, pageOf, test } from './site.ts';

test('roles ask for a certificate: a stranger asks, and the crew lead sees what speaks against it and decides', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Lantern Paddle',
    startsLocal: '2026-08-14T09:00',
    endsLocal: '2026-08-14T17:00',
  });
  const imani = await pageOf(browser, site, 'Imani Okarro');
  await imani.goto(`/events/${event.id}/crew`);

  await test.step('a role and what it asks are written down from the crew page', async () => {
    await imani.getByRole('button', { name: 'Print and more' }).click();
    await imani.getByRole('menuitem', { name: 'Roles and skills' }).click();
    await imani.getByRole('button', { name: 'Add a skill' }).click();
    const skill = imani.getByRole('dialog', { name: 'Add a skill' });
    await skill.getByLabel('Name', { exact: false }).fill('Lifeguard');
    await checkAccess(imani);
    await skill.getByRole('button', { name: 'Add a skill' }).click();
    await expect(imani.getByRole('listitem').filter({ hasText: 'Lifeguard' })).toContainText(
      '0 people have it',
    );
    await imani.getByRole('button', { name: 'Add a role' }).click();
    const role = imani.getByRole('dialog', { name: 'Add a role' });
    await role.getByLabel('Name', { exact: false }).fill('Water watch');
    await role.getByLabel('What one does').fill('Watch the bathers.');
    await tick(role.getByRole('checkbox', { name: 'Lifeguard' }));
    await role.getByRole('button', { name: 'Add a role' }).click();
    await expect(imani.getByRole('listitem').filter({ hasText: 'Water watch' })).toContainText('Lifeguard');
    await checkAccess(imani);
    await imani.getByRole('button', { name: 'Close', exact: true }).click();
  });

  await test.step('shifts come from a pasted list; what cannot be read is said before anything is added', async () => {
    await imani.getByRole('button', { name: 'Add many' }).click();
    const many = imani.getByRole('dialog', { name: 'Add many shifts' });
    const list = many.getByLabel('Shifts, one a line');
    await list.fill('Water watch\tBeach\t\t9\t13\t2\t1\n\t\t\t13\t17\t2\nTea\tHut\t\tsoon\t12');
    await expect(many.getByText('Line 3: the start cannot be read')).toBeVisible();
    await expect(many.getByRole('button', { name: 'Add 2 shifts' })).toBeDisabled();
    await list.fill('Water watch\tBeach\t\t9\t13\t2\t1\n\tBeach\t\t13\t17\t2\nTea\tHut\t\t10\t12');
    await checkAccess(imani);
    await many.getByRole('button', { name: 'Add 3 shifts' }).click();
    await expect(many).toHaveCount(0);
    await expect(imani.getByRole('heading', { name: '0 of 5 places filled' })).toBeVisible();
  });

  const early = () => imani.getByRole('button', { name: /^Water watch, Beach, .*09:00–13:00/u });
  await test.step('a stranger asks on a phone, and is told that somebody looks at it', async () => {
    const ewan = await pageOf(browser, site, null, true);
    await ewan.goto(`/e/${event.slug}/shifts`);
    const first = ewan.getByRole('listitem').filter({ hasText: '09:00–13:00' });
    await expect(first).toContainText('Watch the bathers.');
    await expect(first).toContainText('You need: Lifeguard.');
    await first.getByRole('button', { name: 'Sign up' }).click();
    await ewan.getByLabel('First name').fill('Ewan');
    await ewan.getByLabel('Last name').fill('Oakes');
    await ewan.getByLabel('Email', { exact: true }).fill('ewan@fenmail.example');
    await checkAccess(ewan);
    await ewan.getByRole('button', { name: 'Ask for Water watch' }).click();
    await expect(ewan.getByText('goes by mail to you (ewan@fenmail.example)')).toBeVisible();
    await ewan.goto(await linkTo(site, 'ewan@fenmail.example', /\/crew\/[\w-]+/u));
    await expect(ewan.getByText('asked for; you will hear whether it is yours')).toBeVisible();
    await checkAccess(ewan);
    await ewan.context().close();
  });

  await test.step('the crew lead sees what speaks against it, writes the certificate down, and puts them on', async () => {
    await expect(imani.getByText('1 person asks for a shift:')).toBeVisible();
    await early().click();
    await expect(imani.getByText('has no Lifeguard on record')).toBeVisible();
    await checkAccess(imani);
    await imani.getByRole('button', { name: 'Ewan Oakes', exact: true }).click();
    const record = imani.getByRole('region', { name: 'Can do' });
    await record.getByRole('button', { name: 'Add a skill' }).click();
    const skill = imani.getByRole('dialog', { name: 'Add a skill' });
    await skill.getByLabel('Which').selectOption({ label: 'Lifeguard' });
    await skill.getByLabel('Number').fill('L-77');
    await skill.getByLabel('Until').fill('2026-08-13');
    await skill.getByRole('button', { name: 'Save' }).click();
    await expect(record).toContainText('Lifeguard, L-77, until 13 Aug 2026, seen by Imani Okarro');
    await imani.keyboard.press('Escape');
    // The shift is still open below, and knows it.
    await expect(imani.getByText('Lifeguard runs out on 13 Aug, before the shift ends')).toBeVisible();
    await imani.getByRole('button', { name: 'Put Ewan Oakes on' }).click();
    await expect(imani.getByRole('button', { name: 'Take Ewan Oakes off Water watch' })).toBeVisible();
    await imani.getByRole('button', { name: 'Close', exact: true }).click();
    await expect(imani.getByRole('heading', { name: '1 of 5 places filled' })).toBeVisible();
  });
  await imani.context().close();
});

test('the board: moved by keyboard and by hand, stretched, cut and copied; whoever is on it is told; gaps first', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Lantern Paddle',
    startsLocal: '2026-08-14T09:00',
    endsLocal: '2026-08-14T17:00',
  });
  const odalys = await staff.as('odalys');
  const add = async (role: string, from: string, to: string, more: object = {}) =>
    (
      await odalys.call('POST /api/events/:id/shifts', {
        params: { id: event.id },
        body: { role, startsLocal: `2026-08-14T${from}`, endsLocal: `2026-08-14T${to}`, wished: 1, ...more },
      })
    ).id;
  await add('Tea', '09:00', '11:00', { place: 'Hut' });
  const gate = await add('Gate', '09:00', '13:00', { place: 'Road' });
  await add('Boats', '10:00', '16:00', { place: 'Landing', wished: 3, least: 2 });
  const wen = await odalys.call('POST /api/contacts', {
    body: { given: 'Wen', family: 'Alder', email: 'wen@fenmail.example' },
  });
  await odalys.call('POST /api/shifts/:id/assignments', {
    params: { id: gate },
    body: { contactId: wen.id },
  });
  const page = await pageOf(browser, site, 'Imani Okarro');
  await page.goto(`/events/${event.id}/crew`);
  const bar = (name: RegExp) => page.getByRole('button', { name });
  await expect(bar(/^Tea, Hut, .*09:00–11:00: 0 of 1\. lacks 1/u)).toBeVisible();
  await expect(page.locator('.laneName b').first()).toHaveText('Boats');
  await checkAccess(page);
  await checkContrast(page);

  await test.step('by keyboard, where nobody is on it: at once, and taken back', async () => {
    await bar(/^Tea, /u).focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('Tea, Hut, 14 Aug 09:30–11:30. Enter puts it there')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(bar(/^Tea, Hut, .*09:00–11:00/u)).toBeVisible();
    await bar(/^Tea, /u).focus();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Enter');
    await expect(bar(/^Tea, Hut, .*09:00–11:15/u)).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(bar(/^Tea, Hut, .*09:00–11:00/u)).toBeVisible();
  });

  await test.step('by hand, where somebody is on it: it is asked, and they are told', async () => {
    const box = (await bar(/^Gate, /u).boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + 12);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + box.width / 8, box.y + 12, { steps: 4 });
    await page.mouse.move(box.x + box.width / 2 + box.width / 4, box.y + 12, { steps: 4 });
    await page.mouse.up();
    const asks = page.getByRole('dialog', { name: 'Move the shift?' });
    await expect(asks).toContainText('becomes Gate, Road, 14 Aug 10:00–14:00');
    await expect(asks).toContainText('On it: Wen Alder.');
    await checkAccess(page);
    await asks.getByRole('button', { name: 'Move it and tell 1 person' }).click();
    await expect(bar(/^Gate, Road, .*10:00–14:00: 1 of 1/u)).toBeVisible();
    await expect
      .poll(async () => {
        await site.started.runner.run();
        const mails = await site.started.app.db.query<{ subject: string }>(
          "select subject from standin_mail where address = 'wen@fenmail.example' order by accepted_at desc, key desc limit 1",
        );
        return mails[0]?.subject;
      })
      .toBe('Your shift has changed: Lantern Paddle');
  });

  await test.step('cut into parts with a handover, copied, changed, removed', async () => {
    await bar(/^Boats, /u).focus();
    await page.keyboard.press('x');
    const cut = page.getByRole('dialog', { name: 'Cut the shift' });
    await cut.getByLabel('Into how many').fill('3');
    await cut.getByLabel('Handover').selectOption('15');
    await expect(cut.getByText('10:00–12:15 · 12:00–14:15 · 14:00–16:00')).toBeVisible();
    await checkAccess(page);
    await cut.getByRole('button', { name: 'Cut it' }).click();
    await expect(bar(/^Boats, Landing, .*12:00–14:15: 0 of 3\. lacks 2/u)).toBeVisible();
    await bar(/^Boats, Landing, .*14:00–16:00/u).focus();
    await page.keyboard.press('c');
    const copy = page.getByRole('dialog', { name: 'Add a shift' });
    await expect(copy.getByLabel('How many at least')).toHaveValue('2');
    await copy.getByLabel('From', { exact: false }).fill('16:00');
    await copy.getByLabel('To', { exact: false }).fill('18:00');
    await checkAccess(page);
    await copy.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(bar(/^Boats, Landing, .*16:00–18:00/u)).toBeVisible();
    await bar(/^Boats, Landing, .*16:00–18:00/u).click();
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    const change = page.getByRole('dialog', { name: 'Change the shift' });
    await change.getByLabel('How many at least').fill('5');
    await change.getByRole('button', { name: 'Save' }).click();
    await expect(change.getByText('At least cannot be more than how many are wished.').first()).toBeVisible();
    await change.getByLabel('How many at least').fill('1');
    await change.getByRole('button', { name: 'Save' }).click();
    await expect(change).toHaveCount(0);
    await expect(page.getByText('0 of 3, 1 at least')).toBeVisible();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await expect(bar(/^Boats, Landing, .*16:00–18:00/u)).toHaveCount(0);
  });

  await test.step('narrowed to what lacks somebody, by place, by words; the address keeps it', async () => {
    await tick(page.getByRole('checkbox', { name: 'Only gaps' }));
    await expect(bar(/^Gate, /u)).toHaveCount(0);
    await page.getByLabel('Lanes').selectOption({ label: 'By place' });
    await expect(page.locator('.laneName b').first()).toHaveText('Landing');
    await page.getByLabel('Role, place or person').fill('hut');
    await expect(bar(/^Boats, /u)).toHaveCount(0);
    await page.reload();
    await expect(bar(/^Tea, Hut/u)).toBeVisible();
    await expect(bar(/^Boats, /u)).toHaveCount(0);
    await page.getByLabel('Role, place or person').fill('nothing like it');
    await expect(page.getByText('No shift is like that.')).toBeVisible();
  });

  await test.step('who could be put on is shown with why and what speaks against it; the best first', async () => {
    await page.goto(`/events/${event.id}/crew`);
    await bar(/^Tea, /u).click();
    await page.getByRole('button', { name: 'Assign somebody' }).click();
    const assign = page.getByRole('dialog', { name: 'Tea, 09:00–11:00' });
    const could = assign.getByRole('region', { name: 'Who could' });
    await expect(could).toContainText('0 of 1 who help have nothing against it.');
    await expect(could.getByRole('listitem')).toContainText('never served as Tea, 4 h here already');
    await expect(could.getByRole('listitem')).toContainText('at the same time as Gate (Lantern Paddle)');
    await checkAccess(page);
    await could.getByRole('button', { name: 'Choose Wen Alder' }).click();
    await assign.getByRole('button', { name: 'Assign Wen Alder' }).click();
    await assign.getByLabel('Reason for overriding').fill('The hut is beside the road.');
    await assign.getByRole('button', { name: 'Assign Wen Alder anyway' }).click();
    await expect(page.getByText('despite a clash: The hut is beside the road.')).toBeVisible();
  });

  await test.step('on a phone it is opened and changed as well', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto(`/events/${event.id}/crew`);
    await bar(/^Gate, /u).click();
    await expect(page.getByRole('button', { name: 'Take Wen Alder off Gate' })).toBeVisible();
    await checkAccess(page);
  });
  await page.context().close();
});

test('the board with time going down: another lane by key, and moved by a finger that rests on it first', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title: 'Lantern Paddle',
    startsLocal: '2026-08-14T09:00',
    endsLocal: '2026-08-14T17:00',
  });
  const odalys = await staff.as('odalys');
  for (const [role, from, to] of [
    ['Boats', '09:00', '12:00'],
    ['Gate', '12:00', '13:00'],
  ] as const)
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, startsLocal: `2026-08-14T${from}`, endsLocal: `2026-08-14T${to}`, wished: 1 },
    });
  const imani = await pageOf(browser, site, 'Imani Okarro', true);
  await imani.goto(`/events/${event.id}/crew`);
  await imani.getByLabel('Time goes').selectOption({ label: 'Time down' });
  await expect(imani).toHaveURL(/flow=down/u);
  await checkAccess(imani);
  const gate = imani.getByRole('button', { name: /^Gate, .*12:00–13:00/u });
  await gate.focus();
  await imani.keyboard.press('ArrowLeft');
  await imani.keyboard.press('ArrowUp');
  await expect(imani.getByText('Boats, 14 Aug 11:45–12:45')).toBeVisible();
  await imani.keyboard.press('Enter');
  const moved = imani.getByRole('button', { name: /^Boats, .*11:45–12:45/u });
  await expect(moved).toBeVisible();
  await moved.scrollIntoViewIfNeeded();
  const box = (await moved.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const finger = await imani.context().newCDPSession(imani);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', by: number) =>
    finger.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: type === 'touchEnd' ? [] : [{ x, y: y + by }],
    });
  await touch('touchStart', 0);
  await expect(moved).toHaveClass(/moving/u);
  for (const by of [10, 30, 62]) await touch('touchMove', by);
  await expect(imani.getByText(/^Boats, 14 Aug 1[2-3]:/u)).toBeVisible();
  await touch('touchEnd', 62);
  await expect(imani.getByRole('button', { name: /^Boats, .*1[2-3]:\d\d–1[3-4]:\d\d/u })).toBeVisible();
  await imani.context().close();
});
