import type { Reactions } from '../app/app.ts';
import { reopenChanged } from './reopening.ts';

export const clearanceReactions: Reactions = {
  'plan saved': async (w, { eventId }) => ({ reopened: await reopenChanged(w, eventId) }),
  // Whether somebody is alone at night is seen from the shifts.
  'shift added': async (w, { eventId }) => ({ reopened: await reopenChanged(w, eventId) }),
  'shift removed': async (w, { eventId }) => ({ reopened: await reopenChanged(w, eventId) }),
};
