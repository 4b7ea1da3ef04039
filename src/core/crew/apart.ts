import { fold } from '#core/contacts/names.ts';
import { metresBetween, minutesFor } from '#core/places/distance.ts';
import type { Point } from '#core/places/gazetteer.ts';

/** Where a shift is, as far as it is known. */
export interface Spot {
  /** As the shift says it; empty where it says nothing. */
  place: string;
  /** The ground it lies on; null where nobody knows. */
  point: Point | null;
}

/** Metres within which two points are one ground: what lies there is told apart by its name alone. */
const oneGround = 200;

/**
 * Minutes somebody needs from one shift to the next: the way, where the grounds lie apart; what the organization takes as usual,
 * where two places of one ground have other names, or nobody knows where they are; none where it is the same place, or one says none.
 */
export function minutesApart(a: Spot, b: Spot, usual: number): number {
  const metres = a.point && b.point ? metresBetween(a.point, b.point) : 0;
  if (metres > oneGround) return minutesFor(metres);
  return a.place && b.place && fold(a.place) !== fold(b.place) ? usual : 0;
}
