import { afterAll, beforeAll, expect, test } from 'vitest';
import { answered } from '#core/clearance/facts.ts';
import { noConsequences } from '#core/events/consequences.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());
const params = () => ({ id: event.id });
const page = () => odalys.call('GET /api/events/:id', { params: params() });
const order = (given: string, waitlist = false) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given, family: 'Sedge' }], { waitlist }),
  });

/** Everything a try could leave behind: every table's rows, as one number each. Due work takes its lease and lets it go meanwhile. */
async function everything(): Promise<Record<string, string>> {
  const tables = await world.app.db.query<{ name: string }>(
    "select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and relname not in ('sessions', 'idempotency', 'leases') order by 1",
  );
  const sums: Record<string, string> = {};
  for (const { name } of tables) {
    const [row] = await world.app.db.query<{ sum: string }>(
      `select coalesce(md5(string_agg(t::text, '|' order by t::text)), '') as sum from "${name}" t`,
    );
    sums[name] = row!.sum;
  }
  return sums;
}

async function busyEvent(title: string): Promise<void> {
  event = await openEvent(world, { title, capacity: 2 });
  const { plan, version } = await page();
  const step = {
    kind: 'reminder' as const,
    moment: 'start' as const,
    offsetMinutes: 0,
    audience: 'orders' as const,
    subject: { en: 'Soon' },
    body: { en: 'See you there.' },
  };
  await odalys.call('PATCH /api/events/:id', {
    params: params(),
    body: {
      version,
      change: {
        messages: [
          ...plan.messages,
          { ...step, id: crypto.randomUUID(), name: 'A week before', offsetDays: -7 },
          { ...step, id: crypto.randomUUID(), name: 'The day before', offsetDays: -1 },
        ] as never,
      },
    },
  });
  for (const role of ['Landing', 'Sweep'])
    await odalys.call('POST /api/events/:id/shifts', {
      params: params(),
      body: { role, startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T12:00', needed: 2 },
    });
  await order('Ida');
  await order('Ole');
  await order('Una', true);
}

test('what a change would bring about is told, nothing of it is done, and then it is exactly that', async () => {
  await busyEvent('Moved, or not');
  const changes = [
    { startsLocal: '2026-08-15T09:00', endsLocal: '2026-08-15T16:30' },
    { capacity: 3 },
    { facts: answered('boats') },
    { zone: 'America/St_Johns' },
    { messages: [] },
  ];
  const told = [];
  for (const change of changes) {
    const { version } = await page();
    const before = await everything();
    const followed = await odalys.call('POST /api/events/:id/what-if', {
      params: params(),
      body: { version, change },
    });
    expect(await everything()).toEqual(before);
    const saved = await odalys.call('PATCH /api/events/:id', { params: params(), body: { version, change } });
    expect(saved.followed).toEqual(followed);
    told.push(followed);
  }
  const [moved, room, boats, zone, silent] = told;
  expect(moved).toMatchObject({ shiftsMoved: 2 });
  expect(moved!.messagesMoved).toBeGreaterThanOrEqual(4);
  expect(room).toMatchObject({ ...noConsequences, offered: [expect.stringContaining('Una')] });
  expect(boats).toMatchObject({ ...noConsequences, reopened: ['Safety'] });
  expect(zone).toMatchObject({ shiftsMoved: 2 });
  expect(silent!.messagesHeldBack).toBeGreaterThanOrEqual(4);
});

test('the same of calling off; what cannot be done is refused beforehand as it would be then', async () => {
  await busyEvent('Called off, or not');
  const before = await everything();
  const whatIf = (move: 'call off' | 'wrap up') =>
    odalys.try('POST /api/events/:id/what-if', { params: params(), body: { move } });
  const told = (await whatIf('call off')).body;
  expect(told).toMatchObject({ letGo: 1 });
  expect(told.messagesHeldBack).toBeGreaterThanOrEqual(4);
  expect((await whatIf('wrap up')).problem.code).toBe('not-over');
  expect(await everything()).toEqual(before);
  const { followed } = await odalys.call('POST /api/events/:id/state', {
    params: params(),
    body: { move: 'call off', words: 'storm' },
  });
  expect(followed).toEqual(told);
});
