import type { EventPlan } from '#contract/plan.ts';
import type { ShownPicture } from '#core/pictures/picture.ts';
import { picturesIn } from '#core/text/doc.ts';
import type { Queries } from '../db/database.ts';
import { picturesById } from '../pictures/store.ts';
import type { PlainPlan } from './store.ts';

/** The pictures an event's page shows: its banner, its gallery, those in its texts, of whom it names, and of its place. */
export const picturesOf = (
  tx: Queries,
  plan: Pick<PlainPlan, 'bannerId' | 'gallery' | 'description' | 'french'> &
    Partial<Pick<EventPlan, 'speakers' | 'sponsors'>> & { venuePictureId?: string | null },
): Promise<ShownPicture[]> =>
  picturesById(tx, [
    ...new Set([
      ...(plan.bannerId ? [plan.bannerId] : []),
      ...(plan.venuePictureId ? [plan.venuePictureId] : []),
      ...plan.gallery,
      ...picturesIn(plan.description),
      ...picturesIn(plan.french.description),
      ...[...(plan.speakers ?? []), ...(plan.sponsors ?? [])].flatMap((p) => p.pictureId ?? []),
    ]),
  ]);
