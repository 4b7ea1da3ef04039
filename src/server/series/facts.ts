import type { Reactions } from '../app/app.ts';
import { keepOwn } from './carrying.ts';
import { skipSlot, touchSeries } from './store.ts';

export const seriesReactions: Reactions = {
  'plan saved': (w, about) => keepOwn(w, about),
  // Whoever has its settings open has those from before.
  'change taken back': (w, { eventId }) => touchSeries(w.tx, eventId),
  // What somebody deleted is not made again.
  'event deleted': async (w, { ofSeries }) => {
    if (ofSeries) await skipSlot(w.tx, ofSeries.seriesId, ofSeries.slot);
  },
};
