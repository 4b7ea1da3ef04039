import type { Amount, Currency } from '#core/money/amount.ts';
import type { Indexed, RuleSet } from './rules.ts';

/** What somebody paid in one go for one thing, and what they got for it. */
export interface Paid {
  /** `seats`: at an event; `gift`: on top of it or by itself; `thing`: what is sold, and worth its price; `chance`: a ticket of a raffle. */
  kind: 'seats' | 'gift' | 'in kind' | 'thing' | 'chance' | 'sponsorship';
  amount: Amount;
  currency: Currency;
  /** What the thing that the event is is worth: meal, concert, boat. Always an advantage. Null where nobody can say. */
  itself: Amount | null;
  /** What stands beside it, shared out: favours, a mug. */
  beside: Amount;
  /** Of what stands beside it, what can be spent like money; it always counts. */
  nearCash: Amount;
  /** Beside things bear the organization’s name and cost little. */
  lowCost?: boolean;
}

/** Why nothing can be receipted. */
export type NoReceipt =
  | 'nothing stayed'
  | 'value unknown'
  | 'mostly advantage'
  | 'nothing given'
  | 'a chance'
  | 'sponsorship'
  | 'another currency';

/** What of a payment can be receipted. `ignored`: beside things that count as nothing. */
export type Eligible =
  | { eligible: Amount; advantage: Amount; ignored: Amount; why: null }
  | { eligible: 0; advantage: Amount; ignored: Amount; why: NoReceipt };

const none = (why: NoReceipt, advantage: Amount, ignored: Amount = 0): Eligible => ({
  eligible: 0,
  advantage,
  ignored,
  why,
});

/** What of things beside counts as nothing under the rules. */
function besideIgnored(rules: RuleSet, paid: Paid, indexed: Indexed | null): Amount {
  const most = paid.beside - paid.nearCash;
  if (most <= 0) return 0;
  if (rules.beside) {
    // The lesser of a share of what was paid and an amount: compared without rounding.
    const fits = most * 100 <= paid.amount * rules.beside.percent && most <= rules.beside.most;
    return fits ? most : 0;
  }
  if (rules.smallPercent === null || !indexed) return 0;
  const small = most * 100 <= paid.amount * rules.smallPercent && most <= indexed.smallMost;
  const lowCost = paid.lowCost === true && most <= indexed.lowCostMost && paid.amount >= indexed.lowCostFrom;
  return small || lowCost ? most : 0;
}

/**
 * What of a payment can be receipted: what was given less what was received for it. Things beside what the event is are ignored where they
 * are small; above they count in full. Where the advantage is over the most, or cannot be told, nothing can. Hand-worked cases stand in the
 * test. `indexed`: the yearly amounts, where the organization has confirmed them.
 */
export function eligibleOf(rules: RuleSet, paid: Paid, indexed: Indexed | null = null): Eligible {
  if (paid.amount <= 0) return none('nothing stayed', 0);
  if (paid.currency !== rules.currency) return none('another currency', 0);
  if (paid.kind === 'chance') return none('a chance', paid.amount);
  if (paid.kind === 'sponsorship') return none('sponsorship', paid.amount);
  if (paid.itself === null) return none('value unknown', 0);
  const ignored = besideIgnored(rules, paid, indexed);
  const received = paid.itself + paid.beside - ignored;
  const advantage = Math.min(paid.amount, received);
  if (received >= paid.amount) return none('nothing given', advantage, ignored);
  if (rules.mostAdvantage !== null && received * 100 > paid.amount * rules.mostAdvantage)
    return none('mostly advantage', advantage, ignored);
  return { eligible: paid.amount - advantage, advantage, ignored, why: null };
}

/** What has to be written where something can be receipted. `given all the same`: not required, and written where it is asked for. */
export type Paper = 'official receipt' | 'statement' | 'acknowledgment' | 'given all the same';

/** Which paper a payment asks for. */
export function paperOf(rules: RuleSet, amount: Amount, advantage: Amount): Paper {
  if (rules.country === 'CA') return 'official receipt';
  if (advantage > 0 && rules.statementAbove !== null && amount > rules.statementAbove) return 'statement';
  if (rules.acknowledgeFrom !== null && amount >= rules.acknowledgeFrom) return 'acknowledgment';
  return 'given all the same';
}
