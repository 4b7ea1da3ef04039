import type { PlanField } from '#core/events/parts.ts';
import type { EventState } from '#core/events/states.ts';
import type { Instant } from '#core/time/clock.ts';
import { sameValue } from '#core/words/canonical.ts';

/** What people arrange their day, their way or their money by. A change of it is told before it is made. */
export const aspects = ['time', 'place', 'capacity', 'price', 'visibility'] as const;
export type Aspect = (typeof aspects)[number];

/** What each field of a plan is about, where it weighs. */
const aspectOf: Partial<Record<PlanField, Aspect>> = {
  startsLocal: 'time',
  endsLocal: 'time',
  doorsLocal: 'time',
  zone: 'time',
  allDay: 'time',
  secondTime: 'time',
  venueId: 'place',
  online: 'place',
  capacity: 'capacity',
  onlineCapacity: 'capacity',
  offers: 'price',
  taxes: 'price',
  visibility: 'visibility',
  listed: 'visibility',
};

/** As much of an offer as people decided by. */
const decidedBy = [
  'price',
  'pricing',
  'least',
  'deposit',
  'prices',
  'quantity',
  'seatsPerUnit',
  'online',
  'hidden',
  'fromAge',
  'toAge',
] as const;
type Offered = { id: string } & Partial<Record<(typeof decidedBy)[number], unknown>>;

/** True when an event was said yes to, or people are on it: what weighs is looked at before it is saved. */
const weighs = (state: EventState): boolean => state === 'cleared' || state === 'open' || state === 'closed';

/**
 * True when what people booked, or see on offer, changes: an offer gone, at another price, for another number of seats, or with
 * less of it. A new one, a name or a note takes nothing from anybody.
 */
function offersWeigh(before: readonly Offered[], after: readonly Offered[]): boolean {
  return before.some((was) => {
    const is = after.find((o) => o.id === was.id);
    return !is || decidedBy.some((field) => !sameValue(is[field], was[field]));
  });
}

/** The fields of a change that weigh, for an event that has come that far. */
export function weightyFields(
  state: EventState,
  before: Partial<Readonly<Record<PlanField, unknown>>>,
  change: Partial<Readonly<Record<PlanField, unknown>>>,
): PlanField[] {
  if (!weighs(state)) return [];
  return (Object.keys(change) as PlanField[]).filter((field) => {
    if (!aspectOf[field] || sameValue(before[field], change[field])) return false;
    // A room online that is new takes nothing from anybody.
    if (field === 'online' || field === 'onlineCapacity') return before.online !== null;
    return field === 'offers'
      ? offersWeigh(before.offers as readonly Offered[], change.offers as readonly Offered[])
      : true;
  });
}

/** True where a change of a field may weigh: whether it does is seen from the change. */
export const mayWeigh = (state: EventState, field: PlanField): boolean =>
  weighs(state) && aspectOf[field] !== undefined;

/** What a change is about, by the fields that weigh. */
export const aspectsOf = (fields: readonly PlanField[]): Aspect[] =>
  aspects.filter((aspect) => fields.some((field) => aspectOf[field] === aspect));

/** True when people are told of it unless somebody says no: where they have to be somewhere else, or at another time. */
export const toldBySelf = (changed: readonly Aspect[]): boolean =>
  changed.includes('time') || changed.includes('place');

/** True when an event that was still to come would have begun already: people cannot be sent to yesterday. */
export const movesIntoThePast = (before: Instant | null, after: Instant | null, now: Instant): boolean =>
  after !== null && after <= now && before !== null && before > now;

/** Minutes in which a change can be taken back: only then do letters go out and money goes back. */
export const graceMinutes = 10;
/** Hours in which a change of which nobody is told can be taken back. */
export const quietHours = 24;
