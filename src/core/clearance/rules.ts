import type { factsEn } from '#core/words/facts.en.ts';
import type { Said } from '#core/words/filling.ts';
import { say, words } from '#core/words/spoken.ts';
import { type Facts, type FactValue, headcount, isFactCode, type OwnFact } from './facts.ts';

/** Something that is so of a plan, as it is kept. */
export type Fact = Said<keyof typeof factsEn>;
export const sayFact = ({ code, params }: Fact): string => say(words().facts[code], params);

/** One thing that a rule looks at. A fact that nobody answered is neither so nor not so. */
export type Test =
  | { fact: string; is: boolean }
  | { fact: string; atLeast: number }
  | { unit: string }
  | { venue: string };

/** Asked of whoever sends a plan, where a step needs to know it. */
export interface StepQuestion {
  id: string;
  prompt: string;
  required: boolean;
}

/** A paper that a step wants to see: a risk assessment, proof of insurance. */
export interface StepDocument {
  id: string;
  name: string;
}

/** What becomes of registration while a step of an open event is decided again. */
export const meanwhiles = ['stays open', 'closes'] as const;
export type Meanwhile = (typeof meanwhiles)[number];

/** A rule: where it holds, its step is needed. */
export interface ClearanceRule {
  id: string;
  step: string;
  /** Groups of tests: it holds where all tests of any group do. A group without tests always holds; no group never. */
  when: readonly (readonly Test[])[];
  /** Which approvers decide: all who approve for a word, or one person. */
  approves: string | null;
  approverId: string | null;
  /** Rules whose steps have to be cleared before. */
  after: readonly string[];
  workingDays: number;
  asks: string;
  documents: readonly StepDocument[];
  questions: readonly StepQuestion[];
  meanwhile: Meanwhile;
}

/** Names of what rules point at, for saying why a step is needed. */
export interface RuleNames {
  facts: readonly OwnFact[];
  units: ReadonlyMap<string, string>;
  venues: ReadonlyMap<string, string>;
}

export interface NeededStep {
  rule: ClearanceRule;
  /** Why it is needed. */
  because: Fact[];
  /** What its rule looks at, as it was then: compared when the plan changes. */
  looked: Looked;
}

/** Values of what a rule looks at, by what is looked at; null where nothing is known. */
export type Looked = Readonly<Record<string, FactValue | string | null>>;

const holds = (test: Test, facts: Facts): boolean => {
  if ('unit' in test) return facts.unitId === test.unit;
  if ('venue' in test) return facts.venueId === test.venue;
  const value = facts.values[test.fact];
  if ('is' in test) return value === test.is;
  return typeof value === 'number' && value >= test.atLeast;
};

/** What a test looks at, and what is there. */
const looksAt = (test: Test, facts: Facts): [string, FactValue | string | null] => {
  if ('unit' in test) return ['unit', facts.unitId];
  if ('venue' in test) return ['venue', facts.venueId];
  return [test.fact, facts.values[test.fact] ?? null];
};

/** Why a test holds; null for one whose fact is gone. */
function reasonOf(test: Test, facts: Facts, names: RuleNames): Fact | null {
  if ('unit' in test) return { code: 'unit', params: { name: names.units.get(test.unit) ?? '' } };
  if ('venue' in test) return { code: 'venue', params: { name: names.venues.get(test.venue) ?? '' } };
  const own = names.facts.find((f) => f.id === test.fact);
  if ('is' in test) {
    if (isFactCode(test.fact)) return { code: test.is ? test.fact : `no ${test.fact}` };
    return own ? { code: test.is ? 'own' : 'own not', params: { name: own.name } } : null;
  }
  const value = Number(facts.values[test.fact]);
  if (test.fact === headcount)
    return { code: 'headcount reached', params: { people: value, from: test.atLeast } };
  return own ? { code: 'own reached', params: { name: own.name, value, from: test.atLeast } } : null;
}

/** Which steps a plan needs and why, in the order of the rules. None means it is clear without asking anybody. */
export function stepsFor(facts: Facts, rules: readonly ClearanceRule[], names: RuleNames): NeededStep[] {
  return rules.flatMap((rule) => {
    const groups = rule.when.filter((group) => group.every((test) => holds(test, facts)));
    if (!groups.length) return [];
    const because = new Map<string, Fact>();
    for (const test of groups.flat()) {
      const reason = reasonOf(test, facts, names);
      if (reason) because.set(JSON.stringify(reason), reason);
    }
    if (!because.size) because.set('', { code: 'always' });
    return [{ rule, because: [...because.values()], looked: lookedAt(rule, facts) }];
  });
}

/** What a rule looks at in a plan. */
export const lookedAt = (rule: Pick<ClearanceRule, 'when'>, facts: Facts): Looked =>
  Object.fromEntries(rule.when.flat().map((test) => looksAt(test, facts)));

/** What of two looks differs, by what was looked at. */
export const changedIn = (before: Looked, after: Looked): string[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (key) => (before[key] ?? null) !== (after[key] ?? null),
  );

/** Facts that rules look at and nobody has answered, by code or id. */
export function unanswered(rules: readonly ClearanceRule[], facts: Facts): string[] {
  const asked = new Set(rules.flatMap((r) => r.when.flat()).flatMap((t) => ('fact' in t ? [t.fact] : [])));
  return [...asked].filter((key) => facts.values[key] === undefined);
}

/** What nobody answered, as it is asked. */
export const sayUnanswered = (key: string, names: RuleNames): string =>
  isFactCode(key) ? sayFact({ code: key }) : (names.facts.find((f) => f.id === key)?.name ?? '');
