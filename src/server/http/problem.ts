import '#core/words/spoken.ts';
import { type FieldProblem, sayField } from '#contract/wrong.ts';
import type { Params } from '#core/words/filling.ts';
import { type ProblemCode, sayProblem } from '#core/words/problems.ts';

export type { FieldProblem };

/** A field as it is answered: always with English words, with its code where it has one. */
export const answeredField = (
  field: FieldProblem,
): { path: string; message: string; code?: ProblemCode; params?: Params } =>
  'code' in field ? { ...field, message: sayField(field) } : field;

/** An error the caller is told about as problem+json (RFC 9457). `code` is stable; `title` is for people. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly title: string,
    readonly fields: readonly FieldProblem[] = [],
    readonly params: Params = {},
  ) {
    super(title);
  }
}

export const notFound = (what: string): Problem => refused('not-found', { what }, 404);

/** 422 with the fields that are wrong; the title is the first message. */
export const invalid = (fields: readonly FieldProblem[]): Problem =>
  new Problem(
    422,
    'invalid',
    fields[0] ? answeredField(fields[0]).message : sayProblem('something-wrong'),
    fields,
  );

/** 409 where nothing else is said: what was asked does not go with how things stand now. */
export const refused = (
  code: ProblemCode,
  params: Params = {},
  status = 409,
  fields: readonly FieldProblem[] = [],
): Problem => new Problem(status, code, sayProblem(code, params), fields, params);
