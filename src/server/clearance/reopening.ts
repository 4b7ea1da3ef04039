import { handOver, isThrough, standingOf } from '#core/clearance/steps.ts';
import { isOver } from '#core/events/end.ts';
import type { Work } from '../app/app.ts';
import { update } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { factPlanOf, neededBy, theBook } from './book.ts';
import { bringUpToDate, keepStates } from './sending.ts';
import { asksLate, readClearance, readSteps } from './steps.ts';

/**
 * After a plan was changed: steps whose facts changed since they were decided are opened again, steps newly needed are added, and
 * those no rule asks for any more are asked of nobody. Answers the names of those that are asked again. A cleared plan goes back
 * into clearance; an open event stays open, or closes meanwhile where a rule says so. A draft is compared when it is sent.
 */
export async function reopenChanged(w: Work, eventId: string): Promise<string[]> {
  const sent = await readClearance(w.tx, eventId);
  if (!sent) return [];
  const event = await readEvent(w.tx, eventId);
  if (!['in clearance', 'cleared', 'open', 'closed'].includes(event.state)) return [];
  const { needed } = neededBy(await theBook(w.tx), factPlanOf(event, await readOffers(w.tx, eventId)));
  const before = await readSteps(w.tx, eventId);
  const steps = await bringUpToDate(w, { clearanceId: sent.id, eventId }, before, needed);
  const after = asksLate(sent) ? steps : handOver(steps);
  await keepStates(w, eventId, before, after);
  const asked = after.filter((s) => {
    const was = before.find((b) => b.id === s.id);
    return !isThrough(s.state) && (!was || isThrough(was.state));
  });
  const standing = standingOf(after);
  if (event.state === 'cleared' && standing !== 'cleared')
    await moveOn(w, eventId, 'in clearance', `reopened: ${asked.map((s) => s.step).join(', ')}`);
  else if (event.state === 'in clearance' && standing === 'cleared') await moveOn(w, eventId, 'cleared', '');
  else if (event.state === 'open' && asked.some((s) => s.meanwhile === 'closes')) {
    await update(w.tx, 'clearances', sent.id, { closedForIt: true });
    await moveOn(w, eventId, 'closed', `reopened: ${asked.map((s) => s.step).join(', ')}`);
  }
  if (standing === 'cleared') await openAgain(w, eventId);
  return asked.map((s) => s.step);
}

/** Opens an event again that was closed while a step was decided again, unless it is over meanwhile. */
export async function openAgain(w: Work, eventId: string): Promise<void> {
  const sent = await readClearance(w.tx, eventId);
  if (!sent?.closedForIt) return;
  await update(w.tx, 'clearances', sent.id, { closedForIt: false });
  const event = await readEvent(w.tx, eventId);
  if (event.state === 'closed' && !isOver(event, w.now)) await moveOn(w, eventId, 'open', '');
}
