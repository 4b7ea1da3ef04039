import type { BodyOf } from '#contract/endpoint.ts';
import type { swappingContract } from '#contract/swapping.ts';
import { sayShift } from '#core/crew/said.ts';
import { type SwapMove, swapsIn } from '#core/crew/swapping.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { notFound, refused } from '../http/problem.ts';
import { findAgainst, putOnShift } from './commands.ts';
import { ownShifts, readShift, readShifts, takeOffShift } from './store.ts';
import { keepWishes, otherShifts, readOnAll, readWishes } from './swappingStore.ts';

type Body<K extends keyof typeof swappingContract> = BodyOf<(typeof swappingContract)[K]>;

/** The swaps of an event that work out now, and what it takes to say them. */
async function swapsOf(tx: Queries, eventId: string, now: string) {
  const wishes = await readWishes(tx, eventId, now);
  const shifts = new Map((await readShifts(tx, eventId)).map((s) => [s.id, s]));
  const on = new Map<string, Set<string>>();
  for (const { contactId, shiftId } of await readOnAll(tx, eventId))
    on.set(contactId, (on.get(contactId) ?? new Set()).add(shiftId));
  const open = new Map(
    [...shifts.values()].filter((s) => s.startsAt > now).map((s) => [s.id, s.wished - s.filled - s.asking]),
  );
  return { wishes, shifts, swaps: swapsIn(wishes, open, on) };
}

/** What speaks against somebody where they go, while they leave the shift they are on. */
async function againstMove(tx: Queries, eventId: string, { contactId, from, to }: SwapMove) {
  return findAgainst(tx, { ...(await readShift(tx, to)), eventId }, contactId, [from]);
}

/** The swaps of an event, with what speaks against each move, and the wishes that nothing fits yet. */
export async function shownSwaps(w: Work, event: EventRow) {
  const { wishes, shifts, swaps } = await swapsOf(w.tx, event.id, w.now);
  const words = (id: string) => sayShift(shifts.get(id)!);
  const names = new Map(wishes.map((x) => [x.assignmentId, x.name]));
  const shown = [];
  for (const swap of swaps) {
    const moves = [];
    for (const move of swap)
      moves.push({
        ...move,
        name: names.get(move.assignmentId)!,
        fromWords: words(move.from),
        toWords: words(move.to),
        against: await againstMove(w.tx, event.id, move),
      });
    const [first] = swap;
    shown.push({ moves, leaves: swap.at(-1)!.to === first!.from ? null : words(first!.from) });
  }
  const moved = new Set(swaps.flat().map((m) => m.assignmentId));
  return {
    swaps: shown,
    wishes: wishes
      .filter((x) => !moved.has(x.assignmentId))
      .map(({ assignmentId, contactId, name, shiftId, wants }) => ({
        assignmentId,
        contactId,
        name,
        fromWords: words(shiftId),
        wants: wants.map(words),
      })),
  };
}

/**
 * Lets people change places, all of a swap or none. Refused where it does not work out as it was seen; what speaks against a move needs
 * a reason, and what is never overridden forbids it.
 */
export async function letSwap(
  w: Work,
  event: EventRow,
  body: Body<'POST /api/events/:id/swaps'>,
): Promise<void> {
  const same = (swap: readonly SwapMove[]) =>
    swap.length === body.moves.length &&
    swap.every((m, at) => m.assignmentId === body.moves[at]!.assignmentId && m.to === body.moves[at]!.to);
  const swap = (await swapsOf(w.tx, event.id, w.now)).swaps.find(same);
  if (!swap) throw refused('changed-by-somebody');
  // Held in one order, so that two at once wait for each other.
  for (const id of [...new Set(swap.flatMap((m) => [m.from, m.to]))].sort()) await readShift(w.tx, id, true);
  // Whoever leaves a place does so before another takes it.
  for (const { assignmentId } of swap) await takeOffShift(w.tx, assignmentId, w.now, '');
  for (const { contactId, from, to } of swap) {
    const { assigned, clashes } = await putOnShift(
      w,
      await readShift(w.tx, to),
      contactId,
      body.overrideReason,
      {
        insteadOf: from,
        oneOfSeveral: true,
      },
    );
    if (!assigned) throw refused('swap-refused', { why: clashes.map((x) => x.text).join('; ') });
  }
  await record(w, 'people swapped', {
    eventId: event.id,
    moves: swap.map(({ contactId, from, to }) => ({ contactId, from, to })),
  });
}

/** Declines what people wished for in the place of their shifts. Whatever of it is no longer wished for is left alone. */
export async function declineSwaps(
  w: Work,
  event: EventRow,
  { assignmentIds, words }: Body<'POST /api/events/:id/swaps/decline'>,
): Promise<void> {
  const wishes = await readWishes(w.tx, event.id, w.now);
  for (const { assignmentId, contactId, shiftId } of wishes.filter((x) =>
    assignmentIds.includes(x.assignmentId),
  )) {
    await keepWishes(w.tx, assignmentId, [], w.now);
    await record(w, 'swap declined', { eventId: event.id, shiftId, assignmentId, contactId, words });
  }
}

/** Somebody says which shifts they would have in the place of theirs; with none they keep it. */
export async function wishSwap(
  w: Work,
  contactId: string,
  { assignmentId, wants }: Body<'POST /api/public/crew/:token/swap'>,
): Promise<void> {
  const own = (await ownShifts(w.tx, contactId)).find((s) => s.assignmentId === assignmentId);
  if (own?.state !== 'agreed') throw notFound('This shift');
  if (own.startsAt <= w.now) throw refused('shift-begun');
  const others = new Set(
    (await otherShifts(w.tx, contactId, w.now))
      .filter((o) => o.eventId === own.eventId)
      .map((o) => o.shiftId),
  );
  if (!wants.every((id) => others.has(id))) throw refused('swap-other');
  const added = wants.filter((id) => !own.wants.includes(id));
  await keepWishes(w.tx, assignmentId, wants, w.now);
  await record(w, 'swap wished', {
    eventId: own.eventId,
    shiftId: own.id,
    assignmentId,
    contactId,
    wants: added,
  });
}
