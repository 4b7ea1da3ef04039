import i18next from 'i18next';
import { helpingEn } from '#core/words/helping.en.ts';
import { helpingFr } from '#core/words/helping.fr.ts';

// Beside the words of every page; only where somebody offers to help.
i18next.addResourceBundle('en', 'translation', helpingEn, true);
i18next.addResourceBundle('fr', 'translation', helpingFr, true);
