import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';

describe('steps that run one after another', () => {
  let world: World;
  let id: string;
  beforeAll(async () => {
    world = await makeWorld();
    // Finance waits for Safety here.
    await world.app.db.query("update clearance_rules set step_order = 2 where step = 'Finance'");
    const odalys = await world.as('odalys');
    id = (await odalys.call('POST /api/events', { body: { publicTitle: 'Moonlight Paddle' } })).id;
    const { venues } = await odalys.call('GET /api/choices');
    await odalys.call('PATCH /api/events/:id', {
      params: { id },
      body: {
        version: 1,
        change: {
          startsLocal: '2026-09-12T19:00',
          endsLocal: '2026-09-12T22:00',
          capacity: 12,
          venueId: venues[0]!.id,
          flags: ['boats'],
          offers: [
            {
              id: crypto.randomUUID(),
              name: 'Seat',
              price: 1500,
              quantity: null,
              mostPerOrder: 4,
              seatsPerUnit: 1,
              about: '',
            },
          ],
        },
      },
    });
  });
  afterAll(() => world.close());
  const look = async (who: 'odalys' | 'tobias' | 'marit' = 'odalys') =>
    (await world.as(who)).call('GET /api/events/:id/clearance', { params: { id } });
  const decide = async (who: 'tobias' | 'marit', body: object) => {
    const caller = await world.as(who);
    const step = (await look(who)).steps.find((s) => s.mayDecide);
    return caller.try('POST /api/clearance-steps/:id/decision', {
      params: { id: step?.id ?? crypto.randomUUID() },
      body: body as never,
    });
  };

  test('each says by when it should be decided, the later one counted from the earlier', async () => {
    await (await world.as('odalys')).call('POST /api/events/:id/clearance', { params: { id } });
    // Sent on Thursday 9 July: five working days for Safety, then three for Finance.
    expect((await look()).steps.map((s) => [s.step, s.state, s.dueOn])).toEqual([
      ['Safety', 'with approver', '2026-07-16'],
      ['Finance', 'waiting', '2026-07-21'],
    ]);
    // Whose turn has not come decides nothing.
    expect((await decide('marit', { decision: 'clear' })).status).toBe(404);
  });

  test('a step begins when it reaches its approver, however late that is', async () => {
    await world.moveTo('2026-07-24T12:00:00.000Z');
    const late = (await (await world.as('odalys')).call('GET /api/desk')).entries.filter(
      (e) => e.subject === 'Moonlight Paddle' && /overdue/u.test(e.text),
    );
    expect(late.map((e) => e.text)).toEqual(['Safety has not decided. It is 8 days overdue.']);
    const wordless = await decide('tobias', { decision: 'clear with conditions' });
    expect(wordless.problem.fields).toMatchObject([{ path: 'words', message: 'Say what the condition is.' }]);
    const decided = await decide('tobias', {
      decision: 'clear with conditions',
      words: 'Two safety boats, and lamps on both.',
    });
    expect(decided.status).toBe(201);
    // Friday 24 July and three working days.
    expect((await look()).steps.map((s) => [s.step, s.state, s.dueOn])).toEqual([
      ['Safety', 'cleared with conditions', '2026-07-16'],
      ['Finance', 'with approver', '2026-07-29'],
    ]);
    const entries = (await (await world.as('odalys')).call('GET /api/desk')).entries;
    expect(entries.filter((e) => /overdue/u.test(e.text) && e.subject === 'Moonlight Paddle')).toEqual([]);
  });

  test('sent back it is a draft again, with the words; sent anew everybody decides anew', async () => {
    const back = await decide('marit', { decision: 'send back', words: 'Who holds the cash box?' });
    expect(back.status).toBe(201);
    const odalys = await world.as('odalys');
    expect((await odalys.call('GET /api/events/:id', { params: { id } })).state).toBe('draft');
    expect((await look()).steps.find((s) => s.step === 'Finance')).toMatchObject({
      state: 'sent back',
      words: 'Who holds the cash box?',
    });
    await odalys.call('POST /api/events/:id/clearance', { params: { id } });
    expect((await look()).steps.map((s) => s.state)).toEqual(['with approver', 'waiting']);
    await decide('tobias', { decision: 'clear' });
    await decide('marit', { decision: 'clear' });
    expect((await odalys.call('GET /api/events/:id', { params: { id } })).state).toBe('cleared');
  });
});

test('whoever sent a plan does not decide it, also under another account of theirs', async () => {
  const world = await makeWorld();
  const [odalys, tobias] = [await world.as('odalys'), await world.as('tobias')];
  // The coordinator approves too, for once.
  await world.app.db.query("update staff set approves = '{safety}' where email like 'odalys@%'");
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Own Plan' } });
  const { venues } = await odalys.call('GET /api/choices');
  await odalys.call('PATCH /api/events/:id', {
    params: { id },
    body: {
      version: 1,
      change: {
        startsLocal: '2026-09-12T19:00',
        endsLocal: '2026-09-12T22:00',
        capacity: 12,
        venueId: venues[0]!.id,
        flags: ['boats'],
        offers: [
          {
            id: crypto.randomUUID(),
            name: 'Seat',
            price: 0,
            quantity: null,
            mostPerOrder: 4,
            seatsPerUnit: 1,
            about: '',
          },
        ],
      },
    },
  });
  await odalys.call('POST /api/events/:id/clearance', { params: { id } });
  const step = (await tobias.call('GET /api/events/:id/clearance', { params: { id } })).steps.find(
    (s) => s.approves === 'safety',
  )!;
  const decide = (caller: typeof odalys) =>
    caller.try('POST /api/clearance-steps/:id/decision', {
      params: { id: step.id },
      body: { decision: 'clear' },
    });
  expect((await decide(odalys)).problem.code).toBe('own-plan');
  // Another account of the same person.
  const { id: person } = await odalys.call('POST /api/contacts', {
    body: { given: 'Odalys', family: 'Twice' },
  });
  await world.app.db.query(
    "update staff set contact_id = $1 where email like 'odalys@%' or email like 'tobias@%'",
    [person],
  );
  expect((await decide(tobias)).problem.code).toBe('own-plan');
  await world.app.db.query("update staff set contact_id = null where email like 'tobias@%'");
  expect((await decide(tobias)).status).toBe(201);
  await world.close();
});
