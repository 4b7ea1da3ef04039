import type { CalendarDate, Instant, WallTime, Zone } from '#core/time/clock.ts';
import { instantOf } from '#core/time/wallTime.ts';
import type { YearAudience } from './audiences.ts';
import type { Line } from './lines.ts';
import type { MailingTopic } from './mailing.ts';
import { type EventMoments, momentRule, type YearMoment } from './moments.ts';

/** A line of the organization: it hangs on what people have with it, at any time of the year, and on no event. */
export interface YearLine extends Line {
  moment: YearMoment;
  audience: YearAudience;
  /** What it is about, for those who want no more of it. */
  topic: MailingTopic;
}

/** For whom a line on a moment is: there is one such audience each. */
export const audienceOn = (moment: YearMoment): YearAudience => momentRule(moment).audiences[0];

/** Lines of the organization are planned as those of an event that has no dates of its own. */
export const noEvent = (zone: Zone): EventMoments => ({
  startsAt: null,
  endsAt: null,
  doorsAt: null,
  registrationClosesAt: null,
  absencesAt: null,
  salesOpenLocal: null,
  admission: { ways: [] },
  balanceDays: 0,
  namesDays: 0,
  zone,
});

/** A day that has no time counts from nine in the morning: what hangs on it is read by day. */
export const momentOn = (day: CalendarDate, zone: Zone): Instant =>
  instantOf(`${day}T09:00` as WallTime, zone);

/** Days after which what somebody had with the organization brings about nothing any more: further than an offset can be, and working days wait. */
export const rememberedDays = 400;

/** What a message of such a line is about. */
export type YearAbout =
  | { of: 'membership'; id: string; ends: CalendarDate }
  | { of: 'gift'; id: string }
  | { of: 'pledge'; id: string; missedAt: Instant };

/** The key under which somebody is a recipient: a membership that is made longer, a card that fails once more, is told of again. */
export function yearKeyOf(about: YearAbout): string {
  if (about.of === 'membership') return `membership ${about.id} ${about.ends}`;
  return about.of === 'pledge' ? `pledge ${about.id} ${about.missedAt}` : `gift ${about.id}`;
}
