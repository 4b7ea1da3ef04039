import type { factsEn } from '#core/words/facts.en.ts';
import type { Said } from '#core/words/filling.ts';
import { say, words } from '#core/words/spoken.ts';

/** The properties of a plan that clearance rules look at. */
export interface Facts {
  headcount: number;
  /** Flags ticked on the plan or computed from it: minors, food, alcohol, money, boats, off-site, speakers, tools. */
  flags: readonly string[];
}

/** Every flag a rule may ask for. */
export const factFlags = [
  'minors',
  'food',
  'alcohol',
  'money',
  'boats',
  'tools',
  'off-site',
  'speakers',
] as const;
export type FactFlag = (typeof factFlags)[number];
export const isFactFlag = (flag: string): flag is FactFlag => (factFlags as readonly string[]).includes(flag);

/** Something that is so of a plan, as it is kept. */
export type Fact = Said<keyof typeof factsEn>;
/** Whether two lists of facts say the same. */
export const sameFacts = (a: readonly Fact[], b: readonly Fact[]): boolean =>
  a.map(sayFact).join('\n') === b.map(sayFact).join('\n');

export const sayFact = ({ code, params }: Fact): string => say(words().facts[code], params);

/** A rule: when any of its flags holds, or the headcount is reached, its step is needed. */
export interface ClearanceRule {
  id: string;
  step: string;
  /** Which approvers decide: staff who approve for this word. */
  approves: string;
  anyOf: readonly FactFlag[];
  /** Needed from this many people; null when the number does not matter. */
  headcountFrom: number | null;
  workingDays: number;
  /** Steps of equal order run side by side; higher ones wait for the lower. */
  order: number;
  asks: string;
}

export interface NeededStep {
  rule: ClearanceRule;
  /** Why it is needed. */
  because: Fact[];
}

/** Computes the flags that follow from the plan itself, added to those ticked. */
export function factsOf(plan: {
  flags: readonly string[];
  capacity: number | null;
  highestPrice: number;
}): Facts {
  const flags = new Set(plan.flags.filter(isFactFlag));
  if (plan.highestPrice > 0) flags.add('money');
  return { headcount: plan.capacity ?? 0, flags: [...flags].sort() };
}

/** Which steps a plan needs and why, in the order they run. None means it is clear without asking anybody. */
export function stepsFor(facts: Facts, rules: readonly ClearanceRule[]): NeededStep[] {
  return rules
    .map((rule) => ({
      rule,
      because: [
        ...rule.anyOf.filter((f) => facts.flags.includes(f)).map((code): Fact => ({ code })),
        ...(rule.headcountFrom !== null && facts.headcount >= rule.headcountFrom
          ? [
              {
                code: 'headcount reached' as const,
                params: { people: facts.headcount, from: rule.headcountFrom },
              },
            ]
          : []),
      ],
    }))
    .filter((s) => s.because.length > 0)
    .sort((a, b) => a.rule.order - b.rule.order || (a.rule.step < b.rule.step ? -1 : 1));
}
