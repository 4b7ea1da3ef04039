import type { Amount, Currency } from '#core/money/amount.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { eligibleOf, type NoReceipt, type Paid } from './eligible.ts';
import { type Indexed, isAbroad, type NoRules, type RuleSet, rulesFor } from './rules.ts';

/** Something that somebody paid, with what it was. `part` is its name for good: it is receipted once. */
export interface Part extends Paid {
  part: string;
  on: CalendarDate;
  /** What it was: an event, a fund. */
  what: string;
  /** What was received for it, in words: what the event is, and what stands beside it. */
  received: string;
  receivedBeside: string;
  /** Of a gift in kind: what it is, and who said what it is worth. */
  thing: string;
  appraisedBy: string;
  /** The event has not taken place yet: what was paid may still go back. */
  toCome: boolean;
}

/** Whoever paid, as far as it matters. */
export interface Giver {
  name: string;
  /** Where they live, in lines; empty where it is not known. */
  address: string;
  country: string | null;
  erased: boolean;
}

export type Why = NoReceipt | NoRules | 'no address' | 'erased' | 'still to come' | 'receipted already';

/** A line of a receipt. */
export interface Line {
  part: string;
  on: CalendarDate;
  what: string;
  amount: Amount;
  advantage: Amount;
  received: string;
  eligible: Amount;
  thing: string;
  appraisedBy: string;
}

/** What somebody gets a receipt for, and what not, each with why. */
export interface Assessed {
  rules: RuleSet | null;
  currency: Currency | null;
  lines: Line[];
  left: { part: string; what: string; amount: Amount; why: Why }[];
  amount: Amount;
  advantage: Amount;
  eligible: Amount;
  /** They live where the rules say nothing of their taxes. */
  abroad: boolean;
}

/**
 * What somebody gets a receipt for of what they paid, by the rules of the organization’s country on the day of each. What cannot be
 * receipted is named with why; where the giver’s address is needed and not known, or they are erased, nothing is.
 */
export function assess(
  country: string,
  giver: Giver,
  parts: readonly Part[],
  indexed: readonly Indexed[] = [],
): Assessed {
  const of: Assessed = {
    rules: null,
    currency: null,
    lines: [],
    left: [],
    amount: 0,
    advantage: 0,
    eligible: 0,
    abroad: false,
  };
  for (const p of parts) {
    const leave = (why: Why) => of.left.push({ part: p.part, what: p.what, amount: p.amount, why });
    const { rules, why } = rulesFor(country, p.on);
    if (!rules) {
      leave(why);
      continue;
    }
    if (p.toCome) {
      leave('still to come');
      continue;
    }
    const yearly = indexed.find((i) => i.year === Number(p.on.slice(0, 4))) ?? null;
    const found = eligibleOf(rules, p, yearly);
    if (found.why) {
      leave(found.why);
      continue;
    }
    if (giver.erased) {
      leave('erased');
      continue;
    }
    // An official receipt without the address of the giver is none.
    if (rules.country === 'CA' && !giver.address.trim()) {
      leave('no address');
      continue;
    }
    of.rules = rules;
    of.currency = p.currency;
    of.abroad = isAbroad(rules, giver.country);
    of.amount += p.amount;
    of.advantage += found.advantage;
    of.eligible += found.eligible;
    const { part, on, what, amount, thing, appraisedBy } = p;
    of.lines.push({
      part,
      on,
      what,
      amount,
      advantage: found.advantage,
      received: [p.received, found.ignored < p.beside && p.receivedBeside].filter(Boolean).join(', '),
      eligible: found.eligible,
      thing,
      appraisedBy,
    });
  }
  return of;
}

/** What receipts say of the organization. */
export interface Issuer {
  legalName: string;
  address: string;
  registration: string;
  place: string;
  signer: string;
  signerRole: string;
}

/** The fields that are still missing before receipts can be written. Where none are known for a country, all are asked for. */
export const missingOf = (issuer: Issuer): (keyof Issuer)[] =>
  (['legalName', 'address', 'registration', 'place', 'signer'] as const).filter((key) => !issuer[key].trim());

/** The tax office that a receipt names, and its address on the web. */
export const offices = {
  CA: {
    en: 'Canada Revenue Agency',
    fr: 'Agence du revenu du Canada',
    web: { en: 'canada.ca/charities-giving', fr: 'canada.ca/organismes-bienfaisance-dons' },
  },
  US: {
    en: 'Internal Revenue Service',
    fr: 'Internal Revenue Service',
    web: { en: 'irs.gov/charities', fr: 'irs.gov/charities' },
  },
} as const;

/** All that a receipt says: kept as it was said, and hashed. */
export interface ReceiptContent {
  number: string;
  issuedOn: CalendarDate;
  country: RuleSet['country'];
  issuer: Issuer;
  giver: { name: string; address: string };
  lines: Omit<Line, 'part'>[];
  amount: Amount;
  advantage: Amount;
  eligible: Amount;
  currency: Currency;
  /** The number of the one it replaces. */
  replaces: string | null;
  abroad: boolean;
}

/** The code that stands on a receipt, by which it is verified: the first sixteen digits of its hash, in fours. */
export const codeOf = (sha256: string): string =>
  sha256
    .slice(0, 16)
    .toUpperCase()
    .replace(/(.{4})(?=.)/gu, '$1-');

/** Whether a typed code is that of a hash. */
export const isCodeOf = (typed: string, sha256: string): boolean =>
  typed.replace(/[^0-9a-f]/giu, '').toUpperCase() === sha256.slice(0, 16).toUpperCase();
