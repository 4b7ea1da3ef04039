import type { Reactions, Work } from '../app/app.ts';
import { refreshEvent, refreshOrder } from './account.ts';

/** What an order stands at follows from its seats: a unit that is given up asks for nothing any more. */
const reckon = async (w: Work, { orderId }: { orderId: string }) => {
  await refreshOrder(w, orderId);
};

export const moneyReactions: Reactions = {
  'order confirmed': reckon,
  'seats lapsed': reckon,
  'seats withdrawn': reckon,
  'seats put back': reckon,
  'offer changed': reckon,
  // What is called off asks for nothing any more, and owes back what was paid.
  async 'event moved on'(w, { eventId, from, to }) {
    if (to === 'called off' || from === 'called off') await refreshEvent(w, eventId);
  },
  async 'change taken back'(w, { orders }) {
    for (const orderId of orders) await refreshOrder(w, orderId);
  },
};
