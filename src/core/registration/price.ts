import type { Amount } from '#core/money/amount.ts';
import type { Wrong } from '#core/words/problems.ts';

/** What of an offer matters for pricing and limits. */
export interface PricedOffer {
  id: string;
  name: string;
  price: Amount;
  /** Seats one unit of the offer gives: 8 for a table of eight. */
  seatsPerUnit: number;
  /** The most units one order may take. */
  mostPerOrder: number;
  /** Units there are; null when only the event's capacity limits. */
  quantity: number | null;
  /** Whether its seats are online; else they are at the place. */
  online?: boolean;
}

export interface OrderLine {
  offerId: string;
  units: number;
}

export interface PricedOrder {
  lines: { offer: PricedOffer; units: number; seats: number; amount: Amount }[];
  seats: number;
  seatsAmount: Amount;
  donation: Amount;
  total: Amount;
}

/**
 * Prices an order, or says everything that is wrong with it, each with the path of the field it concerns.
 * The total is the sum of units × price plus the donation; nothing is rounded because nothing is divided.
 */
export function priceOrder(
  offers: readonly PricedOffer[],
  lines: readonly OrderLine[],
  donation: Amount,
): { order: PricedOrder } | { problems: Wrong[] } {
  const problems: Wrong[] = [];
  const seen = new Set<string>();
  const priced: PricedOrder['lines'] = [];
  lines.forEach((line, index) => {
    const path = `lines.${index}.units`;
    const offer = offers.find((o) => o.id === line.offerId);
    if (!offer) problems.push({ path: `lines.${index}.offerId`, code: 'ticket-gone' });
    else if (seen.has(offer.id)) problems.push({ path, code: 'ticket-twice', params: { name: offer.name } });
    else if (!Number.isInteger(line.units) || line.units < 1) problems.push({ path, code: 'whole-number' });
    else if (line.units > offer.mostPerOrder)
      problems.push({ path, code: 'most-per-order', params: { most: offer.mostPerOrder, name: offer.name } });
    else
      priced.push({
        offer,
        units: line.units,
        seats: line.units * offer.seatsPerUnit,
        amount: line.units * offer.price,
      });
    if (offer) seen.add(offer.id);
  });
  if (lines.length === 0) problems.push({ path: 'lines', code: 'ticket-needed' });
  if (!Number.isInteger(donation) || donation < 0 || donation > 10_000_000)
    problems.push({
      path: 'donation.amount',
      code: 'donation-out-of-range',
    });
  if (problems.length) return { problems };
  const seatsAmount = priced.reduce((sum, l) => sum + l.amount, 0);
  return {
    order: {
      lines: priced,
      seats: priced.reduce((sum, l) => sum + l.seats, 0),
      seatsAmount,
      donation,
      total: seatsAmount + donation,
    },
  };
}
