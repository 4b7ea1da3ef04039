import { beforeAll, expect, test } from 'vitest';
import type { RosterRun } from '#contract/filling.ts';
import { shiftDate } from '#core/time/dates.ts';
import type { Caller } from './harness.ts';
import { Scene } from './messageLines.ts';

const scene = new Scene();
let imani: Caller;
let boat = '';
const roles: Record<string, string> = {};
beforeAll(async () => {
  imani = await scene.world.as('imani');
  boat = (await imani.call('POST /api/skills', { body: { name: 'Boat ticket', certificate: true } })).id;
  for (const [name, needs] of [
    ['Rescue', [boat]],
    ['Tea', []],
  ] as const)
    roles[name] = (await imani.call('POST /api/roles', { body: { name, needs: [...needs] } })).id;
});
const day = () => scene.begins.slice(0, 10);
const params = () => ({ id: scene.event.id });
const shift = async (role: string, from: string, to: string, more: object = {}) =>
  (
    await imani.call('POST /api/events/:id/shifts', {
      params: params(),
      body: { role, startsLocal: `${day()}T${from}`, endsLocal: `${day()}T${to}`, wished: 1, ...more },
    })
  ).id;
/** Somebody who applied for the event and was accepted. */
async function accepted(given: string, said: object = {}, ticket = false): Promise<string> {
  const calls = await imani.call('GET /api/calls', { query: { eventId: scene.event.id } });
  const call =
    calls[0] ??
    (await imani.call('POST /api/calls', {
      body: {
        eventId: scene.event.id,
        title: { en: 'Hands wanted' },
        words: { en: '' },
        asks: ['availability', 'limits', 'skills'],
        roles: Object.values(roles),
        open: true,
      },
    }));
  const contactId = (
    await imani.call('POST /api/contacts', {
      body: { given, family: `Filler${scene.n}`, email: `${given.toLowerCase()}${scene.n}@fill.example` },
    })
  ).id;
  if (ticket)
    await imani.call('PUT /api/contacts/:id/skills/:skill', {
      params: { id: contactId, skill: boat },
      body: { number: '1', seen: true },
    });
  await scene.world.anyone.call('POST /api/public/calls/:slug', {
    params: { slug: call.slug },
    body: {
      person: { given, family: `Filler${scene.n}`, email: `${given.toLowerCase()}${scene.n}@fill.example` },
      said: {
        wishes: [{ roleId: roles.Tea!, weight: 1 }],
        available: { kind: 'dates', stretches: [{ date: day(), from: '00:00', to: '24:00' }] },
        ...said,
      },
    } as never,
  });
  const { applications } = await imani.call('GET /api/calls/:id/applications', { params: { id: call.id } });
  const own = applications.find((a) => a.contactId === contactId)!;
  await imani.call('POST /api/applications/decide', { body: { ids: [own.id], to: 'accepted', tell: false } });
  return contactId;
}
const roster = () => imani.call('GET /api/events/:id/roster', { params: params() });
/** Waits until it is worked out. */
async function worked(): Promise<RosterRun> {
  for (;;) {
    const { run } = await roster();
    if (run && run.state !== 'working') return run;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
const fill = (seconds = 2) =>
  imani.try('POST /api/events/:id/roster', { params: params(), body: { seconds } });
const accept = (pairs: { contactId: string; shiftId: string }[]) =>
  imani.call('POST /api/events/:id/roster/accept', { params: params(), body: { pairs } });
const on = async (id: string) =>
  (await imani.call('GET /api/events/:id/crew', { params: params() })).shifts
    .find((s) => s.id === id)!
    .assignments.map((a) => a.name.split(' ')[0]);
const mailTo = async (given: string) => {
  await scene.world.runner.run();
  return scene.world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [`${given.toLowerCase()}${scene.n}@fill.example`],
  );
};

test('shifts are filled all at once within what people said; nobody is on anything before it is accepted, in part or as a whole', async () => {
  expect((await fill()).problem.code).toBe('nothing-to-fill');
  const rescue = await shift('Rescue', '09:00', '12:00', { importance: 'vital', wished: 2 });
  const tea = await shift('Tea', '09:00', '12:00');
  const late = await shift('Tea', '20:00', '22:00');
  const ada = await accepted('Ada', { wishes: [{ roleId: roles.Rescue!, weight: 3 }] }, true);
  const bea = await accepted('Bea', { limits: { latest: '18:00' } });
  expect(await roster()).toMatchObject({ accepted: 2, open: 4, run: null });
  expect((await fill()).status).toBe(201);
  const run = await worked();
  expect(run).toMatchObject({ state: 'done', askedBy: 'Imani Okarro', answer: { gap: 0, people: 2 } });
  const proposed = run.answer!.proposals.map((p) => [p.name.split(' ')[0], p.shiftId, p.wish]);
  expect(proposed).toEqual(
    expect.arrayContaining([
      ['Ada', rescue, 3],
      ['Ada', late, 0],
      ['Bea', tea, 1],
    ]),
  );
  expect(proposed).toHaveLength(3);
  expect(run.answer!.unfilled).toMatchObject([
    {
      shiftId: rescue,
      missing: 1,
      why: '1 person is on another shift then, 1 person lacks a skill it needs.',
    },
  ]);
  expect([await on(rescue), await on(tea), await on(late)]).toEqual([[], [], []]);
  expect(await accept([{ contactId: bea, shiftId: tea }])).toEqual({ put: 1, left: [] });
  expect(await on(tea)).toEqual(['Bea']);
  expect((await mailTo('Bea')).at(-1)!.subject).toBe(`Your shift: Lines ${scene.n}`);
  expect((await roster()).run!.answer!.proposals.map((p) => p.name.split(' ')[0])).toEqual(['Ada', 'Ada']);
  // What was proposed to nobody is not put by naming it.
  const other = await imani.try('POST /api/events/:id/roster/accept', {
    params: params(),
    body: { pairs: [{ contactId: bea, shiftId: late }] },
  });
  expect(other.status).toBe(409);
  // Whoever wants to be left alone by now is not asked any more, nor named.
  const quiet = (is: boolean) =>
    scene.world.app.db.query('update contacts set do_not_contact = $2 where id = $1', [ada, is]);
  await quiet(true);
  expect(await roster()).toMatchObject({ accepted: 1, run: { answer: { proposals: [] } } });
  await quiet(false);
  // Meanwhile somebody else was put on, and Ada is on a boat elsewhere in the evening.
  await scene.world.app.db.query('update shifts set wished = 1, least = 1 where id = $1', [rescue]);
  const cleo = await accepted('Cleo', {}, true);
  await imani.call('POST /api/shifts/:id/assignments', { params: { id: rescue }, body: { contactId: cleo } });
  expect(
    await accept([
      { contactId: ada, shiftId: rescue },
      { contactId: ada, shiftId: late },
    ]),
  ).toMatchObject({
    put: 1,
    left: [{ name: `Ada Filler${scene.n}`, shiftId: rescue, why: 'The shift is full by now.' }],
  });
  // What is full by now does not stay open.
  expect((await roster()).run!.answer).toMatchObject({ proposals: [], unfilled: [] });
  await imani.call('DELETE /api/events/:id/roster', { params: params() });
  expect((await roster()).run).toBeNull();
});

test('one at a time; stopped, it ends with what there is; and one whose process is gone is said to have failed', async () => {
  await shift('Tea', '09:00', '12:00', { wished: 3 });
  await accepted('Dora');
  expect((await fill(60)).status).toBe(201);
  expect((await fill()).problem.code).toBe('roster-working');
  await imani.call('POST /api/events/:id/roster/stop', { params: params() });
  const run = await worked();
  expect(run.state).toBe('done');
  expect(run.answer!.proposals).toHaveLength(1);
  await scene.world.app.db.query(
    "update roster_runs set state = 'working', answer = null, seen_at = seen_at - interval '1 minute' where event_id = $1",
    [scene.event.id],
  );
  expect((await roster()).run!.state).toBe('failed');
  expect((await fill()).status).toBe(201);
  expect((await worked()).state).toBe('done');
});

test('after a drop-out somebody steps in with the fewest changes; whoever moves is told what it was', async () => {
  const rescue = await shift('Rescue', '09:00', '12:00');
  const tea = await shift('Tea', '09:00', '12:00');
  const gone = await accepted('Edda', {}, true);
  const moves = await accepted('Finn', {}, true);
  const steps = () => imani.call('GET /api/shifts/:id/repair', { params: { id: rescue } });
  await imani.call('POST /api/shifts/:id/assignments', { params: { id: rescue }, body: { contactId: gone } });
  await imani.call('POST /api/shifts/:id/assignments', { params: { id: tea }, body: { contactId: moves } });
  const crew = await imani.call('GET /api/events/:id/crew', { params: params() });
  const assignment = crew.shifts.find((s) => s.id === rescue)!.assignments[0]!;
  await imani.call('POST /api/assignments/:id/state', {
    params: { id: assignment.id },
    body: { state: 'dropped' },
  });
  // Nobody else: whoever dropped out is not asked again, but could take the place of who moves.
  const found = (await steps()).steps!;
  expect(found.map((s) => [s.name.split(' ')[0], s.to, s.from])).toEqual([
    ['Finn', rescue, tea],
    ['Edda', tea, null],
  ]);
  const gia = await accepted('Gia');
  const sent = (all: typeof found) => all.map(({ contactId, to, from }) => ({ contactId, to, from }));
  const late = await imani.try('POST /api/shifts/:id/repair', {
    params: { id: rescue },
    body: { steps: [{ contactId: gia, to: rescue, from: null }] },
  });
  expect(late.problem.code).toBe('changed-by-somebody');
  const now = (await steps()).steps!;
  await imani.call('POST /api/shifts/:id/repair', { params: { id: rescue }, body: { steps: sent(now) } });
  expect(await on(rescue)).toEqual(['Finn']);
  expect(await on(tea)).toHaveLength(1);
  const letter = (await mailTo('Finn')).at(-1)!;
  expect(letter.subject).toBe(`Your shift has changed: Lines ${scene.n}`);
  expect(letter.body).toMatch(/is now Rescue.*It was Tea/su);
});

test('whoever wants no more than so many days in a row is not put on more, with what they have elsewhere', async () => {
  const days = [0, 1, 2].map((n) => shiftDate(day(), n));
  const ada = await accepted('Ada', {
    limits: { inARow: 2 },
    available: { kind: 'dates', stretches: days.map((date) => ({ date, from: '00:00', to: '24:00' })) },
  });
  const on = (date: string, from: string, to: string) =>
    imani.call('POST /api/events/:id/shifts', {
      params: params(),
      body: { role: 'Tea', startsLocal: `${date}T${from}`, endsLocal: `${date}T${to}`, wished: 1 },
    });
  for (const date of days) await on(date, '09:00', '11:00');
  expect((await fill()).status).toBe(201);
  const run = await worked();
  expect(run.answer!.proposals.filter((p) => p.contactId === ada)).toHaveLength(2);
  expect(run.answer!.unfilled[0]).toMatchObject({
    missing: 1,
    why: '1 person has as many days in a row as they want.',
    cheapest: '1 person is free with 1 more days in a row than they want.',
  });
});
