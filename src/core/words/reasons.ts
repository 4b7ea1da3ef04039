import { fillIn, type Param, type Plurals } from './filling.ts';
import { reasonsEn } from './reasons.en.ts';

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
  const text: string | Plurals = reasonsEn[code];
  const said = Object.entries(params).map(([name, value]): [string, Param] => [
    name,
    typeof value === 'object' && 'code' in value ? sayReason(value) : value,
  ]);
  return fillIn(text, Object.fromEntries(said), 'en');
}

export const sayIfAny = (reason: Reason | null): string | null => reason && sayReason(reason);
