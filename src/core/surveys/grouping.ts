import type { CalendarDate } from '#core/time/clock.ts';

/** By what answers are told apart and weighted; the last by what an anonymous survey asks itself. */
export const groupings = ['nothing', 'first time', 'member', 'age', 'ticket', 'question'] as const;
export type Grouping = (typeof groupings)[number];

/** What is known of somebody who was asked. */
export interface Known {
  /** Whether it was the first event of the organization they came to. */
  firstTime: boolean;
  member: boolean;
  birthDate: CalendarDate | null;
  ticket: string | null;
}

/** Groups of age, by the first year of each. */
const ages = [0, 18, 30, 45, 60, 75] as const;

/** The name of the group somebody is in, on the day of the event: a code, or the name of a ticket. */
export function groupOf(
  known: Known,
  by: Exclude<Grouping, 'nothing' | 'question'>,
  day: CalendarDate,
): string {
  switch (by) {
    case 'first time':
      return known.firstTime ? 'first time' : 'came before';
    case 'member':
      return known.member ? 'member' : 'no member';
    case 'ticket':
      return known.ticket ?? 'unknown';
    case 'age': {
      if (!known.birthDate) return 'unknown';
      const birthday = `${day.slice(0, 4)}${known.birthDate.slice(4)}`;
      const age = Number(day.slice(0, 4)) - Number(known.birthDate.slice(0, 4)) - (birthday > day ? 1 : 0);
      const at = ages.findLastIndex((from) => age >= from);
      const next = ages[at + 1];
      return next ? `${ages[Math.max(at, 0)]}–${next - 1}` : `${ages.at(-1)}+`;
    }
  }
}
