import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { bookFor, type OpenEvent, openEvent, orderFor, tableOf } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const order = (event: OpenEvent, people: string[]) => bookFor(world, event, people);
const tableAt = (event: OpenEvent) => tableOf(odalys, event);

describe('registering somebody on the telephone', () => {
  test('told before what it comes to; somebody on record pays what they would themselves, and is not made twice', async () => {
    const event = await openEvent(world, { title: 'Telephoned', price: 3000, capacity: 1 });
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await saveIt(odalys, event.id, {
      offers: [
        {
          ...page.plan.offers[0]!,
          prices: [{ kind: 'members', price: 1000, untilLocal: null, fromUnits: null, mostUnits: null }],
        },
      ],
    });
    const other = await openEvent(world, { title: 'Before' });
    await order(other, ['Marta']);
    const [known] = (await tableAt(other)).rows;
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id: known!.contactId! },
      body: { kind: 'membership', from: '2026-01-01', until: '2026-12-31' },
    });
    const params = { id: event.id };
    const body = (contactId: string | null) => ({
      ...orderFor(event, [{ given: 'Marta', family: 'Sedge' }]),
      contactId,
    });
    const told = (contactId: string | null) =>
      odalys.call('POST /api/events/:id/orders/what-if', { params, body: body(contactId) });
    expect(await told(null)).toEqual({ standing: 'confirmed', total: 3000 });
    expect(await told(known!.contactId)).toEqual({ standing: 'confirmed', total: 1000 });
    await odalys.call('POST /api/events/:id/orders', { params, body: body(known!.contactId) });
    const { rows } = await tableAt(event);
    expect(rows.map((r) => r.contactId)).toEqual([known!.contactId]);
    expect(await told(null)).toEqual({ standing: 'waitlisted', total: 3000 });
    const stranger = await odalys.try('POST /api/events/:id/orders', {
      params,
      body: body(crypto.randomUUID()),
    });
    expect(stranger.status).toBe(404);
  });
});

describe('people of a table are registered', () => {
  test('as the contacts they are, each with a booking; told before; the same table twice registers nobody twice', async () => {
    const event = await openEvent(world, { title: 'Brought In', price: 500, capacity: 3 });
    const other = await openEvent(world, { title: 'Known Before' });
    await order(other, ['Sindre']);
    const [known] = (await tableAt(other)).rows;
    const table = [
      'First,Last,Email',
      'Sindre,Sedge,sindre.sedge@harbourpost.example',
      'Liv,Teal,liv.teal@reedbed.example',
      'Liv,Teal,liv.teal@reedbed.example',
      ',,',
      'Aud,Teal,not an address',
      'Gro,Osier,gro.osier@reedbed.example',
    ].join('\n');
    const params = { id: event.id };
    const body = { content: Buffer.from(table).toString('base64'), offerId: event.offers[0]!.id };
    const told = await odalys.call('POST /api/events/:id/registrations/import/what-if', { params, body });
    expect(told).toMatchObject({ already: ['Liv Teal'], made: 3, confirmed: 3, waitlisted: 1, total: 2000 });
    expect((await tableAt(event)).rows).toEqual([]);
    const done = await odalys.call('POST /api/events/:id/registrations/import', { params, body });
    expect(done).toEqual(told);
    const { rows } = await tableAt(event);
    expect(rows.map((r) => [r.given, r.state])).toEqual([
      ['Sindre', 'confirmed'],
      ['Liv', 'confirmed'],
      ['Aud', 'confirmed'],
      ['Gro', 'waitlisted'],
    ]);
    expect(rows[0]!.contactId).toBe(known!.contactId);
    const again = await odalys.call('POST /api/events/:id/registrations/import', { params, body });
    expect(again).toMatchObject({ confirmed: 0, waitlisted: 0, made: 0 });
    const wrong = (of: Partial<typeof body>) =>
      odalys.try('POST /api/events/:id/registrations/import', { params, body: { ...body, ...of } });
    expect(
      (await wrong({ content: Buffer.from([0x50, 0x4b, 3, 4]).toString('base64') })).problem.fields?.[0]
        ?.path,
    ).toBe('content');
    expect((await wrong({ offerId: crypto.randomUUID() })).body).toMatchObject({ confirmed: 0 });
  });
});
