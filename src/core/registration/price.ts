import type { Amount } from '#core/money/amount.ts';

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

export interface OrderProblem {
  path: string;
  message: string;
}

/**
 * Prices an order, or says everything that is wrong with it, each with the path of the field it concerns.
 * The total is the sum of units × price plus the donation; nothing is rounded because nothing is divided.
 */
export function priceOrder(
  offers: readonly PricedOffer[],
  lines: readonly OrderLine[],
  donation: Amount,
): { order: PricedOrder } | { problems: OrderProblem[] } {
  const problems: OrderProblem[] = [];
  const seen = new Set<string>();
  const priced: PricedOrder['lines'] = [];
  lines.forEach((line, index) => {
    const path = `lines.${index}.units`;
    const offer = offers.find((o) => o.id === line.offerId);
    if (!offer)
      problems.push({ path: `lines.${index}.offerId`, message: 'This ticket is not on sale here.' });
    else if (seen.has(offer.id)) problems.push({ path, message: `${offer.name} is listed twice.` });
    else if (!Number.isInteger(line.units) || line.units < 1)
      problems.push({ path, message: 'Choose a whole number, at least 1.' });
    else if (line.units > offer.mostPerOrder)
      problems.push({ path, message: `At most ${offer.mostPerOrder} of ${offer.name} in one order.` });
    else
      priced.push({
        offer,
        units: line.units,
        seats: line.units * offer.seatsPerUnit,
        amount: line.units * offer.price,
      });
    if (offer) seen.add(offer.id);
  });
  if (lines.length === 0) problems.push({ path: 'lines', message: 'Choose at least one ticket.' });
  if (!Number.isInteger(donation) || donation < 0 || donation > 10_000_000)
    problems.push({
      path: 'donation.amount',
      message: 'A donation is an amount of 0 or more, up to 100,000.',
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
