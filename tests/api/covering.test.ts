import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { lookAt, plan, saveIt } from './plans.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });

/** A draft with boats that is the first of a monthly series, made three months ahead. */
async function series(title: string, opens = false) {
  const first = await plan(world, title, {
    startsLocal: '2026-09-02T19:00',
    endsLocal: '2026-09-02T21:00',
  });
  const { id } = await odalys.call('POST /api/series', {
    body: {
      eventId: first.id,
      rule: 'FREQ=MONTHLY;BYDAY=1WE',
      startsLocal: '2026-09-02T19:00',
      extra: [],
      skipped: [],
      horizon: 4,
      opens,
    },
  });
  const dates = async () =>
    (await odalys.call('GET /api/series/:id', { params: { id } })).dates.map((d) => ({
      id: d.id,
      date: d.slot.slice(0, 10),
      state: d.state,
    }));
  return { first, id, dates };
}
const states = (dates: { date: string; state: string }[]) => dates.map((d) => `${d.date} ${d.state}`);

test('one clearance covers the dates that are alike; another is sent by itself, and asked again when it changes', async () => {
  const { first, dates } = await series('Moon Paddle');
  const [, second, third] = await dates();
  // One of them looks at something else.
  await saveIt(odalys, third!.id, { capacity: 80 });
  const { coverage } = await first.look();
  expect(coverage).toEqual({
    alike: 1,
    differs: [{ id: third!.id, startsLocal: '2026-11-04T19:00', steps: expect.any(Array) }],
  });
  expect((await first.send('odalys', { coversSeries: true })).status).toBe(201);
  expect((await first.look()).coversSeries).toBe(true);
  await first.decide('marit', 'Finance', { decision: 'clear' });
  expect(states(await dates())).toEqual(['2026-09-02 in clearance', '2026-10-07 draft', '2026-11-04 draft']);
  await first.decide('tobias', 'Safety', {
    decision: 'clear with conditions',
    words: 'Two boats.',
    conditions: [{ what: 'A second boat.', ownerId: null, dueOn: '2026-08-30', blocks: true }],
  });
  expect(states(await dates())).toEqual(['2026-09-02 cleared', '2026-10-07 cleared', '2026-11-04 draft']);
  const covered = await lookAt(odalys, second!.id);
  expect(covered).toMatchObject({
    standing: 'cleared',
    coveredBy: { id: first.id, startsLocal: '2026-09-02T19:00' },
    // As long before its own date as there.
    conditions: [{ what: 'A second boat.', dueOn: '2026-10-04', blocks: true }],
  });
  expect(covered.steps.map((s) => [s.step, s.state, s.decidedBy])).toEqual([
    ['Safety', 'cleared with conditions', 'Tobias Wren-Achebe'],
    ['Finance', 'cleared', 'Marit Solvang'],
  ]);
  // Its condition is its own: it opens once that is met there.
  const opened = await odalys.try('POST /api/events/:id/state', {
    params: { id: second!.id },
    body: { move: 'open' },
  });
  expect(opened.problem.code).toBe('conditions-open');
  // What is changed there is decided there, and nowhere else.
  await saveIt(odalys, second!.id, { capacity: 80 });
  expect(states(await dates())).toEqual([
    '2026-09-02 cleared',
    '2026-10-07 in clearance',
    '2026-11-04 draft',
  ]);
});

test('a date that is made later is cleared too, and opens where its series opens them; of another unit, or unlike, it does not', async () => {
  const { first, id, dates } = await series('Star Paddle', true);
  await first.send('odalys', { coversSeries: true });
  await first.decide('marit', 'Finance', { decision: 'clear' });
  await first.decide('tobias', 'Safety', { decision: 'clear' });
  const before = await dates();
  expect(before.map((d) => d.state)).toEqual(['cleared', 'cleared', 'cleared']);
  const body = await odalys.call('GET /api/series/:id', { params: { id } });
  const { version, rule, startsLocal, extra, skipped, opens } = body;
  await odalys.call('PATCH /api/series/:id', {
    params: { id },
    body: { version, rule, startsLocal, extra, skipped, opens, horizon: 6, from: null, decisions: [] },
  });
  const after = await dates();
  expect(after.length).toBeGreaterThan(before.length);
  expect(after.slice(before.length).map((d) => d.state)).toEqual(
    after.slice(before.length).map(() => 'open'),
  );
  expect((await page(after.at(-1)!.id)).state).toBe('open');
});

test('sent for itself alone, it clears nothing else', async () => {
  const { first, dates } = await series('Own Paddle');
  await first.send();
  await first.decide('marit', 'Finance', { decision: 'clear' });
  await first.decide('tobias', 'Safety', { decision: 'clear' });
  expect((await dates()).map((d) => d.state)).toEqual(['cleared', 'draft', 'draft']);
});
