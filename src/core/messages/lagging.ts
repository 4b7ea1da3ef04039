import { digestOf } from '#core/events/french.ts';
import { plainText } from '#core/text/doc.ts';
import type { SaidTexts } from './said.ts';

/** What it says, however it is formatted. */
function partOf({ subject, preview, body, formatted }: SaidTexts, language: 'en' | 'fr'): string {
  const doc = formatted[language];
  const text = body[language] || (doc ? plainText(doc) : '');
  return JSON.stringify([subject[language] ?? '', preview[language] ?? '', text]);
}

/** The English of a line in short: enough to see that it is another by now. */
export const englishOf = (said: SaidTexts): string => digestOf(partOf(said, 'en'));

const hasFrench = (said: SaidTexts): boolean => Boolean(said.body.fr?.trim() || said.formatted.fr);

/** Whether the English was changed since the French was written. */
export const frenchLags = (line: SaidTexts & { frenchOf: string }): boolean =>
  hasFrench(line) && line.frenchOf !== '' && line.frenchOf !== englishOf(line);

/** Which English the French of a line is of, once it says something else. `fits`: somebody says that it still says the same. */
export function frenchOfNow(
  before: (SaidTexts & { frenchOf: string }) | null,
  now: SaidTexts,
  fits = false,
): string {
  if (!hasFrench(now)) return '';
  if (!before || fits || partOf(before, 'fr') !== partOf(now, 'fr')) return englishOf(now);
  return before.frenchOf || englishOf(before);
}
