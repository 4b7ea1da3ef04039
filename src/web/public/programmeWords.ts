import i18next from 'i18next';
import { programmeEn } from '#core/words/programme.en.ts';
import { programmeFr } from '#core/words/programme.fr.ts';

// Beside the words of every page; only where something of a programme is said.
i18next.addResourceBundle('en', 'translation', programmeEn, true);
i18next.addResourceBundle('fr', 'translation', programmeFr, true);
