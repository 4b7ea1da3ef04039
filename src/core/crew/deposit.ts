import { type Account, accountOfMethod } from '#core/money/accounts.ts';
import type { Amount } from '#core/money/amount.ts';
import { type Entry, together } from '#core/money/posting.ts';

/** By which rule a deposit goes back: for every shift served, for one at least, or the share of the hours that were served. */
export const depositBacks = ['every', 'any', 'share'] as const;
export type DepositBack = (typeof depositBacks)[number];

/** What a call asks of whoever is accepted. */
export interface DepositTerms {
  amount: Amount;
  back: DepositBack;
  /** A shift that is given back so many hours before it begins, at least, counts no more. */
  noticeHours: number;
}

/** `owed`: it was settled, and what was to go back did not reach whoever left it. */
export const depositStates = [
  'asked',
  'held',
  'returned',
  'part returned',
  'kept',
  'owed',
  'let off',
] as const;
export type DepositState = (typeof depositStates)[number];

/** A shift somebody had of what the call is about. */
export interface Duty {
  hours: number;
  state: 'agreed' | 'served' | 'missed' | 'dropped';
  /** Of one that was given back: how many hours before it began. */
  noticeHours: number | null;
}

/** Why so much of a deposit goes back, as a code with what its words need. */
export type DepositWhy =
  | { code: 'called off' | 'no shift'; params: Record<string, never> }
  | { code: 'served'; params: { shifts: number } }
  | { code: 'missed'; params: { missed: number; shifts: number } }
  | { code: 'share'; params: { served: number; hours: number } };

/**
 * What of a deposit goes back. A shift that is over and that nobody ticked off counts as served: that somebody stayed away is known, or it
 * is not. One given back in time counts no more; given back later it is missed.
 */
export function dueBack(
  { back, noticeHours }: Omit<DepositTerms, 'amount'>,
  held: Amount,
  duties: readonly Duty[],
  calledOff: boolean,
): { amount: Amount; why: DepositWhy } {
  if (calledOff) return { amount: held, why: { code: 'called off', params: {} } };
  const counted = duties.filter((d) => d.state !== 'dropped' || d.noticeHours! < noticeHours);
  if (!counted.length) return { amount: held, why: { code: 'no shift', params: {} } };
  const shifts = counted.length;
  const served = counted.filter((d) => d.state === 'served' || d.state === 'agreed');
  const missed = shifts - served.length;
  if (!missed) return { amount: held, why: { code: 'served', params: { shifts } } };
  if (back === 'share') {
    const sum = (of: readonly Duty[]) => of.reduce((hours, d) => hours + d.hours, 0);
    const params = { served: sum(served), hours: sum(counted) };
    return { amount: Math.round((held * params.served) / params.hours), why: { code: 'share', params } };
  }
  return {
    amount: back === 'any' && served.length ? held : 0,
    why: { code: 'missed', params: { missed, shifts } },
  };
}

/** Money that came in for a deposit, or went back (below nought). */
export interface DepositMoney {
  method: keyof typeof accountOfMethod;
  amount: Amount;
  /** It came back: what it had been returned with did not go through. */
  undoes: boolean;
}

/** How the books stand for a deposit: what came in is owed to whoever left it, until it went back or is kept. */
export const booksOfDeposit = (moved: readonly DepositMoney[], kept: Amount): Entry[] =>
  together([
    ...moved.flatMap(({ method, amount }): Entry[] => [
      { account: accountOfMethod[method] as Account, fundId: null, amount },
      { account: 'deposits', fundId: null, amount: -amount },
    ]),
    { account: 'deposits', fundId: null, amount: kept },
    { account: 'kept', fundId: null, amount: -kept },
  ]);

/** What a deposit stands at by what moved for it, and by whether it was settled or let off. What is kept is never more than there is. */
export function depositStands(
  moved: readonly DepositMoney[],
  { settled, letOff, kept: asKept }: { settled: boolean; letOff: boolean; kept: Amount },
): { received: Amount; kept: Amount; state: DepositState } {
  const received = moved.reduce((sum, m) => sum + m.amount, 0);
  const kept = settled ? Math.min(asKept, Math.max(0, received)) : 0;
  const stands = (state: DepositState) => ({ received, kept, state });
  if (!settled) return stands(received > 0 ? 'held' : letOff ? 'let off' : 'asked');
  if (received > kept) return stands('owed');
  if (letOff && !moved.length) return stands('let off');
  if (kept === 0) return stands('returned');
  const went = moved.some((m) => m.amount < 0 && m.method !== 'contested');
  return stands(went ? 'part returned' : 'kept');
}
