import { type Wrong, wrongAt } from '#core/words/problems.ts';

/** Seats taken now: at the place, online, and of each offer in units. Held, offered and confirmed seats count. */
export interface Taken {
  seats: number;
  online?: number;
  unitsByOffer: ReadonlyMap<string, number>;
  /** Extras that are sold, by extra and by kind. */
  extras?: ReadonlyMap<string, number>;
}

export const nothingTaken: Taken = { seats: 0, unitsByOffer: new Map() };

export interface Limits {
  /** Seats at the place; null when nothing limits them. */
  capacity: number | null;
  /** Whether that is what the room holds, and not a number of the event's own. */
  ofRoom?: boolean;
  /** Seats online, where there is an online room; null when nothing limits them. */
  onlineCapacity?: number | null;
}

/** Nothing limits the seats. */
export const unlimited: Limits = { capacity: null, ofRoom: false, onlineCapacity: null };

/** What limits the seats of an event: its own number or, where it says none, what its room holds. */
export const limitsOf = (event: {
  capacity: number | null;
  venueCapacity: number | null;
  onlineCapacity: number | null;
}): Limits => ({
  capacity: event.capacity ?? event.venueCapacity,
  ofRoom: event.capacity === null && event.venueCapacity !== null,
  onlineCapacity: event.onlineCapacity,
});

/** Where the seats of an offer are: at the place, unless it is one for the online room. */
interface Somewhere {
  online?: boolean;
}

const left = (capacity: number | null, taken: number): number | null =>
  capacity === null ? null : Math.max(0, capacity - taken);

/** Seats still free at the place; null when unlimited. Never negative. */
export const freeSeats = (limits: Limits, taken: Taken): number | null => left(limits.capacity, taken.seats);

/** Seats still free online; null when unlimited. */
export const freeOnline = (limits: Limits, taken: Taken): number | null =>
  left(limits.onlineCapacity ?? null, taken.online ?? 0);

/** Units of one offer that can still be had, as the event's free seats allow; null when unlimited. */
export function freeUnits(
  offer: { id: string; quantity: number | null; seatsPerUnit: number } & Somewhere,
  limits: Limits,
  taken: Taken,
): number | null {
  const seats = offer.online ? freeOnline(limits, taken) : freeSeats(limits, taken);
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
  lines: readonly {
    offer: { id: string; quantity: number | null; seatsPerUnit: number } & Somewhere;
    units: number;
  }[];
  seats: number;
}

/** How many seats of a party are at the place, and how many online. */
export function seatsOf(party: Party): { place: number; online: number } {
  const online = party.lines.reduce(
    (sum, { offer, units }) => sum + (offer.online ? units * offer.seatsPerUnit : 0),
    0,
  );
  return { place: Math.max(0, party.seats - online), online: Math.min(online, party.seats) };
}

/**
 * What there is too little of for a party: seats at the place, which the event or its room limits, seats online, or units of one
 * offer; with how many it needs, and how many are left.
 */
export interface Short {
  of: 'seats' | 'room' | 'online' | 'offer';
  needs: number;
  left: number;
  /** The offer, where it is one that is short. */
  offerId: string | null;
}

/** What a whole order does not fit into, the widest first; null when it fits at once. */
export function shortOf(order: Party, limits: Limits, taken: Taken): Short | null {
  const { place, online } = seatsOf(order);
  for (const [of, needs, free] of [
    [limits.ofRoom ? 'room' : 'seats', place, freeSeats(limits, taken)],
    ['online', online, freeOnline(limits, taken)],
  ] as const)
    if (free !== null && needs > free) return { of, needs, left: free, offerId: null };
  for (const { offer, units } of order.lines) {
    const free = left(offer.quantity, taken.unitsByOffer.get(offer.id) ?? 0);
    if (free !== null && units > free) return { of: 'offer', needs: units, left: free, offerId: offer.id };
  }
  return null;
}

const shortCodes = {
  seats: 'short-seats',
  room: 'short-room',
  online: 'short-online',
  offer: 'short-ticket',
} as const;

/** What is short, as it is told beside the tickets; `name` is that of the offer. */
export const shortProblem = ({ of, needs, left }: Short, name = ''): Wrong =>
  wrongAt('lines', shortCodes[of], { needs, left, name });

/** True when a whole order fits at once: every line within its quantity, and all seats within the capacity of where they are. */
export const fits = (order: Party, limits: Limits, taken: Taken): boolean =>
  shortOf(order, limits, taken) === null;

/** What becomes of a party that does not fit: it waits, is turned away, or is pointed to the online room. */
export const whenFull = ['waitlist', 'turn away', 'online'] as const;
export type WhenFull = (typeof whenFull)[number];

/** What is said to a party that does not fit. Who cannot be pointed online, because that is full too or theirs already, waits. */
export function answerTo(
  party: Party,
  policy: WhenFull,
  offers: readonly ({ id: string; quantity: number | null; seatsPerUnit: number } & Somewhere)[],
  limits: Limits,
  taken: Taken,
): WhenFull {
  if (policy !== 'online') return policy;
  const { place } = seatsOf(party);
  const online = offers.filter((o) => o.online);
  const elsewhere = online.some((o) => {
    const units = freeUnits(o, limits, taken);
    return units === null || units * o.seatsPerUnit >= place;
  });
  return place > 0 && elsewhere ? 'online' : 'waitlist';
}

/** How many of an extra, or of one of its kinds, can still be had; null when nothing limits them. */
export function freeExtras(
  of: { id: string; quantity: number | null; options: readonly { id: string; quantity: number | null }[] },
  optionId: string | null,
  taken: Taken,
): number | null {
  const option = of.options.find((o) => o.id === optionId);
  const whole = left(of.quantity, taken.extras?.get(of.id) ?? 0);
  const kind = option ? left(option.quantity, taken.extras?.get(option.id) ?? 0) : null;
  if (whole === null) return kind;
  return kind === null ? whole : Math.min(whole, kind);
}
