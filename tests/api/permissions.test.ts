import SwaggerParser from '@apidevtools/swagger-parser';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Endpoint, type Role, roles } from '#contract/endpoint.ts';
import { everything } from '#contract/index.ts';
import { describeApi } from '#contract/openapi.ts';
import { type Caller, makeWorld, type World } from './harness.ts';

const people = {
  coordinator: 'odalys',
  approver: 'tobias',
  treasurer: 'marit',
  'crew lead': 'imani',
  'unit lead': 'piers',
  door: 'door',
} as const;
/** Endpoints a walk would disturb the others with. */
const disturbing = new Set(['POST /api/sign-out', 'POST /api/clock', 'GET /api/events/:id/stream']);
const nobodysId = '00000000-0000-7000-8000-000000000000';

describe('who may call what', () => {
  let world: World;
  const callers = new Map<Role | 'anyone', { caller: Caller; roles: Role[] }>();
  beforeAll(async () => {
    world = await makeWorld();
    callers.set('anyone', { caller: world.anyone, roles: [] });
    for (const role of roles) {
      const caller = await world.as(people[role]);
      callers.set(role, { caller, roles: (await caller.call('GET /api/me')).staff.roles });
    }
  });
  afterAll(() => world.close());

  for (const [key, endpoint] of Object.entries(everything) as [keyof typeof everything, Endpoint][]) {
    if (disturbing.has(key)) continue;
    test(`${key}`, async () => {
      for (const [who, { caller, roles: has }] of callers) {
        const { status } = await caller.try(key, {
          params: { id: nobodysId, slug: 'nothing-here', token: 'x'.repeat(27), seat: nobodysId } as never,
          ...(key.startsWith('GET') ? {} : { body: {} as never }),
        });
        const may =
          endpoint.who === 'public' ||
          (has.length > 0 &&
            (endpoint.who === 'staff' ||
              has.includes('coordinator') ||
              has.some((r) => (endpoint.who as readonly Role[]).includes(r))));
        if (may)
          expect([401, 403], `${who} may call it`).not.toContain(
            status === 401 && key === 'POST /api/sign-in' ? 0 : status,
          );
        else expect(status, `${who} may not call it`).toBe(has.length ? 403 : 401);
        expect(status, `${who} gets no server error`).toBeLessThan(500);
      }
    });
  }

  test('a write that comes from another site is refused', async () => {
    const odalys = await world.as('odalys');
    expect(
      (
        await odalys.try(
          'POST /api/contacts',
          { body: { given: 'A', family: 'B' } },
          { origin: 'https://elsewhere.example' },
        )
      ).problem.code,
    ).toBe('other-origin');
    expect(
      (await odalys.try('POST /api/contacts', { body: { given: 'A', family: 'B' } }, { origin: 'null' }))
        .status,
    ).toBe(403);
  });

  test('every page and answer carries the guards a browser needs', async () => {
    const reply = await fetch(`${world.origin}/healthz`);
    expect(reply.headers.get('content-security-policy')).toContain("script-src 'self';");
    expect(reply.headers.get('x-content-type-options')).toBe('nosniff');
    expect(reply.headers.get('x-powered-by')).toBeNull();
    expect(reply.headers.get('x-request-id')).toMatch(/^[\da-f-]{36}$/u);
    const signIn = await fetch(`${world.origin}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'odalys@brackenmere.example', password: 'marsh-wren-2026' }),
    });
    expect(signIn.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Lax/u);
  });

  test('an invitation makes an account once, and its message is planned', async () => {
    const odalys = await world.as('odalys');
    const { link } = await odalys.call('POST /api/staff/invitations', {
      body: { name: 'Greta Wilder', email: 'greta@fenmail.example', roles: ['door'] },
    });
    const token = link.split('/').at(-1)!;
    expect(
      (
        await world.anyone.try('POST /api/invitations/:token', {
          params: { token },
          body: { password: 'short' },
        })
      ).problem.fields?.[0]?.path,
    ).toBe('password');
    const greta = new (odalys.constructor as typeof Caller)(world.origin);
    await greta.call('POST /api/invitations/:token', {
      params: { token },
      body: { password: 'a long enough one' },
    });
    expect((await greta.call('GET /api/me')).staff).toMatchObject({ name: 'Greta Wilder', roles: ['door'] });
    expect(
      (
        await world.anyone.try('POST /api/invitations/:token', {
          params: { token },
          body: { password: 'a long enough one' },
        })
      ).status,
    ).toBe(404);
    await world.runner.run();
    expect(
      await world.app.db.query("select 1 from standin_mail where address = 'greta@fenmail.example'"),
    ).toHaveLength(1);
  });
});

test('too many tries to sign in are slowed down', async () => {
  const world = await makeWorld({ limits: { publicWrites: 5, signIns: 3 } });
  const statuses: number[] = [];
  for (let n = 0; n < 5; n += 1)
    statuses.push(
      (
        await world.anyone.try('POST /api/sign-in', {
          body: { email: 'odalys@brackenmere.example', password: 'wrong' },
        })
      ).status,
    );
  expect(statuses).toEqual([401, 401, 401, 429, 429]);
  await world.close();
});

test('the first visit sets the organization up, once, and its coordinator can begin', async () => {
  const world = await makeWorld({ empty: true });
  const organization = {
    name: 'Night Herons',
    zone: 'America/Halifax',
    currency: 'CAD',
    country: 'CA',
    sender: 'hello@herons.example',
  };
  const coordinator = { name: 'Una Teal', email: 'una@herons.example', password: 'a long enough one' };
  expect(await world.anyone.call('GET /api/setup')).toMatchObject({ needed: true, signIns: [] });
  const wrong = await world.anyone.try('POST /api/setup', {
    body: { organization: { ...organization, zone: 'Mars/Base', currency: 'XXQ' }, coordinator },
  });
  expect(wrong.problem.fields?.map((f) => f.path)).toEqual(['organization.zone', 'organization.currency']);
  await world.anyone.call('POST /api/setup', { body: { organization, coordinator } });
  expect(
    (await world.anyone.try('POST /api/setup', { body: { organization, coordinator } })).problem.code,
  ).toBe('already-set-up');
  await world.anyone.call('POST /api/sign-in', {
    body: { email: 'UNA@herons.example', password: coordinator.password },
  });
  expect(await world.anyone.call('GET /api/me')).toMatchObject({
    staff: { name: 'Una Teal' },
    clock: { movable: false },
  });
  const now = (await world.anyone.call('GET /api/clock')).now;
  expect(
    (
      await world.anyone.try('POST /api/clock', {
        body: { to: new Date(Date.parse(now) + 60_000).toISOString() },
      })
    ).problem.code,
  ).toBe('clock-not-movable');
  await world.anyone.call('POST /api/events', { body: { publicTitle: 'First' } });
  await world.anyone.call('POST /api/venues', { body: { name: 'Hide', address: '1 Heronry Cl' } });
  expect(
    (await world.anyone.try('POST /api/venues', { body: { name: 'hide', address: 'x' } })).problem.fields?.[0]
      ?.path,
  ).toBe('name');
  const waiver = { title: 'At night', audience: 'everyone' as const, clauses: ['I bring a lamp.'] };
  expect((await world.anyone.call('POST /api/waivers', { body: waiver })).version).toBe(1);
  expect((await world.anyone.call('POST /api/waivers', { body: waiver })).version).toBe(2);
  expect(await world.anyone.call('GET /api/choices')).toMatchObject({
    venues: [{ name: 'Hide', capacity: null }],
    waivers: [{ version: 2 }, { version: 1, clauses: 1 }],
  });
  await world.close();
});

test('the OpenAPI description is valid and complete', async () => {
  const api = describeApi(everything, 'http://localhost:4400') as {
    paths: Record<string, Record<string, unknown>>;
  };
  await SwaggerParser.validate(structuredClone(api) as never);
  expect(Object.values(api.paths).flatMap((p) => Object.keys(p))).toHaveLength(
    Object.keys(everything).length,
  );
});
