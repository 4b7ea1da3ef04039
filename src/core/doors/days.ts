import { daysOf, isPlaced, type SessionTimes, wallTimesOf } from '#core/agenda/session.ts';
import { type CalendarDate, earlier, type Instant, type WallTime, type Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { type DoorMark, type Presence, presenceOf } from './marks.ts';

/** One day of an event, as its doors know it. */
export interface DoorDay {
  /** From 1. */
  day: number;
  date: CalendarDate;
  /** When it begins and ends: what counts as minutes of the event lies between. */
  from: Instant;
  until: Instant;
  /** The moment of the night after it at which nobody is in any more; null after the last day, which the end of the event closes. */
  shut: Instant | null;
}

/** The time of the night between two days of an event: what goes on until then belongs to the evening before. */
const nightTime = '04:00';

/** An event as far as its days are concerned. Without an end it lasts as long as `lengthUnsaid` says. */
interface Dated {
  startsLocal: WallTime | null;
  endsLocal: WallTime | null;
  startsAt: Instant | null;
  endsAt: Instant | null;
  zone: Zone;
  /** Whether people go home between its days. */
  goHome: boolean;
}

/** How long an event counts that says no end, in milliseconds: three hours. */
const lengthUnsaid = 3 * 3_600_000;

/**
 * The days of an event, none without a date. An event of one day goes from its start to its end, and so does one at which people stay over night: nobody
 * who sleeps there is taken off a list. One between whose days people go home begins each day with the first of its sessions and ends with the last;
 * without sessions it begins and ends every day at the time of day of its start and its end.
 */
export function doorDays(event: Dated, sessions: readonly SessionTimes[]): DoorDay[] {
  const { startsLocal, endsLocal, startsAt, endsAt, zone, goHome } = event;
  if (!startsLocal || !startsAt) return [];
  const first = startsLocal.slice(0, 10);
  const end = endsAt ?? new Date(Date.parse(startsAt) + lengthUnsaid).toISOString();
  const count = daysOf({ startsLocal, endsLocal });
  if (count === 1 || !goHome) return [{ day: 1, date: first, from: startsAt, until: end, shut: null }];
  return Array.from({ length: count }, (_, at) => {
    const day = at + 1;
    const date = shiftDate(first, at);
    const times = sessions
      .filter(isPlaced)
      .filter((s) => s.day === day)
      .map((s) => wallTimesOf(s, first));
    const begins = times.map((t) => t.startsLocal).sort()[0] ?? `${date}T${startsLocal.slice(11)}`;
    const lasts = times
      .map((t) => t.endsLocal)
      .sort()
      .at(-1);
    const closes = endsLocal!.slice(11);
    const ends = lasts ?? `${closes > begins.slice(11) ? date : shiftDate(date, 1)}T${closes}`;
    const last = day === count;
    const shut = instantOf(`${shiftDate(date, 1)}T${nightTime}`, zone);
    return {
      day,
      date,
      from: day === 1 ? startsAt : instantOf(begins, zone),
      until: last ? end : earlier(instantOf(ends, zone), shut),
      shut: last ? null : shut,
    };
  });
}

/** The nights of an event that lie behind, at which everybody was out. */
export const nightsBefore = (days: readonly DoorDay[], now: Instant): Instant[] =>
  days.flatMap(({ shut }) => (shut !== null && shut <= now ? [shut] : []));

/** The day of an event that a moment belongs to: after the last night before it; null without a date. */
export const dayAt = (days: readonly DoorDay[], at: Instant): DoorDay | null =>
  days.find(({ shut }) => shut === null || at < shut) ?? null;

/** Where somebody is on the day of an event that a moment belongs to, and whether they came on a day before it. */
export function presenceOn(
  marks: readonly DoorMark[],
  days: readonly DoorDay[],
  at: Instant,
): Presence & { cameBefore: boolean } {
  const nights = nightsBefore(days, at);
  const all = presenceOf(marks, nights);
  const dawn = nights.at(-1);
  if (dawn === undefined) return { ...all, cameBefore: false };
  const stays = all.stays.filter((s) => s.from >= dawn);
  const cameBefore = stays.length < all.stays.length;
  return stays.length
    ? { ...all, arrivedAt: stays[0]!.from, stays, cameBefore }
    : { state: 'expected', arrivedAt: null, leftAt: null, stays, undo: [], cameBefore };
}
