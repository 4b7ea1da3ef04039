import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainOffer } from '#core/offers/offer.ts';
import { Caller, makeWorld, type World } from './harness.ts';

const coordinator = { name: 'Wren Achebe', email: 'wren@newfen.example', password: 'a-long-password' };
const organization = {
  name: 'New Fen Society',
  zone: 'America/Halifax',
  currency: 'CAD',
  country: 'CA',
  sender: 'hello@newfen.example',
};

describe('setting up an organization', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld({ empty: true });
  });
  afterAll(() => world.close());

  test('is asked for once, refuses what is none, and makes the first coordinator', async () => {
    const { anyone } = world;
    expect(await anyone.call('GET /api/setup')).toMatchObject({
      needed: true,
      organizationName: null,
      signIns: [],
    });
    const wrong = await anyone.try('POST /api/setup', {
      body: { organization: { ...organization, zone: 'Atlantis/Main', currency: 'XQX' }, coordinator },
    });
    expect(wrong.status).toBe(422);
    expect(wrong.problem.fields!.map((f) => f.path)).toEqual(['organization.zone', 'organization.currency']);
    // All that is wrong is said at once.
    const more = await anyone.try('POST /api/setup', {
      body: {
        organization: { ...organization, country: 'ZZ' },
        coordinator: { ...coordinator, password: 'short' },
      },
    });
    expect(more.problem.fields).toMatchObject([
      { path: 'organization.country' },
      { path: 'coordinator.password', message: 'At least 10 characters.' },
    ]);
    const untyped = await anyone.try('POST /api/setup', {
      body: { organization: { ...organization, sender: '' }, coordinator },
    });
    expect(untyped.problem.fields).toMatchObject([{ message: 'Give an email address.' }]);
    // Nothing half-done is left behind.
    expect((await anyone.call('GET /api/setup')).needed).toBe(true);
    await anyone.call('POST /api/setup', { body: { organization, coordinator } });
    expect(await anyone.call('GET /api/setup')).toMatchObject({
      needed: false,
      organizationName: 'New Fen Society',
    });
    const twice = await anyone.try('POST /api/setup', { body: { organization, coordinator } });
    expect(twice.problem).toMatchObject({ status: 409, code: 'already-set-up' });
  });

  test('what was said can be put right; the currency only until something has a price', async () => {
    const caller = new Caller(world.origin);
    await caller.call('POST /api/sign-in', { body: coordinator });
    const before = await caller.call('GET /api/organization');
    expect(before).toEqual({
      ...organization,
      currencyUsed: false,
      quietHours: { from: '21:00', until: '08:00' },
      attendanceDays: 30,
    });
    const days = (attendanceDays: number) =>
      caller.try('PUT /api/organization/attendance-days', { body: { attendanceDays } });
    expect((await days(0)).problem.fields).toMatchObject([{ path: 'attendanceDays' }]);
    await days(14);
    expect(await caller.call('GET /api/organization')).toMatchObject({ attendanceDays: 14 });
    const other = {
      ...organization,
      name: 'Old Fen Society',
      zone: 'Europe/Dublin',
      currency: 'EUR',
      country: 'IE',
    };
    await caller.call('PUT /api/organization', { body: other });
    expect(await caller.call('GET /api/organization')).toMatchObject(other);
    expect((await caller.call('GET /api/me')).organization).toMatchObject({ currency: 'EUR', country: 'IE' });
    const wrong = await caller.try('PUT /api/organization', {
      body: { ...other, zone: 'Nowhere', country: 'QQ' },
    });
    expect(wrong.problem.fields!.map((f) => f.path)).toEqual(['zone', 'country']);

    const { id } = await caller.call('POST /api/events', { body: { publicTitle: 'A walk' } });
    const { plan, version } = await caller.call('GET /api/events/:id', { params: { id } });
    await caller.call('PATCH /api/events/:id', {
      params: { id },
      body: {
        version,
        change: {
          offers: [...plan.offers, { ...plainOffer, id: crypto.randomUUID(), name: 'Seat', price: 500 }],
        },
      },
    });
    const late = await caller.try('PUT /api/organization', { body: { ...other, currency: 'CAD' } });
    expect(late.problem.fields).toMatchObject([{ path: 'currency' }]);
    await caller.call('PUT /api/organization', {
      body: organization && { ...organization, currency: 'EUR' },
    });
    expect(await caller.call('GET /api/organization')).toMatchObject({
      name: 'New Fen Society',
      currencyUsed: true,
    });
    const trail = await caller.call('GET /api/trail', { query: {} });
    expect(JSON.stringify(trail)).toContain('Old Fen Society');
  });

  test('a unit, a fund and an initiative get another name, which nobody else has', async () => {
    const caller = new Caller(world.origin);
    await caller.call('POST /api/sign-in', { body: coordinator });
    for (const of of ['units', 'funds', 'initiatives'] as const) {
      const { id } = await caller.call(`POST /api/${of}`, { body: { name: `First of ${of}` } });
      await caller.call(`POST /api/${of}`, { body: { name: `Second of ${of}` } });
      const params = { id };
      const taken = await caller.try(`PATCH /api/${of}/:id`, { params, body: { name: `second OF ${of}` } });
      expect(taken.problem.fields).toMatchObject([{ path: 'name' }]);
      // Another case of its own name is no other's.
      await caller.call(`PATCH /api/${of}/:id`, { params, body: { name: `FIRST of ${of}` } });
      const gone = { id: '00000000-0000-7000-8000-000000000000' };
      expect((await caller.try(`PATCH /api/${of}/:id`, { params: gone, body: { name: 'x' } })).status).toBe(
        404,
      );
    }
    const { units, funds } = await caller.call('GET /api/choices');
    expect(units.map((u) => u.name)).toEqual(['FIRST of units', 'Second of units']);
    expect(funds.map((f) => f.name)).toContain('FIRST of funds');
  });

  test('the clock of an organization at work is nobody’s to move', async () => {
    const caller = new Caller(world.origin);
    await caller.call('POST /api/sign-in', { body: { ...coordinator, email: 'WREN@newfen.example' } });
    const { now } = await caller.call('GET /api/clock');
    const to = new Date(Date.parse(now) + 60_000).toISOString();
    expect((await caller.try('POST /api/clock', { body: { to } })).problem.code).toBe('clock-not-movable');
    expect((await caller.call('GET /api/me')).clock.movable).toBe(false);
  });

  test('the first coordinator signs in, is a contact too, and out again', async () => {
    const caller = new Caller(world.origin);
    const wrong = await caller.try('POST /api/sign-in', {
      body: { email: coordinator.email, password: 'not-the-password' },
    });
    expect(wrong.problem).toMatchObject({ status: 401, code: 'wrong-sign-in' });
    await caller.call('POST /api/sign-in', {
      body: { email: 'WREN@newfen.example', password: coordinator.password },
    });
    const me = await caller.call('GET /api/me');
    expect(me.staff).toMatchObject({ name: 'Wren Achebe', roles: ['coordinator'] });
    expect(me.organization).toMatchObject({ name: 'New Fen Society', zone: 'America/Halifax' });
    const { contacts } = await caller.call('GET /api/contacts', { query: {} as never });
    expect(contacts.map((c) => [c.given, c.family])).toEqual([['Wren', 'Achebe']]);
    await caller.call('POST /api/sign-out');
    expect((await caller.try('GET /api/me')).status).toBe(401);
  });
});

describe('inviting somebody to the team', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const body = { name: 'Nell Quay', email: 'nell@fenmail.example', roles: ['crew lead'] as 'crew lead'[] };
  const tokenOf = (link: string) => link.split('/invitation/')[1]!;
  const invite = async (more: object = {}) =>
    (await world.as('odalys')).try('POST /api/staff/invitations', { body: { ...body, ...more } });

  test('a link is handed over and sent, says what it is, and works once', async () => {
    const { link } = (await invite()).body;
    const params = { token: tokenOf(link) };
    expect(await world.anyone.call('GET /api/invitations/:token', { params })).toEqual({
      name: 'Nell Quay',
      email: 'nell@fenmail.example',
      organization: 'Brackenmere Wetland Trust',
      roles: ['crew lead'],
    });
    await world.runner.run();
    const mail = await world.app.db.query<{ body: string }>(
      "select body from standin_mail where address = 'nell@fenmail.example'",
    );
    expect(mail.map((m) => m.body.includes(link))).toEqual([true]);
    const { invitations } = await (await world.as('odalys')).call('GET /api/staff');
    expect(invitations.map((i) => i.name)).toEqual(['Nell Quay']);

    const nell = new Caller(world.origin);
    const short = await nell.try('POST /api/invitations/:token', { params, body: { password: 'short' } });
    expect(short.status).toBe(422);
    await nell.call('POST /api/invitations/:token', { params, body: { password: 'reed-and-rush-26' } });
    // Choosing the password signs in; the role decides what is seen.
    expect((await nell.call('GET /api/me')).staff).toMatchObject({ name: 'Nell Quay', roles: ['crew lead'] });
    expect((await nell.try('GET /api/staff')).status).toBe(403);
    expect((await world.anyone.try('GET /api/invitations/:token', { params })).status).toBe(404);
    const again = await new Caller(world.origin).try('POST /api/invitations/:token', {
      params,
      body: { password: 'somebody-else-26' },
    });
    expect(again.status).toBe(404);
    const { staff, invitations: left } = await (await world.as('odalys')).call('GET /api/staff');
    expect(staff.find((s) => s.email === body.email)).toMatchObject({ resting: false });
    expect(left).toEqual([]);
  });

  test('whoever is on the team already, or has no role, is not invited', async () => {
    const twice = await invite({ email: 'Odalys@brackenmere.example' });
    expect(twice.problem.fields).toMatchObject([
      { path: 'email', message: 'Somebody with this email is on the staff already.' },
    ]);
    expect((await invite({ email: 'x@fenmail.example', roles: [] })).problem.fields![0]).toMatchObject({
      path: 'roles',
      message: 'Choose at least one role.',
    });
  });

  test('an invitation lapses after two weeks', async () => {
    const { link } = (await invite({ email: 'late@fenmail.example', name: 'Late Comer' })).body;
    const params = { token: tokenOf(link) };
    await world.moveTo('2026-07-22T12:00:00.000Z');
    expect((await world.anyone.try('GET /api/invitations/:token', { params })).status).toBe(200);
    await world.moveTo('2026-07-24T12:00:00.000Z');
    expect((await world.anyone.try('GET /api/invitations/:token', { params })).status).toBe(404);
    expect(
      (await world.anyone.try('GET /api/invitations/:token', { params: { token: 'made-up' } })).status,
    ).toBe(404);
  });
});

describe('the registers', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());

  test('units, places and funds are added once each and can be chosen at once', async () => {
    const odalys = await world.as('odalys');
    const { id: unit } = await odalys.call('POST /api/units', { body: { name: 'Moth Trappers' } });
    const { id: venue } = await odalys.call('POST /api/venues', {
      body: { name: 'Old Pump House', address: '1 Sluice Road', capacity: 40 },
    });
    const { id: fund } = await odalys.call('POST /api/funds', { body: { name: 'Dragonfly Pond' } });
    const choices = await odalys.call('GET /api/choices');
    expect(choices.units.find((u) => u.id === unit)).toMatchObject({ name: 'Moth Trappers' });
    expect(choices.venues.find((v) => v.id === venue)).toMatchObject({ name: 'Old Pump House' });
    expect(choices.funds.find((f) => f.id === fund)).toMatchObject({ name: 'Dragonfly Pond' });
    for (const twice of [
      await odalys.try('POST /api/units', { body: { name: 'Moth Trappers' } }),
      await odalys.try('POST /api/funds', { body: { name: 'Dragonfly Pond' } }),
    ]) {
      expect(twice.status).toBeGreaterThanOrEqual(400);
      expect(twice.status).toBeLessThan(500);
    }
    const nowhere = await odalys.try('POST /api/venues', { body: { name: 'Nowhere', address: ' ' } });
    expect(nowhere.problem.fields).toMatchObject([{ path: 'address', message: 'Give the address.' }]);
    const none = await odalys.try('POST /api/venues', {
      body: { name: 'Tiny', address: '2 Sluice Road', capacity: 0 },
    });
    expect(none.problem.fields![0]!.path).toBe('capacity');
  });

  test('only those may who should', async () => {
    const piers = await world.as('piers');
    expect((await piers.try('POST /api/units', { body: { name: 'Rebels' } })).status).toBe(403);
    expect((await world.anyone.try('POST /api/funds', { body: { name: 'Mine' } })).status).toBe(401);
  });
});
