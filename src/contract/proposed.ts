import { z } from 'zod';
import { id, instant } from './endpoint.ts';

/** An event somebody proposed, as it stands on the draft it made. */
export const proposedEvent = z.object({
  contactId: id.nullable(),
  name: z.string(),
  email: z.string(),
  phone: z.string(),
  about: z.string(),
  wishes: z.string(),
  state: z.enum(['new', 'taken', 'declined']),
  words: z.string(),
  proposedAt: instant,
  decidedBy: z.string().nullable(),
});
export type ProposedEvent = z.infer<typeof proposedEvent>;
