import type { QuietReason } from '#core/contacts/quiet.ts';
import { type Instant, plusMinutes } from '#core/time/clock.ts';
import { type Keeping, keptUntil } from '#core/time/keeping.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { fits, type Limits, seatsOf, shortOf, type Taken } from './capacity.ts';

/** A party that waits as one: it gets all its seats or none. */
export interface WaitingParty {
  orderId: string;
  name: string;
  since: Instant;
  lines: readonly {
    offer: { id: string; name: string; quantity: number | null; seatsPerUnit: number; online?: boolean };
    units: number;
  }[];
  seats: number;
  /** Whether whoever booked is a member on the day of the event. */
  member?: boolean;
  /** Why its buyer cannot be told of an offer; only the organizer can offer it a seat then. */
  quiet: QuietReason | null;
}

export interface SeatOffer {
  party: WaitingParty;
  until: Instant;
  /** Parties ahead in the queue that did not fit, so that nobody wonders why they were passed over. */
  passedOver: { party: WaitingParty; why: Reason }[];
}

/**
 * Who comes first: whoever fits, in the order of joining; nobody before the first of the queue; or members before the others, else in
 * the order of joining.
 */
export const waitRules = ['first that fits', 'strict order', 'members first'] as const;
export type WaitRule = (typeof waitRules)[number];

/** How long an offered seat is kept. */
const keeping: Keeping = { longest: 24 * 60, shortest: 60, lastCall: 60 };

/** Until when an offer made now is kept. */
export const offerUntil = (now: Instant, startsAt: Instant): Instant => keptUntil(now, startsAt, keeping);

/** Queue order: by the time of joining, then by id, so that it is the same every time it is computed. */
export const queueOrder = (a: WaitingParty, b: WaitingParty): number =>
  a.since === b.since ? (a.orderId < b.orderId ? -1 : 1) : a.since < b.since ? -1 : 1;

/** Those who wait, as they come one after the other. */
export const inLine = <P extends WaitingParty>(waiting: readonly P[], rule: WaitRule): P[] =>
  [...waiting].sort((a, b) =>
    rule === 'members first' && Boolean(a.member) !== Boolean(b.member)
      ? a.member
        ? -1
        : 1
      : queueOrder(a, b),
  );

/**
 * Who gets the freed seats: the first party, in queue order, that fits whole; then the next first party that fits
 * what is left, and so on. A larger party that does not fit is passed over, not dropped; in strict order nobody comes before it. Who
 * cannot be told is passed over always.
 */
export function freedSeatsFor(
  waiting: readonly WaitingParty[],
  limits: Limits,
  taken: Taken,
  now: Instant,
  startsAt: Instant,
  rule: WaitRule = 'first that fits',
): SeatOffer[] {
  if (now >= plusMinutes(startsAt, -keeping.lastCall)) return [];
  const until = offerUntil(now, startsAt);
  const units = new Map(taken.unitsByOffer);
  let seats = taken.seats;
  let online = taken.online ?? 0;
  const offers: SeatOffer[] = [];
  const passedOver: SeatOffer['passedOver'] = [];
  for (const party of inLine(waiting, rule)) {
    const left = { seats, online, unitsByOffer: units };
    if (party.quiet) {
      passedOver.push({ party, why: because(party.quiet) });
      continue;
    }
    if (!fits(party, limits, left)) {
      passedOver.push({ party, why: whyNot(party, limits, left) });
      if (rule === 'strict order') break;
      continue;
    }
    offers.push({ party, until, passedOver: [...passedOver] });
    const of = seatsOf(party);
    seats += of.place;
    online += of.online;
    for (const line of party.lines) units.set(line.offer.id, (units.get(line.offer.id) ?? 0) + line.units);
  }
  return offers;
}

/** Why a party does not get seats now; `fits` when it does. */
export function whyNot(party: WaitingParty, limits: Limits, taken: Taken): Reason {
  if (party.quiet) return because(party.quiet);
  const short = shortOf(party, limits, taken);
  if (!short) return because('fits');
  if (short.of === 'offer')
    return because('sold out', { offer: party.lines.find((l) => l.offer.id === short.offerId)!.offer.name });
  return short.left === 0
    ? because('needs, none free', { seats: short.needs })
    : because('needs, some free', { seats: short.needs, count: short.left });
}
