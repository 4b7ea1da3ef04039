import { clearanceReactions } from '../clearance/facts.ts';
import { crewReactions } from '../crew/facts.ts';
import type { Reactions } from '../http/app.ts';
import { messagesReactions } from '../messages/facts.ts';
import { moneyReactions } from '../money/facts.ts';
import { registrationReactions } from '../registration/facts.ts';

/** Every word that does something on facts, in this order: messages last, because they say how things stand by then. */
export const reactions: readonly Reactions[] = [
  moneyReactions,
  crewReactions,
  clearanceReactions,
  registrationReactions,
  messagesReactions,
];
