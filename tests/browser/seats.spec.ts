import { readFileSync } from 'node:fs';
import { plainOffer } from '#core/offers/offer.ts';
import { plainQuestion } from '#core/questions/question.ts';
import { Caller } from '../api/caller.ts';
import { saveIt } from '../api/plans.ts';
import { type OpenEvent, openEvent, orderFor, pay } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, linkTo, pageOf, type Site, test } from './site.ts';

const offer = (name: string, price: number) => ({ ...plainOffer, id: crypto.randomUUID(), name, price });

/** An event with two tickets, and who books what at it. */
async function scene(site: Site, title: string, change: Parameters<typeof saveIt>[2] = {}, capacity = 4) {
  const way = {
    ...plainQuestion,
    id: crypto.randomUUID(),
    kind: 'one of' as const,
    choices: ['by bus', 'on foot'],
    prompt: { en: 'How do you come?' },
    seenBy: 'name tag' as const,
  };
  const event = await openEvent(callers(site), { title, capacity, questions: [way] });
  const odalys = await callers(site).as('odalys');
  const offers = [offer('Shore walk', 2000), offer('Canoe', 3500)];
  expect((await saveIt(odalys, event.id, { offers, ...change })).status).toBe(200);
  const at: OpenEvent = { ...event, offers };
  const anyone = new Caller(site.origin);
  const book = async (...given: string[]) => {
    const body = orderFor(
      at,
      given.map((g) => ({ given: g, family: 'Sedge' })),
    );
    for (const attendee of body.attendees)
      attendee.answers = { [way.id]: given.length > 1 ? 'by bus' : 'on foot' };
    const { token, standing } = await anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body,
    });
    if (standing === 'held') await pay({ anyone }, token);
    return token;
  };
  return { event: at, odalys, book };
}

test('a booking is changed, a seat handed on and given up by its terms, and who waits takes it', async ({
  browser,
  site,
}) => {
  const { event, book } = await scene(site, 'Changing Minds', {
    refunds: [
      { days: 60, percent: 100 },
      { days: 1, percent: 50 },
    ],
  });
  const token = await book('Ida', 'Ole', 'Siv', 'Leif');
  const waits = await book('Vera');
  const page = await pageOf(browser, site, null, true);
  await page.goto(`/m/${token}`);
  // Another ticket: what is more to pay is said before, and paid afterwards.
  await page.getByRole('button', { name: 'Change the ticket' }).tap();
  await tick(page.getByRole('checkbox', { name: 'Ida Sedge, Shore walk' }));
  await tick(page.getByRole('radio', { name: 'Canoe, $35' }));
  await expect(page.getByRole('status').filter({ hasText: '$15 more is to be paid' })).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Change it' }).tap();
  await page.getByRole('button', { name: 'Pay $15 by card' }).tap();
  await page.getByRole('button', { name: '9000 0000 0000 0001' }).tap();
  await page.getByRole('button', { name: 'Pay $15', exact: true }).tap();
  await expect(page.getByText('Paid $95')).toBeVisible();
  // Somebody else comes in place of Ole: he has no pass any more, and whoever booked is told.
  const ole = page.getByRole('listitem').filter({ hasText: 'Ole Sedge' });
  await ole.getByRole('button', { name: 'Change' }).tap();
  await ole.getByLabel('First name').fill('Runa');
  await ole.getByLabel('Last name').fill('Teal');
  await tick(ole.getByRole('radio', { name: 'on foot' }));
  await ole.getByRole('button', { name: 'Save' }).tap();
  await expect(page.getByRole('listitem').filter({ hasText: 'Runa Teal' })).toBeVisible();
  await linkTo(site, 'ida.sedge@harbourpost.example', /The seat of Ole Sedge for Changing Minds/u);
  // Given up: what goes back and what is kept is said first.
  await page.getByRole('button', { name: 'Give seats up' }).tap();
  await tick(page.getByRole('checkbox', { name: 'Siv Sedge, Shore walk' }));
  await expect(page.getByRole('status').filter({ hasText: '$10' }).first()).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Give up 1 seat' }).tap();
  await expect(page.getByText('$10 was kept for seats that were given up.')).toBeVisible();
  await linkTo(site, 'ida.sedge@harbourpost.example', /We pay \$10 back to you/u);
  // The seat is offered to whoever waits; they take it and pay.
  const waiting = await pageOf(browser, site, null, true);
  await waiting.goto(`/m/${waits}`);
  await waiting.getByRole('button', { name: 'Take the seats' }).tap();
  await waiting.getByRole('button', { name: '9000 0000 0000 0001' }).tap();
  await waiting.getByRole('button', { name: 'Pay $20' }).tap();
  await expect(waiting.getByRole('heading', { name: 'You are registered' })).toBeVisible();
  await checkAccess(waiting);
  // The treasurer sees what is to go back.
  const staff = await pageOf(browser, site, 'Marit Solvang');
  await staff.goto(`/events/${event.id}/registration?show=back`);
  await staff.getByRole('row').filter({ hasText: 'Ida' }).getByRole('cell').nth(2).click();
  await staff.getByRole('button', { name: 'Pay $10 back' }).click();
  await expect(staff.getByText('Paid back')).toBeVisible();
});

test('the table of seats is narrowed by an answer, kept as a view, and acted on: letter, move, tags, withdraw', async ({
  browser,
  site,
}) => {
  const { event, book } = await scene(site, 'Many At Once', {}, 20);
  await book('Ida', 'Ole');
  await book('Vera');
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/registration`);
  const rows = page.getByRole('region', { name: 'Registrations' }).locator('tbody tr');
  await expect(rows).toHaveCount(3);
  // The order's money stands once.
  await expect(rows.nth(1)).toContainText('in order');
  await expect(page.locator('tfoot')).toContainText('$60 of $60');
  await page.getByRole('button', { name: 'Add a condition' }).click();
  await page.getByLabel('What is compared').selectOption({ label: 'How do you come?' });
  await page.getByRole('group', { name: 'How do you come?' }).getByRole('button', { name: 'by bus' }).click();
  await expect(rows).toHaveCount(2);
  await page.getByRole('button', { name: 'Save this view' }).click();
  await page.getByLabel('Name of the view').fill('By bus');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('button', { name: 'By bus', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: /^All/u }).click();
  await page.getByRole('button', { name: 'Clear all' }).click();
  await expect(rows).toHaveCount(3);
  await page.getByRole('button', { name: 'By bus', exact: true }).click();
  await expect(rows).toHaveCount(2);
  await checkAccess(page);

  await page.getByLabel('Choose all').check();
  const bar = page.getByRole('group', { name: '2 chosen' });
  await bar.getByRole('button', { name: 'Write to them' }).click();
  await page.getByLabel('Subject').fill('The bus leaves at eight');
  await page.getByRole('button', { name: 'Send 1 copy now' }).click();
  await linkTo(site, 'ida.sedge@harbourpost.example', /Hello Ida/u);
  // Once it is sent nobody is chosen any more.
  await expect(bar).toBeHidden();
  await page.getByLabel('Choose all').check();
  await bar.getByRole('button', { name: 'Move', exact: true }).click();
  await page.getByLabel('Ticket', { exact: true }).selectOption('Canoe');
  await expect(page.getByText('$30 more is to be paid.')).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Move 2 seats' }).click();
  await expect(rows.first()).toContainText('Canoe');
  await expect(bar).toBeHidden();
  // Name tags with the answer that belongs on them.
  await page.getByRole('button', { name: 'Print', exact: true }).first().click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('checkbox', { name: 'How do you come?' })).toBeChecked();
  await tick(dialog.getByRole('radio', { name: /^Ten labels/u }));
  await checkAccess(page);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Save the PDF' }).click(),
  ]);
  expect(
    readFileSync(await file.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Choose all').check();
  await bar.getByRole('button', { name: 'Withdraw' }).click();
  await expect(page.getByText('2 seats of 1 order are withdrawn.')).toBeVisible();
  await page.getByRole('button', { name: 'Withdraw 2 seats' }).click();
  await expect(page.getByText('2 seats withdrawn')).toBeVisible();
});

test('somebody on the telephone is registered; an invitation is answered; what somebody holds is on their page', async ({
  browser,
  site,
}) => {
  const { event, book } = await scene(site, 'By Telephone', {}, 20);
  await book('Ida');
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${event.id}/registration`);
  await page.getByRole('button', { name: 'Add registration' }).click();
  await page.getByLabel('Who is it for').fill('ida sed');
  await page.getByRole('option', { name: /Ida Sedge/u }).click();
  await expect(page.getByLabel('Email', { exact: true })).toHaveValue('ida.sedge@harbourpost.example');
  await expect(page.getByText('Comes to $20.')).toBeVisible();
  await tick(page.getByRole('radio', { name: 'In cash' }));
  await checkAccess(page);
  await page.getByRole('button', { name: 'Register', exact: true }).click();
  await expect(page.getByText('Registered', { exact: true })).toBeVisible();
  await expect(page.locator('tfoot')).toContainText('$40 of $40');

  // An invitation for two, answered on a phone: perhaps, and then yes.
  const other = await openEvent(callers(site), { title: 'Supper For Some' });
  const odalys = await callers(site).as('odalys');
  const { plan } = await odalys.call('GET /api/events/:id', { params: { id: other.id } });
  await saveIt(odalys, other.id, {
    admission: {
      ...plan.admission,
      reply: 'yes, perhaps or no',
      ways: [{ kind: 'invited', unitIds: [], opensLocal: null, closesLocal: null }],
    },
  });
  await page.goto(`/events/${other.id}/plan`);
  const section = page.getByRole('button', { name: 'Who may register', exact: true });
  const invited = page.getByRole('group', { name: 'Invited' });
  await expect(section.or(invited).first()).toBeVisible();
  if (!(await invited.isVisible())) await section.click();
  await invited.getByLabel('Invite somebody').fill('ida sed');
  await page.getByRole('option', { name: /Ida Sedge/u }).click();
  await invited.getByLabel('How many Ida Sedge may bring along').selectOption('and 1 more');
  await invited.getByRole('button', { name: 'Write the invitations' }).click();
  await page.getByLabel('A paragraph of your own').fill('There is soup.');
  await checkAccess(page);
  await page.getByRole('button', { name: 'Send 1 copy now' }).click();
  await expect(page.getByText('1 copy goes out')).toBeVisible();
  const phone = await pageOf(browser, site, null, true);
  await phone.goto(await linkTo(site, 'ida.sedge@harbourpost.example', /\/i\/[\w-]+/u));
  await phone.getByRole('button', { name: 'Perhaps' }).tap();
  await phone.getByLabel('A word to the organizers').fill('If my bus comes');
  await checkAccess(phone);
  await phone.getByRole('button', { name: 'Send' }).tap();
  await expect(phone.getByText('You said: perhaps.', { exact: false })).toBeVisible();
  await phone.getByRole('link', { name: 'Yes, register' }).tap();
  await expect(phone.getByLabel('First name').first()).toHaveValue('Ida');
  await phone.getByText(/^yes$/iu).tap();
  await phone.getByRole('button', { name: 'Register', exact: true }).tap();
  await expect(phone.getByRole('heading', { name: 'You are registered' })).toBeVisible();
  await page.reload();
  await expect(page.getByText('yes, 1 seat', { exact: false })).toBeVisible();

  // All of it on their page, from where it is changed.
  await phone.goto('/mine');
  await phone.getByLabel('Email').fill('ida.sedge@harbourpost.example');
  await phone.getByRole('button', { name: 'Send the code' }).tap();
  await phone
    .getByLabel('Code')
    .fill(await linkTo(site, 'ida.sedge@harbourpost.example', /\b\d{3} ?\d{3}\b/u));
  await phone.getByRole('button', { name: 'Sign in' }).tap();
  await expect(phone.getByText('Supper For Some')).toBeVisible();
  await expect(phone.getByText('By Telephone').first()).toBeVisible();
  await checkAccess(phone);

  // Given up where it is seen, once it was said what for.
  const seat = phone.getByRole('listitem').filter({ hasText: 'Supper For Some' });
  await seat.getByRole('button', { name: 'Give seats up: Supper For Some' }).tap();
  await expect(seat.getByRole('checkbox', { name: /Ida Sedge/u })).toBeChecked();
  await checkAccess(phone);
  await seat.getByRole('button', { name: 'Cancel' }).tap();
  await seat.getByRole('button', { name: 'Give seats up: Supper For Some' }).tap();
  await seat.getByRole('button', { name: 'Give up 1 seat' }).tap();
  await expect(phone.getByRole('button', { name: 'Give seats up: Supper For Some' })).toHaveCount(0);
  await page.reload();
  await expect(page.getByText('yes, 1 seat', { exact: false })).toHaveCount(0);
});
