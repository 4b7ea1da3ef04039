import { type CountryCode, isSupportedCountry, parsePhoneNumberFromString } from 'libphonenumber-js/min';
import type { Wrong } from '#core/words/problems.ts';

/** True for a code of ISO 3166-1 that telephone numbers are given out for. */
export const isCountry = (code: string): boolean => isSupportedCountry(code);

/** What an email or a telephone is for; empty where nobody said. Nobody has a mobile email. */
export type ReachKind = '' | 'mobile' | 'home' | 'work' | 'other';

/** Compares emails without case and white space. The local part is folded too: nobody relies on its case. */
export const emailKey = (email: string): string => email.trim().toLowerCase();

/** True for an address a mail server would take: one @, a dotted domain, no blanks; at most 254 characters. */
export const isEmail = (text: string): boolean =>
  text.length <= 254 && /^[^\s@<>(),;:"[\]\\]{1,64}@(?:[\p{L}\p{N}-]+\.)+[\p{L}]{2,}$/u.test(text.trim());

/**
 * Reads a telephone number as E.164, for the country given where it has no prefix of its own.
 * Null when it cannot be a number. Numbers reserved for fiction (555-01xx) are possible and therefore kept.
 */
export function readPhone(text: string, country: string): string | null {
  const parsed = parsePhoneNumberFromString(text, country as CountryCode);
  return parsed?.isPossible() ? parsed.number : null;
}

/** A number as people write it: national style at home, international elsewhere. */
export function sayPhone(e164: string, country: string): string {
  const parsed = parsePhoneNumberFromString(e164);
  if (!parsed) return e164;
  return parsed.countryCallingCode === '1' && ['CA', 'US'].includes(country)
    ? parsed.formatNational()
    : parsed.formatInternational();
}

/** Reads an email and a telephone as typed, or says at which field they are wrong. */
export function readReach(
  typed: { email?: string | null; phone?: string | null },
  country: string,
  prefix = '',
): { email: string | null; phone: string | null; problems: Wrong[] } {
  const problems: Wrong[] = [];
  const email = typed.email?.trim() || null;
  if (email && !isEmail(email)) problems.push({ path: `${prefix}email`, code: 'not-an-email' });
  const phoneText = typed.phone?.trim() || null;
  const phone = phoneText ? readPhone(phoneText, country) : null;
  if (phoneText && !phone) problems.push({ path: `${prefix}phone`, code: 'not-a-telephone' });
  return { email, phone, problems };
}

/** The first address of a contact that still reaches them; null where none does. */
export const writableEmail = (contact: {
  emails: readonly { email: string; bounced: boolean; endedOn: string | null }[];
}): string | null => contact.emails.find((e) => !e.bounced && !e.endedOn)?.email ?? null;
