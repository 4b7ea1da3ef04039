import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { RuleBody, RuleBook } from '#contract/clearance.ts';
import type { EventPlan } from '#contract/events.ts';
import { answered } from '#core/clearance/facts.ts';
import { type Caller, makeWorld, type World } from './harness.ts';

type Who = Parameters<World['as']>[0];
interface Plan {
  id: string;
  page(): Promise<{ state: string }>;
  look(who?: Who): Promise<Awaited<ReturnType<typeof lookAt>>>;
  send(who?: Who, body?: object): ReturnType<typeof sendIt>;
  decide(who: Who, step: string, body: object): ReturnType<typeof decideIt>;
  save(change: Partial<EventPlan>): ReturnType<typeof saveIt>;
}

const lookAt = (caller: Caller, id: string) =>
  caller.call('GET /api/events/:id/clearance', { params: { id } });
const sendIt = (caller: Caller, id: string, body: object) =>
  caller.try('POST /api/events/:id/clearance', { params: { id }, body });
const decideIt = (caller: Caller, id: string, body: object) =>
  caller.try('POST /api/clearance-steps/:id/decision', { params: { id }, body: body as never });
async function saveIt(caller: Caller, id: string, change: Partial<EventPlan>) {
  const { version } = await caller.call('GET /api/events/:id', { params: { id } });
  return caller.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}

/** A draft that lacks nothing but a clearance. */
async function plan(world: World, title: string, change: Partial<EventPlan> = {}): Promise<Plan> {
  const odalys = await world.as('odalys');
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: title } });
  const { venues } = await odalys.call('GET /api/choices');
  await saveIt(odalys, id, {
    startsLocal: '2026-09-12T19:00',
    endsLocal: '2026-09-12T22:00',
    capacity: 12,
    venueId: venues.find((v) => v.name === 'Sluice Landing')!.id,
    facts: answered('boats'),
    offers: [
      {
        id: crypto.randomUUID(),
        name: 'Seat',
        price: 1500,
        quantity: null,
        mostPerOrder: 4,
        seatsPerUnit: 1,
        about: '',
      } as EventPlan['offers'][number],
    ],
    ...change,
  });
  const look = async (who: Who = 'odalys') => lookAt(await world.as(who), id);
  return {
    id,
    look,
    page: () => odalys.call('GET /api/events/:id', { params: { id } }),
    send: async (who = 'odalys', body = {}) => sendIt(await world.as(who), id, body),
    decide: async (who, step, body) =>
      decideIt(await world.as(who), (await look()).steps.find((s) => s.step === step)!.id, body),
    save: (change) => saveIt(odalys, id, change),
  };
}

const rulesOf = async (world: World): Promise<RuleBook> =>
  (await world.as('odalys')).call('GET /api/clearance/rules');
const putRules = async (
  world: World,
  change: (book: RuleBook) => { rules?: RuleBody[]; facts?: RuleBook['facts'] },
) => {
  const book = await rulesOf(world);
  const { rules, facts, version } = { ...book, ...change(book) };
  return (await world.as('odalys')).try('PUT /api/clearance/rules', { body: { rules, facts, version } });
};
const ruleLike = (book: RuleBook, part: Partial<RuleBody>): RuleBody => ({
  ...book.rules[0]!,
  id: crypto.randomUUID(),
  ...part,
});

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
    expect((await p.look()).lacks).toEqual([
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
    const shift = (needed: number) =>
      odalys.call('POST /api/events/:id/shifts', {
        params: { id: p.id },
        body: {
          role: 'Watch',
          startsLocal: '2026-09-12T21:00',
          endsLocal: '2026-09-12T23:00',
          needed,
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
      body: { role: 'Lock', startsLocal: '2026-09-12T23:00', endsLocal: '2026-09-12T23:30', needed: 1 },
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

describe('papers and questions that a step wants', () => {
  let world: World;
  const insurance = crypto.randomUUID();
  const leads = crypto.randomUUID();
  beforeAll(async () => {
    world = await makeWorld();
    await putRules(world, ({ rules }) => ({
      rules: rules.map((r) =>
        r.step === 'Safety'
          ? {
              ...r,
              documents: [{ id: insurance, name: 'Proof of insurance' }],
              questions: [{ id: leads, prompt: 'Who leads on the day?', required: true }],
            }
          : r,
      ),
    }));
  });
  afterAll(() => world.close());

  test('nothing is sent without them; a file is read by who sees the clearance, and is no program', async () => {
    const p = await plan(world, 'Papers');
    const odalys = await world.as('odalys');
    expect((await p.send()).problem.fields).toMatchObject([
      { code: 'papers-missing', message: 'Add under Clearance: Proof of insurance.' },
    ]);
    const keep = (name: string, content: Buffer) =>
      odalys.try('POST /api/files', { body: { name, content: content.toString('base64') } });
    expect((await keep('risk.pdf', Buffer.from('MZ\u0090\u0000\u0003 a program'))).status).toBe(422);
    const kept = await keep('insurance.pdf', Buffer.from('%PDF-1.4\n1 0 obj\n<<>>\nendobj\n%%EOF\n'));
    const add = async (who: Who) =>
      (await world.as(who)).try('POST /api/events/:id/clearance/papers', {
        params: { id: p.id },
        body: { fileId: kept.body.id, documentId: insurance, label: 'Proof of insurance' },
      });
    expect((await add('piers')).status).toBe(403);
    expect((await add('odalys')).status).toBe(201);
    await add('odalys');
    const { papers } = await p.look();
    expect(papers).toMatchObject([{ label: 'Proof of insurance', name: 'insurance.pdf' }]);
    const read = async (who: Who, paper: string) =>
      (await world.as(who)).try('GET /api/events/:id/clearance/papers/:paper', {
        params: { id: p.id, paper },
      });
    expect((await read('tobias', papers[0]!.id)).status).toBe(200);
    expect((await read('door', papers[0]!.id)).status).toBe(403);
    // A file that is kept for something else is no paper of this plan.
    expect((await read('tobias', kept.body.id)).status).toBe(404);

    expect((await p.send()).problem.fields).toMatchObject([{ path: `answers.${leads}`, code: 'answer-to' }]);
    await p.send('odalys', { answers: [{ id: leads, words: 'Piers, and Imani stands in.' }] });
    expect((await p.look('tobias')).said.find((w) => w.kind === 'question')).toMatchObject({
      body: 'Who leads on the day?',
      step: 'Safety',
      answer: { body: 'Piers, and Imani stands in.' },
    });
    // What was answered is not asked again.
    await p.decide('tobias', 'Safety', { decision: 'send back', words: 'The map is missing.' });
    expect((await p.send()).status).toBe(201);
    const gone = await odalys.try('DELETE /api/events/:id/clearance/papers/:paper', {
      params: { id: p.id, paper: papers[0]!.id },
    });
    expect(gone.body.papers).toEqual([]);
  });
});

describe('the rules', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const wrong = async (change: Parameters<typeof putRules>[1]) =>
    (await putRules(world, change)).problem.fields?.map((f) => [f.path, f.code, f.message]);

  test('are changed by coordinators as a whole; of two who change them at once one is told', async () => {
    const { version, rules, facts } = await rulesOf(world);
    const body = { version, rules, facts };
    const odalys = await world.as('odalys');
    expect((await (await world.as('tobias')).try('PUT /api/clearance/rules', { body })).status).toBe(403);
    expect((await odalys.try('PUT /api/clearance/rules', { body })).body.version).toBe(version + 1);
    expect((await odalys.try('PUT /api/clearance/rules', { body })).problem.code).toBe('rules-changed');
  });

  test('the same step or fact twice is refused', async () => {
    const fact = { id: crypto.randomUUID(), name: 'Tents', kind: 'number' as const };
    expect((await wrong(() => ({ facts: [fact, fact] })))?.map((f) => f.slice(0, 2))).toEqual([
      ['facts.1.id', 'id-twice'],
    ]);
    expect(
      (await wrong(({ rules }) => ({ rules: [...rules, { ...rules[0]!, step: 'Again' }] })))?.map((f) =>
        f.slice(0, 2),
      ),
    ).toContainEqual(['rules.2.id', 'id-twice']);
  });

  test('circles and steps nobody can decide are refused, by name', async () => {
    expect(
      await wrong((book) => {
        const [safety, finance] = book.rules;
        return {
          rules: [
            { ...safety!, after: [finance!.id] },
            { ...finance!, after: [safety!.id] },
          ],
        };
      }),
    ).toEqual([
      ['rules.0.after', 'rules-circle', 'These steps wait for each other: Safety → Finance → Safety.'],
    ]);
    expect(
      await wrong(({ rules }) => ({ rules: rules.map((r) => ({ ...r, approves: 'catering' })) })),
    ).toEqual([
      ['rules.0.approves', 'rule-nobody', 'Nobody on the team can decide “Safety”.'],
      ['rules.1.approves', 'rule-nobody', 'Nobody on the team can decide “Finance”.'],
    ]);
    // An approver who left decides nothing.
    const { people } = await rulesOf(world);
    const marit = people.find((p) => p.name === 'Marit Solvang')!.id;
    const named = ({ rules }: RuleBook) => ({
      rules: rules.map((r) => ({ ...r, approves: null, approverId: marit })),
    });
    expect((await putRules(world, named)).status).toBe(200);
    await world.app.db.query('update staff set resting = true where id = $1', [marit]);
    expect((await wrong(named))?.map((f) => f[1])).toEqual(['rule-nobody', 'rule-nobody']);
    // Nor is a plan sent to them, whatever the rules said when they were here.
    const p = await plan(world, 'To nobody');
    expect((await p.look()).lacks).toEqual([
      'Nobody on the team can decide “Safety”.',
      'Nobody on the team can decide “Finance”.',
    ]);
    await world.app.db.query('update staff set resting = false where id = $1', [marit]);
  });

  test('a fact that a rule looks at is not taken away; nor is a step named twice or at nothing', async () => {
    const fire = { id: crypto.randomUUID(), name: 'There is an open fire', kind: 'yes or no' as const };
    const withFire = (book: RuleBook) => ({
      rules: [
        ...book.rules,
        ruleLike(book, {
          step: 'Fire',
          when: [[{ fact: fire.id, is: true }]],
          approves: 'safety',
          approverId: null,
        }),
      ],
      facts: [fire],
    });
    expect((await putRules(world, withFire)).status).toBe(200);
    expect(await wrong(() => ({ facts: [] }))).toEqual([
      ['rules.2.when.0.0', 'fact-gone', '“Fire” looks at a fact that is not asked any more.'],
    ]);
    expect(
      (
        await wrong(({ rules }) => ({ rules: [...rules, { ...rules[2]!, id: crypto.randomUUID() }] }))
      )?.[0]?.[1],
    ).toBe('step-twice');
    expect(
      (
        await wrong(({ rules }) => ({
          rules: rules.map((r) => ({ ...r, when: [[{ unit: crypto.randomUUID() }]] })),
        }))
      )?.map((f) => f[1]),
    ).toEqual(['test-wrong', 'test-wrong', 'test-wrong']);
    // It is asked on the plan, and a plan that has one needs the step.
    const p = await plan(world, 'Bonfire');
    expect((await p.look()).lacks).toEqual(['Say under Safety whether it applies: There is an open fire.']);
    await p.save({ facts: { ...answered('boats'), [fire.id]: true } });
    expect((await p.look()).steps.map((s) => [s.step, s.because])).toContainEqual([
      'Fire',
      ['There is an open fire'],
    ]);
    // Called otherwise, it is the same fact, and is answered.
    await putRules(world, () => ({ facts: [{ ...fire, name: 'A fire is lit' }] }));
    expect((await p.look()).steps.map((s) => s.because)).toContainEqual(['A fire is lit']);
    // Gone with the rule, it is asked no more, and what was answered does no harm.
    expect(
      (await putRules(world, ({ rules }) => ({ rules: rules.filter((r) => r.step !== 'Fire'), facts: [] })))
        .status,
    ).toBe(200);
    expect((await p.look()).steps.map((s) => s.step)).toEqual(['Safety', 'Finance']);
  });

  test('the bench says which past events would have had other steps, and changes nothing', async () => {
    const p = await plan(world, 'Last year', {
      startsLocal: '2026-07-20T19:00',
      endsLocal: '2026-07-20T21:00',
    });
    await p.send('odalys', { lateReason: 'For the bench.' });
    await p.decide('tobias', 'Safety', { decision: 'clear' });
    await p.decide('marit', 'Safety', { decision: 'clear' });
    await p.decide('marit', 'Finance', { decision: 'clear' });
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/events/:id/state', { params: { id: p.id }, body: { move: 'open' } });
    await world.moveTo('2026-07-22T12:00:00.000Z');
    const book = await rulesOf(world);
    const tried = await odalys.call('POST /api/clearance/rules/try', {
      body: {
        facts: [],
        rules: book.rules.map((r) =>
          r.step === 'Finance' ? { ...r, when: [[{ fact: 'alcohol', is: true }]] } : { ...r, workingDays: 8 },
        ),
      },
    });
    expect(tried).toEqual({
      events: 1,
      steps: [
        { step: 'Safety', before: 1, after: 1 },
        { step: 'Finance', before: 1, after: 0 },
      ],
      days: { before: 5, after: 8 },
      changed: [
        {
          id: p.id,
          title: 'Last year',
          startsLocal: '2026-07-20T19:00',
          before: ['Safety', 'Finance'],
          after: ['Safety'],
        },
      ],
    });
    expect(await rulesOf(world)).toEqual(book);
  });
});

describe('who decides', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  /** What was written to somebody of the team, by what it is about. */
  const written = async (email: string) =>
    (
      await world.app.db.query<{ kind: string; body: string }>(
        "select kind, body from messages where address = $1 and kind in ('to decide', 'still to decide', 'nobody decides', 'asked late', 'plan back', 'named in words') order by planned_for, id",
        [`${email}@brackenmere.example`],
      )
    ).map((m) => m.kind);
  const away = async (who: Who, absence: object | null) =>
    (await world.as(who)).try('PUT /api/account/absence', { body: { absence } as never });
  const deputyOf = async (who: Who, name: string) =>
    (await (await world.as(who)).call('GET /api/account/absence')).deputies.find((d) => d.name === name)!.id;
  const waiting = async (who: Who) =>
    (await (await world.as(who)).call('GET /api/clearance/waiting')).map((s) => [
      s.title,
      s.step,
      s.standsFor,
    ]);

  test('hears of it, is reminded on the day it is due, and coordinators two working days later', async () => {
    const p = await plan(world, 'Reminded');
    await p.send();
    expect(await written('tobias')).toEqual(['to decide']);
    expect(await written('marit')).toEqual(['to decide']);
    expect(await waiting('tobias')).toEqual([['Reminded', 'Safety', null]]);
    // Sent on Thursday 9 July: Finance is due on the 14th, Safety on the 16th.
    await world.moveTo('2026-07-14T13:00:00.000Z');
    expect(await written('marit')).toEqual(['to decide', 'still to decide']);
    expect(await written('tobias')).toEqual(['to decide']);
    await world.moveTo('2026-07-16T13:00:00.000Z');
    expect(await written('marit')).toEqual(['to decide', 'still to decide', 'still to decide']);
    expect(await written('odalys')).toEqual(['nobody decides']);
    expect(await written('tobias')).toEqual(['to decide', 'still to decide']);
    await p.decide('tobias', 'Safety', { decision: 'clear' });
    await p.decide('marit', 'Finance', { decision: 'send back', questions: ['Who counts the cash?'] });
    expect(await written('odalys')).toEqual(['nobody decides', 'plan back']);
    // What is decided, and what is with its unit again, reminds nobody.
    await world.moveTo('2026-07-30T13:00:00.000Z');
    expect(await written('tobias')).toEqual(['to decide', 'still to decide']);
    expect(await written('marit')).toHaveLength(3);
    expect(await waiting('marit')).toEqual([]);
  });

  test('of a plan that was called off nobody is reminded', async () => {
    const p = await plan(world, 'Off', { startsLocal: '2026-09-26T10:00', endsLocal: '2026-09-26T12:00' });
    await p.send();
    const before = await written('tobias');
    await (await world.as('odalys')).call('POST /api/events/:id/state', {
      params: { id: p.id },
      body: { move: 'call off', words: 'No boats.' },
    });
    await world.moveTo('2026-07-31T13:00:00.000Z');
    await world.moveTo('2026-08-07T13:00:00.000Z');
    expect(await written('tobias')).toEqual(before);
  });

  test('who stands in decides, and is written to, as long as the other is away', async () => {
    const marit = await deputyOf('tobias', 'Marit Solvang');
    expect(
      (await away('tobias', { from: '2026-08-24', until: '2026-08-15', deputyId: marit })).problem.fields,
    ).toMatchObject([{ path: 'absence.until' }]);
    expect(
      (await away('tobias', { from: '2026-08-15', until: '2026-08-24', deputyId: crypto.randomUUID() }))
        .problem.fields,
    ).toMatchObject([{ path: 'absence.deputyId', code: 'no-deputy' }]);
    expect((await away('piers', { from: '2026-08-15', until: '2026-08-24', deputyId: marit })).status).toBe(
      403,
    );
    expect((await away('tobias', { from: '2026-08-15', until: '2026-08-24', deputyId: marit })).status).toBe(
      200,
    );
    const tobias = await deputyOf('marit', 'Tobias Wren-Achebe');
    expect(
      (await away('marit', { from: '2026-08-24', until: '2026-08-26', deputyId: tobias })).problem.fields,
    ).toMatchObject([{ path: 'absence.deputyId', code: 'deputy-away' }]);

    const p = await plan(world, 'Stood in', {
      startsLocal: '2026-10-03T10:00',
      endsLocal: '2026-10-03T12:00',
    });
    await p.send();
    const safety = (await p.look()).steps[0]!.id;
    const decide = async () =>
      decideIt(await world.as('marit'), safety, { decision: 'clear', words: 'In his place.' });
    // He is there today.
    expect((await decide()).problem.code).toBe('not-your-step');
    await world.moveTo('2026-08-17T13:00:00.000Z');
    expect(await waiting('marit')).toContainEqual(['Stood in', 'Safety', 'Tobias Wren-Achebe']);
    const desk = (await (await world.as('marit')).call('GET /api/desk')).entries;
    expect(desk.filter((e) => e.subject === 'Stood in' && e.about === 'clearance')).toHaveLength(2);
    const before = await written('tobias');
    // Due on Friday 14 August, when he was still there; two working days later he is not.
    await world.moveTo('2026-08-18T13:00:00.000Z');
    expect(await written('tobias')).toEqual(before);
    expect((await decide()).status).toBe(201);
    expect((await p.look()).steps[0]).toMatchObject({ state: 'cleared', decidedBy: 'Marit Solvang' });
    await away('tobias', null);
    const again = await plan(world, 'Back', {
      startsLocal: '2026-10-10T10:00',
      endsLocal: '2026-10-10T12:00',
    });
    await again.send();
    expect(await waiting('marit')).toEqual([
      ['Stood in', 'Finance', null],
      ['Back', 'Finance', null],
    ]);
  });

  test('sees what changed since they looked, what was decided before, and what else is that day', async () => {
    const odalys = await world.as('odalys');
    const tobias = await world.as('tobias');
    const day = { startsLocal: '2026-11-14T10:00', endsLocal: '2026-11-14T12:00' };
    const first = await plan(world, 'Lantern Walk', day);
    await first.send();
    await first.decide('tobias', 'Safety', {
      decision: 'clear with conditions',
      conditions: [{ what: 'Lamps.', ownerId: null, dueOn: null, blocks: false }],
    });
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Lantern Walk', from: first.id, date: '2027-11-13' },
    });
    const around = (who: Caller, event: string) =>
      who.call('GET /api/events/:id/clearance/around', { params: { id: event } });
    const other = await plan(world, 'Band Practice', {
      startsLocal: '2027-11-13T11:00',
      endsLocal: '2027-11-13T18:00',
      venueId: null,
    });
    const now = await around(tobias, id);
    expect(now.seenAt).toBeNull();
    expect(now.before).toMatchObject([
      {
        title: 'Lantern Walk',
        steps: [
          { step: 'Safety', decidedBy: 'Tobias Wren-Achebe', conditions: ['Lamps.'] },
          { step: 'Finance' },
        ],
      },
    ]);
    expect(now.thatDay.map((e) => [e.title, e.samePlace])).toEqual([['Band Practice', false]]);
    expect(other.id).not.toBe(id);
    await tobias.call('POST /api/events/:id/clearance/seen', { params: { id } });
    expect((await around(tobias, id)).changes).toEqual([]);
    await world.moveTo('2026-09-01T13:00:00.000Z');
    await saveIt(odalys, id, { facts: answered('boats', 'minors') });
    expect((await around(tobias, id)).changes.map((c) => [c.field, c.actor])).toEqual([
      ['facts', 'Odalys Ferrant'],
    ]);
    // Each looks for themselves.
    expect((await around(await world.as('marit'), id)).changes).toEqual([]);
    expect(
      (await (await world.as('door')).try('GET /api/events/:id/clearance/around', { params: { id } })).status,
    ).toBe(403);
  });

  test('nobody is written to about what they may not see', async () => {
    const p = await plan(world, 'Quietly', {
      startsLocal: '2026-12-05T10:00',
      endsLocal: '2026-12-05T12:00',
    });
    await p.send();
    const { staff } = await (await world.as('odalys')).call('GET /api/staff');
    const ids = ['piers', 'tobias'].map((who) => staff.find((s) => s.email.startsWith(`${who}@`))!.id);
    await (await world.as('odalys')).call('POST /api/events/:id/clearance/words', {
      params: { id: p.id },
      body: { words: 'Who brings the lamps?', mentions: ids },
    });
    expect(await written('piers')).toEqual([]);
    expect((await written('tobias')).at(-1)).toBe('named in words');
  });
});

test('sent again with other facts, who cleared it before is asked and told, and a step that came between is waited for', async () => {
  const world = await makeWorld();
  const p = await plan(world, 'Between');
  await p.send();
  await p.decide('tobias', 'Safety', { decision: 'clear' });
  await p.decide('marit', 'Finance', { decision: 'send back', words: 'Too dear.' });
  const told = async () =>
    (await world.app.db.query("select 1 from messages where kind = 'to decide' and address like 'tobias@%'"))
      .length;
  expect(await told()).toBe(1);
  await world.moveTo('2026-07-10T13:00:00.000Z');
  // Meanwhile there is a step between the two; a word that is put right does not bring it in.
  const book = await rulesOf(world);
  const [safety, finance] = book.rules;
  const key = ruleLike(book, {
    step: 'Key',
    when: [[{ fact: 'boats', is: true }]],
    approves: 'premises',
    after: [safety!.id],
  });
  await putRules(world, () => ({ rules: [safety!, key, { ...finance!, after: [key.id] }] }));
  await p.save({ facts: answered('boats', 'minors') });
  await p.send();
  expect((await p.look()).steps.map((s) => [s.step, s.state, s.after])).toEqual([
    ['Safety', 'reopened', []],
    ['Finance', 'reopened', ['Key']],
    ['Key', 'waiting', ['Safety']],
  ]);
  // Five working days from Friday 10 July.
  expect((await p.look()).steps[0]!.dueOn).toBe('2026-07-17');
  expect(await told()).toBe(2);
  await putRules(world, () => ({ rules: [safety!, finance!] }));
  await p.save({ summary: 'Bring a lamp.' });
  expect((await p.look()).steps.map((s) => s.state)).toEqual(['reopened', 'reopened', 'waiting']);
  await p.save({ capacity: 13 });
  expect((await p.look()).steps.map((s) => s.state)).toEqual(['reopened', 'reopened', 'not needed']);
  await world.close();
});
