import { linkTo } from '../api/caller.ts';
import { tick, tickAll } from './pages/controls.ts';
import { DoorList } from './pages/doors.ts';
import { FrameOf } from './pages/frame.ts';
import { applyAll, bringInFile } from './pages/imports.ts';
import { Registering } from './pages/registering.ts';
import { checkAccess, expect, pageOf, test } from './site.ts';

test('one event from an import to a lifeline, in the real interface', async ({ browser, site }) => {
  const odalys = await pageOf(browser, site, 'Odalys Ferrant');
  const frame = new FrameOf(odalys);
  let eventId = '';

  await test.step('bring people in, look at the dry run, apply', async () => {
    await bringInFile(odalys, 'tests/data/members.csv');
    await expect(odalys.getByLabel('Meaning of Emergency phone')).toHaveValue('emergency phone');
    await odalys.getByRole('button', { name: /^New \d+/u }).click();
    await checkAccess(odalys);
    await applyAll(odalys);
    await odalys.goto('/contacts');
    await odalys.getByLabel('Filter contacts').fill('nettle amara');
    await expect(odalys.getByText('Nettle, Amara')).toBeVisible();
  });

  await test.step('plan an event; it saves as typed and no date was filled in', async () => {
    await odalys.goto('/season');
    await expect(odalys.getByRole('heading', { name: 'Season' })).toBeVisible();
    await odalys.keyboard.press('n');
    await odalys.getByLabel('Public title', { exact: true }).fill('Lantern Paddle');
    await odalys.getByRole('button', { name: 'Begin', exact: true }).click();
    await odalys.waitForURL('**/plan');
    eventId = odalys.url().split('/').at(-2)!;
    await expect(odalys.getByLabel('Date', { exact: true })).toHaveValue('');
    await odalys.getByLabel('Date', { exact: true }).fill('2026-08-14');
    await expect(odalys.getByText('a Friday, 36 days from now')).toBeVisible();
    await odalys.getByLabel('Begins', { exact: true }).fill('20:30');
    await odalys.getByLabel('Ends', { exact: true }).fill('00:30');
    await odalys.getByRole('button', { name: 'It ends at 00:30 the next day' }).click();
    await odalys.getByLabel('Doors', { exact: true }).fill('20:00');
    await odalys.getByLabel('Place', { exact: true }).selectOption({ label: 'Sluice Landing' });
    await odalys.getByLabel('Capacity', { exact: true }).fill('3');
    await tick(odalys.getByRole('radiogroup', { name: 'boats or vehicles are used' }).getByLabel('yes'));
    await odalys.getByRole('button', { name: 'Nothing else applies' }).click();
    await odalys.getByRole('button', { name: 'Ask for a waiver' }).click();
    await odalys.locator('summary').filter({ hasText: 'everybody with a seat' }).click();
    await odalys.getByLabel('Waiver', { exact: true }).selectOption({ label: 'On the water' });
    await odalys.getByRole('button', { name: 'Add an offer' }).click();
    await odalys.getByLabel('Price', { exact: true }).fill('25');
    const add = odalys.getByRole('group', { name: 'Add:' });
    await add.getByRole('button', { name: 'Questions', exact: true }).click();
    await odalys.getByRole('button', { name: 'Ask something of your own' }).click();
    await odalys.getByLabel('Question', { exact: true }).fill('Anything we should know?');
    await odalys.getByLabel('Seen by').selectOption('the organizers and the door');
    await tick(odalys.getByLabel(/^Sensitive/u));
    await add.getByRole('button', { name: 'A gift with the booking' }).click();
    for (const fund of ['General', 'Hide Appeal']) await tick(odalys.getByLabel(fund, { exact: true }));
    await add.getByRole('button', { name: 'Survey' }).click();
    await odalys.getByRole('button', { name: 'Another survey' }).click();
    await odalys.getByRole('menuitem', { name: 'Short: how was it (Those who came)' }).click();
    await expect(odalys.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
    await expect(odalys.getByRole('heading', { name: 'Lantern Paddle' })).toBeVisible();
    await expect(odalys.getByText('Friday 14 August 2026, 20:30–00:30 next day')).toBeVisible();
    await checkAccess(odalys);
  });

  await test.step('clearance: sent, decided by those it concerns, opened', async () => {
    await odalys.keyboard.press('Escape');
    await frame.stage('Clearance');
    await odalys.getByRole('button', { name: 'Send for clearance' }).click();
    await odalys.getByRole('dialog').getByRole('button', { name: 'Send for clearance' }).click();
    await expect(odalys.getByRole('heading', { name: 'In clearance' })).toBeVisible();
    const tobias = await pageOf(browser, site, 'Tobias Wren-Achebe');
    await tobias.locator(`a[href="/events/${eventId}/clearance"]`, { hasText: 'Read and decide' }).click();
    await tick(tobias.getByLabel('Clear with conditions'));
    await tobias.getByLabel('Condition 1').fill('A second safety boat.');
    await tobias.getByRole('button', { name: 'Clear with conditions' }).click();
    // The field it is typed in has the same words: the decision is kept once there is nothing to decide any more.
    await expect(tobias.getByLabel('Condition 1')).toHaveCount(0);
    await expect(tobias.getByText('A second safety boat.').first()).toBeVisible();
    await tobias.context().close();
    const marit = await pageOf(browser, site, 'Marit Solvang');
    await marit.locator(`a[href="/events/${eventId}/clearance"]`, { hasText: 'Read and decide' }).click();
    await marit.getByRole('button', { name: 'Clear', exact: true }).click();
    await expect(marit.getByRole('heading', { name: 'Cleared' })).toBeVisible();
    await marit.context().close();
    // The open page hears of it by itself.
    await odalys.getByRole('button', { name: 'Open registration' }).click();
    await odalys.getByRole('dialog').getByRole('button', { name: 'Open registration' }).click();
    await expect(odalys.getByRole('link', { name: 'Public page' })).toBeVisible();
  });

  const mai = await pageOf(browser, site, null, true);
  const party = new Registering(mai);
  let manage = '';
  let passCode = '';
  await test.step('a family registers on a phone, pays, signs, and has passes', async () => {
    await mai.goto('/');
    await mai.getByRole('link', { name: 'Lantern Paddle', exact: true }).click();
    await expect(mai.getByRole('heading', { name: 'Lantern Paddle' })).toBeVisible();
    await checkAccess(mai);
    const structured = await (await mai.request.get(mai.url())).text();
    expect(structured).toContain('"@type":"Event"');
    await mai.getByRole('link', { name: 'Register' }).click();
    await party.more('Seat').click();
    await party.comes();
    await party.name('You', { birthDate: '1984-11-20' });
    await party.name('Seat 2', { given: 'Théo', family: 'Delacroix-Nguyen', birthDate: '2015-05-02' });
    await party.seat('Seat 2').getByLabel('Anything we should know?').fill('no nuts');
    await mai.getByRole('button', { name: /Register and pay/u }).click();
    await expect(mai.getByRole('alert')).toContainText('Give your first name.');
    await party.name('You', { given: 'Mai', family: 'Delacroix-Nguyen' });
    await party.email('dn@harbourpost.example');
    await mai.getByLabel('Amount').fill('10');
    await mai.getByLabel('Fund', { exact: true }).selectOption({ label: 'Hide Appeal' });
    await checkAccess(mai);
    await mai.getByRole('button', { name: 'Register and pay $60' }).click();
    await mai.waitForURL('**/m/*');
    manage = mai.url();
    await party.pay('$60', '2');
    await expect(mai.getByText('The card was declined.')).toBeVisible();
    await party.pay('$60');
    await expect(mai.getByRole('heading', { name: 'You are registered' })).toBeVisible();
    await party.sign('Mai Delacroix-Nguyen');
    passCode = (await mai
      .getByRole('img', { name: /^Pass / })
      .first()
      .getAttribute('alt'))!.slice('Pass '.length);
    await checkAccess(mai);
    const pdf = await mai.request.get(`/api/public/orders/${manage.split('/').at(-1)}/passes.pdf`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  });

  await test.step('when it is full the next party waits, and a withdrawal offers it the seats', async () => {
    const jun = await pageOf(browser, site, null);
    const second = new Registering(jun);
    await second.open('lantern-paddle');
    await second.more('Seat').click();
    await second.name('You', { given: 'Jun', family: 'Baptiste', birthDate: '1990-03-14' });
    await second.email('jun@tidepost.example');
    await jun.getByRole('button', { name: 'Join the waitlist' }).click();
    await expect(jun.getByText('Your party is number 1 in the queue.')).toBeVisible();
    await odalys.goto(`/events/${eventId}/registration`);
    await expect(odalys.getByRole('heading', { name: '2 of 3 seats confirmed' })).toBeVisible();
    // Mai signed for both of them in one go.
    await expect(odalys.getByText('1 child has no guardian')).toHaveCount(0);
    await checkAccess(odalys);
    await mai.reload();
    await mai.getByRole('button', { name: 'Give seats up' }).click();
    await tick(mai.getByRole('group', { name: 'Give seats up' }).getByLabel(/Théo/u));
    await mai.getByRole('button', { name: 'Give up 1 seat' }).click();
    await expect(mai.getByText('$25 is to be paid back', { exact: false })).toBeVisible();
    await expect(jun.getByRole('heading', { name: 'Seats are available for you' })).toBeVisible({
      timeout: 30_000,
    });
    await jun.getByRole('button', { name: 'Take the seats' }).click();
    await second.pay('$50');
    await expect(jun.getByRole('heading', { name: 'You are registered' })).toBeVisible();
    await second.sign('Jun Baptiste');
    await jun.context().close();
    await expect(odalys.getByRole('heading', { name: '3 of 3 seats confirmed' })).toBeVisible();
  });

  await test.step('shifts: added, taken from the public page, assigned despite a clash with a reason', async () => {
    await odalys.keyboard.press('4');
    for (const role of ['Lantern bearer', 'Boat shed']) {
      await odalys.getByRole('button', { name: 'Add a shift' }).click();
      await odalys.getByLabel('Role', { exact: true }).fill(role);
      await expect(odalys.getByText('ends the next day')).toBeVisible();
      await odalys.getByRole('dialog').getByRole('button', { name: 'Add', exact: true }).click();
      await expect(odalys.getByRole('dialog')).toHaveCount(0);
    }
    const ewan = await pageOf(browser, site, null, true);
    await ewan.goto(`${site.origin}/e/lantern-paddle/shifts`);
    await ewan
      .getByRole('listitem')
      .filter({ hasText: 'Lantern bearer' })
      .getByRole('button', { name: 'Sign up' })
      .click();
    await ewan.getByLabel('First name').fill('Ewan');
    await ewan.getByLabel('Last name').fill('Oakes');
    await ewan.getByLabel('Email', { exact: true }).fill('ewan@fenmail.example');
    await ewan.getByRole('button', { name: 'Sign up for Lantern bearer' }).click();
    // The link to his shifts goes by mail.
    await expect(ewan.getByText('goes by mail to you (ewan@fenmail.example)')).toBeVisible();
    const [volunteer] = await site.started.app.db.query<{ id: string }>(
      "select contact_id as id from contact_emails where email_key = 'ewan@fenmail.example'",
    );
    await ewan.goto(await linkTo(site.started.app, 'crew', volunteer!.id));
    await expect(ewan.getByRole('heading', { name: 'Your shifts, Ewan' })).toBeVisible();
    await checkAccess(ewan);
    await ewan.context().close();
    await expect(odalys.getByRole('heading', { name: '1 of 2 places filled' })).toBeVisible();
    await odalys.getByRole('button', { name: /^Boat shed, / }).click();
    await odalys.getByRole('button', { name: 'Assign somebody' }).click();
    await odalys.getByLabel('Who', { exact: true }).fill('oakes');
    await odalys.getByRole('option', { name: /^Ewan Oakes/u }).click();
    await odalys.getByRole('button', { name: 'Assign Ewan Oakes' }).click();
    await expect(odalys.getByText('at the same time as Lantern bearer (Lantern Paddle)')).toBeVisible();
    await odalys.getByLabel('Reason for overriding').fill('The boats lie side by side.');
    await odalys.getByRole('button', { name: 'Assign Ewan Oakes anyway' }).click();
    await expect(odalys.getByText('despite a clash: The boats lie side by side.')).toBeVisible();
    await checkAccess(odalys);
    // Nobody is taken off by a slip: it is asked first, and can be left.
    const off = () => odalys.getByRole('button', { name: 'Take Ewan Oakes off Boat shed' }).click();
    await off();
    const asking = odalys.getByRole('dialog', { name: 'Take Ewan Oakes off Boat shed' });
    await expect(asking).toContainText('0 of 1');
    await checkAccess(odalys);
    await asking.getByRole('button', { name: 'Keep them on it' }).click();
    await expect(asking).toHaveCount(0);
    await off();
    await asking.getByRole('button', { name: 'Take off', exact: true }).click();
    await expect(odalys.getByText('Nobody yet.')).toBeVisible();
    await odalys.getByRole('button', { name: 'Close', exact: true }).click();
    await expect(odalys.getByRole('heading', { name: '1 of 2 places filled' })).toBeVisible();
    await expect(odalys.getByText('lacks 1')).toBeVisible();
  });

  await test.step('messages: planned with reasons, failing and tried again, never twice', async () => {
    await odalys.keyboard.press('5');
    await odalys.getByRole('button', { name: 'Reminder, a day before', exact: true }).click();
    await expect(odalys.getByText('planned Thu 13 Aug, 20:30').first()).toBeVisible();
    await checkAccess(odalys);
    await odalys.goto('/tray');
    await frame.moveClock('2026-08-13T20:29');
    await odalys.getByLabel('The mail stand-in').selectOption('fails once');
    await frame.moveClock('2026-08-13T20:31');
    await odalys.getByRole('button', { name: /^Failed 1/u }).click();
    await expect(odalys.getByText('tried again later')).toBeVisible();
    await frame.moveClock('2026-08-13T20:50');
    await expect(odalys.getByRole('button', { name: /^Failed 0/u })).toBeVisible();
    await odalys.getByRole('button', { name: /^Sent/u }).click();
    await expect(odalys.getByRole('row').filter({ hasText: 'Reminder, a day before' })).toHaveCount(2);
    await checkAccess(odalys);
  });

  await test.step('doors: scan, arrive, undo, walk-in; two devices agree', async () => {
    await frame.moveClock('2026-08-14T20:05');
    const door = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
    const first = new DoorList(door);
    await first.open(eventId);
    const other = new DoorList(await pageOf(browser, site, 'Imani Okarro', true));
    await other.open(eventId);
    await first.scan(passCode);
    await expect(door.getByRole('heading', { name: 'Come in' })).toBeVisible();
    await checkAccess(door);
    await first.answer.getByRole('button', { name: 'Arrive' }).click();
    await other.arrived('1 of 3', 2_000);
    await other.undo('Delacroix-Nguyen');
    await first.arrived('0 of 3', 2_000);
    await first.arrive('Delacroix-Nguyen');
    await first.arrived('1 of 3');
    await odalys.goto(`/events/${eventId}/plan`);
    await odalys.getByLabel('Capacity', { exact: true }).fill('5');
    // People have seats here: what more room brings about is seen first.
    await odalys.getByRole('button', { name: 'See what follows' }).click();
    await odalys
      .getByRole('dialog')
      .getByRole('button', { name: /^Save it/u })
      .click();
    await expect(odalys.getByRole('dialog')).toHaveCount(0);
    await door.getByRole('button', { name: 'Walk-in' }).click();
    await door.getByLabel('First name').fill('Amara');
    await door.getByLabel('Last name').fill('Nettle');
    await door.getByLabel('Email', { exact: true }).fill('amara.nettle665@tidepost.example');
    await door.getByLabel('Birth date').fill('1979-05-06');
    await door.getByRole('button', { name: 'Register' }).click();
    await expect(door.getByRole('button', { name: 'Register' })).toHaveCount(0);
    // Money is due and nothing is signed: both are settled at the door.
    const lamp = first.answer;
    await expect(lamp.getByText('Amara Nettle')).toBeVisible();
    await expect(lamp.getByRole('button', { name: 'Arrive' })).toBeDisabled();
    await lamp.getByRole('button', { name: '$25 paid in cash' }).click();
    await lamp.getByRole('button', { name: 'Sign here' }).click();
    await tickAll(lamp);
    await lamp.getByLabel('Full name').fill('Amara Nettle');
    await checkAccess(door);
    await lamp.getByRole('button', { name: 'Sign', exact: true }).click();
    await expect(lamp.getByRole('heading', { name: 'Come in' })).toBeVisible();
    await lamp.getByRole('button', { name: 'Arrive' }).click();
    await first.arrived('2 of 4');
    await door.context().close();
    await other.page.context().close();
  });

  await test.step('wrap-up: survey by link, figures that reconcile', async () => {
    await frame.moveClock('2026-08-15T09:00');
    await odalys.goto('/tray?state=sent');
    await odalys
      .getByRole('row')
      .filter({ hasText: 'Survey' })
      .filter({ hasText: 'Mai Delacroix-Nguyen' })
      .getByText('2 hours after the end')
      .click();
    // What staff read has words where the link stands: it is as good as a password.
    const dialog = odalys.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Plain text', exact: true }).click();
    await expect(dialog.locator('pre').first()).toContainText('[link to their survey]');
    await odalys.keyboard.press('Escape');
    const [ask] = await site.started.app.db.query<{ id: string }>(
      "select k.id from survey_asks k join contacts c on c.id = k.contact_id where c.given_name = 'Mai'",
    );
    await mai.goto(await linkTo(site.started.app, 'survey', ask!.id));
    await mai.getByText('5', { exact: true }).first().click();
    await mai.getByLabel('What should we do differently?').fill('More lanterns.');
    await checkAccess(mai);
    await mai.getByRole('button', { name: 'Send' }).click();
    await expect(mai.getByRole('heading', { name: 'Thank you' })).toBeVisible();
    await odalys.goto(`/events/${eventId}/wrap-up`);
    await expect(odalys.getByRole('heading', { name: '2 came, 2 missed it' })).toBeVisible();
    await expect(odalys.getByText('No:')).toHaveCount(0);
    await odalys.getByRole('button', { name: 'Survey', exact: true }).click();
    await expect(odalys.getByText('5.0 of 5 on average, 1 answer')).toBeVisible();
    await expect(odalys.getByText('More lanterns.')).toBeVisible();
    await checkAccess(odalys);
  });

  await test.step('the lifeline tells all of it', async () => {
    const slide = await frame.find('delacroix mai', 'Mai Delacroix-Nguyen');
    for (const words of [
      'arrived',
      'survey answered',
      'payment $50',
      'donation $10',
      'waiver signed',
      'message sent',
      'booked for 2 seats',
      'became a contact',
    ])
      await expect(slide.getByText(words).first()).toBeVisible();
    await expect(slide.getByText('guardian of')).toBeVisible();
    await checkAccess(odalys);
  });
});
