import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import type { WayKind } from '#core/admission/admission.ts';
import { plainCode } from '#core/offers/offer.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signedInAs } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld({ limits: { publicWrites: 5000, signIns: 5000 } });
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

type Admission = EventPlan['admission'];
const way = (kind: WayKind, of: Partial<Admission['ways'][number]> = {}): Admission['ways'][number] => ({
  kind,
  unitIds: [],
  opensLocal: null,
  closesLocal: null,
  ...of,
});
async function save(id: string, change: Partial<EventPlan>) {
  const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
  return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}
/** An open event that some may come to, and the others not. */
async function only(
  title: string,
  ways: Admission['ways'],
  more: Parameters<typeof openEvent>[1] = {},
): Promise<OpenEvent> {
  const event = await openEvent(world, { title, capacity: 20, ...more });
  expect(
    (await save(event.id, { admission: { ways, noReply: false, accepts: false, reply: 'yes or no' } }))
      .status,
  ).toBe(200);
  return event;
}
const contact = async (given: string, email = `${given.toLowerCase()}@osier.example`) =>
  (await odalys.call('POST /api/contacts', { body: { given, family: 'Osier', email } })).id;
const visitor = (given: string) => signedInAs(world.origin, `${given.toLowerCase()}@osier.example`);
const seen = async (event: OpenEvent, by: Caller = world.anyone) =>
  (await by.call('GET /api/public/events/:slug', { params: { slug: event.slug } })).admission;
const register = (event: OpenEvent, by: Caller = world.anyone, more: object = {}, given = 'Ida') =>
  by.try('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given, family: 'Osier' }], more),
  });
const lists = (event: OpenEvent, by = odalys) =>
  by.call('GET /api/events/:id/guest-lists', { params: { id: event.id } });
const newList = async (event: OpenEvent, name: string, of: object = {}) =>
  (await odalys.call('POST /api/events/:id/guest-lists', { params: { id: event.id }, body: { name, ...of } }))
    .id;
const fill = (id: string, table: string, by = odalys) =>
  by.try('POST /api/guest-lists/:id/people', {
    params: { id },
    body: { content: Buffer.from(table).toString('base64') },
  });

describe('who may register', () => {
  test('members, on the day of the event; whoever is not is told who may, and that signing in may help', async () => {
    const event = await only('Members Only', [way('members')]);
    const tie = async (given: string, until: string) => {
      const id = await contact(given);
      await odalys.call('POST /api/contacts/:id/ties', {
        params: { id },
        body: { kind: 'membership', from: '2026-01-01', until },
      });
      return visitor(given);
    };
    const [holds, ended] = [await tie('Amity', '2026-08-08'), await tie('Bram', '2026-08-07')];
    expect(await seen(event)).toEqual({
      may: false,
      noReply: false,
      accepts: false,
      signIn: true,
      guest: 0,
      most: null,
      ways: [{ kind: 'members', why: 'not theirs', units: [], opensLocal: null }],
    });
    expect(await seen(event, ended)).toMatchObject({ may: false, signIn: false });
    expect(await register(event)).toMatchObject({ status: 403, problem: { code: 'not-admitted' } });
    expect((await register(event, ended)).status).toBe(403);
    expect(await seen(event, holds)).toMatchObject({ may: true, ways: [] });
    expect((await register(event, holds)).status).toBe(201);
    // The team registers whoever it likes.
    const desk = await odalys.try('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: 'Cass', family: 'Osier' }]),
    });
    expect(desk.status).toBe(201);
  });

  test('members of a unit, and nobody of another', async () => {
    const { units } = await odalys.call('GET /api/choices');
    const [boats, herons] = units;
    const event = await only('Of A Unit', [way('units', { unitIds: [boats!.id] })]);
    const inUnit = async (given: string, unitId: string) => {
      const id = await contact(given);
      await odalys.call('POST /api/contacts/:id/ties', {
        params: { id },
        body: { kind: 'unit', unitId, role: 'member' },
      });
      return visitor(given);
    };
    expect((await seen(event)).ways).toMatchObject([{ kind: 'units', units: [boats!.name] }]);
    expect((await register(event, await inUnit('Dara', boats!.id))).status).toBe(201);
    expect((await register(event, await inUnit('Edda', herons!.id))).status).toBe(403);
    const refused = await save(event.id, {
      admission: { ways: [way('units')], noReply: false, accepts: false, reply: 'yes or no' },
    });
    expect(refused.problem.fields).toMatchObject([
      { path: expect.stringContaining('ways.0.unitIds'), code: 'unit-needed-here' },
    ]);
    expect(
      (await save(event.id, { admission: { ways: [], noReply: false, accepts: false, reply: 'yes or no' } }))
        .problem.fields,
    ).toMatchObject([{ code: 'way-needed' }]);
  });

  test('earlier for some: members before everybody, to the minute, by the clock where it is', async () => {
    const event = await only('Members First', [
      way('members'),
      way('everyone', { opensLocal: '2026-07-09T10:00' }),
    ]);
    const id = await contact('Fern');
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id },
      body: { kind: 'membership', from: '2026-01-01', until: null },
    });
    expect(await seen(event)).toMatchObject({
      may: false,
      ways: [{ kind: 'members' }, { kind: 'everyone', why: 'not yet', opensLocal: '2026-07-09T10:00' }],
    });
    expect((await register(event)).status).toBe(403);
    expect((await register(event, await visitor('Fern'))).status).toBe(201);
    await world.moveTo('2026-07-09T13:00:00.000Z');
    expect((await register(event)).status).toBe(201);
  });

  test('whoever has a code, and only by one that opens', async () => {
    const event = await only('By Code', [way('code')]);
    const code = (written: string, of: object) => ({
      ...plainCode,
      id: world.app.ids.id(),
      code: written,
      ...of,
    });
    await save(event.id, {
      codes: [code('OPEN-SESAME', { opens: true, most: 1 }), code('CHEAP', { off: { amount: 100 } })],
    });
    expect(await seen(event)).toMatchObject({ may: false, signIn: false });
    const enter = (typed: string) =>
      world.anyone.call('POST /api/public/events/:slug/code', {
        params: { slug: event.slug },
        body: { code: typed },
      });
    expect(await enter('open sesame')).toMatchObject({ admits: true });
    expect(await enter('cheap')).toMatchObject({ admits: false });
    expect((await register(event)).status).toBe(403);
    expect((await register(event, world.anyone, { code: 'CHEAP' })).status).toBe(403);
    expect((await register(event, world.anyone, { code: 'OPEN-SESAME' })).status).toBe(201);
    // Used up it opens nothing any more.
    expect((await register(event, world.anyone, { code: 'OPEN-SESAME' })).status).toBe(403);
  });

  test('who is invited', async () => {
    const event = await only('Invited', [way('invited')]);
    const [gwen, hal] = [await contact('Gwen'), await contact('Hal')];
    await odalys.call('POST /api/events/:id/invited', {
      params: { id: event.id },
      body: { contactIds: [gwen] },
    });
    expect([gwen, hal]).toHaveLength(2);
    expect((await register(event, await visitor('Gwen'))).status).toBe(201);
    expect((await register(event, await visitor('Hal'))).status).toBe(403);
  });

  test('nobody has to: the page says so, nothing is booked, and no ticket is needed to open', async () => {
    const event = await only('Just Come', [way('everyone')]);
    await save(event.id, { admission: { ways: [], noReply: true, accepts: false, reply: 'yes or no' } });
    expect(await seen(event)).toMatchObject({ noReply: true });
    expect((await register(event)).problem.code).toBe('no-reply-needed');
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'No Tickets' } });
    const lacks = async () =>
      (await odalys.call('GET /api/events/:id', { params: { id } })).lacks
        .filter((l) => l.stops)
        .map((l) => l.text);
    const before = await lacks();
    await save(id, { admission: { ways: [], noReply: true, accepts: false, reply: 'yes or no' } });
    expect((await lacks()).length).toBe(before.length - 1);
  });
});

describe('guest lists', () => {
  test('are filled from a table by the one engine: who is known is found, who is named twice is on it once, the rest is said', async () => {
    const event = await only('Listed', [way('list')]);
    const inga = await contact('Inga');
    const id = await newList(event, 'Friends of the band');
    const { body } = await fill(
      id,
      'E-mail;First name;Surname\ninga@osier.example;Inga;Osier\nINGA@osier.example;Inga;Osier\njory@elsewhere.example;Jory;Quell\n;;\nTotal;3;\n',
    );
    expect(body).toMatchObject({ added: 2, already: 1, made: 1 });
    const [list] = await lists(event);
    expect(list!.people.map((p) => [p.name, p.registered])).toEqual([
      ['Inga Osier', false],
      ['Jory Quell', false],
    ]);
    expect(list!.people.map((p) => p.contactId)).toContain(inga);
    // Again, nobody is on it twice.
    expect((await fill(id, 'First,Last,Email\nInga,Osier,inga@osier.example\n')).body).toMatchObject({
      added: 0,
      already: 1,
      made: 0,
    });
    expect(await seen(event)).toMatchObject({ may: false, signIn: true });
    expect((await register(event, await visitor('Inga'), {}, 'Inga')).status).toBe(201);
    expect(
      (await register(event, await signedInAs(world.origin, 'jory@elsewhere.example'), {}, 'Jory')).status,
    ).toBe(201);
    await contact('Kester');
    expect((await register(event, await visitor('Kester'))).status).toBe(403);
    await odalys.call('DELETE /api/guest-lists/:id/people/:person', {
      params: { id, person: list!.people[1]!.id },
    });
    expect((await lists(event))[0]!.people.map((p) => p.name)).toEqual(['Inga Osier']);
  });

  test('a file that is no table is refused at its field, and nobody is put on', async () => {
    const event = await only('No Table', [way('list')]);
    const id = await newList(event, 'Broken');
    const refused = await odalys.try('POST /api/guest-lists/:id/people', {
      params: { id },
      body: { content: Buffer.from([0x7f, 0x45, 0x4c, 0x46, 0, 1, 2, 3, 0, 0]).toString('base64') },
    });
    expect(refused.status).toBe(422);
    expect(refused.problem.fields?.[0]?.path).toBe('content');
    expect((await lists(event))[0]!.people).toEqual([]);
  });

  test('free: one seat of theirs costs nothing, once; who comes along pays', async () => {
    const event = await openEvent(world, { title: 'Free For Some', capacity: 20, price: 1000 });
    const id = await newList(event, 'Speakers', { free: true });
    const lio = await contact('Lio');
    await odalys.call('POST /api/guest-lists/:id/people', { params: { id }, body: { contactIds: [lio] } });
    const by = await visitor('Lio');
    expect(await seen(event, by)).toMatchObject({ may: true, guest: 1 });
    const two = { lines: [{ offerId: event.offers[0]!.id, units: 2 }] };
    expect((await register(event, by, two, 'Lio')).body).toMatchObject({ standing: 'held', total: 1000 });
    expect(await seen(event, by)).toMatchObject({ guest: 0 });
    expect((await register(event, by, {}, 'Lio')).body).toMatchObject({ total: 1000 });
    expect((await register(event)).body).toMatchObject({ total: 1000 });
  });

  test('over capacity: a seat also when it is full, as long as the ticket is left', async () => {
    const event = await openEvent(world, { title: 'Full For Others', capacity: 1, quantity: 2 });
    const id = await newList(event, 'Family', { overCapacity: true });
    const [mo, ned] = [await contact('Mo'), await contact('Ned')];
    await odalys.call('POST /api/guest-lists/:id/people', {
      params: { id },
      body: { contactIds: [mo, ned] },
    });
    expect((await register(event)).body.standing).toBe('confirmed');
    expect((await register(event)).body.standing).toBe('waitlisted');
    expect((await register(event, await visitor('Mo'), {}, 'Mo')).body.standing).toBe('confirmed');
    expect((await register(event, await visitor('Ned'), {}, 'Ned')).body.standing).toBe('waitlisted');
  });

  test('are seen and changed by who may see and change registration there, and by nobody else', async () => {
    const event = await openEvent(world, { title: 'Whose List', capacity: 5, unit: 'Night Herons' });
    const id = await newList(event, 'Private');
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/events/:id/guest-lists', { params: { id: event.id } })).status).toBe(
      403,
    );
    expect((await fill(id, 'First,Last\nA,Bee\n', piers)).status).toBe(403);
    expect(
      (await piers.try('PATCH /api/guest-lists/:id', { params: { id }, body: { name: 'Mine' } })).status,
    ).toBe(403);
    expect((await piers.try('DELETE /api/guest-lists/:id', { params: { id } })).status).toBe(403);
    await odalys.call('PATCH /api/guest-lists/:id', {
      params: { id },
      body: { name: 'Renamed', free: true },
    });
    expect(await lists(event)).toMatchObject([{ name: 'Renamed', free: true, overCapacity: false }]);
    await odalys.call('DELETE /api/guest-lists/:id', { params: { id } });
    expect(await lists(event)).toEqual([]);
    expect((await odalys.try('DELETE /api/guest-lists/:id', { params: { id } })).status).toBe(404);
  });
});
