import type { CalendarDate } from '#core/time/clock.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import { sayShortDate } from '#core/time/say.ts';
import { say, words } from '#core/words/spoken.ts';

/** Something that holds from a day to a day, both included; open where a side is null. */
export interface Span {
  from: CalendarDate | null;
  until: CalendarDate | null;
}

/** True when a span holds on a day. */
export const holdsOn = ({ from, until }: Span, day: CalendarDate): boolean =>
  (!from || from <= day) && (!until || until >= day);

export type MembershipStatus = 'member' | 'not yet' | 'was a member' | 'never a member';

/**
 * What somebody is on a day by all their memberships: one that holds counts before one that is to come, and that before
 * one that ended.
 */
export function statusOn(spans: readonly Span[], day: CalendarDate): MembershipStatus {
  if (spans.some((s) => holdsOn(s, day))) return 'member';
  if (spans.some((s) => s.from && s.from > day)) return 'not yet';
  return spans.length ? 'was a member' : 'never a member';
}

/** "9 Jul 2026". */
export const sayDay = (day: CalendarDate): string => `${sayShortDate(day)} ${day.slice(0, 4)}`;

/** A span in words: "since 2012", "1 Mar 2024 to 31 Dec 2025", "until 31 Dec 2025"; a year where only that is known. */
export function saySpan({ from, until, since }: Span & { since?: string | null }): string {
  const begins = since && /^\d{4}$/u.test(since) ? since : from ? sayDay(from) : since;
  const { times } = words();
  if (begins && until) return say(times['from to'], { from: begins, until: sayDay(until) });
  if (begins) return say(times.since, { from: begins });
  return until ? say(times.until, { until: sayDay(until) }) : '';
}

/** The day a membership began, as far as "since" tells: a year begins on 1 January; null for anything else. */
export function startOf(since: string | null): CalendarDate | null {
  if (!since) return null;
  if (/^(?:19|20)\d\d$/u.test(since)) return `${since}-01-01`;
  return isCalendarDate(since) ? since : null;
}
