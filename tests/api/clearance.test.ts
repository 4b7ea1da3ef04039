import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { answered } from '#core/clearance/facts.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type Plan, plan, putRules, ruleLike, type Who } from './plans.ts';

describe('steps that run one after another', () => {
  let world: World;
  let paddle: Plan;
  beforeAll(async () => {
    world = await makeWorld();
    // Finance waits for Safety here.
    await putRules(world, ({ rules }) => ({
      rules: rules.map((r) => (r.step === 'Finance' ? { ...r, after: [rules[0]!.id] } : r)),
    }));
    paddle = await plan(world, 'Moonlight Paddle');
  });
  afterAll(() => world.close());

  test('each says by when it should be decided, the later one counted from the earlier', async () => {
    // Sent today, Thursday 9 July: five working days for Safety, then three for Finance.
    expect(await paddle.look()).toMatchObject({ standing: 'not sent', expectedOn: '2026-07-21' });
    await paddle.send();
    const sent = await paddle.look();
    expect(sent.steps.map((s) => [s.step, s.state, s.dueOn, s.after, s.holdsUp])).toEqual([
      ['Safety', 'with approver', '2026-07-16', [], true],
      ['Finance', 'waiting', '2026-07-21', ['Safety'], true],
    ]);
    expect(sent).toMatchObject({ expectedOn: '2026-07-21', standing: 'under way' });
    // Whose turn has not come decides nothing.
    expect((await paddle.decide('marit', 'Finance', { decision: 'clear' })).problem.code).toBe('step-state');
  });

  test('a step begins when it reaches its approver, however late that is', async () => {
    await world.moveTo('2026-07-24T12:00:00.000Z');
    const late = (await (await world.as('odalys')).call('GET /api/desk')).entries.filter(
      (e) => e.subject === 'Moonlight Paddle' && /overdue/u.test(e.text),
    );
    expect(late.map((e) => e.text)).toEqual(['Safety has not decided. It is 8 days overdue.']);
    // Who is late decides today at best: Finance has three working days after that.
    expect((await paddle.look()).expectedOn).toBe('2026-07-29');
    const wordless = await paddle.decide('tobias', 'Safety', { decision: 'clear with conditions' });
    expect(wordless.problem.fields).toMatchObject([
      { path: 'conditions', message: 'Say what the condition is.' },
    ]);
    await paddle.decide('tobias', 'Safety', { decision: 'clear' });
    // Friday 24 July and three working days.
    expect((await paddle.look()).steps.map((s) => [s.step, s.state, s.dueOn])).toEqual([
      ['Safety', 'cleared', null],
      ['Finance', 'with approver', '2026-07-29'],
    ]);
  });

  test('sent back with questions it is a draft; they are answered in place; sent again only who asked decides', async () => {
    const back = await paddle.decide('marit', 'Finance', {
      decision: 'send back',
      questions: ['Who holds the cash box?', 'Is 15 dollars enough?'],
    });
    expect(back.status).toBe(201);
    expect((await paddle.page()).state).toBe('draft');
    const piers = await world.as('piers');
    const asked = (await paddle.look()).said.filter((w) => w.kind === 'question');
    expect(asked.map((w) => [w.body, w.step, w.answer])).toEqual([
      ['Who holds the cash box?', 'Finance', null],
      ['Is 15 dollars enough?', 'Finance', null],
    ]);
    const early = await paddle.send();
    expect(early.problem.fields).toMatchObject([
      { code: 'questions-open', message: 'Answer 2 questions under Clearance.' },
    ]);
    // Nobody decides what is with its unit.
    expect((await paddle.decide('tobias', 'Safety', { decision: 'clear' })).problem.code).toBe('step-state');
    const odalys = await world.as('odalys');
    const answer = (caller: Caller, at: number, words: string) =>
      caller.try('POST /api/clearance-questions/:id/answer', {
        params: { id: asked[at]!.id },
        body: { words },
      });
    // A lead of another unit, and an approver, answer nothing.
    expect((await answer(piers, 0, 'Me.')).status).toBe(403);
    expect((await answer(await world.as('tobias'), 0, 'Me.')).status).toBe(403);
    expect((await answer(odalys, 0, 'The treasurer.')).status).toBe(201);
    expect((await answer(odalys, 0, 'Somebody else.')).problem.code).toBe('answered-already');
    await answer(odalys, 1, 'It covers the lamps.');
    await paddle.send();
    const again = await paddle.look();
    expect(again.steps.map((s) => [s.step, s.state])).toEqual([
      ['Safety', 'cleared'],
      ['Finance', 'reopened'],
    ]);
    expect(again.said.find((w) => w.body === 'Who holds the cash box?')?.answer?.body).toBe('The treasurer.');
    await paddle.decide('marit', 'Finance', { decision: 'clear' });
    expect((await paddle.page()).state).toBe('cleared');
    expect((await paddle.look()).said.map((w) => [w.kind, w.decision])).toEqual([
      ['sent', null],
      ['decision', 'clear'],
      ['decision', 'send back'],
      ['question', null],
      ['question', null],
      ['sent', null],
      ['decision', 'clear'],
    ]);
  });
});

describe('a clearance', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const meet = async (who: Who, id: string, met: boolean) =>
    (await world.as(who)).try('POST /api/clearance-conditions/:id/met', { params: { id }, body: { met } });

  test('is not sent before what rules look at is answered', async () => {
    const p = await plan(world, 'Unsaid', { facts: { boats: true } });
    expect((await p.look()).lacks.map((l) => l.text)).toEqual([
      'Say under Safety whether it applies: people under age take part; power tools are used; alcohol is served.',
    ]);
    expect((await p.send()).problem.fields).toMatchObject([{ path: 'plan', code: 'facts-unanswered' }]);
    await p.save({ facts: { boats: true, minors: false, tools: false, alcohol: false } });
    expect((await p.send()).status).toBe(201);
    // A price says that money is taken: nobody is asked.
    expect((await p.look()).facts.map((f) => [f.text, f.fromPlan])).toEqual([
      ['12 people', true],
      ['money is taken', true],
      ['boats or vehicles are used', false],
    ]);
  });

  test('who still has a step sees why it is needed now', async () => {
    const p = await plan(world, 'Grows');
    await p.send();
    expect((await p.save({ capacity: 150 })).body.followed.reopened).toEqual([]);
    expect((await p.look()).steps[0]).toMatchObject({
      state: 'with approver',
      because: ['boats or vehicles are used', '150 people, the rule starts at 100'],
    });
  });

  test('whoever sent a plan does not decide it, also under another account of theirs', async () => {
    const [odalys, tobias] = [await world.as('odalys'), await world.as('tobias')];
    // The coordinator approves too, for once.
    await world.app.db.query("update staff set approves = '{safety}' where email like 'odalys@%'");
    const p = await plan(world, 'Own Plan');
    await p.send();
    const clear = (who: Who) => p.decide(who, 'Safety', { decision: 'clear' });
    expect((await clear('odalys')).problem.code).toBe('own-plan');
    const { id: person } = await odalys.call('POST /api/contacts', {
      body: { given: 'Odalys', family: 'Twice' },
    });
    await world.app.db.query(
      "update staff set contact_id = $1 where email like 'odalys@%' or email like 'tobias@%'",
      [person],
    );
    expect((await clear('tobias')).problem.code).toBe('own-plan');
    await world.app.db.query("update staff set contact_id = null where email like 'tobias@%'");
    expect((await clear('tobias')).status).toBe(201);
    await world.app.db.query("update staff set approves = '{}' where email like 'odalys@%'");
    expect((await tobias.call('GET /api/desk')).entries.some((e) => e.subject === 'Own Plan')).toBe(false);
  });

  test('conditions: one that blocks opening keeps it closed until it is met; late ones are said', async () => {
    const p = await plan(world, 'Conditions');
    await p.send();
    await p.decide('marit', 'Finance', { decision: 'clear' });
    const { people } = await p.look('tobias');
    const odalysId = people.find((x) => x.name === 'Odalys Ferrant')!.id;
    await p.decide('tobias', 'Safety', {
      decision: 'clear with conditions',
      conditions: [
        { what: 'A second safety boat.', ownerId: odalysId, dueOn: '2026-07-20', blocks: true },
        { what: 'Lamps on both.', ownerId: null, dueOn: null, blocks: false },
      ],
    });
    expect((await p.page()).state).toBe('cleared');
    const odalys = await world.as('odalys');
    const open = () =>
      odalys.try('POST /api/events/:id/state', { params: { id: p.id }, body: { move: 'open' } });
    expect((await open()).problem).toMatchObject({
      code: 'conditions-open',
      title: 'It opens once this is met: A second safety boat.',
    });
    const [boat] = (await p.look()).conditions;
    expect(boat).toMatchObject({ owner: 'Odalys Ferrant', step: 'Safety', blocks: true, mayMeet: true });
    // Who only keeps the door, and who decides another step, meet nothing.
    expect((await meet('door', boat!.id, true)).status).toBe(403);
    expect((await meet('marit', boat!.id, true)).status).toBe(403);
    expect((await meet('odalys', boat!.id, true)).status).toBe(201);
    expect((await meet('odalys', boat!.id, true)).problem.code).toBe('condition-so-already');
    // Who set it looks again, and finds that it is not.
    expect((await meet('tobias', boat!.id, false)).status).toBe(201);
    expect((await open()).problem.code).toBe('conditions-open');
    await meet('odalys', boat!.id, true);
    expect((await open()).status).toBe(201);
    const spine = (await odalys.call('GET /api/events/:id', { params: { id: p.id } })).spine;
    expect(spine.stages.find((s) => s.stage === 'clearance')!.pins.map((x) => x.text)).toContain(
      'condition met: A second safety boat.',
    );
  });

  test('a changed fact reopens only its step; an open event says whether it stays open, and opens by itself again', async () => {
    await putRules(world, ({ rules }) => ({
      rules: rules.map((r) => (r.step === 'Safety' ? { ...r, meanwhile: 'closes' as const } : r)),
    }));
    const p = await plan(world, 'Meanwhile');
    await p.send();
    await p.decide('tobias', 'Safety', { decision: 'clear' });
    await p.decide('marit', 'Finance', { decision: 'clear' });
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/events/:id/state', { params: { id: p.id }, body: { move: 'open' } });
    // Nobody looks at food.
    expect((await p.save({ facts: answered('boats', 'food') })).body.followed.reopened).toEqual([]);
    // Finance looks at alcohol, and lets it stay open.
    expect((await p.save({ facts: answered('boats', 'alcohol') })).body.followed.reopened).toEqual([
      'Finance',
    ]);
    expect((await p.page()).state).toBe('open');
    expect((await p.save({ capacity: 120 })).body.followed.reopened).toEqual(['Safety']);
    expect((await p.page()).state).toBe('closed');
    await p.decide('tobias', 'Safety', { decision: 'clear' });
    expect((await p.page()).state).toBe('closed');
    await p.decide('marit', 'Finance', { decision: 'clear' });
    expect((await p.page()).state).toBe('open');
    // What was free of boats again keeps the word that was given, and asks nobody.
    await p.save({ capacity: 12, facts: answered() });
    expect((await p.look()).steps.map((s) => [s.step, s.state])).toEqual([
      ['Safety', 'not needed'],
      ['Finance', 'reopened'],
    ]);
    await putRules(world, ({ rules }) => ({
      rules: rules.map((r) => ({ ...r, meanwhile: 'stays open' as const })),
    }));
  });

  test('somebody alone at night is seen from the shifts', async () => {
    await putRules(world, (book) => ({
      rules: [
        ...book.rules,
        ruleLike(book, { step: 'Night', when: [[{ fact: 'alone', is: true }]], approves: 'safety' }),
      ],
    }));
    const p = await plan(world, 'Night watch', { endsLocal: '2026-09-12T23:00' });
    const odalys = await world.as('odalys');
    const shift = (wished: number) =>
      odalys.call('POST /api/events/:id/shifts', {
        params: { id: p.id },
        body: {
          role: 'Watch',
          startsLocal: '2026-09-12T21:00',
          endsLocal: '2026-09-12T23:00',
          wished,
        },
      });
    await shift(2);
    expect((await p.look()).steps.map((s) => s.step)).toEqual(['Safety', 'Finance']);
    await p.send();
    await p.decide('tobias', 'Safety', { decision: 'clear' });
    await p.decide('marit', 'Finance', { decision: 'clear' });
    // One more alone after the others are gone: the plan is asked about again.
    await odalys.call('POST /api/events/:id/shifts', {
      params: { id: p.id },
      body: { role: 'Lock', startsLocal: '2026-09-12T23:00', endsLocal: '2026-09-12T23:30', wished: 1 },
    });
    const after = await p.look();
    expect(after.steps.map((s) => [s.step, s.state])).toContainEqual(['Night', 'with approver']);
    expect((await p.page()).state).toBe('in clearance');
    await putRules(world, ({ rules }) => ({ rules: rules.filter((r) => r.step !== 'Night') }));
  });

  test('late it needs a reason that is kept; who is no coordinator waits for one to say yes', async () => {
    const odalys = await world.as('odalys');
    const { units } = await odalys.call('GET /api/choices');
    const boats = units.find((u) => u.name === 'Small Boats')!.id;
    const soon = { startsLocal: '2026-07-30T19:00', endsLocal: '2026-07-30T21:00', unitId: boats };
    const p = await plan(world, 'Late', soon);
    // Fourteen days before it is Thursday 16 July; five working days before that, today.
    expect((await p.look()).deadline).toMatchObject({ date: '2026-07-09', daysLeft: 0 });
    await world.moveTo('2026-07-10T12:00:00.000Z');
    expect((await p.send('piers')).problem.fields).toMatchObject([
      { path: 'lateReason', message: 'It is 1 day late. Say why; whoever decides reads it.' },
    ]);
    await p.send('piers', { lateReason: 'The boats came back only now.' });
    const asked = async (who: Who) =>
      (await (await world.as(who)).call('GET /api/desk')).entries.filter((e) => /1 day late/u.test(e.text));
    expect(await asked('odalys')).toMatchObject([{ subject: 'Late', action: { label: 'Read and say' } }]);
    expect(await p.look('piers')).toMatchObject({ standing: 'asked late', mayGrant: false, lateByDays: 1 });
    expect((await p.look()).steps.map((s) => s.state)).toEqual(['waiting', 'waiting']);
    const grant = async (who: Who, body: object) =>
      (await world.as(who)).try('POST /api/events/:id/clearance/late', {
        params: { id: p.id },
        body: body as never,
      });
    expect((await grant('piers', { grant: true })).status).toBe(403);
    expect((await grant('odalys', { grant: false })).problem.fields).toMatchObject([{ path: 'words' }]);
    await grant('odalys', { grant: false, words: 'Not in a week.' });
    expect((await p.page()).state).toBe('draft');
    await p.send('piers', { lateReason: 'The boats came back only now, and the weather holds.' });
    expect((await grant('odalys', { grant: true })).status).toBe(201);
    expect((await grant('odalys', { grant: true })).problem.code).toBe('not-asked-late');
    expect(await p.look('tobias')).toMatchObject({
      standing: 'under way',
      lateReason: 'The boats came back only now, and the weather holds.',
      granted: { by: 'Odalys Ferrant' },
    });
    expect((await p.look()).steps.map((s) => s.state)).toEqual(['with approver', 'with approver']);
    // A coordinator who sends one lets it be by that.
    const own = await plan(world, 'Late too', { ...soon, unitId: null, venueId: null });
    await own.send('odalys', { lateReason: 'A guest is in town.' });
    expect((await own.look()).steps.map((s) => s.state)).toEqual(['with approver', 'with approver']);
  });

  test('is decided by nobody who does not see it, or once it is called off; a condition goes to who sees it', async () => {
    const p = await plan(world, 'Unseen');
    await p.send();
    const odalys = await world.as('odalys');
    const { staff } = await odalys.call('GET /api/staff');
    const { units } = await odalys.call('GET /api/choices');
    const idOf = (who: string) => staff.find((s) => s.email.startsWith(`${who}@`))!.id;
    const owned = (ownerId: string) => ({
      decision: 'clear with conditions',
      conditions: [{ what: 'Lamps on both.', ownerId, dueOn: null, blocks: false }],
    });
    // The door, and nobody at all.
    for (const ownerId of [idOf('door'), crypto.randomUUID()])
      expect((await p.decide('tobias', 'Safety', owned(ownerId))).problem.fields).toMatchObject([
        { path: 'conditions.0.ownerId', code: 'condition-owner' },
      ]);
    // An approver of one unit alone.
    await world.app.db.query('update staff set unit_id = $2 where id = $1', [idOf('tobias'), units[0]!.id]);
    expect((await p.decide('tobias', 'Safety', { decision: 'clear' })).status).toBe(403);
    await world.app.db.query('update staff set unit_id = null where id = $1', [idOf('tobias')]);
    await odalys.call('POST /api/events/:id/state', {
      params: { id: p.id },
      body: { move: 'call off', words: 'Fog.' },
    });
    expect((await p.decide('tobias', 'Safety', { decision: 'clear' })).problem.code).toBe('step-state');
  });

  test('is written about by those who have to do with it, and by nobody else', async () => {
    const p = await plan(world, 'Talk');
    await p.send();
    const write = async (who: Who, body: object) =>
      (await world.as(who)).try('POST /api/events/:id/clearance/words', {
        params: { id: p.id },
        body: body as never,
      });
    const { people } = await p.look();
    const tobias = people.find((x) => x.name.startsWith('Tobias'))!;
    expect((await write('odalys', { words: 'Rain or not?', mentions: [tobias.id] })).status).toBe(201);
    expect((await write('tobias', { words: 'Rain is fine, wind is not.' })).status).toBe(201);
    // The lead of another unit, the door.
    expect((await write('piers', { words: 'I was never asked.' })).status).toBe(403);
    expect((await write('door', { words: 'Hello?' })).status).toBe(403);
    expect((await write('odalys', { words: '  ' })).status).toBe(422);
    expect((await p.look()).said.filter((w) => w.kind === 'word')).toMatchObject([
      { author: 'Odalys Ferrant', body: 'Rain or not?', mentions: [tobias.name] },
      { author: tobias.name, body: 'Rain is fine, wind is not.' },
    ]);
  });
});
