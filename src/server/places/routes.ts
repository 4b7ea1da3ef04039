import type { placesContract } from '#contract/places.ts';
import { proposeAddresses } from '#core/places/gazetteer.ts';
import { gazetteer } from '#core/places/portAnsley.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { withPictures } from '../pictures/store.ts';
import { standingOf } from './booking.ts';
import { addPlace, changePlace, mergePlaces, retirePlace } from './commands.ts';
import { addDiary, readDiaries, removeDiary } from './diaries.ts';
import { readAddresses, readPlaces, thePlace } from './store.ts';

export const placesHandlers: Handlers<typeof placesContract> = {
  'GET /api/venues': async ({ tx, now }) => withPictures(tx, await readPlaces(tx, now)),
  'GET /api/addresses': async ({ tx, query }) =>
    proposeAddresses(query.typed, await readAddresses(tx), gazetteer),
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
