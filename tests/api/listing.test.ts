import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  await openEvent(world, {
    title: 'Full of people',
    capacity: 1,
    startsLocal: '2026-08-01T09:00',
    endsLocal: '2026-08-01T10:00',
  });
  await openEvent(world, {
    title: 'With a price',
    price: 2500,
    startsLocal: '2026-09-01T09:00',
    endsLocal: '2026-09-01T10:00',
  });
});
afterAll(() => world.close());

const list = (query: object = {}) => world.anyone.try('GET /api/public/events', { query } as never);
const titles = async (query: object = {}) =>
  (await list(query)).body.events.map((e: { title: string }) => e.title);
const entries = async (query = '') => {
  const text = await (await fetch(`${world.origin}/api/public/calendar.ics${query}`)).text();
  const calendar = new ICAL.Component(ICAL.parse(text));
  return calendar.getAllSubcomponents('vevent').map((v) => {
    const event = new ICAL.Event(v);
    return { event, status: v.getFirstPropertyValue('status'), sequence: event.sequence };
  });
};

describe('the public’s calendar', () => {
  test('is narrowed, sorted and read in pages', async () => {
    expect(await titles()).toEqual(['Full of people', 'With a price']);
    expect(await titles({ price: 'paid' })).toEqual(['With a price']);
    expect(await titles({ sort: 'title', q: 'people' })).toEqual(['Full of people']);
    expect(await titles({ from: '2026-09-01', to: '2026-09-30' })).toEqual(['With a price']);
    const { body } = await list({ limit: 1 });
    expect(body).toMatchObject({ total: 2, more: true, places: ['Sluice Landing'] });
    expect(await titles({ limit: 1, offset: 1 })).toEqual(['With a price']);
    const full = (await list({})).body.events[0]!;
    const event = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: full.slug } });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: full.slug },
      body: orderFor({ id: '', slug: full.slug, questions: [], offers: event.offers }, [
        { given: 'Una', family: 'Only' },
      ]),
    });
    expect(await titles({ open: '1' })).toEqual(['With a price']);
  });

  test('what cannot be read of a filter is said, with where; what is not known of it is let be', async () => {
    expect((await list({ price: 'cheap' })).problem.fields).toMatchObject([{ path: 'price' }]);
    expect((await list({ from: '2026-02-31' })).problem.fields).toMatchObject([{ path: 'from' }]);
    expect(await titles({ unit: 'Nobody' })).toEqual([]);
    expect((await fetch(`${world.origin}/api/public/calendar.ics?price=cheap`)).status).toBe(422);
    expect(await entries('?colour=green&with=nothing%20like%20it')).toEqual([]);
  });
});

describe('the feed', () => {
  test('a calendar library reads it at the wall times of the place; called off it is crossed out, and newer', async () => {
    const before = await entries();
    expect(before.map((e) => [e.event.summary, `${e.event.startDate}`, e.event.startDate.zone.tzid])).toEqual(
      [
        ['Full of people', '2026-08-01T09:00:00', 'America/Halifax'],
        ['With a price', '2026-09-01T09:00:00', 'America/Halifax'],
      ],
    );
    expect(await entries('?price=paid')).toHaveLength(1);
    const priced = (await odalys.call('GET /api/events')).find((e) => e.title === 'With a price')!;
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: priced.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: priced.id },
      body: { version, change: { startsLocal: '2026-09-02T09:00', endsLocal: '2026-09-02T10:00' } },
    });
    const moved = (await entries('?price=paid'))[0]!;
    expect(`${moved.event.startDate}`).toBe('2026-09-02T09:00:00');
    expect(moved.event.uid).toBe(before[1]!.event.uid);
    expect(moved.sequence).toBeGreaterThan(before[1]!.sequence);
    await odalys.call('POST /api/events/:id/state', {
      params: { id: priced.id },
      body: { move: 'call off', words: 'The sluice is broken.' },
    });
    const off = (await entries('?price=paid'))[0]!;
    expect([off.status, off.event.uid]).toEqual(['CANCELLED', moved.event.uid]);
    expect(off.sequence).toBeGreaterThan(moved.sequence);
    // In the list it is not any more.
    expect(await titles()).not.toContain('With a price');
  });

  test('drafts and what is not listed are in neither', async () => {
    await odalys.call('POST /api/events', { body: { publicTitle: 'A draft' } });
    const hidden = await openEvent(world, { title: 'By link only' });
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: hidden.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: hidden.id },
      body: { version, change: { visibility: 'link' } },
    });
    const all = JSON.stringify([
      await titles({ hide: 'none' }),
      (await entries()).map((e) => e.event.summary),
    ]);
    expect(all).not.toContain('A draft');
    expect(all).not.toContain('By link only');
  });
});
