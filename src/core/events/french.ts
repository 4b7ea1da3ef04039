import { type Doc, isEmptyDoc } from '#core/text/types.ts';
import { canonical, sameValue } from '#core/words/canonical.ts';

/** What the public reads of a plan, in one language. */
export interface PageText {
  publicTitle: string;
  subtitle: string;
  summary: string;
  description: Doc;
}
export type PageTextField = keyof PageText;
export const pageTextFields = ['publicTitle', 'subtitle', 'summary', 'description'] as const;

/** Which English each French text was written beside, as digests. */
export type WrittenBeside = Partial<Record<PageTextField, string>>;

const says = (value: string | Doc): boolean =>
  typeof value === 'string' ? value.trim() !== '' : !isEmptyDoc(value);

/**
 * A short digest of a text, to tell later whether it is still the same: FNV-1a with 32 bits (Fowler, Noll, Vo), in hexadecimal.
 */
export function digestOf(value: string | Doc): string {
  const text = typeof value === 'string' ? value : canonical(value);
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return (hash >>> 0).toString(16).padStart(8, '0');
}

/** How the French of each text stands: there, still to be written, or written beside other English. */
export type FrenchStanding = 'there' | 'missing' | 'lags';

export function frenchStanding(
  english: PageText,
  french: PageText,
  beside: WrittenBeside,
): Partial<Record<PageTextField, FrenchStanding>> {
  const standing: Partial<Record<PageTextField, FrenchStanding>> = {};
  for (const field of pageTextFields) {
    // What English does not say needs no French.
    if (!says(english[field]) && !says(french[field])) continue;
    if (!says(french[field])) standing[field] = 'missing';
    else standing[field] = beside[field] === digestOf(english[field]) ? 'there' : 'lags';
  }
  return standing;
}

/** What the French is written beside once it is saved: texts that were changed now stand beside the English of now. */
export function besideNow(
  english: PageText,
  before: PageText,
  after: PageText,
  beside: WrittenBeside,
): WrittenBeside {
  const now = { ...beside };
  for (const field of pageTextFields)
    if (!sameValue(before[field], after[field])) now[field] = digestOf(english[field]);
  return now;
}

/** What a reader is shown: the French where it is there, else the English, text by text. */
export const textFor = (english: PageText, french: PageText, language: string): PageText =>
  language === 'fr'
    ? {
        publicTitle: french.publicTitle.trim() || english.publicTitle,
        subtitle: french.subtitle.trim() || english.subtitle,
        summary: french.summary.trim() || english.summary,
        description: isEmptyDoc(french.description) ? english.description : french.description,
      }
    : english;

/** The title of an event for a reader of a language. */
export const titleFor = (
  event: { publicTitle: string; french: Pick<PageText, 'publicTitle'> },
  language: string,
): string => (language === 'fr' && event.french.publicTitle.trim()) || event.publicTitle;

/** What a page says to a reader: its French over its English, as far as there is any. */
export const inLanguage = <Shown extends object, Texts extends object>(
  shown: Shown & { french: Texts | null },
  language: string,
): Shown => (language === 'fr' && shown.french ? { ...shown, ...shown.french } : shown);

/** An offer as a reader of a language is shown it. */
export const offerIn = <O extends { name: string; about: string; french: { name: string; about: string } }>(
  offer: O,
  language: string,
): O =>
  language === 'fr'
    ? {
        ...offer,
        name: offer.french.name.trim() || offer.name,
        about: offer.french.about.trim() || offer.about,
      }
    : offer;

/** True when a page has something in French. */
export const hasFrench = (french: PageText): boolean => pageTextFields.some((field) => says(french[field]));
