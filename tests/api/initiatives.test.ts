import { afterAll, beforeAll, expect, test } from 'vitest';
import { shiftDate } from '#core/time/dates.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
let kilos: string;
let kinds: string;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  const measure = {
    unit: { en: 'kg' },
    direction: 'more',
    decimals: 0,
    most: null,
    enteredBy: 'team',
    lookedAt: false,
  } as const;
  kilos = (
    await odalys.call('POST /api/measures', {
      body: { ...measure, kind: 'sum', name: { en: 'Silt', fr: 'Vase' } },
    })
  ).id;
  kinds = (
    await odalys.call('POST /api/measures', {
      body: { ...measure, kind: 'distinct', unit: { en: '' }, name: { en: 'Kinds' } },
    })
  ).id;
});
afterAll(() => world.close());

const begin = (name: string) => odalys.call('POST /api/initiatives', { body: { name } });
const look = (id: string, who = odalys) => who.call('GET /api/initiatives/:id', { params: { id } });
const goal = (more: object = {}) => ({
  id: crypto.randomUUID(),
  of: 'measure' as const,
  measureId: kilos,
  target: 1000,
  from: '2026-01-01',
  by: '2026-12-31',
  ...more,
});
const put = (id: string, goals: object[], version: number, about = '', fundId: string | null = null) =>
  odalys.try('PUT /api/initiatives/:id', {
    params: { id },
    body: { about, fundId, goals: goals as never, version },
  });

/** An event in the past that counts towards some initiatives. */
async function held(title: string, day: string, initiativeIds: string[], entries: object[]) {
  const event = await openEvent(world, { title });
  // Its date is put in the past behind the plan: what is tested is what was counted on it.
  await saveIt(odalys, event.id, {
    outcomes: {
      measures: [kilos, kinds].map((measureId) => ({ measureId, planned: null })),
      opensDays: 0,
      closesDays: 1,
      initiativeIds,
    },
  });
  await world.app.db.query(
    `update events set starts_at = $2::timestamptz, ends_at = $2::timestamptz + interval '3 hours', starts_local = $3, ends_local = $4 where id = $1`,
    [event.id, `${day}T15:00:00.000Z`, `${day}T12:00`, `${day}T15:00`],
  );
  if (entries.length)
    await odalys.call('POST /api/events/:id/tallies', {
      params: { id: event.id },
      body: { entries: entries as never, countedLocal: `${day}T14:00` },
    });
  return event;
}
const silt = (said: string) => ({ measureId: kilos, said });

test('what events count comes to the goals of their initiatives, and is said as things go', async () => {
  const { id } = await begin('Clear Water');
  const { id: other } = await begin('Another Water');
  const days = Array.from({ length: 12 }, (_, at) => shiftDate('2026-01-10', at * 14));
  for (const [at, day] of days.entries())
    await held(`Cut ${at}`, day, at === 3 ? [id, other] : [id], [
      silt('40'),
      { measureId: kinds, thing: at % 2 ? 'Sora' : 'Grey heron' },
    ]);
  // Before it counts from, and of no initiative.
  await held('Too early', '2025-12-20', [id], [silt('500')]);
  await held('Of nothing', '2026-03-20', [], [silt('500')]);
  const goals = [
    goal(),
    goal({ measureId: kinds, target: 5 }),
    goal({ of: 'hours', measureId: null, target: 10 }),
  ];
  expect((await put(id, goals, 1, 'Silt and litter')).status).toBe(200);
  const shown = await look(id);
  expect(shown).toMatchObject({
    name: 'Clear Water',
    about: 'Silt and litter',
    version: 2,
    today: '2026-07-09',
  });
  expect(shown.goals[0]).toMatchObject({ value: 480, state: 'under way', target: 1000, unit: { en: 'kg' } });
  expect(shown.goals[0]!.ahead!.value).toBeCloseTo(480 + (480 * 175) / 190, 6);
  expect(shown.goals[0]!.days).toHaveLength(12);
  expect(shown.goals[0]!.days.at(-1)).toEqual({ on: days.at(-1), value: 480 });
  expect(shown.goals[1]).toMatchObject({ value: 2, ahead: null, kind: 'distinct' });
  expect(shown.goals[2]).toMatchObject({ value: 0, name: { en: 'Volunteer hours' } });
  expect(shown.events).toHaveLength(13);
  expect(shown.events[0]!.brought).toMatchObject({
    [goals[0]!.id]: 40,
    [goals[1]!.id]: 1,
    [goals[2]!.id]: null,
  });
  expect(shown.events.find((e) => e.title === 'Too early')!.brought[goals[0]!.id]).toBeNull();
  expect((await look(other)).events.map((e) => e.title)).toEqual(['Cut 3']);
  const all = await odalys.call('GET /api/initiatives');
  expect(all.find((i) => i.id === id)).toMatchObject({
    events: 13,
    goals: [{ value: 480 }, { value: 2 }, {}],
  });
  // Called off, it counts no more.
  await world.app.db.query("update events set state = 'called off' where public_title = 'Cut 5'");
  expect((await look(id)).goals[0]!.value).toBe(440);
});

test('gifts for an initiative and to its fund come to it, in the currency of the organization', async () => {
  const { id } = await begin('Hide');
  const event = await held('Supper', '2026-05-10', [id], []);
  const { funds } = await odalys.call('GET /api/choices');
  const give = (row: object) =>
    world.app.db.query(
      `insert into donations (id, fund_id, amount, currency, at, initiative_id, event_id)
       select $1, coalesce((r->>'fund')::uuid, $2), (r->>'amount')::bigint, r->>'currency', '2026-05-10T12:00:00Z', (r->>'initiative')::uuid, (r->>'event')::uuid from (select $3::jsonb as r) x`,
      [crypto.randomUUID(), funds[0]!.id, JSON.stringify(row)],
    );
  await give({ amount: 12_500, currency: 'CAD', initiative: id });
  await give({ amount: 2_500, currency: 'CAD', event: event.id, fund: funds[1]!.id });
  await give({ amount: 7_700, currency: 'CAD', event: event.id });
  await give({ amount: 9_900, currency: 'USD', initiative: id });
  await give({ amount: 9_900, currency: 'CAD' });
  // Taken back, it is gone.
  await give({ amount: -500, currency: 'CAD', initiative: id });
  const gifts = goal({ of: 'gifts', measureId: null, target: 200 });
  expect((await put(id, [gifts], 1, '', crypto.randomUUID())).problem.fields).toMatchObject([
    { path: 'fundId', code: 'thing-gone' },
  ]);
  await put(id, [gifts], 1, '', funds[1]!.id);
  const shown = await look(id);
  expect(shown.goals[0]).toMatchObject({ value: 145, unit: { en: 'CAD' } });
  expect(Object.values(shown.events[0]!.brought)).toEqual([25]);
});

test('a goal needs a day that is to come, and something that counts; two do not change one over each other', async () => {
  const { id } = await begin('Wanted');
  const wrong = await put(
    id,
    [
      goal({ by: '2026-07-09' }),
      goal({ measureId: null }),
      goal({ from: '2026-12-31' }),
      goal({ target: -1 }),
    ],
    1,
  );
  expect(wrong.problem.fields?.map((f) => `${f.path} ${f.code}`)).toEqual([
    'goals.1.measureId measure-needed',
    'goals.2.by goal-ends-before',
    'goals.3.target zero-or-more',
  ]);
  const late = await put(id, [goal({ by: '2026-07-09' }), goal({ measureId: crypto.randomUUID() })], 1);
  expect(late.problem.fields?.map((f) => `${f.path} ${f.code}`)).toEqual([
    'goals.0.by goal-passed',
    'goals.1.measureId thing-gone',
  ]);
  const soon = goal({ by: '2026-07-11' });
  expect((await put(id, [soon], 1)).status).toBe(200);
  expect((await put(id, [], 1)).problem.code).toBe('initiative-changed');
  await world.moveTo('2026-07-20T12:00:00.000Z');
  expect((await look(id)).goals[0]).toMatchObject({ state: 'missed', ahead: null });
  // What was set stays as it was, and cannot be set anew.
  expect((await put(id, [soon], 2, 'Over')).status).toBe(200);
  expect((await put(id, [{ ...soon, target: 1 }], 3)).problem.fields).toMatchObject([
    { code: 'goal-passed' },
  ]);
  // What is entered afterwards does not come to it.
  await held('Afterwards', '2026-07-15', [id], [silt('5000')]);
  expect((await look(id)).goals[0]).toMatchObject({ state: 'missed', value: 0 });
});

test('its progress stands on other pages as long as it is shown, in either language, and tells nothing else', async () => {
  const { id } = await begin('<b>Shown</b>');
  await put(id, [goal({ by: '2027-12-31' })], 1);
  await held('Shown by', '2026-07-18', [id], [silt('250')]);
  const set = (on: boolean) =>
    odalys.call('PUT /api/initiatives/:id/widget', { params: { id }, body: { on } });
  const { widget } = await set(true);
  expect((await set(true)).widget).toBe(widget);
  expect((await look(id)).widget).toBe(widget);
  const page = await fetch(widget!);
  const html = await page.text();
  expect(page.headers.get('content-security-policy')).toContain('frame-ancestors *');
  expect(page.headers.get('content-security-policy')).toContain("default-src 'none'");
  expect(page.headers.get('x-frame-options')).toBeNull();
  expect(html).toContain('&lt;b&gt;Shown&lt;/b&gt;');
  expect(html).toContain('250\u00a0kg of 1,000\u00a0kg, by 31 Dec 2027');
  expect(html).toContain('width:25%');
  expect(html).not.toMatch(/script|Shown by/u);
  expect(await (await fetch(`${widget}?lang=fr`)).text()).toContain('Vase');
  const token = widget!.split('/').at(-1)!;
  const shown = await world.anyone.call('GET /api/public/initiatives/:token', { params: { token } });
  expect(shown.goals).toMatchObject([{ value: 250, target: 1000 }]);
  expect(Object.keys(shown)).toEqual(['name', 'organization', 'goals']);
  await set(false);
  expect((await fetch(widget!)).status).toBe(404);
  expect((await world.anyone.try('GET /api/public/initiatives/:token', { params: { token } })).status).toBe(
    404,
  );
  expect((await set(true)).widget).not.toBe(widget);
  expect((await fetch(widget!)).status).toBe(404);
  const gone = { params: { id: crypto.randomUUID() } };
  for (const status of [
    (await odalys.try('GET /api/initiatives/:id', gone)).status,
    (await odalys.try('PUT /api/initiatives/:id/widget', { ...gone, body: { on: true } })).status,
    (await put(gone.params.id, [], 1)).status,
  ])
    expect(status).toBe(404);
});
