import type { DoorRow } from '#contract/doors.ts';
import type { Presence, Standing } from '#core/crew/serving.ts';
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

const standingWords: Readonly<Record<Exclude<Standing, 'here' | 'still here' | 'left'> | 'open', string>> = {
  'to come': phrase('door.crewToCome'),
  late: phrase('door.crewLate'),
  missing: phrase('door.crewMissing'),
  missed: phrase('door.crewMissed'),
  open: phrase('door.crewOpen'),
};

/** How it stands with somebody of the crew, in words, with the times that were ticked off. */
export function sayStanding(
  standing: Standing | 'open',
  { inAt, outAt }: Presence,
  timeOfDay: (instant: string | null) => string,
): string {
  if (standing === 'here') return phrase('door.crewSince', { time: timeOfDay(inAt) });
  if (standing === 'still here') return phrase('door.crewStill', { time: timeOfDay(inAt) });
  if (standing !== 'left') return standingWords[standing];
  return inAt && outAt
    ? phrase('door.crewFromTo', { from: timeOfDay(inAt), until: timeOfDay(outAt) })
    : phrase('door.crewServed');
}
