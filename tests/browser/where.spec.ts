import sharp from 'sharp';
import { openEvent } from '../api/scenes.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('a place that is taken: another time or sharing; clock changes, whole days, an end nobody is told', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const hall = (await odalys.call('GET /api/choices')).venues.find((v) => v.name === 'Town Hall')!;
  const begun = async (publicTitle: string, change: object) => {
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle } });
    await odalys.call('PATCH /api/events/:id', { params: { id }, body: { version: 1, change } });
    return id;
  };
  await begun('Choir practice', {
    venueId: hall.id,
    startsLocal: '2026-10-02T12:00',
    endsLocal: '2026-10-02T14:00',
  });
  const id = await begun('Fen Supper', {
    startsLocal: '2026-10-02T12:30',
    endsLocal: '2026-10-02T15:30',
    doorsLocal: '2026-10-02T12:00',
  });
  const plan = async () => (await odalys.call('GET /api/events/:id', { params: { id } })).plan;
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto(`/events/${id}/plan`);
  const field = (label: string) => page.getByLabel(label, { exact: true });
  const standing = page.getByRole('status').filter({ hasText: /saved|saving/iu });
  const taken = page.getByText('Town Hall is taken then by');

  await test.step('moved to a time that is free, it is as long as before and its doors move along', async () => {
    await field('Place').selectOption({ label: 'Town Hall' });
    await expect(taken).toBeVisible();
    await expect(page.getByRole('link', { name: 'Choir practice' })).toBeVisible();
    const ways = page.getByText('Free at another time:').locator('..');
    const way = ways.getByRole('button').first();
    await checkAccess(page);
    await way.click();
    await expect(taken).toHaveCount(0);
    await expect.poll(async () => (await plan()).venueId).toBe(hall.id);
    await expect(standing).toHaveText('Saved');
    const { startsLocal, endsLocal, doorsLocal } = await plan();
    const minutes = (wall: string | null) => Date.parse(`${wall}:00Z`) / 60_000;
    expect(minutes(endsLocal) - minutes(startsLocal)).toBe(180);
    expect(minutes(startsLocal) - minutes(doorsLocal)).toBe(30);
    expect(startsLocal).not.toBe('2026-10-02T12:30');
  });

  await test.step('or shared with who is there, which can be taken back', async () => {
    await field('Date').fill('2026-10-02');
    await field('Doors').fill('12:00');
    await field('Begins').fill('12:30');
    await field('Ends').fill('15:30');
    await expect(taken).toBeVisible();
    await page.getByRole('button', { name: 'Share it', exact: true }).click();
    await expect(page.getByText('Shared with Choir practice.')).toBeVisible();
    await expect.poll(async () => (await plan()).beside).toMatchObject([{ title: 'Choir practice' }]);
    await page.getByRole('button', { name: 'Share it no longer' }).click();
    await expect(taken).toBeVisible();
    await field('Place').selectOption({ label: 'Sluice Landing' });
    await expect.poll(async () => (await plan()).beside).toEqual([]);
  });

  await test.step('a time that comes twice is asked about; one that does not come is put right', async () => {
    await field('Date').fill('2026-11-01');
    await field('Doors').fill('');
    await field('Begins').fill('01:30');
    await expect(page.getByText('Begins 01:30: which of the two?')).toBeVisible();
    await tick(page.getByLabel('the second, an hour later'));
    await expect.poll(async () => (await plan()).secondTime).toEqual(['startsLocal']);
    await field('Date').fill('2027-03-14');
    await field('Begins').fill('02:30');
    await page.getByRole('button', { name: /03:30 instead/u }).click();
    await expect.poll(async () => (await plan()).startsLocal).toBe('2027-03-14T03:30');
  });

  await test.step('whole days have a first and a last day', async () => {
    await tick(page.getByLabel('All day'));
    await expect(field('Begins')).toHaveCount(0);
    await field('Last day').fill('2027-03-16');
    await expect.poll(async () => (await plan()).endsLocal).toContain('2027-03-16');
    // The first day moves, and the last with it.
    await field('Date').fill('2027-03-20');
    await expect.poll(async () => (await plan()).endsLocal).toContain('2027-03-22');
    expect((await plan()).startsLocal).toBe('2027-03-20T00:00');
    await expect(standing).toHaveText('Saved');
    await checkAccess(page);
  });
});

test('the organization, a unit, a kind of event and a place each show their picture; a room online takes who no longer fits', async ({
  browser,
  site,
}) => {
  const staff = callers(site);
  const odalys = await staff.as('odalys');
  const event = await openEvent(staff, { title: 'Paddling', capacity: 1 });
  const unit = (await odalys.call('GET /api/choices')).units.find((u) => u.name === 'Small Boats')!;
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { unitId: unit.id, category: 'on the water' } },
  });
  const page = await pageOf(browser, site, 'Odalys Ferrant');
  const choose = async (colour: string, alt: string) => {
    const buffer = await sharp({ create: { width: 500, height: 300, channels: 3, background: colour } })
      .png()
      .toBuffer();
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'picture.png', mimeType: 'image/png', buffer });
    const dialog = page.getByRole('dialog', { name: 'Bring in a picture' });
    await dialog.getByLabel('What is on it', { exact: true }).fill(alt);
    await dialog.getByRole('button', { name: 'Use this picture' }).click();
    await expect(dialog).toHaveCount(0);
  };

  await test.step('a logo of the organization, which can be taken back', async () => {
    await page.goto('/team/organization');
    await page.getByRole('button', { name: /^Choose a picture of/u }).click();
    await choose('#2F5D4F', 'Reeds over water');
    await expect(page.getByRole('img', { name: 'Reeds over water' })).toBeVisible();
    await page.getByRole('button', { name: /Undo/u }).click();
    await expect(page.getByRole('img', { name: 'Reeds over water' })).toHaveCount(0);
    await page.getByRole('button', { name: /^Choose a picture of/u }).click();
    await page.getByRole('button', { name: 'Use this picture: Reeds over water' }).click();
    await expect(page.getByRole('img', { name: 'Reeds over water' })).toBeVisible();
    await checkAccess(page);
  });

  await test.step('of a unit, of a kind of event and of a place, in the registers', async () => {
    await page.goto('/team/registers');
    await page.getByText('Small Boats', { exact: true }).click();
    await page.getByRole('button', { name: 'Choose a picture of Small Boats' }).click();
    await choose('#8C3B2A', 'A canoe');
    await expect(page.getByRole('img', { name: 'A canoe' })).toBeVisible();
    await page.getByRole('button', { name: 'Change on the water' }).click();
    const kind = page.getByRole('dialog', { name: 'Change on the water' });
    await kind.getByLabel('Name in French').fill('en canot');
    await kind.getByRole('button', { name: 'Choose a picture of on the water' }).click();
    await choose('#8FB3AE', 'Open water');
    await expect(kind.getByRole('img', { name: 'Open water' })).toBeVisible();
    await kind.getByRole('button', { name: 'Save' }).click();
    await expect(kind).toHaveCount(0);
    await expect(page.getByText('en canot')).toBeVisible();
    await page.getByRole('button', { name: 'Change Sluice Landing' }).click();
    const place = page.getByRole('dialog', { name: 'Change Sluice Landing' });
    await place.getByRole('button', { name: 'Choose a picture of Sluice Landing' }).click();
    await choose('#A98A63', 'The landing');
    await place.getByRole('button', { name: 'Save' }).click();
    await expect(place).toHaveCount(0);
    await checkAccess(page);
  });

  await test.step('a room online beside the place', async () => {
    await page.goto(`/events/${event.id}/plan`);
    await tick(page.getByLabel('People can take part online'));
    await page.getByLabel('Link to join').fill('javascript:alert(1)');
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: /address|https/iu })
        .first(),
    ).toBeVisible();
    await page.getByLabel('Link to join').fill('https://room.example/fen');
    await page.getByLabel('Seats online').fill('5');
    await page
      .getByLabel('Who does not fit into the place')
      .selectOption({ label: 'is offered a seat online' });
    await expect
      .poll(async () => (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan)
      .toMatchObject({ online: { link: 'https://room.example/fen' }, onlineCapacity: 5, whenFull: 'online' });
    await checkAccess(page);
  });

  await test.step('and people see it, on a phone, also in French; the link stays with who has a seat', async () => {
    const phone = await pageOf(browser, site, null, true);
    await phone.goto(`/e/${event.slug}`);
    await expect(phone.locator('header img')).toHaveCount(1);
    await expect(phone.getByRole('img', { name: 'Open water' })).toBeVisible();
    await expect(phone.getByRole('img', { name: 'The landing' })).toBeVisible();
    const sketch = phone.getByRole('img', { name: /what lies around Sluice Landing/u });
    await expect(sketch).toBeVisible();
    await expect(sketch.getByText('Causeway Rd')).toBeVisible();
    await expect(phone.getByText('and online')).toBeVisible();
    await expect(phone.getByText('Small Boats')).toBeVisible();
    expect(await phone.content()).not.toContain('room.example');
    await checkAccess(phone);
    await phone.getByRole('button', { name: 'Français' }).click();
    await expect(phone.getByRole('img', { name: /^Croquis des alentours/u })).toBeVisible();
    await phone.close();
  });
});
