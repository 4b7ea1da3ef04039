import type { Language } from '#core/words/language.ts';
import { kitFr } from './words.fr.ts';
import { type KitWords, kitEn } from './words.ts';

/** What the parts of the kit say themselves, by language. */
export const kitWordsIn: Readonly<Record<Language, KitWords>> = { en: kitEn, fr: kitFr };
