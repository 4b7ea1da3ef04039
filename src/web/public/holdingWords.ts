import i18next from 'i18next';
import { holdingEn } from '#core/words/holding.en.ts';
import { holdingFr } from '#core/words/holding.fr.ts';

// Beside the words of every page; only where somebody looks at what they hold.
i18next.addResourceBundle('en', 'translation', holdingEn, true);
i18next.addResourceBundle('fr', 'translation', holdingFr, true);
