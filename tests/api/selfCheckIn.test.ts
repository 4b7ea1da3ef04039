import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signs } from './scenes.ts';
import { wordsOf } from './wordsOf.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

async function opened(title: string, scene: object = {}) {
  const event = await openEvent(world, {
    title,
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T23:00',
    ...scene,
  });
  const { page } = await odalys.call('PUT /api/events/:id/self-check-in', {
    params: { id: event.id },
    body: { on: true },
  });
  return { event, token: page!.split('/').at(-1)! };
}
const book = (event: OpenEvent, given: readonly string[], email: string, phone = '') =>
  odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: {
      ...orderFor(
        event,
        given.map((name) => ({ given: name, family: 'Harrow', birthDate: '1990-01-01' })),
      ),
      buyer: { given: given[0]!, family: 'Harrow', email, phone },
    },
  });
const here = (token: string, given: string, known: string, more: object = {}) =>
  world.anyone.try('POST /api/public/here/:token', {
    params: { token },
    body: { given, family: 'Harrow', known, ...more },
  });
const inside = async (event: OpenEvent) =>
  (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).rows
    .filter((r) => r.attendance === 'arrived')
    .map((r) => r.given)
    .sort();

test('somebody says that they are here, once; their booking comes along, and nobody else’s name is told', async () => {
  const { event, token } = await opened('By The Poster');
  await book(event, ['Asta', 'Bror', 'Cilla'], 'asta@harrow.example', '902-555-0142');
  await book(event, ['Dag'], 'dag@harrow.example');
  const first = await here(token, 'Asta', 'asta@harrow.example');
  expect(first.body).toEqual({ outcome: 'in', others: 2, sign: null });
  expect(await inside(event)).toEqual(['Asta']);
  expect((await here(token, 'Asta', '0142')).body).toEqual({ outcome: 'already in', others: 2, sign: null });
  expect((await here(token, 'Asta', '0142', { others: true })).body).toEqual({
    outcome: 'in',
    others: 0,
    sign: null,
  });
  expect(await inside(event)).toEqual(['Asta', 'Bror', 'Cilla']);
  // Of whoever is not found, and of what is somebody else's, the answer is the same.
  const stranger = await here(token, 'Dag', 'asta@harrow.example');
  expect(stranger.body).toEqual((await here(token, 'Nobody', 'no@where.example')).body);
  expect(JSON.stringify([first.body, stranger.body])).not.toMatch(/Bror|Cilla|Harrow/u);
  expect((await here(token, 'Dag', '')).problem.fields).toMatchObject([
    { path: 'known', code: 'known-by-needed' },
  ]);
  const marks = await world.app.db.query<{ n: number }>(
    'select count(*)::int as n from attendance_marks m join registrations r on r.id = m.registration_id where r.event_id = $1',
    [event.id],
  );
  expect(marks[0]!.n).toBe(3);
});

test('whoever has something to settle is sent to the door, and no more is said', async () => {
  const { event, token } = await opened('Something Open', { price: 2500 });
  await book(event, ['Elof'], 'elof@harrow.example');
  expect((await here(token, 'Elof', 'elof@harrow.example')).body).toEqual({
    outcome: 'see the door',
    others: 0,
    sign: null,
  });
  expect(await inside(event)).toEqual([]);
  const { event: signed, token: signedToken } = await opened('Unsigned', { waiver: 'On the water' });
  await book(signed, ['Frode'], 'frode@harrow.example');
  expect((await here(signedToken, 'Frode', 'frode@harrow.example')).body.outcome).toBe('see the door');
});

test('where somebody was is kept only where they say so', async () => {
  const { event, token } = await opened('Placed');
  await book(event, ['Gry'], 'gry@harrow.example');
  await book(event, ['Hege'], 'hege@harrow.example');
  await here(token, 'Gry', 'gry@harrow.example', { place: { latitude: 44.65, longitude: -63.57 } });
  await here(token, 'Hege', 'hege@harrow.example');
  const kept = await world.app.db.query(
    `select r.given_name as given, m.latitude, m.device from attendance_marks m join registrations r on r.id = m.registration_id
     where r.event_id = $1 order by 1`,
    [event.id],
  );
  expect(kept).toEqual([
    { given: 'Gry', latitude: 44.65, device: 'themselves' },
    { given: 'Hege', latitude: null, device: 'themselves' },
  ]);
});

test('the code opens on the day alone, and nothing once it was stopped; a new one is another', async () => {
  const { event, token } = await opened('Another Day', {
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T16:00',
  });
  await book(event, ['Iver'], 'iver@harrow.example');
  const page = (of: string) => world.anyone.try('GET /api/public/here/:token', { params: { token: of } });
  expect((await page(token)).body).toMatchObject({ title: 'Another Day', open: false });
  expect((await here(token, 'Iver', 'iver@harrow.example')).body.outcome).toBe('see the door');
  const pdf = await odalys.call('GET /api/events/:id/self-check-in.pdf', { params: { id: event.id } });
  expect((await wordsOf(pdf as never as Buffer))[0]).toContain('Another Day');
  const set = (on: boolean) =>
    odalys.call('PUT /api/events/:id/self-check-in', { params: { id: event.id }, body: { on } });
  expect((await set(false)).page).toBeNull();
  expect((await page(token)).status).toBe(404);
  const { page: again } = await set(true);
  expect(again).not.toContain(token);
  expect((await page(again!.split('/').at(-1)!)).status).toBe(200);
});

test('in an emergency everybody inside is there, children first, with whom to call; the reading is written down', async () => {
  const { event, token } = await opened('Fire Drill');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: {
      ...orderFor(event, [
        { given: 'Jorun', family: 'Harrow', birthDate: '1985-01-01' },
        { given: 'Kåre', family: 'Harrow', birthDate: '2017-01-01' },
        { given: 'Late', family: 'Harrow', birthDate: '1985-01-01' },
      ]),
      buyer: { given: 'Jorun', family: 'Harrow', email: 'jorun@harrow.example', phone: '902-555-0155' },
    },
  });
  const { rows } = await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
  for (const given of ['Jorun', 'Kåre'])
    await odalys.call('POST /api/registrations/:id/attendance', {
      params: { id: rows.find((r) => r.given === given)!.registrationId },
      body: { eventId: event.id, state: 'arrived' },
    });
  expect(token).toBeTruthy();
  const inside = await odalys.call('GET /api/events/:id/inside', { params: { id: event.id } });
  expect(inside.rows.map((r) => [r.name, r.minor])).toEqual([
    ['Kåre Harrow', true],
    ['Jorun Harrow', false],
  ]);
  expect(inside.rows[0]!.call).toContain('Jorun Harrow');
  expect(inside.rows[0]!.call).toContain('555-0155');
  const read = await world.app.db.query('select 1 from care_reads where event_id = $1', [event.id]);
  expect(read).toHaveLength(2);
  const pdf = await odalys.call('GET /api/events/:id/inside.pdf', { params: { id: event.id } });
  const [page] = await wordsOf(pdf as never as Buffer);
  expect(page).toContain('of whom under age: 1');
  expect(page).not.toContain('Late');
  // Whoever leads the crew and no more does not get at whom to call.
  const imani = await world.as('imani');
  expect((await imani.try('GET /api/events/:id/inside', { params: { id: event.id } })).status).toBe(403);
});

test('on a shared device what is missing is signed for a family and lets them in; the poster tells nobody of it', async () => {
  const { event, token } = await opened('Signed On A Tablet', {
    so: ['minors'],
    waiver: 'Children in our care',
  });
  const { kiosk } = await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
  const tablet = new URL(kiosk!).pathname.split('/').at(-1)!;
  expect(tablet).not.toBe(token);
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: {
      ...orderFor(event, [
        { given: 'Inga', family: 'Harrow', birthDate: '1988-01-01' },
        { given: 'Jon', family: 'Harrow', birthDate: '2016-01-01' },
        { given: 'Kari', family: 'Harrow', birthDate: '2018-01-01' },
      ]),
      buyer: { given: 'Inga', family: 'Harrow', email: 'inga@harrow.example', phone: '' },
    },
  });
  const other = await book(event, ['Other'], 'other@harrow.example');
  // She has nothing to sign for herself; for the children it is asked once they are said to be here.
  expect((await here(tablet, 'Inga', 'inga@harrow.example')).body).toEqual({
    outcome: 'in',
    others: 2,
    sign: null,
  });
  const poster = await here(token, 'Inga', 'inga@harrow.example', { others: true });
  expect(poster.body).toEqual({ outcome: 'see the door', others: 2, sign: null });
  const { body } = await here(tablet, 'Inga', 'inga@harrow.example', { others: true });
  expect(body.outcome).toBe('sign');
  expect(body.sign!.people.map((p) => [p.name, p.relation])).toEqual([
    ['Jon Harrow', 'guardian'],
    ['Kari Harrow', 'guardian'],
  ]);
  const [waiver] = body.sign!.waivers;
  const seats = body.sign!.people.map(({ registrationId, relation }) => ({
    registrationId,
    relation,
    answers: {},
  }));
  const sign = (of: string, more: object = {}) =>
    world.anyone.try('POST /api/public/here/:token/signatures', {
      params: { token: of },
      body: {
        ...signs(waiver!, 'Inga Harrow'),
        said: { given: 'Inga', family: 'Harrow', known: 'inga@harrow.example' },
        seats,
        ...more,
      },
    });
  // The code of the poster signs nothing; nobody signs without saying who they are, or for another booking.
  expect((await sign(token)).status).toBe(404);
  expect(
    (await sign(tablet, { said: { given: 'Inga', family: 'Harrow', known: 'no@where.example' } })).status,
  ).toBe(404);
  const rows = await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
  const stranger = rows.rows.find((r) => r.orderId === other.orderId)!.registrationId;
  expect(
    (
      await sign(tablet, {
        seats: [...seats, { registrationId: stranger, relation: 'guardian', answers: {} }],
      })
    ).status,
  ).toBe(404);
  expect((await sign(tablet, { typedName: '' })).status).toBe(422);
  expect((await sign(tablet)).body).toEqual({ done: true });
  expect((await here(tablet, 'Inga', 'inga@harrow.example', { others: true })).body).toEqual({
    outcome: 'in',
    others: 0,
    sign: null,
  });
  expect(await inside(event)).toEqual(['Inga', 'Jon', 'Kari']);
});
