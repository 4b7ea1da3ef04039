import { AsyncLocalStorage } from 'node:async_hooks';
import { type ClockFace, faceAs } from '#core/time/face.ts';
import { bookingsFr } from '#core/words/bookings.fr.ts';
import { type Language, speakAs } from '#core/words/language.ts';
import { problemsFr } from '#core/words/problems.fr.ts';
import { alsoIn, alsoOfBookings } from '#core/words/problems.ts';

/** How something is said to whoever reads it. */
interface Reading {
  language: Language;
  face: ClockFace;
}

alsoIn('fr', problemsFr);
alsoOfBookings('fr', bookingsFr);

const reader = new AsyncLocalStorage<Reading>();
speakAs(() => reader.getStore()?.language ?? 'en');
faceAs(() => reader.getStore()?.face ?? 24);

/** What `work` says is said in a language, as far as it is spoken here. */
export const inLanguage = <T>(language: Language, work: () => T): T =>
  reader.run({ language, face: reader.getStore()?.face ?? 24 }, work);

/** What `work` says is said by somebody's clock, in the language it is said in anyway. */
export const byClock = <T>(face: ClockFace, work: () => T): T =>
  reader.run({ language: reader.getStore()?.language ?? 'en', face }, work);
