import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const pageOf = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
const shiftsOf = async (id: string) =>
  (await odalys.call('GET /api/events/:id/crew', { params: { id } })).shifts;

/** A Saturday by the water with a shift the evening before. */
async function waterDay(title: string) {
  const event = await openEvent(world, {
    title,
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T16:30',
    price: 1500,
  });
  await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: {
      role: 'Setting up',
      startsLocal: '2026-08-07T18:00',
      endsLocal: '2026-08-07T20:00',
      wished: 3,
      publicSignUp: true,
    },
  });
  return event;
}

test('dates are proposed: the same Saturday next year, and the next one of its kind on which the place is free', async () => {
  const { id } = await waterDay('Sedge Day');
  const { venues } = await odalys.call('GET /api/choices');
  const at = venues.find((v) => v.name === 'Sluice Landing')!.id;
  const place = async (of: string) => {
    const { version } = await pageOf(of);
    await odalys.call('PATCH /api/events/:id', {
      params: { id: of },
      body: { version, change: { venueId: at } },
    });
  };
  await place(id);
  const ask = () => odalys.call('GET /api/events/:id/again', { params: { id } });
  expect(await ask()).toMatchObject({
    title: 'Sedge Day',
    startsLocal: '2026-08-08T09:00',
    proposals: [
      { date: '2026-09-12', kind: 'month', ordinal: 2, free: true },
      { date: '2027-08-07', kind: 'year', ordinal: 2, free: true },
    ],
    brings: { offers: 1, shifts: 1 },
  });
  // Something else on both days at the same place.
  for (const day of ['2026-09-12', '2027-08-07']) {
    const other = await openEvent(world, {
      title: `Other ${day}`,
      startsLocal: `${day}T10:00`,
      endsLocal: `${day}T12:00`,
    });
    await place(other.id);
  }
  expect((await ask()).proposals).toEqual([
    { date: '2026-10-10', kind: 'month', ordinal: 2, free: true },
    { date: '2027-08-07', kind: 'year', ordinal: 2, free: false },
  ]);
});

test('a place that only a draft of another unit wants is free for who may not know of it', async () => {
  const { id } = await openEvent(world, {
    title: 'Boats at noon',
    unit: 'Small Boats',
    startsLocal: '2026-08-08T12:00',
    endsLocal: '2026-08-08T14:00',
  });
  const { venues, units } = await odalys.call('GET /api/choices');
  const venueId = venues.find((v) => v.name === 'Reedhouse')!.id;
  const put = async (of: string, change: object) =>
    odalys.call('PATCH /api/events/:id', {
      params: { id: of },
      body: { version: (await pageOf(of)).version, change: change as never },
    });
  await put(id, { venueId });
  const draft = await odalys.call('POST /api/events', { body: { publicTitle: 'Not told yet' } });
  await put(draft.id, {
    venueId,
    unitId: units.find((u) => u.name === 'Night Herons')!.id,
    startsLocal: '2027-08-07T10:00',
  });
  const nextYear = async (who: Caller) =>
    (await who.call('GET /api/events/:id/again', { params: { id } })).proposals.find(
      (p) => p.kind === 'year',
    );
  expect(await nextYear(odalys)).toMatchObject({ date: '2027-08-07', free: false });
  expect(await nextYear(await world.as('piers'))).toMatchObject({ date: '2027-08-07', free: true });
});

test('who leads another unit learns nothing of when it could be again', async () => {
  const { id } = await openEvent(world, { title: 'Theirs', unit: 'Night Herons' });
  const piers = await world.as('piers');
  expect((await piers.try('GET /api/events/:id/again', { params: { id } })).status).toBe(403);
});

test('begun without a date nothing is lost: times and shifts wait, and come with the first date', async () => {
  const { id: from } = await waterDay('Reed Day');
  const { id } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Reed Day', from, date: null },
  });
  const waiting = await pageOf(id);
  expect(waiting.plan).toMatchObject({ startsLocal: null, endsLocal: null });
  expect(waiting.waits).toEqual({ startsLocal: '2026-08-08T09:00', shifts: 1 });
  expect(waiting.copiedFrom!.leftBehind.map((l) => l.stage)).toEqual([null, 'clearance', 'crew']);
  expect(await shiftsOf(id)).toEqual([]);

  const { followed } = await odalys.call('PATCH /api/events/:id', {
    params: { id },
    body: { version: waiting.version, change: { startsLocal: '2027-08-07T09:30' } },
  });
  expect(followed.shifts).toHaveLength(1);
  const dated = await pageOf(id);
  expect(dated.waits).toBeNull();
  expect(dated.plan).toMatchObject({ startsLocal: '2027-08-07T09:30', endsLocal: '2027-08-07T16:30' });
  expect(await shiftsOf(id)).toMatchObject([
    { role: 'Setting up', startsLocal: '2027-08-06T18:00', endsLocal: '2027-08-06T20:00', wished: 3 },
  ]);

  // Taking the date back and giving another brings nothing a second time.
  for (const startsLocal of [null, '2027-08-14T09:30']) {
    const { version } = await pageOf(id);
    await odalys.call('PATCH /api/events/:id', {
      params: { id },
      body: { version, change: { startsLocal, endsLocal: null, doorsLocal: null } },
    });
  }
  expect(await shiftsOf(id)).toHaveLength(1);
});

test('a copy of what waits has it waiting too, or brings it to its own date', async () => {
  const { id: from } = await waterDay('Mud Day');
  const { id: first } = await odalys.call('POST /api/events', { body: { publicTitle: 'Mud Day', from } });
  const { id: second } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Mud Day', from: first, date: '2027-05-01' },
  });
  expect((await pageOf(second)).plan).toMatchObject({
    startsLocal: '2027-05-01T09:00',
    endsLocal: '2027-05-01T16:30',
  });
  expect(await shiftsOf(second)).toMatchObject([{ startsLocal: '2027-04-30T18:00' }]);
  expect((await pageOf(first)).waits).not.toBeNull();
});

test('what would follow from a first date is told before, and nothing of it is done', async () => {
  const { id: from } = await waterDay('Fen Day');
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Fen Day', from } });
  const { version } = await pageOf(id);
  const told = await odalys.call('POST /api/events/:id/what-if', {
    params: { id },
    body: { version, change: { startsLocal: '2027-08-07T09:30' } },
  });
  expect(told.followed.shifts).toHaveLength(1);
  expect(await shiftsOf(id)).toEqual([]);
  expect((await pageOf(id)).waits).not.toBeNull();
});
