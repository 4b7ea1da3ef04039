import type { Stage } from '#core/events/states.ts';
import { phrase } from '#web/words/phrase.ts';

/** The stages of an event as they are called. */
export const stageTitles: Readonly<Record<Stage, string>> = {
  plan: phrase('event.plan'),
  clearance: phrase('event.clearance'),
  registration: phrase('event.registration'),
  crew: phrase('event.crew'),
  messages: phrase('common.messages'),
  doors: phrase('event.doors'),
  'wrap-up': phrase('event.wrapUp'),
};
