import { answered } from '../../src/core/clearance/facts.ts';
import { openEvent } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { Registering } from './pages/registering.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a large event from nothing: place and room, speakers, agenda, sponsors, French, a team; people choose their sessions', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  const field = (label: string) => page.getByLabel(label, { exact: true });
  const standing = page.getByRole('status').filter({ hasText: /saved|saving/iu });
  const addSection = (name: string) =>
    page.getByRole('group', { name: 'Add:' }).getByRole('button', { name, exact: true }).click();
  const section = (name: string) => page.getByRole('region', { name, exact: true });
  let id = '';
  const plan = async () => (await odalys.call('GET /api/events/:id', { params: { id } })).plan;

  await test.step('begun from nothing, with its days and its room', async () => {
    ({ id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Fen Forum' } }));
    await page.goto(`/events/${id}/plan`);
    await field('Date').fill('2026-10-02');
    await field('Begins').first().fill('09:00');
    await field('Ends').first().fill('17:00');
    await field('Ends on').fill('2026-10-03');
    await field('Place').selectOption({ label: 'Town Hall' });
    await field('Room').selectOption({ label: 'Main Hall, holds 180' });
    await field('Set up as').selectOption({ label: 'Rows, holds 180' });
    await field('Capacity').fill('120');
    await expect.poll(async () => (await plan()).layout).toBe('Rows');
    // What a small event never needs is one line at the end.
    await expect(page.getByRole('heading', { name: 'Agenda' })).toHaveCount(0);
  });

  await test.step('a room that is taken is said, with whom, and another is one click away', async () => {
    const taken = await odalys.call('POST /api/events', { body: { publicTitle: 'Choir practice' } });
    const hall = (await odalys.call('GET /api/choices')).venues.find((v) => v.name === 'Town Hall')!;
    await odalys.call('PATCH /api/events/:id', {
      params: { id: taken.id },
      body: {
        version: 1,
        change: {
          venueId: hall.id,
          roomId: hall.rooms.find((r) => r.name === 'Council Room')!.id,
          startsLocal: '2026-10-02T12:00',
          endsLocal: '2026-10-02T14:00',
        },
      },
    });
    await field('Room').selectOption({ label: 'Council Room, holds 40' });
    await expect(page.getByText('Town Hall is taken then by')).toBeVisible();
    await expect(page.getByRole('link', { name: 'Choir practice' })).toBeVisible();
    await checkAccess(page);
    await page.getByRole('button', { name: 'Main Hall, holds 180' }).click();
    await expect(page.getByText('Town Hall is taken then by')).toHaveCount(0);
    await expect(standing).toHaveText('Saved');
    expect((await plan()).roomId).toBe(hall.rooms.find((r) => r.name === 'Main Hall')!.id);
  });

  await test.step('speakers and sponsors', async () => {
    await addSection('Speakers');
    const speakers = section('Speakers');
    await speakers.getByLabel('Name', { exact: true }).fill('Ida Quell');
    await speakers.getByLabel('Who they are, in a line', { exact: true }).fill('Reads the gauges');
    await addSection('Sponsors');
    const sponsors = section('Sponsors');
    await sponsors.getByLabel('Name', { exact: true }).fill('Reed & Rope');
    await sponsors.getByLabel('Level', { exact: true }).fill('Patron');
    await sponsors.getByLabel('Their address on the web').fill('javascript:alert(1)');
    await expect(sponsors.getByText(/web page|address/iu).last()).toBeVisible();
    await sponsors.getByLabel('Their address on the web').fill('https://rope.example');
    await expect.poll(async () => (await plan()).sponsors[0]?.address).toBe('https://rope.example');
  });

  await test.step('the agenda: sessions one after the other, a break, one to sign up for, one outside refused', async () => {
    await addSection('Agenda');
    const agenda = section('Agenda');
    await agenda.getByRole('button', { name: 'Add a session' }).click();
    await agenda.getByLabel('Title of the session', { exact: true }).fill('Salt and sluices');
    await tick(agenda.getByLabel('Ida Quell'));
    await tick(agenda.getByLabel('People sign up for it'));
    await agenda.getByLabel('Capacity', { exact: true }).fill('1');
    await expect(agenda.getByText('0 of 1 signed up')).toBeVisible();
    await agenda.getByRole('button', { name: 'Add a break' }).first().click();
    await expect(agenda.getByRole('button', { name: /Break/u }).first()).toBeVisible();
    await agenda.getByRole('button', { name: 'Add a session' }).first().click();
    await agenda.getByLabel('Title of the session', { exact: true }).fill('Early birds');
    await agenda.getByLabel('Begins', { exact: true }).fill('06:00');
    await expect(page.getByText('This is outside the event.').first()).toBeVisible();
    await agenda.getByLabel('Begins', { exact: true }).fill('09:15');
    await agenda.getByLabel('Ends', { exact: true }).fill('10:00');
    await tick(agenda.getByLabel('People sign up for it'));
    await expect(standing).toHaveText('Saved');
    await expect.poll(async () => (await plan()).sessions.map((s) => s.title.en)).toContain('Early birds');
    await checkAccess(page);
  });

  await test.step('French, the look of the page, and somebody who helps at one stage', async () => {
    await addSection('French');
    await section('French').getByLabel('Title in French', { exact: true }).fill('Forum du marais');
    await expect.poll(async () => (await plan()).french.publicTitle).toBe('Forum du marais');
    await addSection('Page style');
    await tick(page.getByLabel('Programme first'));
    await addSection('Team');
    await page.getByRole('button', { name: 'Add somebody' }).click();
    const dialog = page.getByRole('dialog', { name: 'Add somebody' });
    await dialog.getByLabel('Name').fill('Jo Lamp');
    await dialog.getByLabel('Email').fill('jo.lamp@harbourpost.example');
    await dialog.getByLabel('At', { exact: true }).selectOption({ label: 'registration' });
    await expect(dialog.getByText('They see and change registration of this event')).toBeVisible();
    await dialog.getByRole('button', { name: 'Add to the team' }).click();
    await expect(page.getByText('Jo Lamp was invited.')).toBeVisible();
    await expect.poll(async () => (await plan()).look.style).toBe('programme');
    await expect(standing).toHaveText('Saved');
  });

  await test.step('opened, and read on a phone: the programme, the speaker, the sponsor', async () => {
    await odalys.call('PATCH /api/events/:id', {
      params: { id },
      body: {
        version: (await odalys.call('GET /api/events/:id', { params: { id } })).version,
        change: { offers: [{ id: crypto.randomUUID(), name: 'Seat', price: 0 }], facts: answered() },
      },
    });
    await odalys.call('POST /api/events/:id/clearance', { params: { id } });
    for (const who of ['tobias', 'marit'] as const) {
      const approver = await staff.as(who);
      const { steps } = await approver.call('GET /api/events/:id/clearance', { params: { id } });
      for (const step of steps.filter((of) => of.mayDecide))
        await approver.call('POST /api/clearance-steps/:id/decision', {
          params: { id: step.id },
          body: { decision: 'clear' },
        });
    }
    await odalys.call('POST /api/events/:id/state', { params: { id }, body: { move: 'open' } });
    const { slug } = await plan();
    const phone = await browser.newPage({
      baseURL: site.origin,
      viewport: { width: 390, height: 844 },
    });
    await phone.goto(`/e/${slug}`);
    await expect(phone.getByRole('heading', { name: 'Programme' })).toBeVisible();
    await expect(phone.getByText('Salt and sluices')).toBeVisible();
    await expect(phone.getByRole('link', { name: 'Reed & Rope' })).toHaveAttribute(
      'href',
      'https://rope.example',
    );
    await checkAccess(phone);
    await phone.getByRole('button', { name: 'Français' }).click();
    await expect(phone.getByRole('heading', { name: 'Forum du marais' })).toBeVisible();
    await expect(phone.getByRole('heading', { name: 'Intervenants' })).toBeVisible();
    await phone.getByRole('button', { name: 'English' }).click();

    await test.step('a registrant chooses: two at one time are not to be had', async () => {
      // One seat of the only offer is chosen already.
      await phone.goto(`/e/${slug}/register`);
      await phone.getByLabel('First name').fill('Ana');
      await phone.getByLabel('Last name').fill('Fenn');
      await phone.getByLabel('Email', { exact: true }).fill('ana.fenn@harbourpost.example');
      await new Registering(phone).comes();
      await phone.getByRole('button', { name: 'Register', exact: true }).click();
      await expect(phone.getByRole('heading', { name: 'Your sessions' })).toBeVisible();
      await tick(phone.getByLabel(/Salt and sluices/u));
      await expect(phone.getByText('at the same time as Salt and sluices')).toBeVisible();
      await expect(phone.getByLabel(/Early birds/u)).toBeDisabled();
      await phone.getByRole('button', { name: 'Keep these sessions' }).click();
      await expect(phone.getByText('Your sessions are kept.')).toBeVisible();
      await expect(phone.getByRole('link', { name: 'Add them to my calendar' })).toBeVisible();
      await checkAccess(phone);
    });
    await phone.close();
  });

  await test.step('the plan shows who signed up', async () => {
    await page.reload();
    await expect(section('Agenda').getByText('1 of 1 signed up')).toBeVisible();
  });
});

test('sessions are proposed on a public page and judged in the plan; the register of places keeps rooms and diaries', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, { title: 'Reed Days' });
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { call: { closes: null, words: { en: 'Tell us what you know.' } } } },
  });

  await test.step('proposed', async () => {
    const anyone = await browser.newPage({ baseURL: site.origin });
    await anyone.goto(`/e/${event.slug}`);
    await anyone.getByRole('link', { name: 'Propose a session' }).click();
    await anyone.getByLabel('Title').fill('Scything for two');
    await anyone.getByRole('button', { name: 'Propose it' }).click();
    await expect(anyone.getByText('Say in a few sentences what it is about.').first()).toBeVisible();
    await anyone.getByLabel('What it is about').fill('How two people share one meadow and one whetstone.');
    await anyone.getByLabel('Your name').fill('Wilma Osk');
    await anyone.getByLabel('Email').fill('wilma.osk@harbourpost.example');
    await checkAccess(anyone);
    await anyone.getByRole('button', { name: 'Propose it' }).click();
    await expect(anyone.getByText('“Scything for two” is with the organizers.')).toBeVisible();
    await anyone.close();
  });

  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await test.step('taken into the agenda, with its speaker', async () => {
    await page.goto(`/events/${event.id}/plan`);
    await page
      .getByRole('group', { name: 'Add:' })
      .getByRole('button', { name: 'Agenda', exact: true })
      .click();
    await page.getByRole('button', { name: 'Take “Scything for two” into the agenda' }).click();
    const asked = page.getByRole('dialog', { name: 'Take “Scything for two” into the agenda' });
    await expect(asked.getByText('Wilma Osk is told by email.')).toBeVisible();
    await asked.getByLabel('Words to Wilma Osk').fill('Bring your own scythe.');
    await asked.getByRole('button', { name: 'Take in' }).click();
    await expect(asked).toHaveCount(0);
    await expect(page.getByRole('heading', { name: 'Not placed yet' })).toBeVisible();
    await expect(page.getByRole('button', { name: /Scything for two/u })).toBeVisible();
    await expect(
      page.getByRole('region', { name: 'Speakers' }).getByLabel('Name', { exact: true }),
    ).toHaveValue('Wilma Osk');
  });

  await test.step('a place gets a room with its set-ups, and a diary from a file', async () => {
    await page.goto('/team/registers');
    await page.getByRole('button', { name: 'Change Reedhouse' }).click();
    const dialog = page.getByRole('dialog', { name: 'Change Reedhouse' });
    await dialog.getByRole('button', { name: 'Add a room' }).click();
    await dialog.getByLabel('Name of the room').fill('Loft');
    await dialog.getByLabel('Can be set up as').fill('Rows');
    await page.keyboard.press('Enter');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog.getByText('Give behind each how many it holds then').first()).toBeVisible();
    await dialog.getByRole('button', { name: 'Remove Rows' }).click();
    await dialog.getByLabel('Can be set up as').fill('Rows 30');
    await page.keyboard.press('Enter');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(dialog).toHaveCount(0);
    await page.getByRole('button', { name: 'Change Reedhouse' }).click();
    await dialog.getByLabel('Address').fill('16 reedc');
    await page.getByRole('option', { name: '16 Reedcutters Row' }).click();
    await expect(dialog.getByLabel('Latitude')).toHaveValue('45.8061');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText(/16 Reedcutters Row, Port Ansley NS/u)).toBeVisible();
    await expect(page.getByText(/1 room/u).first()).toBeVisible();
    await page.getByRole('button', { name: 'Diaries of Town Hall' }).click();
    const diaries = page.getByRole('dialog', { name: 'Diaries of Town Hall' });
    await diaries.getByLabel('Whose diary it is').fill('The caretaker');
    await diaries.locator('input[type=file]').setInputFiles({
      name: 'hall.ics',
      mimeType: 'text/calendar',
      buffer: Buffer.from(
        'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nBEGIN:VEVENT\r\nUID:a@x.example\r\nDTSTAMP:20260101T000000Z\r\nDTSTART:20260801T120000Z\r\nSUMMARY:Floor\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n',
      ),
    });
    await diaries.getByRole('button', { name: 'Add the diary' }).click();
    await expect(diaries.getByText(/1 entry/u)).toBeVisible();
    await checkAccess(page);
  });
});
