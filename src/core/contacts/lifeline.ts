import type { Param } from '#core/words/filling.ts';
import type { lifelineEn } from '#core/words/lifeline.en.ts';
import { say, words } from '#core/words/spoken.ts';

/** The kinds of entries a lifeline has, and is filtered by. */
export const lifelineKinds = [
  'registration',
  'attendance',
  'money',
  'shift',
  'waiver',
  'session',
  'message',
  'survey',
  'clearance',
  'note',
  'record',
] as const;
export type LifelineKind = (typeof lifelineKinds)[number];

/** What a lifeline says, as a code: of a state its name. Parts of it may be said by a code themselves. */
export interface LifeSaid {
  code: keyof typeof lifelineEn;
  params?: Readonly<Record<string, Param | LifeSaid>>;
}

/** One thing a lifeline says, in words. */
export function sayLife({ code, params = {} }: LifeSaid): string {
  const said = Object.entries(params).map(([name, value]): [string, Param] => [
    name,
    typeof value === 'object' && 'code' in value ? sayLife(value) : value,
  ]);
  return say(words().lifeline[code] ?? code, Object.fromEntries(said));
}
