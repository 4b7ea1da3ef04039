import { endOf } from '#core/events/end.ts';
import type { Instant, Zone } from '#core/time/clock.ts';
import { momentFrom } from '#core/time/moment.ts';

interface Timed {
  startsAt: Instant | null;
  endsAt: Instant | null;
  zone: Zone;
}

/** Until when the answers to a survey are taken; null as long as the event has no date. */
export function closesAt(event: Timed, closesDays: number): Instant | null {
  const end = endOf(event);
  return end && momentFrom(end, { days: closesDays, minutes: 0 }, event.zone);
}

/** Whether no more answers are taken. */
export function isClosed(event: Timed, closesDays: number, now: Instant): boolean {
  const closes = closesAt(event, closesDays);
  return closes !== null && closes <= now;
}
