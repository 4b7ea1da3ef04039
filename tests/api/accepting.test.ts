import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plusMinutes } from '#core/time/clock.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

/** An event to which its organizer accepts people. */
async function accepting(title: string, more: Parameters<typeof openEvent>[1] = {}): Promise<OpenEvent> {
  const event = await openEvent(world, {
    title,
    capacity: 2,
    questions: [
      {
        id: crypto.randomUUID(),
        offerId: null,
        scope: 'attendee',
        kind: 'text',
        prompt: { en: 'Why you?' },
        required: false,
        choices: [],
      },
    ],
    ...more,
  });
  const { version, plan } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { admission: { ...plan.admission, accepts: true } } },
  });
  return event;
}
async function ask(event: OpenEvent, given: string, seats = 1) {
  const people = Array.from({ length: seats }, (_, n) => ({
    given: n ? `${given} ${n}` : given,
    family: 'Rush',
  }));
  const body = orderFor(event, people);
  const { token, standing } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...body,
      attendees: body.attendees.map((a, n) => ({
        ...a,
        answers: { [event.questions[0]!.id]: `because ${given} ${n}` },
      })),
    },
  });
  expect(standing).toBe('asked');
  return token;
}
const queue = (event: OpenEvent, by = odalys) =>
  by.call('GET /api/events/:id/queue', { params: { id: event.id } });
const booked = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
type Decision = 'accept' | 'decline' | 'ask';
const decide = async (event: OpenEvent, orderIds: string[], decision: Decision, words = '', by = odalys) =>
  by.try('POST /api/events/:id/decisions', { params: { id: event.id }, body: { orderIds, decision, words } });
const preview = (event: OpenEvent, orderIds: string[], decision: Decision) =>
  odalys.call('POST /api/events/:id/decisions/what-if', {
    params: { id: event.id },
    body: { orderIds, decision },
  });
const mail = (name: string) =>
  world.app.db.query<{ kind: string; body: string }>(
    "select kind, body from messages where name = $1 and kind in ('asked', 'accepted', 'not accepted', 'asked back', 'waitlisted', 'registration made') order by created_at, kind",
    [`${name} Rush`],
  );
const kinds = async (name: string) => (await mail(name)).map((m) => m.kind);

describe('where the organizer accepts people', () => {
  test('who asks holds nothing: no seat of the capacity, no pass, no calendar file, no way to pay', async () => {
    const event = await accepting('Chosen', { price: 1500 });
    const tokens = [await ask(event, 'Ada', 2), await ask(event, 'Bea'), await ask(event, 'Cleo', 2)];
    expect(await booked(tokens[0]!)).toMatchObject({
      standing: 'asked',
      payment: 'none',
      event: { online: null },
    });
    const page = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect(page).toMatchObject({ seatsLeft: 2, registration: 'open', admission: { accepts: true } });
    for (const token of tokens) {
      const order = await booked(token);
      expect(order.seats.every((s) => s.pass === null)).toBe(true);
      for (const path of ['passes.pdf', 'calendar.ics'] as const)
        expect(
          (await world.anyone.try(`GET /api/public/orders/:token/${path}`, { params: { token } })).status,
        ).toBe(409);
      const paying = await world.anyone.try('POST /api/public/orders/:token/pay', {
        params: { token },
        body: { card: '9000 0000 0000 0001', expiry: '12/30' },
      });
      expect(paying.status).toBe(409);
    }
    expect(await kinds('Ada')).toEqual(['asked']);
    const { parties, questions } = await queue(event);
    expect(questions).toEqual([{ id: event.questions[0]!.id, prompt: 'Why you?' }]);
    expect(parties.map((p) => [p.name, p.seats, p.due, p.fits])).toEqual([
      ['Ada Rush', 2, 3000, 'fits'],
      ['Bea Rush', 1, 1500, 'fits'],
      ['Cleo Rush', 2, 3000, 'fits'],
    ]);
    expect(parties[0]!.answers[event.questions[0]!.id]).toBe('because Ada 0; because Ada 1');
  });

  test('accepted, in the order they asked, as there is room: seats to pay for, the waitlist for whom they are too few', async () => {
    const event = await accepting('In Order', { price: 1500 });
    const [dov, eli, fay] = [await ask(event, 'Dov'), await ask(event, 'Eli', 2), await ask(event, 'Fay')];
    const ids = (await queue(event)).parties.map((p) => p.orderId);
    // Chosen the other way round they still go in the order they asked.
    const told = await preview(event, [...ids].reverse(), 'accept');
    expect(told).toMatchObject({ confirmed: 0, held: 2, waitlisted: 1, left: [] });
    expect((await queue(event)).parties).toHaveLength(3);
    expect((await decide(event, [...ids].reverse(), 'accept')).body).toEqual(told);
    const standings = await Promise.all([dov, eli, fay].map(async (t) => (await booked(t)).standing));
    expect(standings).toEqual(['held', 'waitlisted', 'held']);
    expect(await kinds('Dov')).toEqual(['accepted', 'asked']);
    expect(await kinds('Eli')).toEqual(['asked', 'waitlisted']);
    // Again, nothing happens twice.
    expect((await decide(event, ids, 'accept')).body).toMatchObject({
      held: 0,
      waitlisted: 0,
      left: ['Dov Rush', 'Eli Rush', 'Fay Rush'],
    });
    await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token: dov },
      body: { card: '9000 0000 0000 0001', expiry: '12/30' },
    });
    expect((await booked(dov)).standing).toBe('confirmed');
    // Who does not pay within three days lets their seats go.
    await world.moveTo(plusMinutes(world.app.clock.now(), 3 * 24 * 60 + 1));
    expect((await booked(fay)).standing).toBe('ended');
  });

  test('with nothing to pay they are confirmed, and the confirmation of the event says it; declined, they are told in words', async () => {
    const event = await accepting('Free To Come');
    const [gil, hana] = [await ask(event, 'Gil'), await ask(event, 'Hana')];
    const [one, two] = (await queue(event)).parties.map((p) => p.orderId) as [string, string];
    expect((await decide(event, [one], 'accept')).body).toMatchObject({ confirmed: 1 });
    expect(await booked(gil)).toMatchObject({
      standing: 'confirmed',
      seats: [{ pass: { code: expect.any(String) } }],
    });
    expect(await kinds('Gil')).toEqual(['asked', 'registration made']);
    expect((await decide(event, [two], 'decline', 'Only people from here this time.')).body).toMatchObject({
      declined: 1,
    });
    expect(await booked(hana)).toMatchObject({ standing: 'ended', seats: [{ state: 'declined' }] });
    expect((await mail('Hana')).find((m) => m.kind === 'not accepted')!.body).toContain(
      'Only people from here this time.',
    );
    expect((await queue(event)).parties).toEqual([]);
  });

  test('asked back they answer on their page, and it stands beside what they said before; afterwards nobody answers any more', async () => {
    const event = await accepting('Asked Back');
    const token = await ask(event, 'Ines');
    const [party] = (await queue(event)).parties;
    expect((await decide(event, [party!.orderId], 'ask', ' ')).problem.fields).toMatchObject([
      { path: 'words', code: 'ask-what' },
    ]);
    expect((await decide(event, [party!.orderId], 'ask', 'Can you swim?')).body).toMatchObject({ asked: 1 });
    expect((await mail('Ines')).find((m) => m.kind === 'asked back')!.body).toContain('Can you swim?');
    const { questions } = await booked(token);
    expect(questions).toMatchObject([{ words: 'Can you swim?', answer: null }]);
    const answer = (words: string, by = token) =>
      world.anyone.try('POST /api/public/orders/:token/answer', {
        params: { token: by },
        body: { questionId: questions[0]!.id, words },
      });
    expect((await answer('')).status).toBe(422);
    expect((await answer('Like an otter.')).status).toBe(201);
    // Nobody answers for somebody else.
    expect((await answer('No.', await ask(event, 'Jon'))).status).toBe(404);
    expect((await queue(event)).parties[0]!.asked).toEqual([
      { words: 'Can you swim?', by: 'Odalys Ferrant', answer: 'Like an otter.' },
    ]);
    await decide(event, [party!.orderId], 'accept');
    expect((await answer('Changed my mind.')).status).toBe(404);
  });

  test('who takes it back is not in the queue any more; of an event called off nobody waits', async () => {
    const event = await accepting('Taken Back');
    const token = await ask(event, 'Kai');
    const kept = await ask(event, 'Lena');
    const [kai] = (await queue(event)).parties;
    const { seats } = await booked(token);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: seats.map((s) => s.id) },
    });
    expect((await queue(event)).parties.map((p) => p.name)).toEqual(['Lena Rush']);
    expect((await decide(event, [kai!.orderId], 'accept')).body).toMatchObject({
      confirmed: 0,
      left: ['Kai Rush'],
    });
    await odalys.call('POST /api/events/:id/state', {
      params: { id: event.id },
      body: { move: 'call off', words: 'ice on the water' },
    });
    expect((await queue(event)).parties).toEqual([]);
    expect((await booked(kept)).standing).toBe('ended');
  });

  test('two who decide at once: each party is decided once, and nothing is oversold', async () => {
    const event = await accepting('At Once');
    for (const given of ['Mo', 'Nell', 'Ola']) await ask(event, given);
    const ids = (await queue(event)).parties.map((p) => p.orderId);
    const both = await Promise.all([decide(event, ids, 'accept'), decide(event, ids, 'accept')]);
    const sum = (key: 'confirmed' | 'waitlisted') => both.reduce((n, b) => n + b.body[key], 0);
    expect([sum('confirmed'), sum('waitlisted')]).toEqual([2, 1]);
  });

  test('an order of another event, and somebody of another unit, decide nothing', async () => {
    const event = await accepting('Whose Queue', { unit: 'Night Herons' });
    const other = await accepting('Other Queue');
    await ask(event, 'Pia');
    await ask(other, 'Quin');
    const [theirs] = (await queue(other)).parties;
    expect((await decide(event, [theirs!.orderId], 'accept')).problem.fields).toMatchObject([
      { code: 'seats-of-another' },
    ]);
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/events/:id/queue', { params: { id: event.id } })).status).toBe(403);
    const [pia] = (await queue(event)).parties;
    expect((await decide(event, [pia!.orderId], 'accept', '', piers)).status).toBe(403);
  });
});
