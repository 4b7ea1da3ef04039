import type { Work } from '../app/app.ts';
import { refused } from '../http/problem.ts';

/** Whoever guesses does so in real time, whatever the clock of a demonstration says. */
const realNow = (app: Work['app']): number => Date.parse(app.sessionClock.now());

/** Codes are guessed from one address at one event: what is counted by. */
const triesOf = (eventId: string, address: string): string => `code ${eventId} ${address}`;

/** Refused for a while where somebody tried many codes that are none. */
export function demandTries({ app }: Pick<Work, 'app'>, eventId: string, address: string): void {
  const wait = app.throttles.pair.wait(triesOf(eventId, address), realNow(app));
  if (wait > 0) throw refused('too-many-tries-wait', { count: Math.ceil(wait / 60_000) }, 429);
}

/** Counts a code that is none, however it was tried: on its own, or in an order. */
export function countTry({ app }: Pick<Work, 'app'>, eventId: string, address: string): void {
  app.throttles.pair.failed(triesOf(eventId, address), realNow(app));
}
