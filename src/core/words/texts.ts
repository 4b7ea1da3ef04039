/** Something that is said in English, and perhaps in French. */
export interface Texts {
  en: string;
  fr?: string | undefined;
}

/** What a reader of a language is told: the French where there is some, else the English. */
export const readTexts = (of: Texts, language: string): string =>
  (language === 'fr' && of.fr?.trim() ? of.fr : of.en).trim();
