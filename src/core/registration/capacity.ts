/** Seats taken now: of the event, and of each offer in units. Held, offered and confirmed seats count. */
export interface Taken {
  seats: number;
  unitsByOffer: ReadonlyMap<string, number>;
}

export const nothingTaken: Taken = { seats: 0, unitsByOffer: new Map() };

export interface Limits {
  /** Seats of the whole event; null when nothing limits it. */
  capacity: number | null;
}

/** Seats still free of the event's capacity; null when unlimited. Never negative. */
export function freeSeats(limits: Limits, taken: Taken): number | null {
  return limits.capacity === null ? null : Math.max(0, limits.capacity - taken.seats);
}

/** Units of one offer that can still be had, as the event's free seats allow; null when unlimited. */
export function freeUnits(
  offer: { id: string; quantity: number | null; seatsPerUnit: number },
  limits: Limits,
  taken: Taken,
): number | null {
  const seats = freeSeats(limits, taken);
  const bySeats = seats === null ? null : Math.floor(seats / offer.seatsPerUnit);
  const byQuantity =
    offer.quantity === null ? null : Math.max(0, offer.quantity - (taken.unitsByOffer.get(offer.id) ?? 0));
  if (bySeats === null) return byQuantity;
  return byQuantity === null ? bySeats : Math.min(bySeats, byQuantity);
}

/** Seats one caller from outside may keep unpaid at an event: a family or a table, never more than half of a small event. */
export const mostUnpaid = (capacity: number | null): number =>
  capacity === null ? 50 : Math.max(4, Math.min(10, Math.ceil(capacity / 2)), Math.ceil(capacity / 5));

/** A party as far as it takes room. */
export interface Party {
  lines: readonly { offer: { id: string; quantity: number | null }; units: number }[];
  seats: number;
}

/** True when a whole order fits at once: every line within its quantity and all seats within the capacity. */
export function fits(order: Party, limits: Limits, taken: Taken): boolean {
  const seats = freeSeats(limits, taken);
  if (seats !== null && order.seats > seats) return false;
  return order.lines.every(
    ({ offer, units }) =>
      offer.quantity === null || (taken.unitsByOffer.get(offer.id) ?? 0) + units <= offer.quantity,
  );
}
