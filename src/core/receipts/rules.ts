import type { Amount } from '#core/money/amount.ts';
import type { CalendarDate } from '#core/time/clock.ts';

/** Countries whose rules are known. */
const ruleCountries = ['CA', 'US'] as const;
export type RuleCountry = (typeof ruleCountries)[number];

/** What holds in a country from a day on. Amounts are in minor units of its currency. An accountant decides; see `source`. */
export interface RuleSet {
  country: RuleCountry;
  currency: 'CAD' | 'USD';
  from: CalendarDate;
  /** Things beside what the event is: ignored up to this share of the payment, in hundredths, and this amount, whichever is less. */
  beside: { percent: number; most: Amount } | null;
  /** Above this share of the payment, in hundredths, what was received leaves no gift; null where that is not so. */
  mostAdvantage: number | null;
  /** From what on a statement of what was received is owed, where something was: above it. */
  statementAbove: Amount | null;
  /** From what on a written acknowledgment is needed for the gift to count. */
  acknowledgeFrom: Amount | null;
  /** Benefits of small value count as nothing up to this share of the payment, in hundredths; the amount is indexed (`Indexed`). */
  smallPercent: number | null;
  source: string;
}

const sets: readonly RuleSet[] = [
  {
    country: 'CA',
    currency: 'CAD',
    // Split receipting holds for gifts made after 20 December 2002.
    from: '2002-12-21',
    beside: { percent: 10, most: 7500 },
    mostAdvantage: 80,
    statementAbove: null,
    acknowledgeFrom: null,
    smallPercent: null,
    source:
      'Income Tax Act (Canada), section 248(30) to (41), and the published guidance on split receipting',
  },
  {
    country: 'US',
    currency: 'USD',
    from: '1994-01-01',
    beside: null,
    mostAdvantage: null,
    statementAbove: 7500,
    acknowledgeFrom: 25_000,
    smallPercent: 2,
    source:
      'Internal Revenue Code, sections 170(f)(8) and 6115, and the published guidance on quid pro quo contributions',
  },
];

/** Amounts that are set anew each year; the organization confirms them before they count. */
export interface Indexed {
  year: number;
  /** Benefits worth 2 % of the payment are small up to this. */
  smallMost: Amount;
  /** Things with the organization’s name are low-cost up to this, for a payment from `lowCostFrom` on. */
  lowCostMost: Amount;
  lowCostFrom: Amount;
}

/** Why there are no rules to go by. */
export type NoRules = 'no rules for the country' | 'before the rules';

/**
 * The rules that a receipt is written by: those of the organization’s country, because its tax office has registered it; on the day of the
 * gift. Where the giver lives decides nothing about the amount: it is said on the receipt where that is elsewhere (`abroad`).
 */
export function rulesFor(
  country: string,
  on: CalendarDate,
): { rules: RuleSet; why?: never } | { rules?: never; why: NoRules } {
  const of = sets.filter((s) => s.country === country);
  if (!of.length) return { why: 'no rules for the country' };
  const rules = of.filter((s) => s.from <= on).at(-1);
  return rules ? { rules } : { why: 'before the rules' };
}

/** Whether whoever gives lives where the rules say nothing of their taxes. */
export const isAbroad = (rules: RuleSet, giverCountry: string | null): boolean =>
  giverCountry !== null && giverCountry !== rules.country;
