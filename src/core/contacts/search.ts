import { fold } from './names.ts';

/** The text a contact is found by: names, emails and telephone digits, folded. */
export function searchText(of: {
  given: string;
  family: string;
  emails: readonly string[];
  phones: readonly string[];
}): string {
  const digits = of.phones.map((p) => p.replace(/\D/gu, ''));
  return [
    fold(`${of.given} ${of.family}`),
    fold(`${of.family} ${of.given}`),
    ...of.emails.map(fold),
    ...digits,
  ].join(' ');
}

/** The words to look for, each of which has to be found. Digits lose their punctuation. At most eight words. */
export function searchWords(typed: string): string[] {
  const phoneLike = /^[\d\s().+-]{4,}$/u.test(typed.trim());
  const words = phoneLike ? [typed.replace(/\D/gu, '')] : fold(typed.slice(0, 200)).split(' ');
  return words.filter(Boolean).slice(0, 8);
}
