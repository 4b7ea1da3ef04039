import type { PlanField } from '#core/events/parts.ts';
import type { Reactions } from '../app/app.ts';
import { keepPlace } from './booking.ts';

/** What of a plan decides which place it has and when, with the field a clash is said beside. */
const placing: readonly PlanField[] = [
  'venueId',
  'roomId',
  'beside',
  'startsLocal',
  'endsLocal',
  'doorsLocal',
  'zone',
  'sessions',
];

export const placesReactions: Reactions = {
  'plan saved': async (w, { eventId, fields }) => {
    const field = placing.find((f) => fields.includes(f));
    if (field) await keepPlace(w, eventId, field);
  },
  // A copy may come to a place that is taken: it is a draft still, and says so.
  'event begun': (w, { eventId }) => keepPlace(w, eventId, null),
  'event moved on': (w, { eventId }) => keepPlace(w, eventId, null),
};
