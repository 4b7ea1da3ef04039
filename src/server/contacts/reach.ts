import { readReach } from '#core/contacts/reach.ts';
import type { FieldProblem } from '../http/problem.ts';

/** Reads lists of emails and telephones as typed, leaving out empty ones; what is wrong is added to `problems`. */
export function readReachLists<E extends { email: string }, P extends { phone: string }>(
  typed: { emails?: readonly E[] | undefined; phones?: readonly P[] | undefined },
  country: string,
  problems: FieldProblem[],
): { emails: E[] | null; phones: P[] | null } {
  const read = <T>(
    list: readonly T[] | undefined,
    name: string,
    one: (x: T) => { value: T | null; problems: FieldProblem[] },
  ): T[] | null =>
    list?.flatMap((x, at) => {
      const { value, problems: wrong } = one(x);
      problems.push(...wrong.map((p) => ({ ...p, path: `${name}.${at}.${p.path}` })));
      return value ? [value] : [];
    }) ?? null;
  return {
    emails: read(typed.emails, 'emails', (e) => {
      const { email, problems: wrong } = readReach({ email: e.email }, country);
      return { value: email ? { ...e, email } : null, problems: wrong };
    }),
    phones: read(typed.phones, 'phones', (p) => {
      const { phone, problems: wrong } = readReach({ phone: p.phone }, country);
      return { value: phone ? { ...p, phone } : null, problems: wrong };
    }),
  };
}
