/** The states of an event, in the order they happen. */
export const eventStates = [
  'draft',
  'in clearance',
  'cleared',
  'open',
  'closed',
  'wrapped',
  'called off',
  'shelved',
] as const;
export type EventState = (typeof eventStates)[number];

/** The seven stages of an event's page, in the order of time. Keys 1–7. */
export const stages = ['plan', 'clearance', 'registration', 'crew', 'messages', 'doors', 'wrap-up'] as const;
export type Stage = (typeof stages)[number];

const next: Record<EventState, readonly EventState[]> = {
  draft: ['in clearance', 'cleared', 'shelved', 'called off'],
  'in clearance': ['draft', 'cleared', 'called off', 'shelved'],
  cleared: ['open', 'in clearance', 'draft', 'called off', 'shelved'],
  open: ['closed', 'in clearance', 'called off'],
  closed: ['open', 'wrapped', 'called off'],
  wrapped: ['closed', 'shelved'],
  'called off': ['shelved'],
  shelved: ['draft', 'wrapped', 'called off'],
};

/** True when an event may go from one state to the other. */
export const mayBecome = (from: EventState, to: EventState): boolean => next[from].includes(to);

/** States in which an event lives: people register, are offered seats, pay, sign, serve and arrive. */
export const livingStates: readonly EventState[] = ['open', 'closed'];
export const lives = (state: EventState): boolean => livingStates.includes(state);

/** States in which an event is planned or runs: there is something to do about it. */
export const liveStates: readonly EventState[] = ['draft', 'in clearance', 'cleared', ...livingStates];

/** States in which nothing is sent for an event any more. */
export const silentStates: readonly EventState[] = ['called off', 'shelved'];

/** States in which the public may see the event's page. */
export const shownToPublic: readonly EventState[] = ['open', 'closed', 'wrapped', 'called off'];
