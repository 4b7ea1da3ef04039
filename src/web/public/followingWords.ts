import i18next from 'i18next';
import { followingEn } from '#core/words/following.en.ts';
import { followingFr } from '#core/words/following.fr.ts';

// Beside the words of every page; only where somebody follows something or goes out of it.
i18next.addResourceBundle('en', 'translation', followingEn, true);
i18next.addResourceBundle('fr', 'translation', followingFr, true);
