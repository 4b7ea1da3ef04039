import i18next from 'i18next';
import { proposingEn } from '#core/words/proposing.en.ts';
import { proposingFr } from '#core/words/proposing.fr.ts';

// Beside the words of every page; only where somebody proposes an event.
i18next.addResourceBundle('en', 'translation', proposingEn, true);
i18next.addResourceBundle('fr', 'translation', proposingFr, true);
