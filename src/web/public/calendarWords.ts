import i18next from 'i18next';
import { calendarEn } from '#core/words/calendar.en.ts';
import { calendarFr } from '#core/words/calendar.fr.ts';

// Beside the words of every page; only where the calendar or somebody's own page is shown.
i18next.addResourceBundle('en', 'translation', calendarEn, true);
i18next.addResourceBundle('fr', 'translation', calendarFr, true);
