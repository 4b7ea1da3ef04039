import { beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});

const lessonsAt = (id: string, who = odalys) => who.call('GET /api/events/:id/lessons', { params: { id } });
const learn = (id: string, stage: string, text: string) =>
  odalys.call('POST /api/events/:id/lessons', { params: { id }, body: { stage, text } as never });

test('what was learnt stands beside every copy until it is taken care of there, and beside the next one again', async () => {
  const first = await openEvent(world, { title: 'Learnt from' });
  const { id: lesson } = await learn(first.id, 'crew', '  Two people for the life jackets.  ');
  await learn(first.id, 'plan', 'Fewer people, or more boats.');
  const { id: next } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Learnt from', from: first.id, date: '2027-08-07' },
  });
  const before = async (id: string) =>
    (await lessonsAt(id)).before.map((l) => [l.stage, l.text, l.settledBy]);
  expect(await before(next)).toEqual([
    ['crew', 'Two people for the life jackets.', null],
    ['plan', 'Fewer people, or more boats.', null],
  ]);
  // What it learnt itself is not from before.
  expect(await lessonsAt(first.id)).toMatchObject({ written: [{}, {}], before: [] });
  const settle = (id: string, settled: boolean) =>
    odalys.call('PUT /api/events/:id/lessons/:lesson/settled', {
      params: { id, lesson },
      body: { settled },
    });
  await settle(next, true);
  await settle(next, true);
  expect(await before(next)).toEqual([
    ['crew', 'Two people for the life jackets.', 'Odalys Ferrant'],
    ['plan', 'Fewer people, or more boats.', null],
  ]);
  const { id: third } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Learnt from', from: next, date: '2028-08-05' },
  });
  expect((await before(third))[0]).toEqual(['crew', 'Two people for the life jackets.', null]);
  await settle(next, false);
  expect((await before(next))[0]).toEqual(['crew', 'Two people for the life jackets.', null]);
  await odalys.call('PATCH /api/events/:id/lessons/:lesson', {
    params: { id: first.id, lesson },
    body: { stage: 'doors', text: 'Life jackets at the gate.' },
  });
  expect((await before(third))[0]).toEqual(['doors', 'Life jackets at the gate.', null]);
  await odalys.call('DELETE /api/events/:id/lessons/:lesson', { params: { id: first.id, lesson } });
  expect(await before(third)).toEqual([['plan', 'Fewer people, or more boats.', null]]);
});

test('of a lesson only those read who see its stage, and only those write who may change it; a stranger’s event says nothing', async () => {
  const event = await openEvent(world, { title: 'Of one’s own' });
  const { id: lesson } = await learn(event.id, 'registration', 'Open tables to members first.');
  const { id: next } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Of one’s own', from: event.id, date: '2027-08-07' },
  });
  const imani = await world.as('imani');
  // The crew lead sees the crew, and not who registers.
  expect((await lessonsAt(next, imani)).before).toEqual([]);
  const settled = await imani.try('PUT /api/events/:id/lessons/:lesson/settled', {
    params: { id: next, lesson },
    body: { settled: true },
  });
  expect(settled.status).toBe(403);
  const other = await openEvent(world, { title: 'Another' });
  expect(
    (
      await odalys.try('PUT /api/events/:id/lessons/:lesson/settled', {
        params: { id: other.id, lesson },
        body: { settled: true },
      })
    ).status,
  ).toBe(404);
  expect(
    (
      await odalys.try('POST /api/events/:id/lessons', {
        params: { id: event.id },
        body: { stage: 'plan', text: '   ' },
      })
    ).problem.fields,
  ).toMatchObject([{ path: 'text', code: 'nothing-written' }]);
});
