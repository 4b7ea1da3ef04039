import { afterAll, beforeAll, expect, test } from 'vitest';
import { plainOffer } from '#core/offers/offer.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { type OpenEvent, openEvent, orderFor, pay } from './scenes.ts';

let world: World;
let odalys: Caller;
let marit: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  marit = await world.as('marit');
});
afterAll(() => world.close());

const tableOf = (event: OpenEvent) => ({
  ...plainOffer,
  id: event.offers[0]!.id,
  name: 'Table of eight',
  price: 90_000,
  seatsPerUnit: 8,
  pricing: 'later' as const,
});
/** A supper whose tables are paid later, until two weeks before; `title` tells its mail from others. */
async function supper(title: string): Promise<OpenEvent> {
  const event = await openEvent(world, {
    title,
    startsLocal: '2026-10-17T18:30',
    endsLocal: '2026-10-17T22:30',
    capacity: 80,
  });
  await saveIt(odalys, event.id, {
    balanceDays: 14,
    offers: [tableOf(event)],
  });
  return event;
}
const book = (event: OpenEvent, given: string) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(event, [{ given, family: 'Tabler' }]),
      lines: [{ offerId: event.offers[0]!.id, units: 1 }],
    },
  });
const planned = async (event: OpenEvent) =>
  (
    await world.app.db.query<{
      name: string;
      lineName: string;
      state: string;
      plannedFor: string;
      whyNot: string;
    }>(
      `select m.name, s.name as line_name, m.state, m.planned_for, m.why_not from messages m join message_lines s on s.id = m.line_id
       where m.event_id = $1 and m.kind = 'balance due' order by m.name, m.planned_for`,
      [event.id],
    )
  ).map((m) => [m.name, m.lineName, m.state, m.plannedFor]);
const notesOf = async (event: OpenEvent) =>
  (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).margin.map((n) => n.headline);

test('whoever gives a table up is not asked for it; another day to pay moves what has not gone out', async () => {
  const event = await supper('Given Up');
  const { token } = await book(event, 'Cy');
  await book(event, 'Di');
  await saveIt(odalys, event.id, { balanceDays: 7 });
  expect((await planned(event)).map(([name, , , at]) => [name, at])).toEqual([
    ['Cy Tabler', '2026-10-05T21:30:00.000Z'],
    ['Cy Tabler', '2026-10-11T21:30:00.000Z'],
    ['Di Tabler', '2026-10-05T21:30:00.000Z'],
    ['Di Tabler', '2026-10-11T21:30:00.000Z'],
  ]);
  const { seats } = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  await world.anyone.call('POST /api/public/orders/:token/withdraw', {
    params: { token },
    body: { seats: seats.map((s) => s.id) },
  });
  expect((await planned(event)).filter(([name]) => name === 'Cy Tabler').map((m) => m[2])).toEqual([
    'held back',
    'held back',
  ]);
});

test('a table that is paid later is confirmed at once, reminded of in time, and on the Desk once it is overdue', async () => {
  const event = await supper('Paid In Time');
  const placed = await book(event, 'Ada');
  expect(placed.standing).toBe('confirmed');
  const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token: placed.token } });
  // 18:30 in Halifax, two weeks before.
  expect(order).toMatchObject({
    balance: 90_000,
    payNow: 90_000,
    payment: 'needed',
    payBy: { on: '2026-10-03', overdue: false },
  });
  await book(event, 'Bo');
  expect(await planned(event)).toEqual([
    ['Ada Tabler', 'Still to pay', 'planned', '2026-09-28T21:30:00.000Z'],
    ['Ada Tabler', 'Payment overdue', 'planned', '2026-10-04T21:30:00.000Z'],
    ['Bo Tabler', 'Still to pay', 'planned', '2026-09-28T21:30:00.000Z'],
    ['Bo Tabler', 'Payment overdue', 'planned', '2026-10-04T21:30:00.000Z'],
  ]);
  // Whoever pays, by whatever way, is not asked.
  const owed = await marit.call('GET /api/books/owed', { query: { eventId: event.id } });
  expect(owed.map((o) => [o.name, o.amount, o.dueBy])).toEqual([
    ['Ada Tabler', 90_000, '2026-10-03T21:30:00.000Z'],
    ['Bo Tabler', 90_000, '2026-10-03T21:30:00.000Z'],
  ]);
  await marit.call('POST /api/orders/:id/payments', {
    params: { id: owed.find((o) => o.name === 'Bo Tabler')!.orderId },
    body: { method: 'cheque', amount: 90_000, reason: 'cheque 41' },
  });
  expect((await planned(event)).filter(([name]) => name === 'Bo Tabler').map((m) => m[2])).toEqual([
    'held back',
    'held back',
  ]);
  expect(await notesOf(event)).toContain('$900 still owed.');
  // A part of it changes nothing but the amount that is asked for.
  await marit.call('POST /api/orders/:id/payments', {
    params: { id: owed.find((o) => o.name === 'Ada Tabler')!.orderId },
    body: { method: 'transfer', amount: 40_000, reason: '' },
  });
  await world.moveTo('2026-09-29T12:00:00.000Z');
  const mails = () =>
    world.app.db.query<{ address: string; subject: string; body: string }>(
      "select address, subject, body from standin_mail where subject ~ '(Still to pay|overdue): Paid In Time' order by accepted_at",
    );
  expect(await mails()).toMatchObject([
    {
      address: 'ada.tabler@harbourpost.example',
      subject: 'Still to pay: Paid In Time',
      body: expect.stringMatching(/^Hello Ada,\n\n\$500 is still to be paid .*until Saturday,? 3 October/u),
    },
  ]);
  expect(await notesOf(event)).toContain('$500 still owed.');

  await world.moveTo('2026-10-05T12:00:00.000Z');
  expect((await mails()).map((m) => m.subject)).toEqual([
    'Still to pay: Paid In Time',
    'Payment overdue: Paid In Time',
  ]);
  expect(await notesOf(event)).toContain('$500 is overdue.');
  const { entries } = await odalys.call('GET /api/desk');
  expect(entries.filter((e) => e.text.startsWith('$500 is overdue.'))).toHaveLength(1);
  expect(
    (await world.anyone.call('GET /api/public/orders/:token', { params: { token: placed.token } })).payBy,
  ).toMatchObject({ overdue: true });
  await pay(world, placed.token);
  expect(await notesOf(event)).not.toContain('$500 is overdue.');
  expect(await marit.call('GET /api/books/owed', { query: { eventId: event.id } })).toEqual([]);
});

test('one address does not take every table without paying', async () => {
  const own = await makeWorld({ fairShare: true });
  const event = await openEvent(own, { title: 'Fair Supper', price: 4000, capacity: 80 });
  await saveIt(await own.as('odalys'), event.id, {
    offers: [tableOf(event)],
  });
  const tables: number[] = [];
  for (let n = 0; n < 4; n += 1)
    tables.push(
      (
        await own.anyone.try('POST /api/public/events/:slug/orders', {
          params: { slug: event.slug },
          body: {
            ...orderFor(event, [{ given: `Greedy${n}`, family: 'Tabler' }]),
            lines: [{ offerId: event.offers[0]!.id, units: 1 }],
          },
        })
      ).status,
    );
  expect(tables).toEqual([201, 201, 429, 429]);
  await own.close();
});
