import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { bookFor, type OpenEvent, openEvent, surveyOf } from './scenes.ts';
import { Surveying } from './surveying.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const rowsOf = async (event: Pick<OpenEvent, 'id'>) =>
  (await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } })).rows;
const mark = async (event: OpenEvent, given: string, state: 'arrived' | 'left') =>
  odalys.call('POST /api/registrations/:id/attendance', {
    params: { id: (await rowsOf(event)).find((r) => r.given === given)!.id },
    body: { eventId: event.id, state },
  });
const book = async (event: OpenEvent, given: readonly string[]) => {
  for (const name of given)
    await bookFor(world, event, [name], { email: `${name.toLowerCase()}@sedge.example` });
};
/** Holds an event of today, with who comes; the clock is moved beyond its end. */
async function held(
  title: string,
  local: string,
  came: readonly string[],
  absent: readonly string[] = [],
  from?: string,
) {
  let event: OpenEvent;
  const end = `${local.slice(0, 11)}${String(Number(local.slice(11, 13)) + 2).padStart(2, '0')}:00`;
  if (from) {
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: title, from, date: local.slice(0, 10) },
    });
    await saveIt(odalys, id, { startsLocal: local, endsLocal: end });
    await world.app.db.query("update events set state = 'open' where id = $1", [id]);
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id } });
    event = { id, slug: plan.slug!, offers: plan.offers as never, questions: [] };
  } else event = await openEvent(world, { title, startsLocal: local, endsLocal: end, unit: 'Small Boats' });
  await book(event, [...came, ...absent]);
  const [{ startsAt, endsAt }] = (await world.app.db.query<{ startsAt: string; endsAt: string }>(
    'select starts_at, ends_at from events where id = $1',
    [event.id],
  )) as [{ startsAt: string; endsAt: string }];
  await world.moveTo(startsAt);
  for (const name of came) await mark(event, name, 'arrived');
  await world.moveTo(new Date(Date.parse(endsAt) + 13 * 3_600_000).toISOString());
  return event;
}
const compared = async (...events: Pick<OpenEvent, 'id'>[]) =>
  odalys.call('GET /api/records/events', { query: { ids: events.map((e) => e.id).join(',') } as never });

let first: OpenEvent;
let second: OpenEvent;
test('events stand side by side with everything they came to, as it changes', async () => {
  first = await held('Bay Walk', '2026-07-10T10:00', ['Asta', 'Bror', 'Cilla'], ['Dag']);
  second = await held('Bay Walk', '2026-07-20T10:00', ['Asta', 'Eira'], ['Bror'], first.id);
  const { events, differs } = await compared(first, second);
  expect(events.map((e) => [e.on, e.registered, e.came, e.missed, e.firstTimers, e.people, e.unit])).toEqual([
    ['2026-07-10', 4, 3, 1, 3, 3, 'Small Boats'],
    ['2026-07-20', 3, 2, 1, 1, 2, 'Small Boats'],
  ]);
  expect(events[0]!.kind).toBe(events[1]!.kind);
  expect(differs).toEqual([
    'Nothing differs by more than chance would make it, and no amount a head by half.',
  ]);
  // What is put right afterwards is there at once: Dag had been there.
  const [dag] = (await rowsOf(first)).filter((r) => r.given === 'Dag');
  await odalys.call('PUT /api/registrations/:id/attendance', {
    params: { id: dag!.id },
    body: {
      stays: [{ fromLocal: '2026-07-10T10:00', untilLocal: null }],
      why: 'Forgotten at the gate',
    },
  });
  expect((await compared(first)).events[0]).toMatchObject({ came: 4, missed: 0 });
  // A seat that is given up, and one more at the next.
  await odalys.call('POST /api/events/:id/costs', {
    params: { id: second.id },
    body: { what: 'Tea', line: '', amount: 900, on: '2026-07-20', paidFrom: 'cash' },
  });
  expect((await compared(second)).events[0]!.money).toEqual({ seats: 0, extras: 0, gifts: 0, costs: 900 });
  expect((await compared(second)).events[0]!.hours).toBe(0);
});

test('what counts of members, of what was counted and of what people said', async () => {
  const surveying = new Surveying(world);
  const asked = await surveying.held(
    [surveyOf([{ id: 'r', kind: 'recommend' }])],
    { came: ['Fenna', 'Gry'] },
    { title: 'Asked Walk', startsLocal: '2026-07-23T10:00', endsLocal: '2026-07-23T12:00' },
  );
  await surveying.answer(asked.tokens.get('Fenna')!, { r: 10 });
  await surveying.answer(asked.tokens.get('Gry')!, { r: 3 });
  expect((await compared(asked.event)).events[0]!.recommend).toEqual({ would: 1, not: 1, n: 2 });
  const [row] = (await rowsOf(second)).filter((r) => r.given === 'Asta');
  await world.app.db.query(
    "insert into memberships (id, contact_id, level, since, starts_on, ends_on, created_at) values (gen_random_uuid(), $1, 'Friend', '2026', '2026-01-01', '2026-07-19', now())",
    [row!.contactId],
  );
  const { events } = await compared(first, second);
  expect(events.map((e) => e.members)).toEqual([1, 0]);
});

test('the history answers: series, returns, paths, audiences, timing, units', async () => {
  const series = await odalys.call('GET /api/records/series');
  const walk = series.find((s) => s.title === 'Bay Walk')!;
  expect(walk.times.map((t) => [t.on, t.registered, t.came, t.firstTimers])).toEqual([
    ['2026-07-10', 4, 4, 4],
    ['2026-07-20', 3, 2, 1],
  ]);
  expect(walk.finding).toBe('3 came on average.');
  const returns = await odalys.call('GET /api/records/returns');
  expect(returns.byYear.find((c) => c.key === '2026')!.within).toEqual([null, null, null]);
  const paths = await odalys.call('GET /api/records/paths');
  expect(
    paths.paths.find((p) => p.first.title === 'Bay Walk' && p.second?.title === 'Bay Walk'),
  ).toMatchObject({
    people: 1,
    days: 10,
  });
  const { audiences } = await odalys.call('GET /api/records/audiences');
  expect(audiences.find((a) => a.title === 'Bay Walk')!.people).toBe(5);
  const { timing } = await odalys.call('GET /api/records/timing');
  expect(timing[0]!.kind).toBeNull();
  const units = await odalys.call('GET /api/records/units');
  expect(units.find((u) => u.unit === 'Small Boats' && u.year === '2026')).toMatchObject({
    events: 2,
    came: 6,
    people: 5,
    firstTimers: 5,
  });
});

test('who drifts away is found by their own rhythm, with why, and not when nothing may be sent to them', async () => {
  let last = first;
  const days = [
    '2026-08-03',
    '2026-08-17',
    '2026-08-31',
    '2026-09-14',
    '2026-09-28',
    '2026-10-12',
    '2026-10-26',
    '2026-11-09',
    '2026-11-23',
  ];
  for (const [at, day] of days.entries())
    last = await held(
      'Bay Walk',
      `${day}T10:00`,
      at < 4 ? ['Hedda', 'Ivar', 'Jorun'] : ['Jorun'],
      [],
      last.id,
    );
  await world.moveTo('2026-12-20T12:00:00.000Z');
  const { all, people } = await odalys.call('GET /api/records/drifting');
  const named = people.filter((p) => /Hedda|Ivar|Jorun/u.test(p.name));
  expect(named.map((p) => p.name).sort()).toEqual(['Hedda Sedge', 'Ivar Sedge']);
  expect(all).toBe(people.length);
  expect(named[0]).toMatchObject({ times: 4, lastOn: '2026-09-14', lastEvent: 'Bay Walk', quiet: false });
  expect(named[0]!.why).toBe(
    'Came 4 times, every 2 weeks or so and never more than 2 weeks apart. Not for 3 months now; Bay Walk took place 5 times since.',
  );
  const hedda = named.find((p) => p.name.startsWith('Hedda'))!;
  const ivar = named.find((p) => p.name.startsWith('Ivar'))!;
  await world.app.db.query('update contacts set do_not_contact = true where id = $1', [hedda.id]);
  const again = await odalys.call('GET /api/records/drifting');
  expect(again.people.find((p) => p.id === hedda.id)!.quiet).toBe(true);
  expect(again.reachable).toBe(again.all - 1);
  await odalys.call('POST /api/contacts/:id/erase', {
    params: { id: ivar.id },
    body: { name: 'Ivar Sedge' },
  });
  const names = (await odalys.call('GET /api/records/drifting')).people.map((p) => p.name);
  expect(names).not.toContain('Ivar Sedge');
  expect(names).not.toContain('Erased');
});

test('a merge counts two records as one, and one that is told apart as two', async () => {
  const event = await held('Merged Walk', '2026-12-28T10:00', ['Karin', 'Lars']);
  const before = (await compared(event)).events[0]!;
  expect(before).toMatchObject({ came: 2, people: 2, firstTimers: 2 });
  const rows = await rowsOf(event);
  await world.app.db.query('update registrations set contact_id = $2 where id = $1', [
    rows[0]!.id,
    rows[1]!.contactId,
  ]);
  expect((await compared(event)).events[0]).toMatchObject({ came: 2, people: 1, firstTimers: 1 });
});

test('what is asked for badly is said, and nobody compares events that are not theirs', async () => {
  const ask = (ids: string, who = odalys) => who.try('GET /api/records/events', { query: { ids } as never });
  expect((await ask('')).problem.fields).toMatchObject([{ path: 'ids', code: 'events-needed' }]);
  expect((await ask('nonsense')).status).toBe(422);
  expect((await ask(crypto.randomUUID())).status).toBe(404);
  expect(
    (await ask(Array.from({ length: 61 }, () => crypto.randomUUID()).join(','))).problem.fields,
  ).toMatchObject([{ code: 'events-at-most-60' }]);
  const other = await openEvent(world, {
    title: 'Of others',
    unit: 'Mudlarks',
    startsLocal: '2027-03-01T10:00',
    endsLocal: '2027-03-01T12:00',
  });
  const piers = await world.as('piers');
  expect((await ask(first.id, piers)).status).toBe(200);
  expect((await ask(`${first.id},${other.id}`, piers)).status).toBe(403);
  const units = await piers.call('GET /api/records/units');
  expect([...new Set(units.map((u) => u.unit))]).toEqual(['Small Boats']);
});
