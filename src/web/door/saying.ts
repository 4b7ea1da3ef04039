import type { DoorRow } from '#contract/doors.ts';
import { phrase } from '#web/words/phrase.ts';

const words = {
  signature: phrase('door.waiverNotSigned'),
  guardian: phrase('door.guardiansSignatureMissing'),
  money: phrase('door.balanceDue'),
} as const;

/** What has to be settled before somebody comes in, in a line. */
export const sayMissing = (row: Pick<DoorRow, 'missing'>): string =>
  row.missing.map((m) => words[m]).join(', ');

/** The name at the door, as people say it. */
export const nameOf = (row: { given: string; family: string }): string =>
  `${row.given} ${row.family}`.trim() || phrase('common.guestToBeNamed');
