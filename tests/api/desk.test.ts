import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { plan } from './plans.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

describe('the Desk', () => {
  test('of two that press alike names the sooner event first, whatever they are called', async () => {
    for (const [title, day] of [
      ['A Later Walk', '2026-09-20'],
      ['The Sooner Walk', '2026-09-05'],
    ] as const) {
      const event = await openEvent(world, { title, startsLocal: `${day}T09:00`, endsLocal: `${day}T12:00` });
      await odalys.call('POST /api/events/:id/shifts', {
        params: { id: event.id },
        body: { role: 'Guide', place: '', startsLocal: `${day}T09:00`, endsLocal: `${day}T12:00`, wished: 2 },
      });
    }
    const { entries } = await odalys.call('GET /api/desk');
    const walks = entries.filter((e) => e.subject.endsWith('Walk'));
    expect(walks.map((e) => e.subject)).toEqual(['The Sooner Walk', 'A Later Walk']);
    expect(walks[0]!.urgency).toBe(walks[1]!.urgency);
  });

  test('asks of the treasurer what is about money, and nothing that others settle', async () => {
    const paddle = await openEvent(world, {
      title: 'Paid Paddle',
      price: 2500,
      waiver: 'On the water',
      startsLocal: '2026-07-12T09:00',
      endsLocal: '2026-07-12T12:00',
    });
    const { orderId } = await odalys.call('POST /api/events/:id/orders', {
      params: { id: paddle.id },
      body: orderFor(paddle, [
        { given: 'Wen', family: 'Sedge', birthDate: '1980-01-01' },
        { given: 'Xi', family: 'Sedge', birthDate: '1981-01-01' },
      ]),
    });
    await odalys.call('POST /api/orders/:id/payments', {
      params: { id: orderId },
      body: { method: 'cash', amount: 5000 },
    });
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: paddle.id } });
    await odalys.call('POST /api/registrations/:id/withdraw', { params: { id: rows[0]!.id }, body: {} });
    const of = async (who: 'odalys' | 'marit') =>
      (await (await world.as(who)).call('GET /api/desk')).entries
        .filter((e) => e.subject === 'Paid Paddle')
        .map((e) => e.text);
    expect((await of('odalys')).join('\n')).toMatch(/waiver/u);
    expect(await of('marit')).toEqual([expect.stringMatching(/to pay back/u)]);
  });

  test('says to whoever decides since when their decision is late', async () => {
    const asked = await plan(world, 'Asked in time');
    await asked.send();
    const tobias = await world.as('tobias');
    const mine = async () =>
      (await tobias.call('GET /api/desk')).entries.find((e) => e.subject === 'Asked in time')!;
    expect(await mine()).toMatchObject({ tone: 'need', when: expect.stringMatching(/^by /u) });
    const { steps } = await asked.look();
    const due = steps.find((s) => s.step === 'Safety')!.dueOn;
    await world.moveTo(new Date(Date.parse(`${due}T12:00:00Z`) + 3 * 24 * 3_600_000).toISOString());
    expect(await mine()).toMatchObject({
      tone: 'stop',
      when: expect.stringMatching(/^since /u),
      urgency: 85,
    });
  });
});
