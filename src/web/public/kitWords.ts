import { type KitWords, kitEn } from '#web/kit/words.ts';
import { type Language, language } from './language.ts';

const kitFr: KitWords = {
  required: 'obligatoire',
  toCorrect: (count) => (count === 1 ? 'Une chose à corriger' : `${count} choses à corriger`),
  close: 'Fermer',
  cancel: 'Annuler',
  remove: (what) => `Retirer ${what}`,
  filters: (inUse) => (inUse ? `Filtres (${inUse})` : 'Filtres'),
  nothingFound: 'Rien trouvé',
  loading: 'Un instant…',
  failed: "Cela n'a pas fonctionné.",
  tryAgain: 'Réessayer',
  stop: 'Arrêter',
  of: 'sur',
  saving: {
    saved: 'Enregistré',
    unsaved: 'Pas encore enregistré',
    saving: 'Enregistrement…',
    failed: 'Non enregistré',
  },
  leaveTitle: 'Abandonner ce que vous avez saisi?',
  leaveText: "Cela n'a pas été enregistré.",
  stay: 'Continuer',
  leave: 'Abandonner',
  restored: 'Ce que vous aviez saisi est toujours là.',
  startOver: 'Recommencer',
};

const words: Record<Language, KitWords> = { en: kitEn, fr: kitFr };

/** What the parts of the kit say themselves, in the language of the page. */
export const kitWords = (): KitWords => words[language()];
