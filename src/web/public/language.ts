import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { en } from '#core/words/pages.en.ts';
import { alsoIn } from '#core/words/problems.ts';
import { readIn } from '#web/api.ts';

export type Language = 'en' | 'fr';
const stored = 'acolyte-language';

/** The language to begin with: the one chosen before, else the browser's where we have it. */
function begin(): Language {
  const chosen = localStorage.getItem(stored) ?? new URLSearchParams(location.search).get('lang');
  if (chosen === 'en' || chosen === 'fr') return chosen;
  return navigator.language.startsWith('fr') ? 'fr' : 'en';
}

/** Brings the words of a language along: English is there, French comes for who reads it. */
async function learn(language: Language): Promise<void> {
  if (language === 'en' || i18next.exists('tickets', { lng: language, fallbackLng: [] })) return;
  const [{ fr }, { problemsFr }] = await Promise.all([
    import('#core/words/pages.fr.ts'),
    import('#core/words/problems.fr.ts'),
  ]);
  alsoIn(language, problemsFr);
  i18next.addResourceBundle(language, 'translation', fr, true);
}

async function speak(language: Language): Promise<void> {
  await learn(language);
  document.documentElement.lang = language;
  readIn(language);
  await i18next.changeLanguage(language);
}

void i18next.use(initReactI18next).init({
  lng: 'en',
  fallbackLng: 'en',
  resources: { en: { translation: en } },
  interpolation: { escapeValue: false },
});

/** Once the words of the reader's language are there. What the server wrote is read until then. */
export const ready: Promise<void> = speak(begin());

export function setLanguage(language: Language): void {
  localStorage.setItem(stored, language);
  void speak(language);
}

export function language(): Language {
  return i18next.language === 'fr' ? 'fr' : 'en';
}
