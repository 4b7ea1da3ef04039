import type { Instant } from '#core/time/clock.ts';
import { type Account, accountOfMethod } from './accounts.ts';
import type { Amount } from './amount.ts';
import { lineAmount, type OrderLine } from './lines.ts';
import { type Entry, together, toPost } from './posting.ts';

/** A line of an order, as the books see it. */
export interface BookedLine extends OrderLine {
  /** What of its price is tax already. */
  taxIncluded: Amount;
  /** Of a gift: the fund it is for. */
  fundId: string | null;
}

/** A part of a payment, refund or waiver, laid on a line or on none, with how the money moved. */
export interface Laid {
  lineId: string | null;
  amount: Amount;
  /** `waived`: no money moved. */
  method: keyof typeof accountOfMethod | 'waived';
  /** Taken over from another line, or by another one, or taken back by a bank. */
  moved: boolean;
  /** It came back: what it had been returned with did not go through. */
  undoes: boolean;
}

const income: Record<Exclude<OrderLine['kind'], 'gift'>, Account> = {
  seats: 'seats',
  extra: 'extras',
  kept: 'kept',
};

/**
 * How the books stand for one order. What was booked is owed, and earned, once the order is confirmed: a seat that is held while somebody
 * pays, or waited for, is nobody's debt. What is kept by the terms is, as soon as it is. What came in stands against what is owed, also before. A gift is one as far as it came in. The
 * sum is nothing, whatever happened to the order; what people still owe is the account `owed`: the order's balance once it is confirmed,
 * without what was promised as a gift and has not come.
 */
export function booksOf(lines: readonly BookedLine[], laid: readonly Laid[], confirmed: boolean): Entry[] {
  const entries: Entry[] = [];
  const post = (account: Account, amount: Amount, fundId: string | null = null) =>
    entries.push({ account, fundId, amount });
  const of = new Map(lines.map((l) => [l.id, l]));
  const isBooked = (line: BookedLine) => confirmed || line.kind === 'kept';
  for (const { lineId, amount, method } of laid) {
    const line = lineId === null ? undefined : of.get(lineId);
    if (method === 'waived') {
      // What was let off a unit that was given up, and a gift that was not made, is nobody's loss.
      if (!line?.live || line.kind === 'gift' || !isBooked(line)) continue;
      post('written off', amount);
      post('owed', -amount);
    } else {
      post(accountOfMethod[method], amount);
      if (line?.kind === 'gift') post('gifts', -amount, line.fundId);
      else post('owed', -amount);
    }
  }
  for (const line of lines) {
    if (!line.live || line.kind === 'gift' || !isBooked(line)) continue;
    const asked = lineAmount(line);
    post('owed', asked);
    post(income[line.kind], line.taxIncluded - line.unitPrice);
    post('discounts', line.discount);
    post('taxes', -(line.tax + line.taxIncluded));
    const returned = laid.reduce(
      (sum, a) =>
        sum -
        (a.lineId === line.id && ((a.amount < 0 && !a.moved) || a.undoes) && a.method !== 'waived'
          ? a.amount
          : 0),
      0,
    );
    const favour = Math.min(returned, asked);
    post('favours', favour);
    post('owed', -favour);
  }
  return together(entries);
}

/** A line with the time in which somebody stood behind it; one that still is live has no end. */
export interface TimedLine extends BookedLine {
  from: Instant;
  until: Instant | null;
}

/**
 * What would have been posted for an order as it went, had the books been kept then: at each moment at which something was agreed, given
 * up, confirmed or paid, what changed by it. Together they come to how the books stand for it now.
 */
export function postingsThrough(
  lines: readonly TimedLine[],
  laid: readonly (Laid & { at: Instant })[],
  confirmedAt: Instant | null,
): { at: Instant; entries: Entry[] }[] {
  const moments = new Set([
    ...(confirmedAt ? [confirmedAt] : []),
    ...lines.flatMap((l) => [l.from, ...(l.until ? [l.until] : [])]),
    ...laid.map((a) => a.at),
  ]);
  let stands: Entry[] = [];
  return [...moments].sort().flatMap((at) => {
    const should = booksOf(
      lines.filter((l) => l.from <= at).map((l) => ({ ...l, live: l.until === null || at < l.until })),
      laid.filter((a) => a.at <= at),
      confirmedAt !== null && confirmedAt <= at,
    );
    const entries = toPost(should, stands);
    stands = should;
    return entries.length ? [{ at, entries }] : [];
  });
}
