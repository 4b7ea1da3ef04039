import i18next from 'i18next';
import { bookingsEn } from '#core/words/bookings.en.ts';
import { bookingsFr } from '#core/words/bookings.fr.ts';
import { holdingEn } from '#core/words/holding.en.ts';
import { holdingFr } from '#core/words/holding.fr.ts';
import { alsoOfBookings } from '#core/words/problems.ts';

alsoOfBookings('en', bookingsEn);
alsoOfBookings('fr', bookingsFr);

// Beside the words of every page; only where somebody looks at what they hold.
i18next.addResourceBundle('en', 'translation', holdingEn, true);
i18next.addResourceBundle('fr', 'translation', holdingFr, true);
