import type { Currency } from '#core/money/amount.ts';
import type { Measure } from '#core/outcomes/measure.ts';
import type { SaidGoal } from '#core/outcomes/sayTrend.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import type { Texts } from '#core/words/texts.ts';

/** The sections of a report, in order. */
export const sections = ['planned', 'happened', 'money', 'changed', 'asked'] as const;
export type Section = (typeof sections)[number];

/** What some events came to together. Money in minor units. */
export interface Totals {
  events: number;
  calledOff: number;
  registered: number;
  came: number;
  missed: number;
  firstTimers: number;
  /** Different people. */
  people: number;
  hours: number;
  money: { seats: number; extras: number; gifts: number; costs: number };
  recommend: { would: number; not: number; n: number };
}

/** A measure over some events: planned, counted, and counted in the time before. */
export interface Outcome extends Pick<Measure, 'kind' | 'unit' | 'decimals' | 'direction'> {
  measureId: string;
  name: Texts;
  planned: number | null;
  total: number;
  before: number | null;
}

/** Everything a report is put together from. */
export interface ReportFigures {
  /** Of one event: what it is called. */
  event: string | null;
  from: CalendarDate;
  until: CalendarDate;
  currency: Currency;
  now: Totals;
  /** The same stretch of time before, or the last time the event was held; null without one. */
  before: Totals | null;
  /** What was planned: seats, income and costs in minor units; null where nothing was. */
  planned: { seats: number | null; income: number; costs: number };
  outcomes: readonly Outcome[];
  initiatives: readonly { name: string; goals: readonly (SaidGoal & { name: Texts })[] }[];
  lessons: readonly string[];
}
