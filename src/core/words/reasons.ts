import type { Param } from './filling.ts';
import type { reasonsEn } from './reasons.en.ts';
import { say, words } from './spoken.ts';

export type ReasonCode = keyof typeof reasonsEn;

/** Why something is as it is, as it is kept: a code that stays, and what its words are filled in with. */
export interface Reason<Code extends ReasonCode = ReasonCode> {
  code: Code;
  /** One reason may be the end of another. */
  params?: Readonly<Record<string, Param | Reason>>;
}

export const because = <Code extends ReasonCode>(code: Code, params?: Reason['params']): Reason<Code> =>
  params ? { code, params } : { code };

/** A reason in words. */
export function sayReason({ code, params = {} }: Reason): string {
  const said = Object.entries(params).map(([name, value]): [string, Param] => [
    name,
    typeof value === 'object' && 'code' in value ? sayReason(value) : value,
  ]);
  return say(words().reasons[code], Object.fromEntries(said));
}

export const sayIfAny = (reason: Reason | null): string | null => reason && sayReason(reason);
