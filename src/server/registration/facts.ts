import type { PlanField } from '#core/events/parts.ts';
import type { Reactions } from '../app/app.ts';
import { answerByBooking } from './invited.ts';
import { letGoAll, passOnFreed } from './waiting.ts';

/** Parts of a plan that decide how many there is room for. */
const decidesRoom: readonly PlanField[] = [
  'capacity',
  'onlineCapacity',
  'venueId',
  'roomId',
  'layout',
  'offers',
];

export const registrationReactions: Reactions = {
  async 'plan saved'(w, { eventId, fields }) {
    if (fields.some((f) => decidesRoom.includes(f))) return { offered: await passOnFreed(w, eventId) };
  },
  async 'event moved on'(w, { eventId, to }) {
    if (to === 'called off') return { letGo: await letGoAll(w, eventId) };
  },
  async 'order placed'(w, { eventId, orderId, state }) {
    // What is confirmed at once says so itself.
    if (state !== 'confirmed') await answerByBooking(w, eventId, orderId);
  },
  'order confirmed': (w, { eventId, orderId }) => answerByBooking(w, eventId, orderId),
  'seats lapsed': async (w, { eventId }) => ({ offered: await passOnFreed(w, eventId) }),
  'offer changed': async (w, { eventId }) => ({ offered: await passOnFreed(w, eventId) }),
  async 'seats withdrawn'(w, { eventId, orderId }) {
    await answerByBooking(w, eventId, orderId);
    return { offered: await passOnFreed(w, eventId) };
  },
};
