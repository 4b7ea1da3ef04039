import type { Reactions } from '../app/app.ts';
import { letGoAll, passOnFreed } from './waiting.ts';

export const registrationReactions: Reactions = {
  async 'plan saved'(w, { eventId, fields }) {
    if (fields.includes('capacity') || fields.includes('offers'))
      return { offered: await passOnFreed(w, eventId) };
  },
  async 'event moved on'(w, { eventId, to }) {
    if (to === 'called off') return { letGo: await letGoAll(w, eventId) };
  },
  'seats lapsed': async (w, { eventId }) => ({ offered: await passOnFreed(w, eventId) }),
  'offer changed': async (w, { eventId }) => ({ offered: await passOnFreed(w, eventId) }),
  'seats withdrawn': async (w, { eventId }) => ({ offered: await passOnFreed(w, eventId) }),
};
