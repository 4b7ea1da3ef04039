/** Why nothing is sent to somebody, each as it is kept with what was held back; SQL is made from this list. */
export const quietReasons = {
  erased: 'the person was erased',
  died: 'died',
  asked: 'asked not to be contacted',
} as const;
export type QuietReason = (typeof quietReasons)[keyof typeof quietReasons];

/** True of somebody who is no longer there for anything: they died, or were erased. */
export const isGone = (why: string | null): boolean =>
  why === quietReasons.erased || why === quietReasons.died;
