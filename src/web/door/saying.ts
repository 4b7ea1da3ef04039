import type { DoorRow } from '#contract/doors.ts';

const words = {
  signature: 'waiver not signed',
  guardian: 'guardian’s signature missing',
  money: 'balance due',
} as const;

/** What has to be settled before somebody comes in, in a line. */
export const sayMissing = (row: Pick<DoorRow, 'missing'>): string =>
  row.missing.map((m) => words[m]).join(', ');

/** The name at the door, as people say it. */
export const nameOf = (row: { given: string; family: string }): string =>
  `${row.given} ${row.family}`.trim() || 'Guest to be named';
