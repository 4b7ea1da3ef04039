import { type Consequences, noConsequences } from '#core/events/consequences.ts';
import { isOver } from '#core/events/end.ts';
import { becomes, type Move, type MoveRefusal, type Position, refusalOf } from '#core/events/moves.ts';
import type { EventState } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { isCleared } from '../clearance/steps.ts';
import type { Queries } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { type EventRow, readEvent, readOffers, readStates } from '../events/store.ts';
import { conflict, invalid, type Problem } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';

/** Where an event stands, as far as that decides what can be done with it, and what its plan lacks. */
export async function positionOf(
  tx: Queries,
  event: EventRow,
  now: string,
): Promise<Position & { lacks: readonly string[] }> {
  const { zone } = await theOrganization(tx);
  const lacks = lacksOfEvent(event, await readOffers(tx, event.id), dateOf(now, zone))
    .filter((l) => l.stops)
    .map((l) => l.text);
  const before = (await readStates(tx, event.id)).filter((s) => s.state !== 'shelved').at(-1)?.state ?? null;
  return {
    state: event.state,
    isTemplate: event.isTemplate,
    ended: isOver(event, now),
    absencesFound: event.absencesAt !== null,
    cleared: await isCleared(tx, event.id),
    lacking: lacks.length > 0,
    before,
    lacks,
  };
}

/** A refused move in words. */
function sayRefusal(refusal: MoveRefusal, lacks: readonly string[]): Problem {
  switch (refusal.code) {
    case 'template':
      return conflict('template', 'A template is not run; begin an event from it.');
    case 'event-state':
      return conflict('event-state', `This event is ${refusal.state}; it cannot ${refusal.move} now.`);
    case 'not-cleared':
      return conflict('not-cleared', 'The plan has to be cleared before it can be opened to the public.');
    case 'lacking':
      return invalid(lacks.map((message) => ({ path: 'plan', message })));
    case 'ended':
      return conflict('ended', 'This event is over; it is neither opened nor called off any more.');
    case 'not-over':
      return conflict('not-over', 'An event is wrapped up after it has ended.');
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
    throw invalid([{ path: 'words', message: 'Say why; the words are kept with the event.' }]);
  const to = becomes(position, move);
  return { state: to, followed: (await moveOn(w, eventId, to, words)) ?? noConsequences };
}
