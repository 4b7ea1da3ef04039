import type { Reactions } from '../app/app.ts';
import { reopenChanged } from './commands.ts';

export const clearanceReactions: Reactions = {
  'plan saved': async (w, { eventId, before, after }) => ({
    reopened: await reopenChanged(w, eventId, before, after),
  }),
};
