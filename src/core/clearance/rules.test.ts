import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { refreshed, type SentStep } from './again.ts';
import { type Facts, factCodes } from './facts.ts';
import {
  type ClearanceRule,
  lookedAt,
  type RuleNames,
  sayFact,
  stepsFor,
  type Test,
  unanswered,
} from './rules.ts';

const names: RuleNames = {
  facts: [
    { id: 'fire', name: 'there is an open fire', kind: 'yes or no' },
    { id: 'tents', name: 'tents', kind: 'number' },
  ],
  units: new Map([['u1', 'Small Boats']]),
  venues: new Map([['v1', 'Reedhouse']]),
};
const rule = (
  step: string,
  when: ClearanceRule['when'],
  part: Partial<ClearanceRule> = {},
): ClearanceRule => ({
  id: step,
  step,
  when,
  approves: step.toLowerCase(),
  approverId: null,
  after: [],
  workingDays: 5,
  asks: '',
  documents: [],
  questions: [],
  meanwhile: 'stays open',
  ...part,
});
const facts = (values: Facts['values'], part: Partial<Facts> = {}): Facts => ({
  values,
  fromPlan: [],
  unitId: null,
  venueId: null,
  ...part,
});
const is = (fact: string, so = true): Test => ({ fact, is: so });

describe('which steps a plan needs', () => {
  test('a rule holds where all tests of one of its groups do, and says why', () => {
    const safety = rule('Safety', [
      [is('boats'), is('minors')],
      [{ fact: 'headcount', atLeast: 100 }],
      [{ unit: 'u1' }, { venue: 'v1' }, is('food', false)],
    ]);
    const why = (f: Facts) => stepsFor(f, [safety], names).map((s) => s.because.map(sayFact));
    expect(why(facts({ boats: true, minors: false, headcount: 99 }))).toEqual([]);
    expect(why(facts({ boats: true, minors: true, headcount: 120 }))).toEqual([
      ['boats or vehicles are used', 'people under age take part', '120 people, the rule starts at 100'],
    ]);
    expect(why(facts({ food: false }, { unitId: 'u1', venueId: 'v1' }))).toEqual([
      ['it is of Small Boats', 'it is at Reedhouse', 'no food is served'],
    ]);
  });

  test('what nobody answered is neither so nor not so', () => {
    const rules = [rule('Dry', [[is('alcohol', false)]]), rule('Wet', [[is('alcohol')]])];
    const needed = (f: Facts) => stepsFor(f, rules, names).map((s) => s.rule.step);
    expect(needed(facts({}))).toEqual([]);
    expect(needed(facts({ alcohol: false }))).toEqual(['Dry']);
    expect(needed(facts({ alcohol: true }))).toEqual(['Wet']);
    expect(unanswered(rules, facts({}))).toEqual(['alcohol']);
    expect(unanswered(rules, facts({ alcohol: false }))).toEqual([]);
    expect(unanswered([rule('Any', [[{ unit: 'u1' }]])], facts({}))).toEqual([]);
  });

  test('facts of one’s own: yes or no, and from a number on', () => {
    const rules = [rule('Fire', [[is('fire')]]), rule('Camp', [[{ fact: 'tents', atLeast: 10 }]])];
    expect(
      stepsFor(facts({ fire: true, tents: 12 }), rules, names).map((s) => s.because.map(sayFact)),
    ).toEqual([['there is an open fire'], ['tents: 12, the rule starts at 10']]);
    expect(stepsFor(facts({ fire: false, tents: 9 }), rules, names)).toEqual([]);
    // One that is gone holds nowhere, and is asked of nobody who could answer it.
    expect(stepsFor(facts({}), [rule('Gone', [[is('gone')]])], names)).toEqual([]);
  });

  test('a group without tests is always so, no group never', () => {
    const needed = stepsFor(facts({}), [rule('Every', [[]]), rule('None', [])], names);
    expect(needed.map((s) => [s.rule.step, s.because.map(sayFact)])).toEqual([
      ['Every', ['every plan needs it']],
    ]);
  });

  test('the same as asking every test by itself', () => {
    const someTest = fc.oneof(
      fc.record({ fact: fc.constantFrom(...factCodes), is: fc.boolean() }),
      fc.record({ fact: fc.constant('headcount'), atLeast: fc.integer({ min: 1, max: 200 }) }),
      fc.record({ unit: fc.constantFrom('u1', 'u2') }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.array(someTest, { maxLength: 3 }), { maxLength: 3 }),
        fc.dictionary(fc.constantFrom(...factCodes), fc.boolean()),
        fc.nat(200),
        fc.constantFrom(null, 'u1', 'u2'),
        (when, values, headcount, unitId) => {
          const f = facts({ ...values, headcount }, { unitId });
          const so = (t: Test): boolean =>
            'unit' in t
              ? t.unit === unitId
              : 'is' in t
                ? (values[t.fact as (typeof factCodes)[number]] ?? null) === t.is
                : 'atLeast' in t && headcount >= t.atLeast;
          const needed = stepsFor(f, [rule('One', when)], names);
          expect(needed.length === 1).toBe(when.some((group) => group.every(so)));
          if (needed.length) expect(needed[0]!.because.length).toBeGreaterThan(0);
        },
      ),
    );
  });
});

describe('a plan that changed after it was sent', () => {
  const rules = [
    rule('Safety', [[is('boats')], [{ fact: 'headcount', atLeast: 100 }]]),
    rule('Finance', [[is('money')]]),
    rule('Premises', [[{ venue: 'v1' }]]),
  ];
  const sentWith = (f: Facts, state: SentStep['state']): SentStep[] =>
    stepsFor(f, rules, names).map(({ rule: r, because, looked }) => ({
      id: `step ${r.step}`,
      ruleId: r.id,
      state,
      because,
      looked,
    }));
  const before = facts({ boats: true, money: true, food: false, headcount: 120 });
  const changes = (after: Facts, state: SentStep['state'] = 'cleared') => {
    const { add, reopen, update, drop } = refreshed(sentWith(before, state), stepsFor(after, rules, names));
    return {
      add: add.map((s) => s.rule.step),
      reopen: reopen.map((s) => [s.id, ...s.changed]),
      update: update.map((s) => s.id),
      drop,
    };
  };
  const none = { add: [], reopen: [], update: [], drop: [] };

  test('only steps whose facts changed are decided again', () => {
    expect(changes(before)).toEqual(none);
    // Nobody's rule looks at food.
    expect(changes(facts({ ...before.values, food: true }))).toEqual(none);
    expect(changes(facts({ ...before.values, headcount: 200 }))).toEqual({
      ...none,
      reopen: [['step Safety', 'headcount']],
    });
    expect(changes(facts({ ...before.values, boats: false }))).toEqual({
      ...none,
      reopen: [['step Safety', 'boats']],
    });
  });

  test('what is new is added, what nobody asks for any more is kept and asked of nobody', () => {
    expect(changes(facts(before.values, { venueId: 'v1' }))).toEqual({ ...none, add: ['Premises'] });
    expect(changes(facts({ ...before.values, money: false }))).toEqual({ ...none, drop: ['step Finance'] });
    const back = sentWith(before, 'cleared').map((s) =>
      s.ruleId === 'Finance' ? { ...s, state: 'not needed' as const } : s,
    );
    expect(refreshed(back, stepsFor(before, rules, names)).reopen.map((s) => s.id)).toEqual(['step Finance']);
    expect(refreshed(back, stepsFor(facts({ ...before.values, money: false }), rules, names)).drop).toEqual(
      [],
    );
  });

  test('what is still to be decided is shown as it is now', () => {
    expect(changes(facts({ ...before.values, headcount: 200 }), 'with approver')).toEqual({
      ...none,
      update: ['step Safety'],
    });
  });

  test('a step is decided again exactly when something its rule looks at differs', () => {
    const some = fc.record({
      boats: fc.boolean(),
      money: fc.boolean(),
      food: fc.boolean(),
      headcount: fc.constantFrom(50, 120, 200),
    });
    fc.assert(
      fc.property(some, some, (a, b) => {
        const sent = stepsFor(facts(a), rules, names).map((s, n) => ({
          id: String(n),
          ruleId: s.rule.id,
          state: 'cleared' as const,
          because: s.because,
          looked: s.looked,
        }));
        const needed = stepsFor(facts(b), rules, names);
        const { add, reopen, drop } = refreshed(sent, needed);
        for (const r of rules) {
          const was = sent.find((s) => s.ruleId === r.id);
          const isNow = needed.some((s) => s.rule.id === r.id);
          const differs = JSON.stringify(lookedAt(r, facts(a))) !== JSON.stringify(lookedAt(r, facts(b)));
          expect(add.some((s) => s.rule.id === r.id)).toBe(!was && isNow);
          expect(drop.includes(was?.id ?? '-')).toBe(Boolean(was) && !isNow);
          expect(reopen.some((s) => s.id === was?.id)).toBe(Boolean(was) && isNow && differs);
        }
      }),
    );
  });
});
