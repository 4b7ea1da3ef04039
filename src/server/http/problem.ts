/** One field that is wrong, by its path in the request body. */
export interface FieldProblem {
  path: string;
  message: string;
}

/** An error the caller is told about as problem+json (RFC 9457). `code` is stable; `title` is for people. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly title: string,
    readonly fields: readonly FieldProblem[] = [],
  ) {
    super(title);
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'not-found', `${what} is not here, or the link is incomplete.`);

/** 422 with the fields that are wrong; the title is the first message. */
export const invalid = (fields: readonly FieldProblem[]): Problem =>
  new Problem(422, 'invalid', fields[0]?.message ?? 'Something in the request is wrong.', fields);

/** 409: what was asked does not go with how things stand now. */
export const conflict = (code: string, title: string): Problem => new Problem(409, code, title);
