import { fold } from '#core/contacts/names.ts';

/** How many last digits of a telephone tell somebody apart at the doors. */
const digitsShown = 4;

/** The last digits of telephones, each once; none of what is too short to be one. */
export const lastDigits = (phones: readonly string[]): string[] => [
  ...new Set(
    phones
      .map((phone) => phone.replaceAll(/\D/gu, ''))
      .filter((digits) => digits.length > digitsShown)
      .map((digits) => digits.slice(-digitsShown)),
  ),
];

/** Somebody on a door list, as far as they are looked for. */
interface Meant {
  given: string;
  family: string;
  party: string;
  digits: readonly string[];
}

/**
 * True where somebody may be meant by what was typed: every word is in their name or their party, or begins the last digits of a telephone.
 * Longer numbers mean nobody: they are the codes of passes.
 */
export function isMeant(row: Meant, typed: string): boolean {
  const words = fold(/\p{L}/u.test(typed) ? typed : typed.replaceAll(/\D/gu, ''))
    .split(' ')
    .filter(Boolean);
  if (!words.length) return true;
  const name = fold(`${row.given} ${row.family} ${row.party}`);
  return words.every(
    (w) => (/^\d+$/u.test(w) && row.digits.some((d) => d.startsWith(w))) || name.includes(w),
  );
}
