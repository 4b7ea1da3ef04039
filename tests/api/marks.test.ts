import { afterAll, beforeAll, expect, test } from 'vitest';
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

async function standing(title: string): Promise<{ event: OpenEvent; seat: string }> {
  const event = await openEvent(world, {
    title,
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T23:00',
  });
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given: 'Torben', family: 'Reed' }]),
  });
  const { rows } = await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
  return { event, seat: rows[0]!.registrationId };
}
const row = async (event: OpenEvent) =>
  (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows[0]!;
type Told = {
  state: 'arrived' | 'left' | 'expected';
  /** Minutes ago. */
  ago?: number;
  markId?: string;
  undoes?: string[];
  /** By how many minutes the clock of the device stands wrong. */
  wrong?: number;
};
const tell = (event: OpenEvent, seat: string, { state, ago = 0, wrong = 0, markId, undoes }: Told) => {
  const sent = Date.parse(world.app.clock.now()) + wrong * 60_000;
  return odalys.try('POST /api/registrations/:id/attendance', {
    params: { id: seat },
    body: {
      eventId: event.id,
      state,
      markId: markId ?? crypto.randomUUID(),
      at: new Date(sent - ago * 60_000).toISOString(),
      sentAt: new Date(sent).toISOString(),
      ...(undoes && { undoes }),
    },
  });
};
const minutesAgo = (ago: number) => new Date(Date.parse(world.app.clock.now()) - ago * 60_000).toISOString();

test('two doors mark the same person: the earlier counts, whichever is told first', async () => {
  const { event, seat } = await standing('Two Doors');
  expect((await tell(event, seat, { state: 'arrived', ago: 5 })).body).toEqual({
    state: 'arrived',
    changed: true,
  });
  // The other was without a network since before.
  expect((await tell(event, seat, { state: 'arrived', ago: 20 })).body).toEqual({
    state: 'arrived',
    changed: false,
  });
  expect(await row(event)).toMatchObject({ attendance: 'arrived', arrivedAt: minutesAgo(20) });
  expect((await row(event)).undo).toHaveLength(2);
});

test('that somebody left is told before that they came: once both are there, both count', async () => {
  const { event, seat } = await standing('Backwards');
  expect((await tell(event, seat, { state: 'left', ago: 2 })).body.state).toBe('expected');
  expect((await tell(event, seat, { state: 'arrived', ago: 30 })).body.state).toBe('left');
  expect(await row(event)).toMatchObject({ attendance: 'left', arrivedAt: minutesAgo(30) });
});

test('a mark told again is told once; one that is taken back takes along nothing that another door marked', async () => {
  const { event, seat } = await standing('Taken Back');
  const mine = crypto.randomUUID();
  await tell(event, seat, { state: 'arrived', ago: 3, markId: mine });
  expect((await tell(event, seat, { state: 'arrived', ago: 3, markId: mine })).body.changed).toBe(false);
  const undo = crypto.randomUUID();
  expect((await tell(event, seat, { state: 'expected', markId: undo, undoes: [mine] })).body.state).toBe(
    'expected',
  );
  // Told again, and by a third device as well.
  await tell(event, seat, { state: 'expected', markId: undo, undoes: [mine] });
  await tell(event, seat, { state: 'expected', undoes: [mine] });
  expect((await row(event)).attendance).toBe('expected');
  // The other door had let them in before, without a network.
  expect((await tell(event, seat, { state: 'arrived', ago: 10 })).body.state).toBe('arrived');
  const marks = await world.app.db.query('select 1 from attendance_marks where registration_id = $1', [seat]);
  expect(marks).toHaveLength(4);
});

test('a device whose clock stands a day off tells the right time', async () => {
  const { event, seat } = await standing('Wrong Clock');
  await tell(event, seat, { state: 'arrived', ago: 15, wrong: -24 * 60 });
  expect((await row(event)).arrivedAt).toBe(minutesAgo(15));
});

test('the file says when they came and left, how long they were there, how late, and who marked it', async () => {
  const { event, seat } = await standing('Exported');
  await tell(event, seat, { state: 'arrived', ago: 50 });
  await tell(event, seat, { state: 'left', ago: 40 });
  await tell(event, seat, { state: 'arrived', ago: 20 });
  await tell(event, seat, { state: 'left', ago: 5 });
  const file = String(
    await odalys.call('GET /api/events/:id/registrations.csv', { params: { id: event.id }, query: {} }),
  );
  const [headings, row] = file.split(/\r?\n/u).map((line) => line.split(','));
  const said = Object.fromEntries(
    headings!.map((heading, at) => [heading.replace(/^\uFEFF/u, ''), row![at]]),
  );
  expect(said).toMatchObject({ 'Minutes there': '25', 'Checked in by': 'Odalys Ferrant', Where: '' });
  expect(Number(said['Minutes late'])).toBeGreaterThan(0);
  expect(said.Left).toBe(minutesAgo(5));
});

test('the id of a mark about somebody else marks nobody', async () => {
  const [one, two] = [await standing('Mark Of One'), await standing('Mark Of Two')];
  const markId = crypto.randomUUID();
  await tell(one.event, one.seat, { state: 'arrived', markId });
  expect((await tell(two.event, two.seat, { state: 'arrived', markId })).problem.code).toBe(
    'mark-of-another',
  );
  expect((await row(two.event)).attendance).toBe('expected');
  expect((await row(one.event)).attendance).toBe('arrived');
});

test('whoever comes for the first time is known as such, until they came to something', async () => {
  const night = { startsLocal: '2026-07-09T08:00', endsLocal: '2026-07-09T23:00' };
  const [one, two] = [
    await openEvent(world, { title: 'First Night', ...night }),
    await openEvent(world, { title: 'Second Night', ...night }),
  ];
  for (const event of [one, two])
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: {
        ...orderFor(event, [{ given: 'Yrsa', family: 'Holm' }]),
        buyer: { given: 'Yrsa', family: 'Holm', email: 'yrsa@holm.example', phone: '+1 902 555 0142' },
      },
    });
  const greeted = 'Their first time with us.';
  expect(await row(one)).toMatchObject({ light: 'go', details: [], toKnow: [greeted], digits: ['0142'] });
  expect((await row(two)).toKnow).toEqual([greeted]);
  await tell(one, (await row(one)).registrationId, { state: 'arrived' });
  expect((await row(two)).toKnow).toEqual([]);
  // Taken back it did not happen.
  await tell(one, (await row(one)).registrationId, { state: 'expected' });
  expect((await row(two)).toKnow).toEqual([greeted]);
});

test('coming back can be taken back by itself, and after the doors closed whoever did not come is missed', async () => {
  const { event, seat } = await standing('Came Back');
  await tell(event, seat, { state: 'arrived', ago: 60 });
  await tell(event, seat, { state: 'left', ago: 30 });
  await tell(event, seat, { state: 'arrived', ago: 5 });
  expect((await tell(event, seat, { state: 'expected' })).body.state).toBe('left');
  const other = await standing('Missed');
  const mark = crypto.randomUUID();
  await tell(other.event, other.seat, { state: 'arrived', markId: mark });
  await world.moveTo('2026-07-10T06:00:00.000Z');
  expect((await row(other.event)).attendance).toBe('arrived');
  await odalys.call('POST /api/registrations/:id/attendance', {
    params: { id: other.seat },
    body: { eventId: other.event.id, state: 'expected', despite: 'it was somebody else' },
  });
  expect((await row(other.event)).attendance).toBe('missed');
});
