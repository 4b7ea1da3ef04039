import type { Me } from '#contract/staff.ts';
import { type ClockFace, faceAs } from '#core/time/face.ts';

let shown: ClockFace = 24;
faceAs(() => shown);

/** Says times of day from now on as whoever is signed in reads them. */
export const faceOf = (me: Me): void => {
  shown = me.staff.clock ?? me.organization.clock;
};
