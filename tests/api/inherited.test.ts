import { expect, test } from 'vitest';
import { lineOn, Scene } from './messageLines.ts';

const scene = new Scene();
const besides = (id: string) =>
  scene.odalys.call('GET /api/events/:id/messages/template', { params: { id } });
const linesOf = async (id: string) =>
  (await scene.odalys.call('GET /api/events/:id', { params: { id } })).plan.messages;

test('an event shows line by line how it stands to its template, and takes one as that has it', async () => {
  const { odalys, event, world } = scene;
  await scene.plan(event, [
    lineOn('start', { name: 'The day before', offsetDays: -1 }),
    lineOn('end', { name: 'Thanks', offsetMinutes: 60 }),
    lineOn('doors', { name: 'Doors' }),
  ]);
  const template = await odalys.call('POST /api/events/:id/template', {
    params: { id: event.id },
    body: { publicTitle: 'Shape of a day' },
  } as never);
  const begun = await odalys.call('POST /api/events', {
    body: { publicTitle: 'A day', from: template.id },
  } as never);
  expect(await besides(begun.id)).toMatchObject({ own: [], changed: [], missing: [] });
  // Of an event that was not made from one, nothing is said.
  expect(await besides(event.id)).toBeNull();

  const [before, thanks, doors] = await linesOf(begun.id);
  const own = lineOn('start', { name: 'An hour before', offsetMinutes: -60 });
  await scene.plan({ ...event, id: begun.id }, [{ ...before!, offsetDays: -3 }, doors!, own]);
  expect(await besides(begun.id)).toEqual({
    title: 'Shape of a day',
    own: [own.id],
    changed: [before!.id],
    missing: [{ id: expect.any(String), name: 'Thanks' }],
  });
  const take = (rows: string[]) =>
    odalys.try('POST /api/events/:id/messages/template', { params: { id: begun.id }, body: { rows } });
  const { missing } = (await besides(begun.id))!;
  expect((await take([before!.id, missing[0]!.id])).status).toBe(201);
  const now = await linesOf(begun.id);
  expect(now.map((l) => [l.name, l.offsetDays])).toEqual([
    ['The day before', -1],
    ['Doors', 0],
    ['An hour before', 0],
    ['Thanks', 0],
  ]);
  expect(now[0]!.id).toBe(before!.id);
  expect(now[3]!.id).not.toBe(thanks!.id);
  expect(await besides(begun.id)).toMatchObject({ own: [own.id], changed: [], missing: [] });

  // The unit of the event reads nothing of a template that is not theirs to see.
  const { version } = await odalys.call('GET /api/events/:id', { params: { id: begun.id } });
  const { units } = await odalys.call('GET /api/choices');
  await odalys.call('PATCH /api/events/:id', {
    params: { id: begun.id },
    body: { version, change: { unitId: units.find((u) => u.name === 'Small Boats')!.id } },
  });
  const piers = await world.as('piers');
  expect(await piers.call('GET /api/events/:id/messages/template', { params: { id: begun.id } })).toBeNull();
  expect(
    (
      await piers.try('POST /api/events/:id/messages/template', {
        params: { id: begun.id },
        body: { rows: [own.id] },
      })
    ).problem.code,
  ).toBe('not-from-template');
});
