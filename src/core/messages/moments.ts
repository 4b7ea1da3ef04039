import { endOf } from '#core/events/end.ts';
import { balanceDue, type PaidBefore } from '#core/money/balanceDue.ts';
import type { Instant } from '#core/time/clock.ts';
import { type Offset, sayOffset } from '#core/time/moment.ts';
import { say, words } from '#core/words/spoken.ts';

/** The dates of the event that moments hang on. */
export interface EventMoments extends PaidBefore {
  endsAt: Instant | null;
}

/** A point in time that messages hang on. */
interface MomentRule {
  /** The instant it is for somebody; null as long as there is none. `anchor` is the person's own. */
  at(event: EventMoments, anchor: Instant | null): Instant | null;
  /** It answers what the person did: whoever came later than it would be due gets it all the same. */
  answers?: true;
}

/** Every moment there is. A new one is an entry here, and, where it is a person's own, an anchor in their audience. */
const rules = {
  'registration made': { at: (_, anchor) => anchor, answers: true },
  start: { at: (event) => event.startsAt },
  end: { at: endOf },
  'waiver missing': { at: (event) => event.startsAt },
  'balance due': { at: (event, anchor) => anchor && balanceDue(event, anchor) },
  'shift start': { at: (_, anchor) => anchor },
} as const satisfies Record<string, MomentRule>;

export type Moment = keyof typeof rules;
export const moments = Object.keys(rules) as [Moment, ...Moment[]];
export const momentRule = (moment: Moment): MomentRule => rules[moment];

/** As it stands behind “1 day before”. */
export const sayMomentAlone = (moment: Moment): string => say(words().times[moment]);

/** "1 day before the start". */
export const sayMoment = (step: { moment: Moment; offset: Offset }): string =>
  sayOffset(step.offset, sayMomentAlone(step.moment));
