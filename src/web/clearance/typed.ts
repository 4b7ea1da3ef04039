import type { RuleBook } from '#contract/clearance.ts';

type Rule = RuleBook['rules'][number];
type Test = Rule['when'][number][number];

/** A test as it is typed: what it looks at, and what is asked of that. */
export interface TypedTest {
  /** `fact:…`, `unit` or `venue`. */
  what: string;
  /** `yes`, `no`, the id of a unit or a place, or a number. */
  is: string;
}

export const noTest = (): TypedTest => ({ what: '', is: '' });

const typedTest = (test: Test): TypedTest =>
  'unit' in test
    ? { what: 'unit', is: test.unit }
    : 'venue' in test
      ? { what: 'venue', is: test.venue }
      : { what: `fact:${test.fact}`, is: 'is' in test ? (test.is ? 'yes' : 'no') : String(test.atLeast) };

/** What a typed test means. One that is not finished looks at a fact that is not there, which the server names. */
function testOf({ what, is }: TypedTest): Test {
  if (what === 'unit') return { unit: is };
  if (what === 'venue') return { venue: is };
  const fact = what.replace(/^fact:/u, '');
  return is === 'yes' || is === 'no' ? { fact, is: is === 'yes' } : { fact, atLeast: Number(is) };
}

/** A rule as it is typed. */
export const typedRule = (rule: Rule) => ({
  ...rule,
  when: rule.when.map((group) => group.map(typedTest)),
  workingDays: String(rule.workingDays),
  decider: rule.approverId ?? (rule.approves === null ? '' : `word:${rule.approves}`),
});
export type TypedRule = ReturnType<typeof typedRule>;

export const noRule = (): TypedRule => ({
  id: crypto.randomUUID(),
  step: '',
  when: [[noTest()]],
  approves: null,
  approverId: null,
  decider: '',
  after: [],
  workingDays: '5',
  asks: '',
  documents: [],
  questions: [],
  meanwhile: 'stays open',
});

export interface TypedBook {
  rules: TypedRule[];
  facts: RuleBook['facts'];
}

/** The rules and facts that are typed, as they are sent. */
export const bookOf = ({ rules, facts }: TypedBook) => ({
  rules: rules.map(({ decider, when, workingDays, ...rule }) => ({
    ...rule,
    when: when.map((group) => group.map(testOf)),
    workingDays: workingDays.trim() === '' ? Number.NaN : Number(workingDays),
    approves: decider.startsWith('word:') ? decider.slice(5) : null,
    approverId: decider && !decider.startsWith('word:') ? decider : null,
  })),
  facts,
});
