import type { WallTime } from '#core/time/clock.ts';
import {
  type ByDay,
  type Frequency,
  type Rule,
  readRule,
  ruleOf,
  type Weekday,
  weekdays,
  writeRule,
} from './rule.ts';
import { weekdayOf } from './saying.ts';

export const units = ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'] as const;
type Unit = (typeof units)[number];

/** A rule as it is put together on a screen: everything that can be chosen, whether it counts or not. */
export interface BuiltRule {
  /** By a rule in words, on dates one by one, or by a rule as the standard writes it. */
  how: 'every' | 'dates' | 'written';
  unit: Unit;
  /** As typed. */
  interval: string;
  /** Of weeks. */
  weekdays: Weekday[];
  /** Of months and years: by weekday or by the number of the day. */
  by: 'weekday' | 'day';
  /** Which of the weekdays: 1 to 4, -1 for the last. */
  nth: string[];
  weekday: Weekday;
  /** 1 to 31, -1 for the last. */
  day: string;
  /** The only months it takes place in; all without any. */
  months: string[];
  ends: 'never' | 'until' | 'times';
  until: string;
  times: string;
  /** The rule as the standard writes it. */
  written: string;
}

/** What the choices are before anything is chosen: that of its weekday of the month which the first start is. */
export function builtFor(startsLocal: WallTime): BuiltRule {
  const day = Number(startsLocal.slice(8, 10));
  const nth = Math.ceil(day / 7);
  return {
    how: 'every',
    unit: 'MONTHLY',
    interval: '1',
    weekdays: [weekdayOf(startsLocal)],
    by: 'weekday',
    nth: [String(nth > 4 ? -1 : nth)],
    weekday: weekdayOf(startsLocal),
    day: String(day),
    months: [],
    ends: 'never',
    until: '',
    times: '',
    written: '',
  };
}

/** A rule as the choices that give it; what cannot be chosen stays as it is written. */
export function builtOf(text: string | null, startsLocal: WallTime): BuiltRule {
  const base = builtFor(startsLocal);
  if (text === null) return { ...base, how: 'dates' };
  const read = readRule(text);
  if ('wrong' in read) return { ...base, how: 'written', written: text };
  const { rule } = read;
  const [first] = rule.byDay;
  const built: BuiltRule = {
    ...base,
    unit: units.find((u) => u === rule.freq) ?? 'WEEKLY',
    interval: String(rule.interval),
    weekdays: rule.freq === 'WEEKLY' && first ? rule.byDay.map((d) => d.day) : base.weekdays,
    by: first ? 'weekday' : 'day',
    nth: first ? rule.byDay.map((d) => String(d.nth ?? '')) : base.nth,
    weekday: first?.day ?? base.weekday,
    day: String(rule.byMonthDay[0] ?? Number(startsLocal.slice(8, 10))),
    months: rule.byMonth.map(String),
    ends: rule.count !== null ? 'times' : rule.until !== null ? 'until' : 'never',
    until: rule.until?.slice(0, 10) ?? '',
    times: rule.count === null ? '' : String(rule.count),
    written: text,
  };
  // What the choices would give is the same rule, or they are not enough for it.
  const again = ruleIn(built);
  return again !== null && gives(again, rule, startsLocal) ? built : { ...built, how: 'written' };
}

/** Two rules that say the same, but for what follows from the first start anyway. */
function gives(text: string, rule: Rule, startsLocal: WallTime): boolean {
  const read = readRule(text);
  return 'rule' in read && writeRule(full(read.rule, startsLocal)) === writeRule(full(rule, startsLocal));
}
function full(rule: Rule, startsLocal: WallTime): Rule {
  const day: ByDay = { day: weekdayOf(startsLocal), nth: null };
  const free =
    !rule.byDay.length && !rule.byMonthDay.length && !rule.byYearDay.length && !rule.byWeekNo.length;
  return {
    ...rule,
    until: rule.until?.slice(0, 10) ?? null,
    weekStart: 'MO',
    ...(free && rule.freq === 'WEEKLY' ? { byDay: [day] } : {}),
    ...(free && (rule.freq === 'MONTHLY' || rule.freq === 'YEARLY')
      ? { byMonthDay: [Number(startsLocal.slice(8, 10))] }
      : {}),
    ...(free && rule.freq === 'YEARLY' && !rule.byMonth.length
      ? { byMonth: [Number(startsLocal.slice(5, 7))] }
      : {}),
  };
}

/** The rule that the choices give, as the standard writes it; null for dates one by one. What was typed wrong shows as such. */
export function ruleIn(built: BuiltRule): string | null {
  if (built.how === 'dates') return null;
  if (built.how === 'written') return built.written;
  const { unit } = built;
  const inMonths = unit === 'MONTHLY' || unit === 'YEARLY';
  const text = writeRule(
    ruleOf({
      freq: unit satisfies Frequency,
      byMonth: built.months.map(Number).sort((a, b) => a - b),
      byDay:
        unit === 'WEEKLY'
          ? weekdays.filter((d) => built.weekdays.includes(d)).map((day) => ({ day, nth: null }))
          : inMonths && built.by === 'weekday'
            ? built.nth.map((n) => ({ day: built.weekday, nth: n ? Number(n) : null }))
            : [],
      byMonthDay: inMonths && built.by === 'day' ? [Number(built.day)] : [],
    }),
  );
  const interval = built.interval.trim() === '1' ? '' : `;INTERVAL=${built.interval.trim()}`;
  const ends =
    built.ends === 'until'
      ? `;UNTIL=${built.until.replaceAll('-', '')}`
      : built.ends === 'times'
        ? `;COUNT=${built.times.trim()}`
        : '';
  return text.replace(/^(FREQ=[A-Z]+)/u, `$1${interval}${ends}`);
}
