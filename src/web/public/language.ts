import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { en } from '#core/words/pages.en.ts';
import { fr } from '#core/words/pages.fr.ts';
import { readIn } from '#web/api.ts';

export type Language = 'en' | 'fr';
const stored = 'acolyte-language';

/** The language to begin with: the one chosen before, else the browser's where we have it. */
function begin(): Language {
  const chosen = localStorage.getItem(stored) ?? new URLSearchParams(location.search).get('lang');
  if (chosen === 'en' || chosen === 'fr') return chosen;
  return navigator.language.startsWith('fr') ? 'fr' : 'en';
}

void i18next.use(initReactI18next).init({
  lng: begin(),
  fallbackLng: 'en',
  resources: { en: { translation: en }, fr: { translation: fr } },
  interpolation: { escapeValue: false },
});
document.documentElement.lang = i18next.language;
readIn(language());

export function setLanguage(language: Language): void {
  localStorage.setItem(stored, language);
  document.documentElement.lang = language;
  readIn(language);
  void i18next.changeLanguage(language);
}

export function language(): Language {
  return i18next.language === 'fr' ? 'fr' : 'en';
}
