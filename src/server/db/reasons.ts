import { because, type ReasonCode } from '#core/words/reasons.ts';

/** A reason without parameters as SQL, as it is kept. */
export const reasonSql = (code: ReasonCode): string => `'${JSON.stringify(because(code))}'::jsonb`;
