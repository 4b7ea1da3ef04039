import { endOf } from '#core/events/end.ts';
import type { Instant, Zone } from '#core/time/clock.ts';
import { type Offset, sayOffset } from '#core/time/moment.ts';

/** The dates of the event that moments hang on. */
export interface EventMoments {
  startsAt: Instant | null;
  endsAt: Instant | null;
  zone: Zone;
}

/** A point in time that messages hang on. */
interface MomentRule {
  /** As it stands behind “1 day before”. */
  words: string;
  /** The instant it is for somebody; null as long as there is none. `anchor` is the person's own. */
  at(event: EventMoments, anchor: Instant | null): Instant | null;
  /** It answers what the person did: whoever came later than it would be due gets it all the same. */
  answers?: true;
}

/** Every moment there is. A new one is an entry here, and, where it is a person's own, an anchor in their audience. */
const rules = {
  'registration made': { words: 'the registration', at: (_, anchor) => anchor, answers: true },
  start: { words: 'the start', at: (event) => event.startsAt },
  end: { words: 'the end', at: endOf },
  'waiver missing': { words: 'the start, while a waiver is missing', at: (event) => event.startsAt },
  'shift start': { words: 'the shift', at: (_, anchor) => anchor },
} as const satisfies Record<string, MomentRule>;

export type Moment = keyof typeof rules;
export const moments = Object.keys(rules) as [Moment, ...Moment[]];
export const momentRule = (moment: Moment): MomentRule => rules[moment];

/** "1 day before the start". */
export const sayMoment = (step: { moment: Moment; offset: Offset }): string =>
  `${sayOffset(step.offset)} ${rules[step.moment].words}`;
