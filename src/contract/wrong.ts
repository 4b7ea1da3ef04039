import type { z } from 'zod';
import type { Params } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { isProblemCode, type ProblemCode, sayProblem, type Wrong } from '#core/words/problems.ts';

/**
 * One field that is wrong, by its path in the request body: with a code, which every language has words for, or with an
 * English message alone.
 */
export type FieldProblem = Wrong | { path: string; message: string };

/** The most fields named at once: of a list with a hundred thousand wrong values the first few say enough. */
const mostNamed = 50;

/** What a schema of the contract says of a value it does not take, before it is sent and after alike. */
export const fieldProblems = (issues: readonly z.core.$ZodIssue[]): FieldProblem[] =>
  issues.slice(0, mostNamed).map((i) => {
    const path = i.path.join('.').slice(0, 200);
    // A schema says what is wrong by a code where the public may meet it.
    if (isProblemCode(i.message)) return { path, code: i.message };
    if (i.code === 'too_big' && i.origin === 'string')
      return { path, code: 'too-long', params: { count: Number(i.maximum) } };
    return { path, message: i.message.slice(0, 300) };
  });

/** What is wrong with a field in words: by its code in the language, else the English message. */
export const sayField = (
  field: { path: string; message?: string; code?: string | undefined; params?: Params | undefined },
  language: Language = 'en',
): string =>
  field.code && isProblemCode(field.code)
    ? sayProblem(field.code as ProblemCode, field.params, language)
    : (field.message ?? '');
