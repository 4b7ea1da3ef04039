import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { RuleBook } from '#contract/clearance.ts';
import { answered } from '#core/clearance/facts.ts';
import { makeWorld, type World } from './harness.ts';
import { plan, putRules, ruleLike, rulesOf, type Who } from './plans.ts';

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
    expect((await p.look()).lacks.map((l) => l.text)).toEqual([
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
    expect((await p.look()).lacks.map((l) => l.text)).toEqual([
      'Say under Safety whether it applies: There is an open fire.',
    ]);
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
