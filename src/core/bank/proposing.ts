import { fold } from '#core/contacts/names.ts';
import type { Amount } from '#core/money/amount.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { daysBetween } from '#core/time/dates.ts';
import type { BankLine } from './reading.ts';

/** What a line of the bank may be. Amounts as the bank has them. */
export interface Candidate {
  kind: 'payout' | 'transfer' | 'hand' | 'owed' | 'cost';
  id: string;
  on: CalendarDate;
  amount: Amount;
  /** Who it is of, and by which numbers it is known. */
  name: string;
  numbers: readonly string[];
}

export type BankReason =
  | { of: 'same amount' }
  | { of: 'days apart'; days: number }
  | { of: 'name in it' }
  | { of: 'number in it' }
  | { of: 'adds up'; count: number };

export interface BankProposal {
  kind: Candidate['kind'];
  ids: readonly string[];
  /** How sure, from 0 to 100. */
  weight: number;
  reasons: readonly BankReason[];
}

/** How many days money may be under way: before and after the day we know. */
const reach = { payout: [1, 6], transfer: [5, 12], hand: [0, 45], owed: [400, 400], cost: [10, 20] } as const;
/** As many things taken to the bank together are looked through; more would be chance. */
const mostTogether = 6;
const mostLooked = 24;

const inWords = (words: string, name: string): boolean => {
  const folded = ` ${fold(words).replace(/[^\p{L}\p{N}]+/gu, ' ')} `;
  const parts = fold(name)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((p) => p.length > 2);
  return parts.length > 0 && parts.every((p) => folded.includes(` ${p} `));
};
const hasNumber = (words: string, numbers: readonly string[]): boolean => {
  const digits: readonly string[] = words.match(/[\p{L}\p{N}-]+/gu) ?? [];
  return numbers.some((n) => n.length >= 3 && digits.some((d) => d.toLowerCase() === n.toLowerCase()));
};

/** Weighs one candidate for a line; null where it cannot be it. */
function weigh(line: BankLine, c: Candidate): BankProposal | null {
  if (c.amount !== line.amount) return null;
  const days = daysBetween(c.on, line.on);
  const [before, after] = reach[c.kind];
  if (days < -before || days > after) return null;
  const named = inWords(line.words, c.name);
  const numbered = hasNumber(line.words, c.numbers);
  // What somebody owes is theirs only where the line names them.
  if (c.kind === 'owed' && !named && !numbered) return null;
  const near = Math.max(0, 12 - Math.abs(days));
  const base = { payout: 72, transfer: 60, hand: 45, owed: 50, cost: 58 }[c.kind];
  return {
    kind: c.kind,
    ids: [c.id],
    weight: Math.min(99, base + near + (named ? 14 : 0) + (numbered ? 18 : 0)),
    reasons: [
      { of: 'same amount' },
      ...(c.kind === 'owed' ? [] : [{ of: 'days apart' as const, days }]),
      ...(named ? [{ of: 'name in it' as const }] : []),
      ...(numbered ? [{ of: 'number in it' as const }] : []),
    ],
  };
}

/** Things in hand that were taken to the bank together: those that add up to a line, the fewest and oldest first. Null where none do. */
function together(line: BankLine, hand: readonly Candidate[]): BankProposal | null {
  const [before, after] = reach.hand;
  const near = hand
    .filter((c) => {
      const days = daysBetween(c.on, line.on);
      return c.amount > 0 && c.amount < line.amount && days >= -before && days <= after;
    })
    .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : b.amount - a.amount))
    .slice(0, mostLooked);
  // All of it at once is what happens most.
  const all = near.reduce((sum, c) => sum + c.amount, 0);
  const found = all === line.amount && near.length > 1 ? near : subset(near, line.amount);
  if (!found) return null;
  return {
    kind: 'hand',
    ids: found.map((c) => c.id),
    weight: found === near ? 66 : Math.max(30, 56 - 4 * found.length),
    reasons: [{ of: 'adds up', count: found.length }],
  };
}

/** The fewest of some amounts that add up to a sum, at most six. */
function subset(of: readonly Candidate[], sum: Amount): Candidate[] | null {
  for (let size = 2; size <= mostTogether; size += 1) {
    const found = pick(of, 0, sum, size);
    if (found) return found;
  }
  return null;
}
function pick(of: readonly Candidate[], from: number, left: Amount, size: number): Candidate[] | null {
  if (size === 1) {
    const last = of.slice(from).find((c) => c.amount === left);
    return last ? [last] : null;
  }
  for (let at = from; at < of.length; at += 1) {
    const c = of[at]!;
    if (c.amount >= left) continue;
    const rest = pick(of, at + 1, left - c.amount, size - 1);
    if (rest) return [c, ...rest];
  }
  return null;
}

/**
 * What each line may be, the likeliest first, at most five, each with its reasons. What is the likeliest for several lines is proposed
 * for the one it fits best, and for the others only if nothing else is.
 */
export function propose(
  lines: readonly BankLine[],
  candidates: readonly Candidate[],
): Map<string, BankProposal[]> {
  const byAmount = new Map<Amount, Candidate[]>();
  for (const c of candidates) {
    const known = byAmount.get(c.amount);
    if (known) known.push(c);
    else byAmount.set(c.amount, [c]);
  }
  const hand = candidates.filter((c) => c.kind === 'hand');
  const of = new Map<string, BankProposal[]>();
  for (const line of lines) {
    const found = (byAmount.get(line.amount) ?? []).flatMap((c) => weigh(line, c) ?? []);
    const sum = line.amount > 0 && found.every((f) => f.weight < 70) ? together(line, hand) : null;
    of.set(
      line.key,
      [...found, ...(sum ? [sum] : [])]
        .sort((a, b) => b.weight - a.weight || (a.ids[0]! < b.ids[0]! ? -1 : 1))
        .slice(0, 5),
    );
  }
  // Two lines of one amount: the first choice of both would be the same.
  const best = new Map<string, { key: string; weight: number }>();
  for (const [key, proposals] of of)
    for (const id of proposals[0]?.ids ?? []) {
      const known = best.get(id);
      if (!known || proposals[0]!.weight > known.weight) best.set(id, { key, weight: proposals[0]!.weight });
    }
  for (const [key, proposals] of of) {
    const [first, ...rest] = proposals;
    if (first && rest.length && first.ids.some((id) => best.get(id)!.key !== key))
      of.set(key, [...rest, first]);
  }
  return of;
}
