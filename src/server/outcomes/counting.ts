import { openAnew, stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { countingPage } from './tallies.ts';

/** Lets people count at an event on a page of their own, or no longer. What hangs on a wall meanwhile opens nothing any more. */
export async function setCounting(w: Work, eventId: string, on: boolean): Promise<string | null> {
  const was = await countingPage(w, eventId);
  await (on ? openAnew : stopLink)(w, 'count', eventId);
  if (on !== (was !== null)) await record(w, 'counting set', { eventId, on });
  return countingPage(w, eventId);
}
