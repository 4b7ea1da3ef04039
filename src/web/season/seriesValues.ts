import type { RecurrencePlan, SeriesSettings } from '#contract/series.ts';
import { type BuiltRule, builtFor, builtOf, ruleIn } from '#core/series/building.ts';

/** When a series takes place, as it is typed. */
export interface SeriesValues extends BuiltRule {
  start: string;
  startTime: string;
  extra: { date: string; from: string; to: string }[];
  skipped: string[];
  horizon: string;
  opens: boolean;
  /** The slot from which a change holds; empty for all dates to come. */
  from: string;
}

/** What is proposed to whoever makes an event a series. */
export const proposedFor = (startsLocal: string): SeriesValues => ({
  ...builtFor(startsLocal),
  start: startsLocal.slice(0, 10),
  startTime: startsLocal.slice(11),
  extra: [],
  skipped: [],
  horizon: '12',
  opens: false,
  from: '',
});

/** A series as it stands, to be changed. */
export const valuesOf = (series: SeriesSettings): SeriesValues => ({
  ...builtOf(series.rule, series.startsLocal),
  start: series.startsLocal.slice(0, 10),
  startTime: series.startsLocal.slice(11),
  extra: series.extra.map((e) => ({
    date: e.startsLocal.slice(0, 10),
    from: e.startsLocal.slice(11),
    to: e.endsLocal?.slice(11) ?? '',
  })),
  skipped: series.skipped,
  horizon: String(series.horizon),
  opens: series.opens,
  from: '',
});

/** The month of a date, as it is chosen. */
export const monthOf = (date: string): string => String(Number(date.slice(5, 7)));

export const recurrenceIn = (values: SeriesValues): RecurrencePlan => ({
  // Of a year the month has to be said: that of the first date, where nobody chose another.
  rule: ruleIn(
    values.unit === 'YEARLY' && !values.months.length
      ? { ...values, months: [monthOf(values.start)] }
      : values,
  ),
  startsLocal: `${values.start}T${values.startTime}`,
  extra: values.extra.map((e) => ({
    startsLocal: `${e.date}T${e.from}`,
    endsLocal: e.to ? `${e.date}T${e.to}` : null,
  })),
  skipped: values.skipped,
});

export const settingsIn = (values: SeriesValues): SeriesSettings => ({
  ...recurrenceIn(values),
  horizon: Number(values.horizon),
  opens: values.opens,
});

/** The field that a path of the request stands in. */
export function fieldOfSeries(path: string, values: SeriesValues): string {
  if (path === 'startsLocal') return values.start ? 'startTime' : 'start';
  const extra = /^extra\.(\d+)\.(startsLocal|endsLocal)$/u.exec(path);
  if (extra)
    return `extra.${extra[1]}.${extra[2] === 'endsLocal' ? 'to' : values.extra[Number(extra[1])]?.date ? 'from' : 'date'}`;
  if (path !== 'rule') return path;
  if (values.how === 'dates') return 'extra';
  if (values.how === 'written') return 'written';
  if (values.ends === 'until') return 'until';
  return values.ends === 'times' ? 'times' : 'interval';
}
