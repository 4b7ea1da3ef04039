import { isEmail, readPhone } from '#core/contacts/reach.ts';
import type { FieldProblem } from '../http/problem.ts';

/** Reads an email and a telephone as typed, or says at which field they are wrong. */
export function readReach(
  typed: { email?: string | null; phone?: string | null },
  country: string,
  prefix = '',
): { email: string | null; phone: string | null; problems: FieldProblem[] } {
  const problems: FieldProblem[] = [];
  const email = typed.email?.trim() || null;
  if (email && !isEmail(email))
    problems.push({ path: `${prefix}email`, message: 'This is not an email address.' });
  const phoneText = typed.phone?.trim() || null;
  const phone = phoneText ? readPhone(phoneText, country) : null;
  if (phoneText && !phone)
    problems.push({ path: `${prefix}phone`, message: 'This is not a telephone number.' });
  return { email, phone, problems };
}
