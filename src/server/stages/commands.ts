import type { Offer } from '#contract/plan.ts';
import { bindingUnit } from '#core/access/stages.ts';
import { type Consequences, noConsequences } from '#core/events/consequences.ts';
import { isOver } from '#core/events/end.ts';
import { becomes, type Move, type MoveRefusal, type Position, refusalOf } from '#core/events/moves.ts';
import type { Lack } from '#core/events/readiness.ts';
import type { EventState } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { clearedOf } from '../clearance/steps.ts';
import type { Queries } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { type EventRow, readEvent, readOffers, readStates } from '../events/store.ts';
import { invalid, type Problem, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';

/** A unit lead keeps events within their unit. */
export function ownUnitOnly(staff: SignedIn, unitId: string | null | undefined): void {
  const unit = bindingUnit(staff);
  // Who works on one event alone leaves it where it is.
  if (unit !== undefined && unitId !== undefined && (unit === null || unitId !== unit))
    throw refused('other-unit', {}, 403);
}

/** Where an event stands, as far as that decides what can be done with it, and what its plan lacks. */
export async function positionOf(
  tx: Queries,
  event: EventRow,
  now: string,
  /** Its offers, where they were read already. */
  known?: readonly Offer[],
): Promise<Position & { lacks: readonly Lack[] }> {
  const { zone } = await theOrganization(tx);
  const lacks = lacksOfEvent(event, known ?? (await readOffers(tx, event.id)), dateOf(now, zone)).filter(
    (l) => l.stops,
  );
  const { cleared, blocked } = await clearedOf(tx, event.id);
  const before = (await readStates(tx, event.id)).filter((s) => s.state !== 'shelved').at(-1)?.state ?? null;
  return {
    state: event.state,
    isTemplate: event.isTemplate,
    ended: isOver(event, now),
    absencesFound: event.absencesAt !== null,
    cleared,
    blocked,
    lacking: lacks.length > 0,
    before,
    lacks,
  };
}

/** A refused move in words. */
function sayRefusal(refusal: MoveRefusal, lacks: readonly Lack[]): Problem {
  switch (refusal.code) {
    case 'template':
      return refused('template');
    case 'event-state':
      return refused('event-state', { state: refusal.state, move: refusal.move });
    case 'not-cleared':
      return refused('not-cleared');
    case 'conditions-open':
      return refused('conditions-open', { conditions: refusal.conditions.join('; ') });
    case 'lacking':
      return invalid(lacks.map(({ code, params }) => ({ path: 'plan', code, params })));
    case 'ended':
      return refused('ended');
    case 'not-over':
      return refused('not-over');
  }
}

/**
 * Does with an event what somebody decided. Refuses what it cannot do now, and calling off without a reason. Answers what it
 * is now, and what followed.
 */
export async function makeMove(
  w: Work,
  eventId: string,
  move: Move,
  words: string,
): Promise<{ state: EventState; followed: Consequences }> {
  const event = await readEvent(w.tx, eventId, true);
  const position = await positionOf(w.tx, event, w.now);
  const refusal = refusalOf(position, move);
  if (refusal) throw sayRefusal(refusal, position.lacks);
  if (move === 'call off' && words.trim().length < 3)
    throw invalid([{ path: 'words', code: 'why-for-the-event' }]);
  const to = becomes(position, move);
  return { state: to, followed: (await moveOn(w, eventId, to, words)) ?? noConsequences };
}
