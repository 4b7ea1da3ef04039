import type { placesContract } from '#contract/places.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { standingOf } from './booking.ts';
import { addPlace, changePlace, mergePlaces, retirePlace } from './commands.ts';
import { addDiary, readDiaries, removeDiary } from './diaries.ts';
import { readPlaces, thePlace } from './store.ts';

export const placesHandlers: Handlers<typeof placesContract> = {
  'GET /api/venues': ({ tx, now }) => readPlaces(tx, now),
  'GET /api/events/:id/place': async (c) =>
    standingOf(c.tx, await eventFor(c, c.params.id, 'plan', 'see'), c.query, c.now),
  'GET /api/venues/:id/diaries': async (c) => {
    await thePlace(c.tx, c.params.id);
    return readDiaries(c.tx, c.params.id);
  },
  'POST /api/venues/:id/diaries': ({ app, actor, params, body }) => addDiary(app, actor, params.id, body),
  'DELETE /api/diaries/:id': async (c) => {
    await removeDiary(c, c.params.id);
    return { done: true };
  },
  'POST /api/venues': (c) => addPlace(c, c.body),
  'PATCH /api/venues/:id': async (c) => {
    await changePlace(c, c.params.id, c.body);
    return { done: true };
  },
  'POST /api/venues/:id/retire': async (c) => {
    await retirePlace(c, c.params.id, c.body.retired);
    return { done: true };
  },
  'POST /api/venues/:id/merge': async (c) => ({ moved: await mergePlaces(c, c.params.id, c.body.into) }),
};
