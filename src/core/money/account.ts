import type { Amount } from './amount.ts';

/** One row of money that moved for an order. Refunds are negative. Rows are only ever added. */
export interface Movement {
  amount: Amount;
}

/** The states of an order, in the words of the vocabulary. */
export type OrderState = 'open' | 'paid' | 'part paid' | 'owed' | 'refunded' | 'part refunded' | 'void';

/** What an order stands at. All in minor units. */
export interface OrderAccount {
  due: Amount;
  received: Amount;
  refunded: Amount;
  balance: Amount;
  state: OrderState;
}

/**
 * Works out an order's account from what it asks for and what moved.
 * `live` says whether any seat of the order is still held, offered or confirmed: an order nobody stands behind any
 * more is void when no money is left in it, else refunded in part or whole.
 */
export function accountOf(
  due: Amount,
  movements: readonly Movement[],
  live: boolean,
  confirmed: boolean,
): OrderAccount {
  const received = movements.reduce((sum, m) => sum + Math.max(m.amount, 0), 0);
  const refunded = -movements.reduce((sum, m) => sum + Math.min(m.amount, 0), 0);
  const kept = received - refunded;
  const owed = live ? due : 0;
  return { due, received, refunded, balance: owed - kept, state: stateOf() };

  function stateOf(): OrderState {
    if (refunded > 0) return kept === 0 ? 'refunded' : 'part refunded';
    if (!live) return received === 0 ? 'void' : 'paid';
    if (kept >= due) return confirmed || due > 0 ? 'paid' : 'open';
    if (kept > 0) return 'part paid';
    return confirmed ? 'owed' : 'open';
  }
}
