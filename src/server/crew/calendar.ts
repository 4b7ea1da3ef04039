import type { CalendarEntry } from '#core/exchange/calendar.ts';
import type { OwnShiftRow } from './store.ts';

/** The identity of somebody's shift in calendars. */
export const shiftUid = (assignmentId: string): string => `${assignmentId}@acolyte`;

/** How often a shift and its event were changed: both numbers only go up, and so does what they come to. */
export const shiftSequence = (shift: number, event: number): number => event + shift - 1;

/** Somebody's shifts as entries of a calendar, each leading to `url`; what they only asked for is not theirs yet. */
export const shiftEntries = (shifts: readonly OwnShiftRow[], url: string): CalendarEntry[] =>
  shifts
    .filter((s) => s.state !== 'proposed')
    .map((s) => ({
      uid: shiftUid(s.assignmentId),
      startsAt: s.startsAt,
      endsAt: s.endsAt,
      zone: s.zone,
      summary: `${s.role}, ${s.event}`,
      location: [s.place, s.venue].filter(Boolean).join(', '),
      url,
      sequence: shiftSequence(s.version, s.eventVersion),
    }));
