import { type EventState, liveStates } from '#core/events/states.ts';

/** What an event still lacks, as it is seen at a glance in Season; its page says the rest. */
export const missingThings = ['date', 'place', 'tickets', 'clearance', 'crew'] as const;
export type MissingThing = (typeof missingThings)[number];

/** As much of an event as tells what it lacks. */
export interface MissingFacts {
  state: EventState;
  over: boolean;
  dated: boolean;
  /** It has a place, or a room online. */
  placed: boolean;
  /** Something can be registered for, here or elsewhere. */
  onOffer: boolean;
  /** Places on its shifts that nobody has. */
  unfilled: number;
}

/** What an event lacks that is still planned or runs; nothing of one that is over, called off or hidden. */
export function missingOf(f: MissingFacts): MissingThing[] {
  if (f.over || !liveStates.includes(f.state)) return [];
  const missing: MissingThing[] = [];
  if (!f.dated) missing.push('date');
  if (!f.placed) missing.push('place');
  if (!f.onOffer) missing.push('tickets');
  if (f.state === 'draft') missing.push('clearance');
  if (f.unfilled > 0) missing.push('crew');
  return missing;
}
