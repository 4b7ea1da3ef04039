import { sayAmount } from '#core/money/amount.ts';
import type { CalendarDate, Instant, WallTime, Zone } from '#core/time/clock.ts';
import { sayLongDate } from '#core/time/say.ts';
import { instantOf } from '#core/time/wallTime.ts';
import type { Language } from '#core/words/language.ts';
import type { YearAudience } from './audiences.ts';
import type { Line } from './lines.ts';
import { linkMark } from './links.ts';
import type { MailingTopic } from './mailing.ts';
import type { MergeValues } from './merge.ts';
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
  | { of: 'pledge'; id: string; missedAt: Instant }
  | { of: 'certificate'; skillId: string; contactId: string; until: CalendarDate };

/**
 * The key under which somebody is a recipient: a membership that is made longer, a card that fails once more, a certificate that holds
 * longer, is told of again.
 */
export function yearKeyOf(about: YearAbout): string {
  if (about.of === 'certificate') return `certificate ${about.skillId} ${about.contactId} ${about.until}`;
  if (about.of === 'membership') return `membership ${about.id} ${about.ends}`;
  return about.of === 'pledge' ? `pledge ${about.id} ${about.missedAt}` : `gift ${about.id}`;
}

const uuid = '[\\da-f-]{36}';
const day = '\\d{4}-\\d\\d-\\d\\d';
/** What a key of `yearKeyOf` looks like. */
export const yearKey = new RegExp(
  `^(?:gift ${uuid}|membership ${uuid} ${day}|certificate ${uuid} ${uuid} ${day}|pledge ${uuid} ${day}T[\\d:.]+Z)$`,
  'u',
);

/** What somebody has with the organization, as far as a line says it. */
export type YearHad =
  | { of: 'membership'; level: string; ends: CalendarDate }
  | { of: 'certificate'; name: string; until: CalendarDate }
  | { of: 'gift'; amount: number; currency: string; on: CalendarDate; purpose: string }
  /** Without an id it is that of somebody made up. */
  | { of: 'pledge'; id: string | null; amount: number; currency: string; purpose: string };

/** What a line says of what somebody has, by the names of its fields. */
export function yearValues(had: YearHad, language: Language): MergeValues {
  if (had.of === 'membership') return { level: had.level, ends: sayLongDate(had.ends, language) };
  if (had.of === 'certificate')
    return { certificate: had.name, holds_until: sayLongDate(had.until, language) };
  const gift = { gift: sayAmount(had.amount, had.currency, language), purpose: had.purpose };
  if (had.of === 'gift') return { ...gift, given_on: sayLongDate(had.on, language) };
  return { ...gift, gift_link: had.id ? linkMark('pledge', had.id) : '' };
}

/** What somebody made up has, where a line is looked at that concerns nobody yet. */
export function madeUpFor(audience: YearAudience, today: CalendarDate, currency: string): YearHad {
  if (audience === 'members') return { of: 'membership', level: 'household', ends: today };
  if (audience === 'certified') return { of: 'certificate', name: 'First aid certificate', until: today };
  const gift = { amount: 5000, currency, purpose: 'General' };
  return audience === 'givers' ? { of: 'gift', ...gift, on: today } : { of: 'pledge', id: null, ...gift };
}
