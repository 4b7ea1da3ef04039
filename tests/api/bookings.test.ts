import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';

let world: World;
let odalys: Caller;
let hall: { id: string; name: string; address: string; main: string; council: string };
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  const { venues } = await odalys.call('GET /api/choices');
  const { rooms, ...venue } = venues.find((v) => v.name === 'Town Hall')!;
  const room = (name: string) => rooms.find((r) => r.name === name)!.id;
  hall = { ...venue, main: room('Main Hall'), council: room('Council Room') };
});
afterAll(() => world.close());

type Change = Parameters<typeof save>[1];
const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
async function save(id: string, change: Record<string, unknown>, who = odalys) {
  const { version } = await page(id);
  return who.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}
/** A draft at a place and time. */
async function draft(publicTitle: string, change: Change = {}): Promise<string> {
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle } });
  if (Object.keys(change).length) expect((await save(id, change)).status).toBe(200);
  return id;
}
const on = (day: string, more: object = {}) => ({
  venueId: hall.id,
  roomId: hall.main,
  startsLocal: `2026-09-${day}T10:00`,
  endsLocal: `2026-09-${day}T12:00`,
  ...more,
});

test('a room cannot be taken twice; setting up counts, and one that begins afterwards fits', async () => {
  await draft('Supper', on('08'));
  const talk = await draft('Talk');
  const refused = await save(
    talk,
    on('08', { startsLocal: '2026-09-08T11:00', endsLocal: '2026-09-08T13:00' }),
  );
  expect(refused.status).toBe(422);
  expect(refused.problem.fields).toMatchObject([
    { path: 'venueId', code: 'place-taken', params: { place: 'Town Hall, Main Hall' } },
  ]);
  expect(refused.problem.title).toContain('Supper, Tuesday 8 Sep');
  // Nothing of it was saved.
  expect((await page(talk)).plan).toMatchObject({ venueId: null, startsLocal: null });
  // The hall is set up an hour before.
  expect(
    (await save(talk, on('08', { startsLocal: '2026-09-08T12:30', endsLocal: '2026-09-08T14:00' }))).status,
  ).toBe(422);
  expect(
    (await save(talk, on('08', { startsLocal: '2026-09-08T13:00', endsLocal: '2026-09-08T14:00' }))).status,
  ).toBe(200);
  // A later change of the time is refused beside the time.
  expect((await save(talk, { startsLocal: '2026-09-08T10:30' })).problem.fields).toMatchObject([
    { path: 'startsLocal', code: 'place-taken' },
  ]);
});

test('another room is free, the whole place is not; what is free is offered', async () => {
  const supper = await draft('Fen Supper', on('15'));
  const meeting = await draft('Meeting', on('15', { roomId: hall.council }));
  const fair = await draft('Fair');
  expect((await save(fair, on('15', { roomId: null }))).status).toBe(422);
  const standing = await odalys.call('GET /api/events/:id/place', {
    params: { id: fair },
    query: {
      venueId: hall.id,
      roomId: hall.main,
      startsLocal: '2026-09-15T10:00',
      endsLocal: '2026-09-15T12:00',
    },
  });
  expect(standing.taken).toMatchObject([{ eventId: supper, title: 'Fen Supper', agreed: false }]);
  expect(standing.rooms.map((r) => r.name)).toEqual(['Kitchen']);
  expect(standing.starts).toEqual([
    '2026-09-15T07:00',
    '2026-09-15T13:00',
    '2026-09-16T10:00',
    '2026-09-22T10:00',
  ]);
  expect(standing.closed).toBeNull();
  // What was offered is free indeed.
  for (const startsLocal of standing.starts) {
    const endsLocal = startsLocal.replace('T07', 'T09').replace('T13', 'T15').replace('T10', 'T12');
    expect((await save(fair, { ...on('15'), startsLocal, endsLocal })).status).toBe(200);
  }
  expect((await page(meeting)).venue?.name).toBe('Town Hall, Council Room');
});

test('somebody decides that two share it; a third is refused all the same', async () => {
  const sale = await draft('Plant sale', on('11'));
  const raffle = await draft('Raffle');
  expect((await save(raffle, on('11'))).status).toBe(422);
  expect((await save(raffle, on('11', { beside: [{ id: sale, title: 'Plant sale' }] }))).status).toBe(200);
  expect((await save(sale, { endsLocal: '2026-09-11T12:30' })).status).toBe(200);
  const third = await draft('Third');
  expect((await save(third, on('11'))).problem.fields).toMatchObject([{ code: 'place-taken' }]);
  // Sharing it no longer brings the clash back.
  expect((await save(raffle, { beside: [] })).problem.fields).toMatchObject([{ path: 'beside' }]);
});

test('of two people who take one room at once, one has it', async () => {
  const [a, b] = [await draft('At once A'), await draft('At once B')];
  const answers = await Promise.all([a, b].map((id) => save(id, on('29'))));
  expect(answers.map((x) => x.status).sort()).toEqual([200, 422]);
});

test('the database itself refuses a room taken twice', async () => {
  const [a, b] = [
    await draft('One', { startsLocal: '2027-01-05T10:00' }),
    await draft('Two', { startsLocal: '2027-01-06T10:00' }),
  ];
  const take = (eventId: string, decided = false) =>
    world.app.db.query(
      'insert into bookings (id, event_id, venue_id, space_id, during, decided) values (gen_random_uuid(), $1, $2, $3, $4, $5)',
      [eventId, hall.id, hall.main, '[2027-01-12T10:00:00Z,2027-01-12T12:00:00Z)', decided],
    );
  await take(a);
  await expect(take(b)).rejects.toThrow(/room_taken_once/u);
  await take(b, true);
});

test('a place comes free when its event is called off or shelved; who comes back to a taken one is told', async () => {
  const first = await draft('First', on('25'));
  const move = (move: 'shelve' | 'bring back') =>
    odalys.call('POST /api/events/:id/state', { params: { id: first }, body: { move, words: 'later' } });
  await move('shelve');
  const second = await draft('Second', on('25'));
  await move('bring back');
  expect((await page(first)).lacks).toMatchObject([
    { stops: true, text: expect.stringContaining('Town Hall, Main Hall is taken then') as string },
    {},
  ]);
  expect(JSON.stringify((await page(second)).lacks)).not.toContain('is taken then');
});

test('a copy on a date that is taken is a draft that says so; sharing does not come along', async () => {
  const from = await draft('Yearly', on('18', { endsLocal: null }));
  await draft('In the way', on('19'));
  const { id } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Yearly again', from, date: '2026-09-19' },
  });
  const copy = await page(id);
  expect(copy.plan).toMatchObject({ venueId: hall.id, roomId: hall.main, beside: [] });
  expect(copy.lacks.map((l) => l.text).join(' ')).toContain('is taken then');
});

test('a room stays behind when the place changes; one of another place is refused; a smaller set-up stops too many seats', async () => {
  const id = await draft('Rooms', on('10', { layout: 'Tables of eight', capacity: 150 }));
  expect((await page(id)).lacks.map((l) => l.text).join(' ')).toContain('150 seats are more than the 128');
  expect((await save(id, { layout: 'Rows' })).status).toBe(200);
  expect(JSON.stringify((await page(id)).lacks)).not.toContain('150 seats');
  const { venues } = await odalys.call('GET /api/choices');
  const other = venues.find((v) => v.name === 'Ansley College')!;
  expect((await save(id, { venueId: other.id, roomId: hall.main })).problem.fields).toMatchObject([
    { path: 'roomId', code: 'room-elsewhere' },
  ]);
  await save(id, { venueId: other.id });
  expect((await page(id)).plan).toMatchObject({ venueId: other.id, roomId: null, layout: '' });
});

test('a closed day is said, and another day is offered', async () => {
  const id = await draft('On a Sunday');
  const standing = await odalys.call('GET /api/events/:id/place', {
    params: { id },
    query: { venueId: hall.id, startsLocal: '2026-12-27T10:00' },
  });
  expect(standing.closed).toEqual({ why: 'Closed over the holidays' });
  expect(standing.starts[0]).toBe('2027-01-04T10:00');
});

test('rooms are kept under their ids; one that is in use is retired and its event keeps it', async () => {
  const { body } = await odalys.try('POST /api/venues', { body: { name: 'Mill', address: '1 Mill Ln' } });
  const room = (id: string, name: string) => ({ id, name, capacity: 20, layouts: [] });
  const [loft, cellar] = [crypto.randomUUID(), crypto.randomUUID()];
  const set = (rooms: object[]) =>
    odalys.try('PATCH /api/venues/:id', {
      params: { id: body.id },
      body: { name: 'Mill', address: '1 Mill Ln', rooms },
    } as never);
  await set([room(loft, 'Loft'), room(cellar, 'Cellar')]);
  const id = await draft('In the loft', { venueId: body.id, roomId: loft });
  await set([]);
  expect((await page(id)).venue?.name).toBe('Mill, Loft');
  const found = (await odalys.call('GET /api/venues')).find((v) => v.id === body.id)!;
  expect(found.rooms).toEqual([]);
  await set([room(loft, 'Attic')]);
  expect((await page(id)).venue?.name).toBe('Mill, Attic');
  expect((await set([room(cellar, ' ')])).problem.fields).toMatchObject([{ path: 'rooms.0.name' }]);
});

test('who may not plan the event learns nothing of its place', async () => {
  const id = await draft('Private', on('24'));
  const ask = async (who: 'piers' | 'door') =>
    (await world.as(who)).try('GET /api/events/:id/place', {
      params: { id },
      query: { venueId: hall.id, startsLocal: '2026-09-24T10:00' },
    });
  expect((await ask('piers')).status).toBe(403);
  expect((await ask('door')).status).toBe(403);
});
