import type { PlanField } from '#core/events/parts.ts';
import type { WallTime } from '#core/time/clock.ts';
import { aloneAtNight, endsLate, type NeededShift } from './night.ts';

/** What is so of a plan or is not. Most are asked; those that the plan shows are taken from it. */
export const factCodes = [
  'minors',
  'food',
  'alcohol',
  'money',
  'boats',
  'tools',
  'off-site',
  'speakers',
  'late',
  'alone',
] as const;
export type FactCode = (typeof factCodes)[number];
export const isFactCode = (key: string): key is FactCode => (factCodes as readonly string[]).includes(key);

/** How many people may come, as the plan says. */
export const headcount = 'headcount';

/** A fact that an organization asks of its plans itself. */
export interface OwnFact {
  id: string;
  name: string;
  kind: 'yes or no' | 'number';
}

/** What was answered where the plan does not show it, by code or the id of a fact of one's own. */
export type FactAnswers = Readonly<Record<string, boolean | number>>;
export type FactValue = boolean | number;

/** As much of a plan as facts are taken from. */
export interface FactPlan {
  facts: FactAnswers;
  capacity: number | null;
  onlineCapacity: number | null;
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  allDay: boolean;
  /** The highest price of an offer, in minor units. */
  highestPrice: number;
  /** Whether the place is one's own premises; null without a place. */
  venueOurs: boolean | null;
  speakers: number;
  shifts: readonly NeededShift[];
  unitId: string | null;
  venueId: string | null;
}

/** What is known of a plan. */
export interface Facts {
  /** By code or id; what nobody answered is not there. */
  values: Readonly<Record<string, FactValue>>;
  /** Those that the plan itself shows: an answer cannot say otherwise. */
  fromPlan: readonly FactCode[];
  unitId: string | null;
  venueId: string | null;
}

/** What a plan shows of itself. Only what it shows to be so: what it does not show is asked. */
const shown: Partial<Record<FactCode, (plan: FactPlan) => boolean>> = {
  money: (p) => p.highestPrice > 0,
  'off-site': (p) => p.venueOurs === false,
  speakers: (p) => p.speakers > 0,
  late: (p) => !p.allDay && endsLate(p),
  alone: (p) => aloneAtNight(p.shifts),
};
/** Facts that are never asked: the plan has all there is to know. */
const neverAsked: readonly FactCode[] = ['late', 'alone'];
/** Facts somebody is asked about, as long as the plan does not show them. */
export const askedCodes = factCodes.filter((code) => !neverAsked.includes(code));

/** Fields of a plan that facts are taken from. */
export const factFields = [
  'facts',
  'capacity',
  'onlineCapacity',
  'startsLocal',
  'endsLocal',
  'allDay',
  'offers',
  'speakers',
  'unitId',
  'venueId',
] as const satisfies readonly PlanField[];

/** What is known of a plan: what it shows, and what was answered. */
export function planFacts(plan: FactPlan): Facts {
  const values: Record<string, FactValue> = {};
  for (const [key, value] of Object.entries(plan.facts))
    if (!(neverAsked as readonly string[]).includes(key)) values[key] = value;
  for (const code of neverAsked) values[code] = false;
  // A place of one's own answers for itself, unless somebody said otherwise.
  if (plan.venueOurs && values['off-site'] === undefined) values['off-site'] = false;
  const fromPlan = factCodes.filter((code) => shown[code]?.(plan));
  for (const code of fromPlan) values[code] = true;
  values[headcount] = (plan.capacity ?? 0) + (plan.onlineCapacity ?? 0);
  return { values, fromPlan, unitId: plan.unitId, venueId: plan.venueId };
}

/** Everything that is asked, answered: these are so, and nothing else is. */
export const answered = (...so: readonly FactCode[]): Record<string, boolean> =>
  Object.fromEntries(askedCodes.map((code) => [code, so.includes(code)]));

/** A plan without answers to what is no longer asked. */
export const answerable = (plan: FactPlan, own: readonly OwnFact[]): FactPlan => ({
  ...plan,
  facts: Object.fromEntries(
    Object.entries(plan.facts).filter(([key]) => isFactCode(key) || own.some((f) => f.id === key)),
  ),
});
