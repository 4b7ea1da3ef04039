import { createHash } from 'node:crypto';
import type { Viewer } from '#core/access/viewer.ts';
import type { Shape } from '#core/pictures/picture.ts';
import { wrongAt } from '#core/words/problems.ts';
import { type Actor, type App, inTransaction, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { withRights } from './access.ts';
import { makePicture } from './making.ts';
import { addSize, type PictureRow, pictureByDigest, picturesById, setLogo } from './store.ts';

/** A picture as it is brought in. */
interface BroughtIn {
  /** For which unit; null for all of them. */
  unitId: string | null;
  bytes: Buffer;
  alt: PictureRow['alt'];
  shape: Shape;
  focus: { x: number; y: number };
}

/** Keeps a picture in its sizes; the same, cut and described in the same way, is kept once a unit. Throws what is wrong with the file. */
export async function keepPicture(
  app: App,
  actor: Actor,
  { bytes, alt, shape, focus, unitId }: BroughtIn,
): Promise<PictureRow> {
  const digest = createHash('sha256')
    .update(bytes)
    .update(JSON.stringify([alt, unitId, shape, shape === 'whole' ? null : focus]))
    .digest('hex');
  const known = await pictureByDigest(app.db, digest);
  if (known) return known;
  // Made before the transaction: it takes a moment, and nobody waits for it.
  const made = await makePicture(bytes, shape, focus);
  return inTransaction(app, actor, async (w) => {
    const before = await pictureByDigest(w.tx, digest);
    if (before) return before;
    const id = app.ids.id();
    const { width, height } = made;
    const row = {
      ...{ alt, width, height, focusX: made.focus.x, focusY: made.focus.y },
      ...{ at: w.now, by: actor.name },
    };
    await insert(w.tx, 'pictures', { id, ...row, broughtBy: actor.staffId, digest });
    for (const size of made.sizes) await addSize(w.tx, id, size);
    await record(w, 'picture kept', { pictureId: id });
    return { id, ...row };
  });
}

/** Says what is on a picture, and where its matter is. */
export async function describePicture(
  w: Work,
  viewer: Viewer,
  id: string,
  { alt, focus }: { alt?: PictureRow['alt'] | undefined; focus?: { x: number; y: number } | undefined },
): Promise<void> {
  const [picture] = await withRights(w.tx, viewer, await picturesById(w.tx, [id]));
  if (!picture) throw notFound('This picture');
  if (!picture.mayDescribe) throw refused('not-your-picture', {}, 403);
  await update(w.tx, 'pictures', id, {
    ...(alt && { alt }),
    ...(focus && { focusX: focus.x, focusY: focus.y }),
  });
  await record(w, 'picture described', { pictureId: id });
}

/** Refuses a picture that is not there, beside its field. */
export async function demandPicture(w: Work, id: string | null): Promise<void> {
  if (id && !(await picturesById(w.tx, [id])).length) throw invalid([wrongAt('pictureId', 'picture-gone')]);
}

/** Gives the organization (`unitId` null) or a unit a logo, or none. */
export async function giveLogo(w: Work, unitId: string | null, pictureId: string | null): Promise<void> {
  await demandPicture(w, pictureId);
  const whose = await setLogo(w.tx, unitId, pictureId);
  if (!whose) throw notFound('This unit');
  await record(w, 'logo given', { unitId, name: whose.name, pictureId });
}
