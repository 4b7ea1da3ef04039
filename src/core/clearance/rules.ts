/** The properties of a plan that clearance rules look at. */
export interface Facts {
  headcount: number;
  /** Flags ticked on the plan or computed from it: minors, food, alcohol, money, boats, off-site, speakers, tools. */
  flags: readonly string[];
}

/** Every flag a rule may ask for, with the words of the interface. */
export const factFlags = {
  minors: 'people under age take part',
  food: 'food is served',
  alcohol: 'alcohol is served',
  money: 'money is taken',
  boats: 'boats or vehicles are used',
  tools: 'power tools are used',
  'off-site': 'it is away from our own premises',
  speakers: 'outside speakers',
} as const;
export type FactFlag = keyof typeof factFlags;

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
  /** Why it is needed, in words. */
  because: string[];
}

/** Computes the flags that follow from the plan itself, added to those ticked. */
export function factsOf(plan: {
  flags: readonly string[];
  capacity: number | null;
  highestPrice: number;
}): Facts {
  const flags = new Set(plan.flags.filter((f) => f in factFlags));
  if (plan.highestPrice > 0) flags.add('money');
  return { headcount: plan.capacity ?? 0, flags: [...flags].sort() };
}

/** Which steps a plan needs and why, in the order they run. None means it is clear without asking anybody. */
export function stepsFor(facts: Facts, rules: readonly ClearanceRule[]): NeededStep[] {
  return rules
    .map((rule) => ({
      rule,
      because: [
        ...rule.anyOf.filter((f) => facts.flags.includes(f)).map((f) => factFlags[f]),
        ...(rule.headcountFrom !== null && facts.headcount >= rule.headcountFrom
          ? [`${facts.headcount} people, the rule starts at ${rule.headcountFrom}`]
          : []),
      ],
    }))
    .filter((s) => s.because.length > 0)
    .sort((a, b) => a.rule.order - b.rule.order || (a.rule.step < b.rule.step ? -1 : 1));
}
