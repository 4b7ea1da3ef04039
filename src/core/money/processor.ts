import type { Instant } from '#core/time/clock.ts';
import type { Account } from './accounts.ts';
import type { Amount, Currency } from './amount.ts';
import { type Entry, type PostingKind, together } from './posting.ts';

/** What can move on the account with a card processor, and what it does to what stands there: more, less, or neither. */
export const moveKinds = {
  charge: 1,
  refund: -1,
  /** A refund that did not reach the card: the money is back on the account. */
  'refund failed': 1,
  /** Somebody contests a charge at their bank: the money is taken from the account until that is decided. */
  disputed: -1,
  'dispute won': 1,
  'dispute lost': 0,
  payout: -1,
  /** A payout that the bank sent back. */
  'payout failed': 1,
} as const satisfies Record<string, 1 | 0 | -1>;
export type MoveKind = keyof typeof moveKinds;

/** One line of the processor's statement: it has a number of its own, so it counts once however often it is told. */
export interface Move {
  id: string;
  at: Instant;
  kind: MoveKind;
  /** What it is about: our key of the charge or refund, or the processor's number of a payout. */
  about: string;
  /** The payout it was paid out with, once it was. */
  payout: string | null;
  /** What moved, never below nought; the kind says which way. */
  amount: Amount;
  /** What the processor kept of it; below nought where it gave a fee back. */
  fee: Amount;
  currency: Currency;
}

/** What a move does to what stands on the account with the processor. */
export const effectOf = (move: Pick<Move, 'kind' | 'amount' | 'fee'>): Amount =>
  moveKinds[move.kind] * move.amount - move.fee;

const entry = (account: Account, amount: Amount): Entry => ({ account, fundId: null, amount });

/**
 * What is posted for a move. A charge and a refund are posted with their order already, so only the fee is left. Each move stands for
 * itself: in whatever order they come, the books are the same. `lost`: what of a dispute that was lost nobody's payment stands for any
 * more, because it had gone back before; below nought where it came back after all.
 */
export function entriesOf(move: Pick<Move, 'kind' | 'amount' | 'fee'>, lost: Amount = 0): Entry[] {
  const effect = moveKinds[move.kind] * move.amount;
  const against: Account | null =
    move.kind === 'disputed' || move.kind === 'dispute won'
      ? 'disputed'
      : move.kind === 'payout' || move.kind === 'payout failed'
        ? 'bank'
        : null;
  return together([
    ...(against ? [entry('cards', effect), entry(against, -effect)] : []),
    entry('written off', lost),
    entry('disputed', -lost),
    entry('fees', move.fee),
    entry('cards', -move.fee),
  ]);
}

/** What is posted for a move that nothing of ours explains: it stands on an account of its own until somebody says what it is. */
export const unexplainedOf = (move: Pick<Move, 'kind' | 'amount' | 'fee'>): Entry[] =>
  together([entry('cards', effectOf(move)), entry('unexplained', -effectOf(move))]);

/** What a posting of a move is about. */
export const postingOf = ({ kind }: Pick<Move, 'kind'>): PostingKind =>
  kind === 'payout' || kind === 'payout failed'
    ? 'paid out'
    : kind === 'disputed' || kind === 'dispute won' || kind === 'dispute lost'
      ? 'disputed'
      : 'fee';

/** What of ours a move is about, as far as it is known. */
export interface Known {
  /** Of a charge, what was asked for; of a refund, what was to go back. */
  amount: Amount;
  currency: Currency;
}

/** Why a move cannot be taken in by itself. */
export type Aside = 'not ours' | 'another amount' | 'another currency';

/** Why a move is put aside: nothing of ours is what it is about, or it is another amount or currency. Null where all is well. */
export function asideOf(move: Pick<Move, 'kind' | 'amount' | 'currency'>, known: Known | null): Aside | null {
  if (move.kind === 'payout' || move.kind === 'payout failed') return null;
  if (!known) return 'not ours';
  if (move.currency !== known.currency) return 'another currency';
  // A dispute may be of a part of a charge, and never of more than it.
  const fits =
    move.kind === 'charge' || move.kind === 'refund' || move.kind === 'refund failed'
      ? move.amount === known.amount
      : move.amount <= known.amount;
  return fits ? null : 'another amount';
}
