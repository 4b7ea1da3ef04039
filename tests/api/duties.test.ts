import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
let event: OpenEvent;
let other: OpenEvent;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  event = await openEvent(world, { title: 'Lantern Walk', unit: 'Small Boats' });
  other = await openEvent(world, { title: 'Another Walk', unit: 'Night Herons' });
  await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Ida', family: 'Walking' }]),
  });
});
afterAll(() => world.close());

const team = (who = odalys, id = event.id) => who.call('GET /api/events/:id/team', { params: { id } });
const add = (
  body: { name: string; email: string; part: 'lead' | 'co-organizer' | 'helper'; stage?: string },
  who = odalys,
  id = event.id,
) => who.try('POST /api/events/:id/team', { params: { id }, body: body as never });
const remove = async (email: string, stage: string, who = odalys) => {
  const { members } = await team();
  const member = members.find((m) => m.email === email && m.stage === stage)!;
  return who.try('DELETE /api/events/:id/team/:member', { params: { id: event.id, member: member.id } });
};
/** Somebody who was invited by a link chooses a password and is signed in. */
async function accept(link: string): Promise<Caller> {
  const caller = new Caller(world.origin);
  await caller.call('POST /api/invitations/:token', {
    params: { token: link.split('/').at(-1)! },
    body: { password: 'a lantern in the reeds 9' },
  });
  return caller;
}
const look = (who: Caller, id = event.id) => who.try('GET /api/events/:id', { params: { id } });

describe('a helper', () => {
  let helper: Caller;
  test('is invited to an account that is good for one stage of one event', async () => {
    const { body } = await add({
      name: 'Jo Lamp',
      email: 'jo.lamp@harbourpost.example',
      part: 'helper',
      stage: 'registration',
    });
    expect((await team()).members).toMatchObject([{ name: 'Jo Lamp', invited: true, stage: 'registration' }]);
    helper = await accept(body.link!);
    expect((await team()).members).toMatchObject([{ name: 'Jo Lamp', invited: false }]);
    expect((await look(helper)).body.may).toEqual({
      see: ['registration'],
      change: ['registration'],
      facts: ['answers'],
    });
    const rows = await helper.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    expect(rows.rows.map((r) => r.given)).toEqual(['Ida']);
  });

  test('reaches nothing else: neither stages, nor events, nor people', async () => {
    expect((await look(helper, other.id)).status).toBe(403);
    const refused = async (key: string, params: object = {}, body?: object) =>
      (await helper.try(key as never, { params, ...(body && { body }) } as never)).status;
    expect(await refused('GET /api/events/:id/crew', { id: event.id })).toBe(403);
    expect(await refused('GET /api/events/:id/team', { id: event.id })).toBe(403);
    expect(await refused('GET /api/events/:id/registrations', { id: other.id })).toBe(403);
    expect(
      await refused('PATCH /api/events/:id', { id: event.id }, { version: 1, change: { summary: 'x' } }),
    ).toBe(403);
    expect(await refused('POST /api/events/:id/state', { id: event.id }, { move: 'close' })).toBe(403);
    expect(await refused('GET /api/contacts')).toBe(403);
    expect(await refused('GET /api/ledger')).toBe(403);
    expect(await refused('POST /api/events', {}, { publicTitle: 'Mine' })).toBe(403);
    expect(
      await refused(
        'POST /api/events/:id/team',
        { id: event.id },
        { name: 'Friend', email: 'f@x.example', part: 'lead' },
      ),
    ).toBe(403);
    // Of the season only what they work on; of the search, nobody.
    expect((await helper.call('GET /api/events')).map((e) => e.title)).toEqual(['Lantern Walk']);
    expect((await helper.call('GET /api/search', { query: { q: 'Ida' } })).contacts).toEqual([]);
  });

  test('whose stage is taken away while the page is open can do no more, and is told', async () => {
    await add({ name: 'Jo Lamp', email: 'JO.lamp@harbourpost.example', part: 'helper', stage: 'crew' });
    expect((await look(helper)).body.may.see).toEqual(['registration', 'crew']);
    await remove('jo.lamp@harbourpost.example', 'registration');
    expect((await look(helper)).body.may.see).toEqual(['crew']);
    const order = await helper.try('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Late', family: 'Comer' }]),
    });
    expect(order.status).toBe(403);
    await remove('jo.lamp@harbourpost.example', 'crew');
    // Nothing is left to do: the account opens no door any more.
    expect((await look(helper)).status).toBe(401);
    const again = await new Caller(world.origin).try('POST /api/sign-in', {
      body: { email: 'jo.lamp@harbourpost.example', password: 'a lantern in the reeds 9' },
    });
    expect(again.problem.code).toBe('part-over');
  });

  test('an invitation for one event that is taken back leads nowhere; a second one is the same', async () => {
    const { body } = await add({
      name: 'Al Wick',
      email: 'al@harbourpost.example',
      part: 'helper',
      stage: 'doors',
    });
    expect(
      (await add({ name: 'Al Wick', email: 'al@harbourpost.example', part: 'helper', stage: 'doors' }))
        .problem.code,
    ).toBe('on-the-team');
    expect(
      (await add({ name: 'Al Wick', email: 'al@harbourpost.example', part: 'helper', stage: 'crew' })).body
        .link,
    ).toBeNull();
    await remove('al@harbourpost.example', 'doors');
    await remove('al@harbourpost.example', 'crew');
    const token = body.link!.split('/').at(-1)!;
    expect((await world.anyone.try('GET /api/invitations/:token', { params: { token } })).status).toBe(404);
  });
});

describe('who organizes an event', () => {
  test('a co-organizer does what a unit lead does there, and decides who else works on it', async () => {
    const { body } = await add({ name: 'Sol Tarn', email: 'sol@harbourpost.example', part: 'co-organizer' });
    const sol = await accept(body.link!);
    const { version, may } = (await look(sol)).body;
    expect(may.change).toHaveLength(7);
    const saved = await sol.try('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { subtitle: 'With lanterns' } },
    });
    expect(saved.status).toBe(200);
    expect(
      (await add({ name: 'Al Wick', email: 'al2@harbourpost.example', part: 'helper', stage: 'doors' }, sol))
        .status,
    ).toBe(201);
    expect(
      (
        await add(
          { name: 'X Y', email: 'x@harbourpost.example', part: 'helper', stage: 'doors' },
          sol,
          other.id,
        )
      ).status,
    ).toBe(403);
    // Where it belongs is not theirs to change.
    const moved = await sol.try('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version: saved.body.version, change: { unitId: null } },
    });
    expect(moved.problem.code).toBe('other-unit');
    expect((await sol.try('GET /api/contacts')).status).toBe(403);
  });

  test('there is one lead: who led before becomes a co-organizer; somebody of the staff begins at once', async () => {
    const tobias = { name: 'Tobias Wren-Achebe', email: 'tobias@brackenmere.example' };
    expect((await add({ ...tobias, part: 'lead' })).body.link).toBeNull();
    expect((await look(await world.as('tobias'))).body.may.change).toHaveLength(7);
    await add({ name: 'Sol Tarn', email: 'sol@harbourpost.example', part: 'lead' });
    const of = (await team()).members.map((m) => [m.name, m.part]);
    expect(of).toContainEqual(['Sol Tarn', 'lead']);
    expect(of).toContainEqual(['Tobias Wren-Achebe', 'co-organizer']);
    expect(of.filter(([name]) => name === 'Sol Tarn')).toHaveLength(1);
  });

  test('the team comes along to a copy, helpers of the one event do not, and that is listed', async () => {
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Lantern Walk again', from: event.id, date: '2027-08-07' },
    });
    expect((await team(odalys, id)).members.map((m) => [m.name, m.part])).toEqual([
      ['Sol Tarn', 'lead'],
      ['Tobias Wren-Achebe', 'co-organizer'],
    ]);
    expect((await look(odalys, id)).body.copiedFrom!.leftBehind.map((l) => l.text).join(' ')).toContain(
      'helper',
    );
    const unbegun = await add({ name: 'No One', email: 'nowhere', part: 'lead' });
    expect(unbegun.problem.fields).toMatchObject([{ path: 'email', code: 'not-an-email' }]);
    expect(
      (await add({ name: 'No One', email: 'no@one.example', part: 'helper' })).problem.fields,
    ).toMatchObject([{ path: 'stage', code: 'stage-of-helper' }]);
  });

  test('it ends with the event', async () => {
    const sol = new Caller(world.origin);
    const signIn = () =>
      sol.try('POST /api/sign-in', {
        body: { email: 'sol@harbourpost.example', password: 'a lantern in the reeds 9' },
      });
    expect((await signIn()).status).toBe(200);
    // The copy is still to come: only that is theirs then.
    await world.moveTo('2026-09-08T12:00:00Z');
    expect((await look(sol)).status).toBe(403);
    await odalys.call('DELETE /api/events/:id', {
      params: { id: (await sol.call('GET /api/events'))[0]!.id },
    });
    expect((await look(sol)).status).toBe(401);
    expect((await signIn()).problem.code).toBe('part-over');
  });
});

test('the lead of a partner unit sees the plan and the wrap-up, and no people', async () => {
  const { units } = await odalys.call('GET /api/choices');
  const boats = units.find((u) => u.name === 'Small Boats')!.id;
  const piers = await world.as('piers');
  expect((await look(piers, other.id)).status).toBe(403);
  const { version } = (await look(odalys, other.id)).body;
  await odalys.call('PATCH /api/events/:id', {
    params: { id: other.id },
    body: { version, change: { partnerIds: [boats] } },
  });
  expect((await look(piers, other.id)).body.may).toMatchObject({
    see: ['plan', 'wrap-up'],
    change: [],
    facts: [],
  });
  expect((await piers.try('GET /api/events/:id/registrations', { params: { id: other.id } })).status).toBe(
    403,
  );
});
