import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Queries } from '#server/db/database.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

/** How many statements the server asks its database for a piece of work. */
async function statements(work: () => Promise<unknown>): Promise<number> {
  const real = world.app.db;
  let count = 0;
  const counted = <T extends Queries>(tx: T): Queries => ({
    ...(tx.kept && { kept: tx.kept }),
    query: (sql, params) => {
      count += 1;
      return tx.query(sql, params);
    },
  });
  // What is due is done before, and what comes due afterwards: neither is counted.
  await world.runner.run();
  const { wake } = world.app;
  world.app.wake = () => {};
  world.app.db = {
    ...real,
    ...counted(real),
    transaction: (run) => real.transaction((tx) => run(counted(tx))),
  };
  try {
    await work();
  } finally {
    world.app.db = real;
    world.app.wake = wake;
  }
  return count;
}
const someEvents = async (n: number) => {
  for (let at = 0; at < n; at += 1) await openEvent(world, { title: `Counted ${at} ${Math.random()}` });
};

test('the public list asks the same few questions however many events there are', async () => {
  await someEvents(1);
  const list = () => world.anyone.call('GET /api/public/events');
  const one = await statements(list);
  await someEvents(5);
  expect(await statements(list)).toBe(one);
  // Kinds and pictures are read apart: asked for in each of two thousand rows they took longer than all the rest.
  expect(one).toBeLessThanOrEqual(5);
  const shown = await list();
  expect(shown.events.length).toBeGreaterThanOrEqual(6);
});

test('the Desk asks the same few questions however many events there are', async () => {
  const desk = () => odalys.call('GET /api/desk');
  const one = await statements(desk);
  await someEvents(4);
  expect(await statements(desk)).toBe(one);
  expect(one).toBeLessThanOrEqual(24);
  expect((await desk()).openNow.length).toBeGreaterThanOrEqual(4);
});

test('an event page and a free order of two ask no more than they did', async () => {
  const event = await openEvent(world, { title: 'Asked of once' });
  const page = () => odalys.call('GET /api/events/:id', { params: { id: event.id } });
  // That somebody was here is written down once a minute; not while it is counted.
  await page();
  // Every one of these figures may only go down.
  expect(await statements(page)).toBeLessThanOrEqual(27);
  expect(
    await statements(() =>
      world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [
          { given: 'Ida', family: 'Counted' },
          { given: 'Ole', family: 'Counted' },
        ]),
      }),
    ),
  ).toBeLessThanOrEqual(34);
});
