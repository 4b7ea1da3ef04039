import { afterAll, beforeAll, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

test('a lifeline says what is known of each thing, also where part of it is not known yet', async () => {
  const odalys = await world.as('odalys');
  const event = await openEvent(world, { title: 'Crewed' });
  const { id: contactId } = await odalys.call('POST /api/contacts', {
    body: { given: 'Wren', family: 'Sallow', email: 'wren.sallow@fenmail.example' } as never,
  });
  const shift = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: { role: 'Gate', startsLocal: '2026-08-08T08:30', endsLocal: '2026-08-08T12:00', wished: 2 },
  });
  await odalys.call('POST /api/shifts/:id/assignments', {
    params: { id: shift.id },
    body: { contactId },
  });
  const note = (text: string, dueOn: string | null) =>
    odalys.call('POST /api/contacts/:id/notes', { params: { id: contactId }, body: { text, dueOn } });
  await note('Has a trailer.', null);
  await note('Ask about August.', '2026-07-20');
  const { entries } = await odalys.call('GET /api/contacts/:id/lifeline', {
    params: { id: contactId },
    query: {},
  });
  const said = entries.map((e) => [e.kind, e.text, e.detail]);
  // No hours yet, no day, and a day.
  expect(said).toContainEqual(['shift', 'agreed', 'Gate']);
  expect(said).toContainEqual(['note', 'Has a trailer.', 'Odalys Ferrant']);
  expect(said).toContainEqual(['note', 'Ask about August.', 'Odalys Ferrant, due 20 Jul 2026']);
});
