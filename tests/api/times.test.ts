import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const page = (id: string, who = odalys) => who.call('GET /api/events/:id', { params: { id } });
async function save(id: string, change: Partial<EventPlan>) {
  const { version } = await page(id);
  return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}
const shown = (slug: string) => world.anyone.call('GET /api/public/events/:slug', { params: { slug } });
const calendar = async (slug: string) =>
  new ICAL.Component(
    ICAL.parse(
      String(
        (await world.anyone.try('GET /api/public/events/:slug/calendar.ics', { params: { slug } })).body,
      ),
    ),
  ).getFirstSubcomponent('vevent')!;

describe('whole days, and an end that is not shown', () => {
  test('an event of whole days is told as dates, and is days in a calendar', async () => {
    const { id, slug } = await openEvent(world, { title: 'Bioblitz' });
    const days = { startsLocal: '2026-08-08T00:00', endsLocal: '2026-08-09T23:59', doorsLocal: null };
    expect((await save(id, { allDay: true, ...days })).status).toBe(200);
    expect(await shown(slug)).toMatchObject({ startsLocal: '2026-08-08', endsLocal: '2026-08-09' });
    const listed = (await world.anyone.call('GET /api/public/events')).events.find((e) => e.slug === slug)!;
    expect(listed).toMatchObject({ startsLocal: '2026-08-08', endsLocal: '2026-08-09' });
    const entry = await calendar(slug);
    expect(entry.getFirstPropertyValue('dtstart')?.toString()).toBe('2026-08-08');
    expect(entry.getFirstPropertyValue('dtend')?.toString()).toBe('2026-08-10');
    // It is over after its last minute, not before.
    expect((await page(id)).endsAt).toBe('2026-08-10T02:59:00.000Z');
  });

  test('an end that is not shown is in no answer of the public, and counts for the team', async () => {
    const { id, slug } = await openEvent(world, { title: 'Open house' });
    await save(id, { showEnd: false });
    expect(JSON.stringify(await shown(slug))).not.toContain('16:30');
    expect(await shown(slug)).toMatchObject({ endsLocal: null, endsAt: null });
    expect((await calendar(slug)).getFirstPropertyValue('dtend')).toBeNull();
    expect((await page(id)).plan.endsLocal).toBe('2026-08-08T16:30');
    // It comes along to a copy.
    const copy = await odalys.call('POST /api/events', { body: { publicTitle: 'Again', from: id } });
    expect((await page(copy.id)).plan.showEnd).toBe(false);
  });
});

describe('the night the clocks go back', () => {
  test('a time that comes twice is the first, until the second is chosen; a choice its time no longer leaves is let go', async () => {
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Owl night' } });
    await save(id, { startsLocal: '2026-11-01T01:30' });
    expect((await page(id)).startsAt).toBe('2026-11-01T04:30:00.000Z');
    await save(id, { secondTime: ['startsLocal'] });
    expect((await page(id)).startsAt).toBe('2026-11-01T05:30:00.000Z');
    await save(id, { startsLocal: '2026-11-02T01:30' });
    expect((await page(id)).plan.secondTime).toEqual([]);
  });

  test('an end before the start across it is refused beside the end', async () => {
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Owls again' } });
    const refused = await save(id, {
      startsLocal: '2026-11-01T01:30',
      endsLocal: '2026-11-01T01:45',
      secondTime: ['startsLocal'],
    });
    expect(refused.problem.fields).toMatchObject([{ path: 'endsLocal', code: 'end-before-start' }]);
    expect(
      (
        await save(id, {
          startsLocal: '2026-11-01T01:45',
          endsLocal: '2026-11-01T01:50',
          secondTime: ['endsLocal'],
        })
      ).status,
    ).toBe(200);
    expect((await page(id)).endsAt).toBe('2026-11-01T05:50:00.000Z');
  });
});

describe('the clock times are said by', () => {
  test('the organization’s for everybody, and one’s own for oneself', async () => {
    const { id, slug } = await openEvent(world, { title: 'Clockwork' });
    const hall = (await odalys.call('GET /api/choices')).venues.find((v) => v.name === 'Town Hall')!;
    await save(id, { venueId: hall.id });
    const other = await odalys.call('POST /api/events', { body: { publicTitle: 'In the way' } });
    const refusal = async (who: Caller) => {
      const { version } = await page(other.id, who);
      const answer = await who.try('PATCH /api/events/:id', {
        params: { id: other.id },
        body: { version, change: { venueId: hall.id, startsLocal: '2026-08-08T10:00' } },
      });
      return answer.problem.title;
    };
    expect(await refusal(odalys)).toContain('09:00–16:30');
    await odalys.call('PUT /api/account/clock', { body: { clock: 12 } });
    expect(await refusal(odalys)).toContain('9:00 am–4:30 pm');
    expect((await odalys.call('GET /api/me')).staff.clock).toBe(12);
    await odalys.call('PUT /api/account/clock', { body: { clock: null } });
    expect(await refusal(odalys)).toContain('09:00–16:30');
    // A co-organizer reads by the clock of the organization.
    const frame = () => world.anyone.call('GET /api/public/frame');
    expect((await frame()).organization.clock).toBe(24);
    await odalys.call('PUT /api/organization/clock', { body: { clock: 12 } });
    expect((await frame()).organization.clock).toBe(12);
    expect(await refusal(odalys)).toContain('9:00 am–4:30 pm');
    await odalys.call('PUT /api/account/clock', { body: { clock: 24 } });
    expect(await refusal(odalys)).toContain('09:00–16:30');
    expect(
      (await (await world.as('marit')).try('PUT /api/organization/clock', { body: { clock: 24 } })).status,
    ).toBe(403);
    expect(slug).toBeTruthy();
  });

  test('messages say times by the clock of the organization', async () => {
    const { id } = await openEvent(world, {
      title: 'Dusk walk',
      startsLocal: '2026-08-20T19:00',
      endsLocal: '2026-08-20T21:00',
    });
    const { orderId } = await odalys.call('POST /api/events/:id/orders', {
      params: { id },
      body: {
        buyer: { given: 'Ida', family: 'Dusk', email: 'ida.dusk@harbourpost.example' },
        lines: [{ offerId: (await page(id)).plan.offers[0]!.id, units: 1 }],
        attendees: [{ given: 'Ida', family: 'Dusk' }],
      },
    });
    expect(orderId).toBeTruthy();
    await world.runner.run();
    const { rows } = await odalys.call('GET /api/tray', { query: { state: 'sent', eventId: id } } as never);
    const message = await odalys.call('GET /api/messages/:id', { params: { id: rows[0]!.id } });
    expect(message.body).toContain('7:00 pm–9:00 pm');
  });
});

test('today is the day where the organization is, also late in the evening', async () => {
  const event = await openEvent(world, { title: 'Late booking', so: ['boats'], waiver: 'On the water' });
  // 22:30 on the day before in Halifax.
  await world.moveTo('2026-07-11T01:30:00.000Z');
  const born = (birthDate: string) =>
    world.anyone.try('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Newly', family: 'Born', birthDate }]),
    });
  expect((await born('2026-07-11')).problem.fields).toMatchObject([{ path: 'attendees.0.birthDate' }]);
  expect((await born('2026-07-10')).status).toBe(201);
  expect((await world.anyone.call('GET /api/public/frame')).today).toBe('2026-07-10');
});
