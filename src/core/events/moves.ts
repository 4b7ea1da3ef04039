import { type EventState, lives, mayBecome, shownToPublic } from './states.ts';

/** What somebody can do with an event by hand, in the order it is offered. */
export const moves = ['open', 'close', 'wrap up', 'bring back', 'shelve', 'call off'] as const;
export type Move = (typeof moves)[number];

/** What decides which moves an event can make. */
export interface Position {
  state: EventState;
  /** Templates are not run. */
  isTemplate: boolean;
  /** Whether its end, or its start where it has none, has passed. */
  ended: boolean;
  /** Whether absences were worked out after the end. */
  absencesFound: boolean;
  /** Whether every step of its clearance is cleared; one that needs none is. */
  cleared: boolean;
  /** Conditions of its clearance that have to be met before it is opened. */
  blocked: readonly string[];
  /** Whether the plan lacks something that stops it. */
  lacking: boolean;
  /** What it was before it was shelved. */
  before: EventState | null;
}

/** Why a move cannot be made. */
export type MoveRefusal =
  | { code: 'template' }
  /** The state it is in does not lead there. */
  | { code: 'event-state'; state: EventState; move: Move }
  | { code: 'not-cleared' }
  | { code: 'conditions-open'; conditions: readonly string[] }
  | { code: 'lacking' }
  | { code: 'ended' }
  | { code: 'not-over' };

/** The states from which each move is made. */
const from: Record<Move, readonly EventState[]> = {
  open: ['cleared', 'closed'],
  close: ['open'],
  'wrap up': ['closed'],
  'bring back': ['shelved'],
  shelve: ['draft', 'in clearance', 'cleared', 'wrapped', 'called off'],
  'call off': ['draft', 'in clearance', 'cleared', 'open', 'closed'],
};

const beforeClearance: readonly EventState[] = ['draft', 'in clearance'];

/**
 * Why an event cannot make a move now; null where it can. An event that was closed opens again without a new clearance;
 * what has ended is neither opened nor called off any more.
 */
export function refusalOf(position: Position, move: Move): MoveRefusal | null {
  const { state, ended } = position;
  if (position.isTemplate) return { code: 'template' };
  if (move === 'open' && beforeClearance.includes(state)) return { code: 'not-cleared' };
  if (move === 'wrap up' && lives(state) && !position.absencesFound) return { code: 'not-over' };
  if (!from[move].includes(state)) return { code: 'event-state', state, move };
  if (move === 'open') {
    if (ended) return { code: 'ended' };
    if (state === 'cleared' && !position.cleared) return { code: 'not-cleared' };
    if (position.blocked.length) return { code: 'conditions-open', conditions: position.blocked };
    if (position.lacking) return { code: 'lacking' };
  }
  if (move === 'call off' && ended && shownToPublic.includes(state)) return { code: 'ended' };
  return null;
}

/** The moves an event can make now. */
export const movesOf = (position: Position): Move[] =>
  moves.filter((move) => refusalOf(position, move) === null);

/**
 * What an event becomes by a move. One that is brought back becomes what it was, where that is over; a plan that was under
 * way becomes a draft, because what was decided about it may no longer hold.
 */
export function becomes(position: Pick<Position, 'before'>, move: Move): EventState {
  switch (move) {
    case 'open':
      return 'open';
    case 'close':
      return 'closed';
    case 'wrap up':
      return 'wrapped';
    case 'shelve':
      return 'shelved';
    case 'call off':
      return 'called off';
    case 'bring back':
      return position.before === 'wrapped' || position.before === 'called off' ? position.before : 'draft';
  }
}

/** True where the states allow what a move makes of an event: the two tables agree. */
export const isPossible = (state: EventState, move: Move): boolean =>
  from[move].includes(state) &&
  (move === 'bring back'
    ? (['draft', 'wrapped', 'called off'] as const).every((to) => mayBecome(state, to))
    : mayBecome(state, becomes({ before: null }, move)));
