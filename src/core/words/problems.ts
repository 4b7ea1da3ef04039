import { fillIn, type Language, type Params, type Plurals } from './filling.ts';
import { type ProblemWords, problemsEn } from './problems.en.ts';
import { problemsFr } from './problems.fr.ts';

/** What is wrong, as a code that stays; the words are found at the edge. */
export type ProblemCode = keyof typeof problemsEn;

/** What is wrong with one field, by its path. */
export interface Wrong {
  path: string;
  code: ProblemCode;
  params?: Params;
}

const catalogues = { en: problemsEn, fr: problemsFr } satisfies Record<Language, ProblemWords>;

export const isProblemCode = (code: string): code is ProblemCode => Object.hasOwn(problemsEn, code);

/** What is wrong in words. Of a text with plural forms, the one for `count` (Unicode CLDR, by Intl.PluralRules). */
export function sayProblem(code: ProblemCode, params: Params = {}, language: Language = 'en'): string {
  const text: string | Plurals = catalogues[language][code];
  return fillIn(text, params, language);
}
