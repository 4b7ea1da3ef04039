import type { bookingsEn } from './bookings.en.ts';
import { fillIn, type Params, type Plurals } from './filling.ts';
import type { Language } from './language.ts';
import { type ProblemWords, problemsEn } from './problems.en.ts';
import type { refusalsEn } from './refusals.en.ts';

/** What is wrong, as a code that stays; the words are found at the edge. */
export type ProblemCode = keyof typeof problemsEn | keyof typeof bookingsEn | keyof typeof refusalsEn;

/** What is wrong with one field, by its path. */
export interface Wrong {
  path: string;
  code: ProblemCode;
  params?: Params;
}

export const wrongAt = (path: string, code: ProblemCode, params?: Params): Wrong =>
  params ? { path, code, params } : { path, code };

type Catalogue = Readonly<Record<string, string | Plurals>>;
const catalogues = new Map<Language, Catalogue>([['en', problemsEn]]);

/** Brings the words of another language along: who reads English loads none of it. */
export const alsoIn = (language: Language, words: ProblemWords): void => {
  catalogues.set(language, words);
};

// What can be wrong with a booking comes with the pages where one books.
const ofBookings = new Map<Language, Catalogue>();
export const alsoOfBookings = (language: Language, words: Catalogue): void => {
  ofBookings.set(language, words);
};

// What only staff meet is not loaded where the public reads (spoken.ts).
let ofStaff: (code: string) => string | Plurals | undefined = () => undefined;
export const alsoSay = (find: typeof ofStaff): void => {
  ofStaff = find;
};

const textOf = (code: string, language: Language): string | Plurals | undefined =>
  Object.hasOwn(problemsEn, code)
    ? (catalogues.get(language) ?? problemsEn)[code as 'unreadable']
    : (ofBookings.get(language)?.[code] ?? ofBookings.get('en')?.[code] ?? ofStaff(code));

export const isProblemCode = (code: string): code is ProblemCode => textOf(code, 'en') !== undefined;

/** What is wrong in words. Of a text with plural forms, the one for `count` (Unicode CLDR, by Intl.PluralRules). */
export const sayProblem = (code: ProblemCode, params: Params = {}, language: Language = 'en'): string =>
  fillIn(textOf(code, language) ?? code, params, language);
