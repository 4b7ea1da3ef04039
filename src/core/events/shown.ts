import type { CalendarDate, Instant, WallTime } from '#core/time/clock.ts';

/** When an event is, as the public is told: whole days as dates, and no end where it is not shown. */
export interface ShownTimes {
  startsLocal: WallTime | CalendarDate | null;
  endsLocal: WallTime | CalendarDate | null;
  endsAt: Instant | null;
}

export function shownTimes(event: {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  endsAt: Instant | null;
  allDay: boolean;
  showEnd: boolean;
}): ShownTimes {
  const cut = (wall: WallTime | null) => (event.allDay && wall ? wall.slice(0, 10) : wall);
  return {
    startsLocal: cut(event.startsLocal),
    endsLocal: event.showEnd ? cut(event.endsLocal) : null,
    endsAt: event.showEnd ? event.endsAt : null,
  };
}

/** The times of an event of whole days: from the first midnight to the last minute of the last day. */
export const wholeDays = (first: CalendarDate, last: CalendarDate) => ({
  startsLocal: `${first}T00:00`,
  endsLocal: `${last}T23:59`,
  doorsLocal: null,
});
