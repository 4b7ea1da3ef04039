import { afterAll, beforeAll, expect, test } from 'vitest';
import { answered } from '#core/clearance/facts.ts';
import { plainQuestion } from '#core/questions/question.ts';
import { tidyUp } from '#server/jobs/housekeeping.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor, surveyOf } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());
const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
const change = async (id: string, change: object) =>
  odalys.call('PATCH /api/events/:id', {
    params: { id },
    body: { version: (await page(id)).version, change: change as never },
  });

test('a copy has the questions, asked of the same offers, and the survey; a survey that was dropped comes back', async () => {
  const question = {
    id: crypto.randomUUID(),
    ...plainQuestion,
    scope: 'attendee' as const,
    kind: 'text' as const,
    prompt: { en: 'Anything we should know?' },
    required: false,
    choices: [] as string[],
  };
  const event = await openEvent(world, {
    title: 'Asked again',
    questions: [question],
    surveys: [surveyOf([{ id: 'again', kind: 'scale' }], { anonymous: true })],
  });
  const { id } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Asked again', from: event.id, date: '2027-08-07' },
  });
  const { plan } = await page(id);
  expect(plan.questions.map((q) => q.prompt.en)).toEqual(['Anything we should know?']);
  expect(plan.questions[0]!.id).not.toBe(question.id);
  expect(plan.surveys).toMatchObject([
    { title: { en: 'How was it?' }, pages: [{ questions: [{ id: 'again' }] }] },
  ]);
  await change(id, { surveys: [] });
  expect((await page(id)).plan.surveys).toEqual([]);
  await change(id, { surveys: [{ ...plan.surveys[0]!, title: { en: 'And again?' } }] });
  expect((await page(id)).plan.surveys).toMatchObject([{ title: { en: 'And again?' } }]);
});

test('a fact that comes after clearing brings the step that it needs, and only that', async () => {
  const event = await openEvent(world, { title: 'Boats after all', so: ['money'], price: 500 });
  const steps = async () =>
    (await odalys.call('GET /api/events/:id/clearance', { params: { id: event.id } })).steps.map((s) => [
      s.step,
      s.state,
    ]);
  expect(await steps()).toEqual([['Finance', 'cleared']]);
  await change(event.id, { facts: answered('money', 'boats') });
  expect(new Map((await steps()) as [string, string][])).toEqual(
    new Map([
      ['Finance', 'cleared'],
      ['Safety', 'with approver'],
    ]),
  );
});

test('what has served its time is forgotten: answers to repeated creates, addresses of holds, sessions that ran out', async () => {
  const event = await openEvent(world, { title: 'Held a while', price: 500 });
  const key = crypto.randomUUID();
  const place = () =>
    world.anyone.call(
      'POST /api/public/events/:slug/orders',
      { params: { slug: event.slug }, body: orderFor(event, [{ given: 'Ida', family: 'Waits' }]) },
      { 'idempotency-key': key },
    );
  const first = await place();
  expect((await place()).token).toBe(first.token);
  await world.app.db.query("update orders set held_from = 'somewhere'");
  const count = async (sql: string) =>
    (await world.app.db.query<{ n: number }>(`select count(*)::int as n from ${sql}`))[0]!.n;
  await tidyUp(world.app);
  expect(await count('idempotency where response is not null')).toBeGreaterThan(0);
  expect(await count('orders where held_from is not null')).toBeGreaterThan(0);
  expect(await count('sessions')).toBeGreaterThan(0);
  await world.moveTo('2026-07-11T12:20:00.000Z');
  const { sessionClock } = world.app;
  world.app.sessionClock = { now: () => '2030-01-01T00:00:00.000Z' };
  await tidyUp(world.app);
  world.app.sessionClock = sessionClock;
  expect(await count('idempotency')).toBe(0);
  expect(await count('orders where held_from is not null')).toBe(0);
  expect(await count('sessions')).toBe(0);
});
