import type { Amount } from './amount.ts';

/**
 * One thing an order asks money for, written once when it is placed: a unit of an offer at the price agreed then, an extra, or a
 * gift. What happens to prices afterwards does not change it. All amounts in minor units.
 */
export interface OrderLine {
  id: string;
  /** `kept`: what stays of units that were given up, by the terms. */
  kind: 'seats' | 'extra' | 'gift' | 'kept';
  unitPrice: Amount;
  discount: Amount;
  tax: Amount;
  /** Whether somebody still stands behind it: a unit with a seat that is not given up; an extra, or a gift, of an order that stands. */
  live: boolean;
}

/** A part of a payment, refund or waiver, laid on a line; on none where it is more than was asked. Refunds are negative. */
export interface Allocation {
  lineId: string | null;
  amount: Amount;
  /** Let off, not received. */
  waived: boolean;
  /** Taken over from another line, or by another one, or taken back by a bank: nobody returned it as a favour. */
  moved?: boolean;
  /** It came back: what it had been returned with did not go through. */
  undoes?: boolean;
}

export interface Part {
  lineId: string | null;
  amount: Amount;
}

export const lineAmount = (line: Pick<OrderLine, 'unitPrice' | 'discount' | 'tax'>): Amount =>
  line.unitPrice - line.discount + line.tax;

/** What one line stands at. */
export interface LineAccount {
  /** What is asked for it by now. */
  charged: Amount;
  received: Amount;
  returned: Amount;
  waived: Amount;
  /** Still to come in; negative: to be paid back. */
  balance: Amount;
}

/**
 * What a line stands at. A unit that was given up asks for nothing, so what was paid for it is owed back. A gift that was
 * made stays made when the seats are given up; one that was not is no longer asked for. Money returned for a unit that
 * is kept lowers what is asked for it: it was a favour, not a debt.
 */
export function lineAccount(line: OrderLine, allocations: readonly Allocation[]): LineAccount {
  let [received, returned, waived] = [0, 0, 0];
  for (const a of allocations) {
    if (a.lineId !== line.id) continue;
    if (a.waived) waived += a.amount;
    else if (a.undoes) returned -= a.amount;
    else if (a.amount > 0 || a.moved) received += a.amount;
    else returned -= a.amount;
  }
  const kept = received - returned;
  if (line.kind === 'gift' && !line.live) return { charged: kept, received, returned, waived, balance: 0 };
  if (!line.live) return { charged: 0, received, returned, waived, balance: 0 - kept };
  const charged = Math.max(0, lineAmount(line) - returned);
  return { charged, received, returned, waived, balance: charged - kept - waived };
}

/** What was laid on a line, by the payment it came with. */
export interface Laid {
  paymentId: string;
  amount: Amount;
}

/**
 * What goes over from a line that gives way to the one in its place: what came in for it, up to what that one asks for, payment by
 * payment. What is more stays where it was, and is owed back as long as nobody stands behind it.
 */
export function layOver(
  from: string,
  to: { id: string; asked: Amount },
  laid: readonly Laid[],
): { paymentId: string; lineId: string; amount: Amount }[] {
  let left = to.asked;
  return laid.flatMap(({ paymentId, amount }) => {
    const part = Math.min(amount, left);
    if (part <= 0) return [];
    left -= part;
    return [
      { paymentId, lineId: from, amount: -part },
      { paymentId, lineId: to.id, amount: part },
    ];
  });
}

/** The states of an order, in the words of the vocabulary. */
export type OrderState = 'open' | 'paid' | 'part paid' | 'owed' | 'refunded' | 'part refunded' | 'void';

/** What an order stands at: the sum of its lines, and of what was laid on none. */
export interface OrderAccount {
  due: Amount;
  /** Money that came in and stayed: without what was let off, less what was returned. */
  received: Amount;
  refunded: Amount;
  waived: Amount;
  /** Still to come in; negative: to be paid back. due = received + waived + balance, always. */
  balance: Amount;
  /** What of the gift came in and stayed. */
  given: Amount;
  state: OrderState;
}

/** Works out what an order stands at. `confirmed` says whether any of its seats is confirmed. */
export function accountOf(
  lines: readonly OrderLine[],
  allocations: readonly Allocation[],
  confirmed: boolean,
): OrderAccount {
  const of = lines.map((line) => ({ line, account: lineAccount(line, allocations) }));
  const loose = allocations.filter((a) => a.lineId === null && !a.waived);
  const looseKept = loose.reduce((sum, a) => sum + a.amount, 0);
  const sum = (pick: (a: LineAccount) => Amount) => of.reduce((total, x) => total + pick(x.account), 0);
  const refunded =
    sum((a) => a.returned) -
    loose.reduce((total, a) => total + (a.undoes ? a.amount : Math.min(0, a.amount)), 0);
  const received = sum((a) => a.received - a.returned) + looseKept;
  const due = sum((a) => a.charged);
  // What was let off a unit that was given up, or beyond what was asked, is nobody's to have back.
  const waived = of.reduce((total, { line, account }) => {
    if (!line.live) return total;
    return total + account.waived;
  }, 0);
  const balance = due - received - waived;
  const live = lines.some((l) => l.live && l.kind !== 'kept');
  const given = of
    .filter((x) => x.line.kind === 'gift')
    .reduce((total, { account }) => total + account.received - account.returned, 0);
  return { due, received, refunded, waived, balance, given, state: stateOf() };

  function stateOf(): OrderState {
    if (refunded > 0) return received === 0 ? 'refunded' : 'part refunded';
    if (!live) return received === 0 ? 'void' : 'paid';
    if (balance <= 0) return confirmed || due > 0 ? 'paid' : 'open';
    if (received + waived > 0) return 'part paid';
    return confirmed ? 'owed' : 'open';
  }
}

/**
 * Lays money that came in on the lines: units first, in their order, then extras, because a part payment is not a gift; then the gift;
 * what is left stands on no line and is owed back. What is let off is laid the same way, and never beyond what is asked.
 */
export function allocate(
  lines: readonly OrderLine[],
  allocations: readonly Allocation[],
  amount: Amount,
  waived = false,
): Part[] {
  const parts: Part[] = [];
  let left = amount;
  for (const kind of ['seats', 'extra', 'kept', 'gift'] as const)
    for (const line of lines) {
      if (line.kind !== kind || !line.live || left <= 0) continue;
      const asked = Math.min(left, Math.max(0, lineAccount(line, allocations).balance));
      if (asked <= 0) continue;
      parts.push({ lineId: line.id, amount: asked });
      left -= asked;
    }
  if (left > 0 && !waived) parts.push({ lineId: null, amount: left });
  return parts;
}

/**
 * Lays money that goes back: first what stands on no line, then units that were given up, then those that are kept, the
 * last first. A gift goes back only when that is said, or when nothing else is left of what came in. At most what was
 * received; the parts are negative.
 */
export function allocateRefund(
  lines: readonly OrderLine[],
  allocations: readonly Allocation[],
  amount: Amount,
  gift = false,
): Part[] {
  const parts: Part[] = [];
  let left = amount;
  const take = (lineId: string | null, most: Amount) => {
    const part = Math.min(left, most);
    if (part <= 0) return;
    parts.push({ lineId, amount: -part });
    left -= part;
  };
  const kept = (line: OrderLine) => {
    const { received, returned } = lineAccount(line, allocations);
    return received - returned;
  };
  const gifts = lines.filter((l) => l.kind === 'gift');
  if (gift) for (const line of gifts) take(line.id, kept(line));
  take(
    null,
    allocations.filter((a) => a.lineId === null && !a.waived).reduce((sum, a) => sum + a.amount, 0),
  );
  const units = lines.filter((l) => l.kind !== 'gift');
  for (const line of units.filter((l) => !l.live)) take(line.id, kept(line));
  for (const line of units.filter((l) => l.live).reverse()) take(line.id, kept(line));
  for (const line of gifts) take(line.id, gift ? 0 : kept(line));
  return parts;
}

/**
 * What has to come in before the seats of an order are confirmed: all that is due, or its deposit where that is enough. `dueNow` is null
 * where everything is paid with the booking.
 */
export const stillNow = (order: {
  dueNow: Amount | null;
  balance: Amount;
  received: Amount;
  waived: Amount;
}): Amount =>
  order.dueNow === null
    ? Math.max(0, order.balance)
    : Math.max(0, Math.min(order.balance, order.dueNow - order.received - order.waived));
