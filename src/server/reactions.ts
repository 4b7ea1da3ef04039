import type { Reactions } from './app/app.ts';
import { clearanceReactions } from './clearance/facts.ts';
import { contactsReactions } from './contacts/facts.ts';
import { crewReactions } from './crew/facts.ts';
import { dutiesReactions } from './duties/facts.ts';
import { givingReactions } from './giving/facts.ts';
import { messagesReactions } from './messages/facts.ts';
import { moneyReactions } from './money/facts.ts';
import { noticesReactions } from './notices/facts.ts';
import { placesReactions } from './places/facts.ts';
import { registrationReactions } from './registration/facts.ts';
import { seriesReactions } from './series/facts.ts';

/** Every word that does something on facts, in this order: messages last, because they say how things stand by then. */
export const reactions: readonly Reactions[] = [
  contactsReactions,
  placesReactions,
  dutiesReactions,
  moneyReactions,
  givingReactions,
  crewReactions,
  clearanceReactions,
  registrationReactions,
  seriesReactions,
  messagesReactions,
  noticesReactions,
];
