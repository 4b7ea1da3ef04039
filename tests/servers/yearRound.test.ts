import { afterAll, beforeAll, expect, test } from 'vitest';
import { firstTextFor } from '#core/messages/firstTexts.ts';
import { plainLine } from '#core/messages/lines.ts';
import { makeWorld, type World } from '../api/harness.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

test('what changes while messages are planned, and is not seen by that yet, is planned again', async () => {
  const odalys = await world.as('odalys');
  const { narrowed: _, ...plain } = plainLine;
  const { subject, body } = firstTextFor('membership ends', 'members');
  const line = {
    ...plain,
    name: 'A month before',
    moment: 'membership ends' as const,
    offsetDays: -30,
    offsetMinutes: 0,
    topic: 'notice' as const,
    subject,
    body,
  };
  const id = crypto.randomUUID();
  await odalys.call('PUT /api/year-round/:id', { params: { id }, body: { line, version: 0 } });
  const { id: contactId } = await odalys.call('POST /api/contacts', {
    body: { given: 'Mab', family: 'Quillfeather', email: 'mab@fenmail.example' },
  });
  await odalys.call('POST /api/contacts/:id/ties', {
    params: { id: contactId },
    body: { kind: 'membership', level: null, number: null, from: null, until: '2026-09-30' },
  });
  // Theirs is noted already; somebody adds a membership that goes on, and has not done so yet.
  let added = () => {};
  let commit = () => {};
  const isAdded = new Promise<void>((resolve) => (added = resolve));
  const mayCommit = new Promise<void>((resolve) => (commit = resolve));
  const adding = world.app.db.transaction(async (tx) => {
    await tx.query(
      'insert into memberships (id, contact_id, created_at) values (gen_random_uuid(), $1, $2)',
      [contactId, world.app.clock.now()],
    );
    added();
    await mayCommit;
  });
  await isAdded;
  const planning = world.runner.run();
  // Either it waits for the other, or it is through before it.
  const waits = async () =>
    (
      await world.app.db.query<{ n: number }>(
        "select count(*)::int as n from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()",
      )
    )[0]!.n > 0;
  let through = false;
  void planning.then(() => (through = true));
  while (!through && !(await waits()));
  commit();
  await adding;
  await planning;
  await world.runner.run();
  const messages = await world.app.db.query<{ state: string }>(
    'select state from messages where line_id = $1 and contact_id = $2',
    [id, contactId],
  );
  expect(messages.filter((m) => m.state !== 'held back')).toEqual([]);
  expect((await odalys.call('GET /api/year-round'))[0]!.shown.leftOut.map((r) => r.whyNot)).toEqual([
    'has a membership that goes on',
  ]);
});
