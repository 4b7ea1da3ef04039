import { type Currency, sayAmount } from '#core/money/amount.ts';
import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import type { Language } from './language.ts';
import { once } from './once.ts';

/** What a text is filled in with: words, numbers, amounts in minor units with their currency, calendar dates, wall times. */
export type Param =
  | string
  | number
  | { amount: number; currency: Currency }
  | { date: CalendarDate }
  | { at: WallTime };
export type Params = Readonly<Record<string, Param>>;

/** One text for each plural category a language uses (Unicode CLDR); it is chosen by `count`. */
export type Plurals = Partial<Record<Intl.LDMLPluralRule, string>> & { other: string };

const saidIn: Readonly<Record<Language, string>> = { en: 'en-CA', fr: 'fr-CA' };

const rulesOf = once((language: Language) => new Intl.PluralRules(language));

/**
 * Fills a text in. `{{name}}` stands for a parameter; `{{count:seat|seats}}` for a number with its noun, in the form that the
 * plural rules of the language choose (CLDR, by Intl.PluralRules).
 */
export function fillIn(text: string | Plurals, params: Params, language: Language): string {
  const rules = rulesOf(language);
  const form = typeof text === 'string' ? text : (text[rules.select(Number(params.count))] ?? text.other);
  return form.replace(
    /\{\{(\w+)(?::([^|}]*)\|([^}]*))?\}\}/gu,
    (_, name: string, one?: string, other?: string) => {
      const value = params[name];
      if (typeof value === 'object') return sayParam(value, language);
      if (typeof value !== 'number') return String(value ?? '');
      const figure = value.toLocaleString(saidIn[language]);
      return one === undefined ? figure : `${figure} ${rules.select(value) === 'one' ? one : other}`;
    },
  );
}

function sayParam(value: Exclude<Param, string | number>, language: Language): string {
  if ('amount' in value) return sayAmount(value.amount, value.currency, language);
  if ('at' in value) return `${sayShortDate(value.at, true, language)}, ${sayTime(value.at, language)}`;
  return `${sayShortDate(value.date, false, language)} ${value.date.slice(0, 4)}`;
}

/** A text of a catalogue, by its code, with what it is filled in with. */
export interface Said<Code extends string = string> {
  code: Code;
  params?: Params;
}
