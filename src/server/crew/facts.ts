import { arrive } from '#core/events/copy.ts';
import { moveWall } from '#core/events/dated.ts';
import { lives } from '#core/events/states.ts';
import { instantOf } from '#core/time/wallTime.ts';
import type { Reactions, Work } from '../app/app.ts';
import type { PlanChange } from '../app/kinds.ts';
import { addShifts } from '../events/beginning.ts';
import { takeWaiting } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { settleErased } from './depositCommands.ts';
import { goOn, placeFree } from './steppingInCommands.ts';
import { dropWait, searchedAt } from './steppingInStore.ts';
import { moveShiftTimes, shiftTimes } from './store.ts';

/** Shifts keep their distance in days and their wall times when the event moves, and their wall times in another zone. */
async function moveShifts(w: Work, { eventId, before, after }: PlanChange) {
  const { tx } = w;
  const [from, to] = [before.startsLocal, after.startsLocal];
  // Shifts of a copy that had no date yet come with its first one.
  const waiting = from === null && to !== null ? await takeWaiting(tx, eventId) : null;
  if (waiting && to) {
    const { shifts } = arrive(waiting, { ...after, startsLocal: to });
    await addShifts(w, eventId, shifts, after.zone);
    return {
      shifts: shifts.map(({ role, startsLocal, endsLocal }) => ({
        role,
        from: null,
        to: { startsLocal, endsLocal },
      })),
    };
  }
  const moves = from !== null && to !== null && from.slice(0, 10) !== to.slice(0, 10);
  if (!moves && before.zone === after.zone) return undefined;
  const shifts = await shiftTimes(tx, eventId);
  const moved = shifts.map((s) => {
    const startsLocal = moves ? moveWall(s.startsLocal, from, to) : s.startsLocal;
    const endsLocal = moves ? moveWall(s.endsLocal, from, to) : s.endsLocal;
    return {
      id: s.id,
      startsLocal,
      endsLocal,
      startsAt: instantOf(startsLocal, after.zone),
      endsAt: instantOf(endsLocal, after.zone),
    };
  });
  await moveShiftTimes(tx, moved);
  // Whoever is asked to step in by then is asked in vain where it has begun.
  for (const shiftId of await searchedAt(tx, eventId)) await goOn(w, shiftId);
  return {
    shifts: moved.map(({ startsLocal, endsLocal }, at) => ({
      role: shifts[at]!.role,
      from: { startsLocal: shifts[at]!.startsLocal, endsLocal: shifts[at]!.endsLocal },
      to: { startsLocal, endsLocal },
    })),
  };
}

export const crewReactions: Reactions = {
  'plan saved': moveShifts,
  async 'shift given back'(w, { shiftId, agreed }) {
    if (agreed) await placeFree(w, shiftId, (await theOrganization(w.tx)).asksToStepIn);
  },
  async 'shift marked'(w, { shiftId, state }) {
    if (state === 'dropped') await placeFree(w, shiftId, false);
  },
  async 'shift changed'(w, { shiftId }) {
    await goOn(w, shiftId);
    await placeFree(w, shiftId, false);
  },
  async 'shift taken'(w, { shiftId, contactId }) {
    await dropWait(w.tx, shiftId, contactId);
    await goOn(w, shiftId);
  },
  async 'event moved on'(w, { eventId, to }) {
    if (!lives(to)) for (const shiftId of await searchedAt(w.tx, eventId)) await goOn(w, shiftId);
  },
  async 'contact changed'(w, { contactId, how }) {
    if (how !== 'erased') return;
    await settleErased(w, contactId);
    for (const shiftId of await searchedAt(w.tx, null)) await goOn(w, shiftId);
  },
};
