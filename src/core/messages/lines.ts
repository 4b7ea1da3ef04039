import type { Condition } from '#core/seats/narrowing.ts';
import type { Instant } from '#core/time/clock.ts';
import type { Offset } from '#core/time/moment.ts';
import type { Audience } from './audiences.ts';
import type { Channel } from './channels.ts';
import type { Moment } from './moments.ts';

/** What becomes of a line for somebody who came to be among its people after its time: nothing, at once, or at once but for what a later line says. */
export const lateRules = ['skip', 'now', 'last'] as const;
export type LateRule = (typeof lateRules)[number];

/** A line of the message plan of an event. */
export interface Line {
  id: string;
  name: string;
  moment: Moment;
  offset: Offset;
  channel: Channel;
  /** Who it is for. */
  audience: Audience;
  late: LateRule;
  /** Minutes after its time in which it is still of use; null as the moment has it. */
  usefulMinutes: number | null;
  /** It waits for a working day. */
  workingDays: boolean;
  /** One copy serves a household. */
  household: boolean;
  /** Only those on seats, or on shifts, of which all of this holds. */
  narrowed: readonly Condition[];
  /** It sends nothing as long as it is switched off. */
  off: boolean;
  /** When it came into the plan; null from the beginning. Whoever was there before and whose time had passed by then is late for it. */
  addedAt: Instant | null;
  /** When it was sent by hand, to everybody who was among its people by then. */
  sentByHandAt: Instant | null;
}

/** What a line says the same way as others: where nobody chose. */
export const plainLine = {
  channel: 'email',
  late: 'skip',
  usefulMinutes: null,
  workingDays: false,
  household: false,
  narrowed: [],
  off: false,
  preview: { en: '' },
  formatted: { en: null, fr: null },
  frenchOf: '',
} as const;

/** Days and minutes an offset may have: a year, and two days by the hour. */
export const offsetLimits = { days: 366, minutes: 48 * 60 } as const;
