import { beforeEach, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import { type OpenEvent, openEvent } from './scenes.ts';

const scene = new Scene();
const { plan, planned, book, ahead } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeEach(() => {
  ({ world, odalys, event } = scene);
});

describe('sending is stopped', () => {
  const sent = async () =>
    (await world.app.db.query<{ n: number }>('select count(*)::int as n from standin_mail'))[0]!.n;
  test('everything: nothing leaves but codes and what the team needs; then it goes on, but for what is of no use', async () => {
    await plan(event, [
      lineOn('registration made', { name: 'Confirmation' }),
      lineOn('start', { name: 'Hour', offsetMinutes: -60 }),
      lineOn('end', { name: 'Thanks', offsetMinutes: 10 }),
    ]);
    await book(event, 'Waits');
    await world.runner.run();
    const before = await sent();
    await odalys.call('PUT /api/sending', { body: { stop: true } });
    const { stopped } = await odalys.call('GET /api/sending');
    await world.moveTo(ahead(10 * 24 * 60));
    await odalys.call('PUT /api/sending', { body: { stop: true } });
    // Stopped once more, it is stopped since the first time.
    expect((await odalys.call('GET /api/sending')).stopped).toEqual(stopped);
    await book(event, 'Patient');
    await world.anyone.call('POST /api/public/sign-in', {
      body: { email: 'waits.lind@harbourpost.example' },
    });
    await world.moveTo(ahead(-10 * 60));
    expect(await sent()).toBe(before + 1);
    expect(await odalys.call('GET /api/sending')).toMatchObject({
      stopped: { by: 'Odalys Ferrant' },
      everything: true,
      waiting: expect.any(Number),
    });
    expect(await odalys.call('GET /api/sending', { query: { eventId: event.id } })).toMatchObject({
      everything: true,
      waiting: 5,
    });
    const desk = await odalys.call('GET /api/desk');
    expect(JSON.stringify(desk)).toContain('Odalys Ferrant stopped it.');
    expect((await (await world.as('imani')).call('GET /api/sending')).waiting).toBe(0);
    await odalys.call('PUT /api/sending', { body: { stop: false } });
    await world.runner.run();
    expect((await planned(event, 'Confirmation')).sent).toBe(2);
    expect((await planned(event, 'Thanks')).sent).toBe(2);
    expect(await planned(event, 'Hour')).toMatchObject({
      sent: 0,
      not: [
        ['Waits Lind', 'it would come too late to be of use'],
        ['Patient Lind', 'it would come too late to be of use'],
      ],
    });
  });

  test('one event: the others go on', async () => {
    const other = await openEvent(world, {
      title: 'Goes on',
      startsLocal: '2029-08-20T09:00',
      endsLocal: '2029-08-20T12:00',
    });
    await odalys.call('PUT /api/events/:id/sending', { params: { id: event.id }, body: { stop: true } });
    const before = await sent();
    await book(event, 'Held');
    await book(other, 'Free');
    await world.runner.run();
    expect(await sent()).toBe(before + 1);
    expect((await planned(event, 'Confirmation')).planned).toBe(1);
    expect(await odalys.call('GET /api/sending', { query: { eventId: event.id } })).toMatchObject({
      everything: false,
      waiting: 1,
    });
    expect((await odalys.call('GET /api/sending')).stopped).toBeNull();
    await odalys.call('PUT /api/events/:id/sending', { params: { id: event.id }, body: { stop: false } });
    await world.runner.run();
    expect((await planned(event, 'Confirmation')).sent).toBe(1);
  });
});
