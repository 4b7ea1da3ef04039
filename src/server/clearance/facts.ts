import { factFields } from '#core/clearance/facts.ts';
import type { PlanField } from '#core/events/parts.ts';
import type { Reactions } from '../app/app.ts';
import { coverDates, coverNew } from './covering.ts';
import { reopenChanged } from './reopening.ts';

const bearing: readonly PlanField[] = factFields;

export const clearanceReactions: Reactions = {
  // A word that is put right changes no fact: rules that were changed meanwhile do not come in by it.
  'plan saved': async (w, { eventId, fields }) =>
    fields.some((field) => bearing.includes(field))
      ? { reopened: await reopenChanged(w, eventId) }
      : undefined,
  'event moved on': async (w, { eventId, to }) => {
    if (to === 'cleared') await coverDates(w, eventId);
  },
  'date made': (w, { eventId }) => coverNew(w, eventId),
  // Whether somebody is alone at night is seen from the shifts.
  'shift added': async (w, { eventId }) => ({ reopened: await reopenChanged(w, eventId) }),
  'shift changed': async (w, { eventId }) => ({ reopened: await reopenChanged(w, eventId) }),
  'shift removed': async (w, { eventId }) => ({ reopened: await reopenChanged(w, eventId) }),
};
