import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { bookFor, openEvent } from './scenes.ts';
import { wordsOf } from './wordsOf.ts';

let world: World;
let odalys: Caller;
let marit: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  marit = await world.as('marit');
});
afterAll(() => world.close());

const begin = (body: object, who = odalys) =>
  who.try('POST /api/reports', { body: { title: 'The summer', ...body } });
const look = (id: string, who = odalys) => who.call('GET /api/reports/:id', { params: { id } });
const pdf = async (id: string) =>
  (
    await wordsOf(
      (
        await odalys.try('GET /api/reports/:id/report.pdf', { params: { id } })
      ).body as never as Buffer,
    )
  ).join('\n');

/** An event of the past in behind the plan, with who came. */
async function held(title: string, day: string, given: readonly string[], unit = 'Small Boats') {
  const event = await openEvent(world, {
    title,
    unit,
    startsLocal: '2026-07-10T10:00',
    endsLocal: '2026-07-10T12:00',
  });
  for (const name of given)
    await bookFor(world, event, [name], { email: `${name.toLowerCase()}@sedge.example` });
  await world.app.db.query(
    `update events set starts_at = $2::timestamptz, ends_at = $2::timestamptz + interval '2 hours', starts_local = $3, ends_local = $4, state = 'wrapped' where id = $1`,
    [event.id, `${day}T13:00:00.000Z`, `${day}T10:00`, `${day}T12:00`],
  );
  await world.app.db.query("update attendance set state = 'arrived', arrived_at = $2 where event_id = $1", [
    event.id,
    `${day}T13:00:00.000Z`,
  ]);
  return event;
}

test('a report is put together from the figures, says what nobody wrote, and keeps what somebody did', async () => {
  await held('May Walk', '2026-05-10', ['Asta', 'Bror', 'Cilla']);
  const june = await held('June Walk', '2026-06-10', ['Asta', 'Dag']);
  await held('Last May', '2025-05-10', ['Asta']);
  await held('Of others', '2026-05-11', ['Eira'], 'Mudlarks');
  const units = (await odalys.call('GET /api/choices')).units;
  const boats = units.find((u) => u.name === 'Small Boats')!.id;
  const { id } = (await begin({ from: '2026-05-01', until: '2026-06-30', unitId: boats })).body;
  const shown = await look(id);
  expect(shown).toMatchObject({
    title: 'The summer',
    about: '1 May 2026 – 30 Jun 2026, Small Boats',
    written: [],
    version: 1,
  });
  expect(shown.events.map((e) => e.title)).toEqual(['May Walk', 'June Walk']);
  expect(shown.now).toMatchObject({ events: 2, came: 5, people: 4, firstTimers: 3 });
  expect([shown.before!.events, shown.before!.came, shown.beforeSaid]).toEqual([
    1,
    1,
    '1 May 2025 – 30 Jun 2025',
  ]);
  expect(shown.words.happened).toContain('2 events were held. 5 people came (400% more than before)');
  const put = (words: object, version: number, who = odalys) =>
    who.try('PUT /api/reports/:id', { params: { id }, body: { title: 'A good summer', words, version } });
  expect((await put({ asked: 'Two more canoes.', happened: '' }, 1)).status).toBe(200);
  expect((await put({}, 1)).problem.code).toBe('report-changed');
  const after = await look(id);
  expect(after).toMatchObject({ title: 'A good summer', written: ['asked'], version: 2 });
  expect(after.words.asked).toBe('Two more canoes.');
  expect(after.words.happened).toContain('5 people came');
  // The figures are those of now: one more came in June.
  await bookFor(world, june, ['Fenna'], { email: 'fenna@sedge.example' }).catch(() => undefined);
  await world.app.db.query("update events set state = 'called off' where public_title = 'June Walk'");
  expect((await look(id)).now).toMatchObject({ events: 1, calledOff: 1, came: 3 });
  expect((await look(id)).words.happened).toContain('1 event was called off');
  const printed = await pdf(id);
  for (const words of [
    'A good summer',
    'Brackenmere Wetland Trust',
    'What we planned',
    'What we ask',
    'Two more canoes.',
    'May Walk',
  ])
    expect(printed).toContain(words);
  expect(printed).toContain('Put together on Thursday 9 July 2026');
  expect((await odalys.call('GET /api/reports')).map((r) => r.title)).toEqual(['A good summer']);
});

test('of one event, beside the last time it was held; of a year beside the year before', async () => {
  const first = await held('Supper', '2025-05-20', ['Gry']);
  const again = await held('Supper', '2026-05-20', ['Gry', 'Hedda', 'Ivar']);
  await world.app.db.query('update events set first_of = $2 where id in ($1, $2)', [again.id, first.id]);
  const { id } = (await begin({ title: 'Supper', eventId: again.id })).body;
  const shown = await look(id);
  expect(shown).toMatchObject({ about: 'Supper', nowSaid: '20 May 2026', beforeSaid: '20 May 2025' });
  expect([shown.now.came, shown.before!.came]).toEqual([3, 1]);
  expect(shown.words.happened).toMatch(/^3 people came \(200% more than before\)/u);
  const year = (await begin({ title: 'A leap', from: '2024-01-01', until: '2024-12-31' })).body.id;
  expect(await look(year)).toMatchObject({
    about: '2024',
    nowSaid: '2024',
    beforeSaid: '2023',
    before: null,
  });
  const leap = (await begin({ title: 'A day', from: '2024-02-29', until: '2024-02-29' })).body.id;
  expect((await look(leap)).beforeSaid).toBe('28 Feb 2023');
  const long = (await begin({ title: 'Two years', from: '2024-01-01', until: '2025-12-31' })).body.id;
  expect((await look(long)).beforeSaid).toBe('31 Dec 2021 – 31 Dec 2023');
});

test('a report needs something it is about; only those write one who see everything', async () => {
  const wrong = async (body: object) => (await begin(body)).problem.fields?.map((f) => `${f.path} ${f.code}`);
  expect(await wrong({})).toEqual(['from report-about-needed']);
  expect(await wrong({ from: '2026-02-01', until: '2026-01-01' })).toEqual(['until goal-ends-before']);
  expect(await wrong({ title: ' ', from: '2026-01-01', until: '2026-02-01' })).toEqual(['title name-needed']);
  expect(await wrong({ eventId: crypto.randomUUID() })).toEqual(['eventId thing-gone']);
  const { id } = (await begin({ from: '2026-01-01', until: '2026-02-01' }, marit)).body;
  expect((await look(id, marit)).madeBy).toBe('Marit Solvang');
  for (const who of ['imani', 'piers'] as const)
    expect((await (await world.as(who)).try('GET /api/reports/:id', { params: { id } })).status).toBe(403);
  await odalys.call('DELETE /api/reports/:id', { params: { id } });
  expect((await odalys.try('GET /api/reports/:id', { params: { id } })).status).toBe(404);
  expect((await odalys.try('DELETE /api/reports/:id', { params: { id } })).status).toBe(404);
});
