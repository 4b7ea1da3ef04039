import type { z } from 'zod';
import type { placesContract } from '#contract/places.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid, refused } from '../http/problem.ts';
import { demandPicture } from '../pictures/commands.ts';
import { keepAgain } from './booking.ts';
import { moveEvents, nameTaken, readComing, saveRooms, thePlace } from './store.ts';

type PlaceBody = z.output<(typeof placesContract)['POST /api/venues']['body']>;

async function demandName(w: Work, name: string, id: string): Promise<void> {
  if (await nameTaken(w.tx, name, id))
    throw invalid([{ path: 'name', code: 'register-exists', params: { kind: 'place' } }]);
}

/** Adds a place; a name that is taken is said beside its field. */
export async function addPlace(w: Work, body: PlaceBody): Promise<{ id: string }> {
  const id = w.app.ids.id();
  await demandName(w, body.name, id);
  await demandPicture(w, body.pictureId);
  const { rooms, ...place } = body;
  await insert(w.tx, 'venues', { id, ...place });
  await saveRooms(w.tx, id, rooms, w.now);
  await record(w, 'place changed', { id, how: 'added a place', detail: { name: body.name } });
  return { id };
}

export async function changePlace(w: Work, id: string, body: PlaceBody): Promise<void> {
  await thePlace(w.tx, id);
  await demandName(w, body.name, id);
  await demandPicture(w, body.pictureId);
  const { rooms, ...place } = body;
  await update(w.tx, 'venues', id, place);
  await saveRooms(w.tx, id, rooms, w.now);
  // Rooms, or how long it takes to set up, decide who has what of it.
  await keepAgain(w, await readComing(w.tx, id, w.now));
  await record(w, 'place changed', { id, how: 'changed a place', detail: { name: body.name } });
}

/** Offers a place no longer to new plans, or again. */
export async function retirePlace(w: Work, id: string, retired: boolean): Promise<void> {
  const { name } = await thePlace(w.tx, id);
  await update(w.tx, 'venues', id, { retiredAt: retired ? w.now : null });
  await record(w, 'place changed', {
    id,
    how: retired ? 'retired a place' : 'took a place up again',
    detail: { name },
  });
}

/** Makes one place of two: what takes place at the one goes to the other. Answers how many events moved. */
export async function mergePlaces(w: Work, id: string, into: string): Promise<number> {
  if (id === into) throw refused('place-itself');
  const { name } = await thePlace(w.tx, id);
  await thePlace(w.tx, into);
  const moved = await moveEvents(w.tx, id, into);
  await keepAgain(w, await readComing(w.tx, into, w.now));
  await record(w, 'place changed', {
    id: into,
    how: 'merged a place into this one',
    detail: { name, moved: moved.length },
  });
  return moved.length;
}
