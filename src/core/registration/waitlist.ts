import type { QuietReason } from '#core/contacts/quiet.ts';
import { earlier, type Instant, plusMinutes } from '#core/time/clock.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { fits, freeOnline, freeSeats, type Limits, seatsOf, type Taken } from './capacity.ts';

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
  /** Why its buyer cannot be told of an offer; only the organizer can offer it a seat then. */
  quiet: QuietReason | null;
}

export interface SeatOffer {
  party: WaitingParty;
  until: Instant;
  /** Parties ahead in the queue that did not fit, so that nobody wonders why they were passed over. */
  passedOver: { party: WaitingParty; why: Reason }[];
}

/** Hours an offered seat is kept, unless the event starts sooner. */
const offerHours = 24;

/** Queue order: by the time of joining, then by id, so that it is the same every time it is computed. */
export const queueOrder = (a: WaitingParty, b: WaitingParty): number =>
  a.since === b.since ? (a.orderId < b.orderId ? -1 : 1) : a.since < b.since ? -1 : 1;

/**
 * Who gets the freed seats: the first party, in queue order, that fits whole; then the next first party that fits
 * what is left, and so on. A larger party that does not fit is passed over, not dropped. The deadline is
 * `offerHours` from now, never later than an hour before the start.
 */
export function freedSeatsFor(
  waiting: readonly WaitingParty[],
  limits: Limits,
  taken: Taken,
  now: Instant,
  startsAt: Instant,
): SeatOffer[] {
  const lastCall = plusMinutes(startsAt, -60);
  if (now >= lastCall) return [];
  const until = earlier(plusMinutes(now, offerHours * 60), lastCall);
  const units = new Map(taken.unitsByOffer);
  let seats = taken.seats;
  let online = taken.online ?? 0;
  const offers: SeatOffer[] = [];
  const passedOver: SeatOffer['passedOver'] = [];
  for (const party of [...waiting].sort(queueOrder)) {
    const left = { seats, online, unitsByOffer: units };
    if (party.quiet) {
      passedOver.push({ party, why: because(party.quiet) });
      continue;
    }
    if (!fits(party, limits, left)) {
      passedOver.push({ party, why: whyNot(party, limits, left) });
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
  const { place, online } = seatsOf(party);
  for (const [seats, free] of [
    [place, freeSeats(limits, taken)],
    [online, freeOnline(limits, taken)],
  ] as const)
    if (free !== null && seats > free)
      return free === 0
        ? because('needs, none free', { seats })
        : because('needs, some free', { seats, count: free });
  const short = party.lines.find(
    (l) =>
      l.offer.quantity !== null && (taken.unitsByOffer.get(l.offer.id) ?? 0) + l.units > l.offer.quantity,
  );
  return short ? because('sold out', { offer: short.offer.name }) : because('fits');
}
