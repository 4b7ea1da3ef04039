import { because, type Reason } from '#core/words/reasons.ts';

/** Why nothing is sent to somebody, each as it is kept with what was held back; SQL is made from this list. */
export const quietReasons = ['erased', 'died', 'asked'] as const;
export type QuietReason = (typeof quietReasons)[number];

/** The same as a reason; null where there is none. */
export const becauseQuiet = (why: QuietReason | null): Reason | null => why && because(why);

/** True of somebody who is no longer there for anything: they died, or were erased. */
export const isGone = (why: QuietReason | null): boolean => why === 'erased' || why === 'died';
