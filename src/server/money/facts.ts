import type { Reactions, Work } from '../app/app.ts';
import { refreshOrder } from './account.ts';

/** What an order stands at follows from its seats: a unit that is given up asks for nothing any more. */
const reckon = async (w: Work, { orderId }: { orderId: string }) => {
  await refreshOrder(w, orderId);
};

export const moneyReactions: Reactions = {
  'order confirmed': reckon,
  'seats lapsed': reckon,
  'seats withdrawn': reckon,
};
