import '../holdingWords.ts';
import i18next from 'i18next';
import { givingEn } from '#core/words/giving.en.ts';
import { givingFr } from '#core/words/giving.fr.ts';

// Only where somebody gives.
i18next.addResourceBundle('en', 'translation', givingEn, true);
i18next.addResourceBundle('fr', 'translation', givingFr, true);
