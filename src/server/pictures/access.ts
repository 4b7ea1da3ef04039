import { bindingUnit } from '#core/access/stages.ts';
import type { Viewer } from '#core/access/viewer.ts';
import type { ShownPicture } from '#core/pictures/picture.ts';
import type { Queries } from '../db/database.ts';
import { broughtInBy } from './store.ts';

/**
 * Some pictures with whether somebody may say what is on them. It says the same wherever it is shown: a unit describes what
 * it brought in, and nobody what stands on pages of other units.
 */
export async function withRights<Shown extends ShownPicture>(
  tx: Queries,
  viewer: Viewer,
  pictures: readonly Shown[],
): Promise<(Shown & { mayDescribe: boolean })[]> {
  const unit = bindingUnit(viewer);
  const own =
    unit === undefined
      ? null
      : await broughtInBy(
          tx,
          pictures.map((p) => p.id),
          unit,
        );
  return pictures.map((p) => ({ ...p, mayDescribe: own === null || own.has(p.id) }));
}
