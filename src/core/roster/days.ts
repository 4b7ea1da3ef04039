import { type Days, daysAt } from '#core/time/dayRuns.ts';
import type { RosterInstance } from './instance.ts';

/** Somebody who wants no more than so many days in a row, with the days they serve on whatever is proposed. */
export interface InARow {
  most: number;
  taken: ReadonlySet<number>;
}

/** The days of each shift; none where nobody minds how many they serve in a row. */
export const daysOfShifts = ({ people, shifts, rules }: RosterInstance): readonly Days[] =>
  people.some((p) => p.maxInARow !== null) ? shifts.map((s) => daysAt(s.start, s.end, rules.zone)) : [];

/** Whether some of the shifts lie on a day. */
export const anyOn = (days: readonly Days[], shifts: readonly number[], day: number): boolean =>
  shifts.some((s) => days[s]!.first <= day && day <= days[s]!.last);
