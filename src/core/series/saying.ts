import type { WallTime } from '#core/time/clock.ts';
import { weekdayNumber } from '#core/time/dates.ts';
import type { Params } from '#core/words/filling.ts';
import { fillIn } from '#core/words/filling.ts';
import { type Language, spokenIn } from '#core/words/language.ts';
import { type RuleWords, rulesEn } from '#core/words/rules.en.ts';
import { rulesFr } from '#core/words/rules.fr.ts';
import { type ByDay, type Rule, type Weekday, weekdays, writeRule } from './rule.ts';

const catalogues: Readonly<Record<Language, RuleWords>> = { en: rulesEn, fr: rulesFr };
const ordinals: Readonly<Record<number, keyof RuleWords>> = {
  1: 'first',
  2: 'second',
  3: 'third',
  4: 'fourth',
  5: 'fifth',
  [-1]: 'last',
  [-2]: 'second to last',
};

const saidIn: Readonly<Record<Language, string>> = { en: 'en-GB', fr: 'fr-CA' };
const named = (date: Date, options: Intl.DateTimeFormatOptions, language: Language): string =>
  new Intl.DateTimeFormat(saidIn[language], { timeZone: 'UTC', ...options }).format(date);
const listed = (names: readonly string[], language: Language): string =>
  new Intl.ListFormat(saidIn[language], { type: 'conjunction' }).format(names);
// 5 January 2026 is a Monday.
export const sayWeekdayOf = (day: Weekday, language: Language = spokenIn()): string =>
  named(new Date(Date.UTC(2026, 0, 5 + weekdays.indexOf(day))), { weekday: 'long' }, language);
export const sayMonthOf = (month: number, language: Language = spokenIn()): string =>
  named(new Date(Date.UTC(2026, month - 1, 1)), { month: 'long' }, language);

/** The weekday of a wall time. */
export const weekdayOf = (wall: WallTime): Weekday => weekdays[(weekdayNumber(wall.slice(0, 10)) + 6) % 7]!;

/**
 * How often a series takes place: "first Wednesday of every month until 30 June 2027". Days that the rule does not name are
 * those of the first start. A rule that people do not say is given as the standard writes it. Without a rule there are dates
 * chosen one by one.
 */
export function sayRule(rule: Rule | null, startsLocal: WallTime, language: Language = spokenIn()): string {
  const words = catalogues[language];
  const say = (code: keyof RuleWords, params: Params = {}) => {
    const said = fillIn(words[code], params, language);
    // Elision: "d’août".
    return language === 'fr' ? said.replace(/\bde (?=[aeiou])/gu, 'd’') : said;
  };
  if (!rule) return say('chosen');
  const core = coreOf(rule, startsLocal, language, say);
  if (core === null) return say('written', { rule: writeRule(rule) });
  const months = rule.byMonth.map((m) => sayMonthOf(m, language));
  const only =
    months.length && rule.freq !== 'YEARLY'
      ? say('only', { rule: core, months: listed(months, language) })
      : core;
  if (rule.count !== null) return say('times', { rule: only, count: rule.count });
  if (rule.until === null) return only;
  const last = new Date(`${rule.until.slice(0, 10)}T00:00Z`);
  return say('until', {
    rule: only,
    date: named(last, { day: 'numeric', month: 'long', year: 'numeric' }, language),
  });
}

/** The first of a month has a form of its own in French. */
const sayDayOf = (day: number, language: Language): string =>
  language === 'fr' && day === 1 ? '1er' : String(day);

type Say = (code: keyof RuleWords, params?: Params) => string;

function coreOf(rule: Rule, startsLocal: WallTime, language: Language, say: Say): string | null {
  // What people say has no hours, weeks of the year or positions in it; the last of some weekdays is a position.
  if (
    rule.byWeekNo.length ||
    rule.byYearDay.length ||
    rule.byHour.length ||
    rule.byMinute.length ||
    rule.bySetPos.length
  )
    return null;
  const { interval: n } = rule;
  const often = (unit: 'day' | 'week' | 'month' | 'year', params: Params) =>
    say(n === 1 ? unit : n === 2 ? `second ${unit}` : `${unit}s`, { n, ...params });
  const plain = rule.byDay.every((d) => d.nth === null);
  const days = rule.byDay.length ? rule.byDay : [{ day: weekdayOf(startsLocal), nth: null }];
  switch (rule.freq) {
    case 'DAILY':
      return rule.byDay.length || rule.byMonthDay.length ? null : often('day', {});
    case 'WEEKLY':
      return plain
        ? often('week', {
            weekdays: listed(
              days.map((d) => sayWeekdayOf(d.day, language)),
              language,
            ),
          })
        : null;
    case 'MONTHLY': {
      const which = daysIn(rule, startsLocal, language, say);
      return which && often('month', { which });
    }
    case 'YEARLY': {
      const months = rule.byMonth.length ? rule.byMonth : [Number(startsLocal.slice(5, 7))];
      // The n-th weekday of the year is not that of a month.
      if (rule.byDay.length && !rule.byMonth.length) return null;
      const names = listed(
        months.map((m) => sayMonthOf(m, language)),
        language,
      );
      if (rule.byDay.length) {
        const which = daysIn(rule, startsLocal, language, say);
        return which && often('year', { which: say('of the month', { which, months: names }) });
      }
      const numbers = rule.byMonthDay.length ? rule.byMonthDay : [Number(startsLocal.slice(8, 10))];
      if (numbers.some((d) => d < 1)) return null;
      return often('year', {
        which: say('days of the month', {
          days: listed(
            numbers.map((d) => sayDayOf(d, language)),
            language,
          ),
          months: names,
        }),
      });
    }
    default:
      return null;
  }
}

/** Which days of a month: "first and third Wednesday", "day 15", "the last day"; null where nobody says it. */
function daysIn(rule: Rule, startsLocal: WallTime, language: Language, say: Say): string | null {
  if (rule.byDay.length && rule.byMonthDay.length) return null;
  if (rule.byDay.length) {
    const said = rule.byDay.map((d) => dayIn(d, language, say));
    return said.every((s) => s !== null) ? listed(said, language) : null;
  }
  const numbers = rule.byMonthDay.length ? rule.byMonthDay : [Number(startsLocal.slice(8, 10))];
  if (numbers.some((d) => d < -1)) return null;
  return listed(
    numbers.map((d) => (d === -1 ? say('last day') : say('month day', { day: sayDayOf(d, language) }))),
    language,
  );
}

function dayIn({ day, nth }: ByDay, language: Language, say: Say): string | null {
  const weekday = sayWeekdayOf(day, language);
  if (nth === null) return say('any weekday', { weekday });
  const ordinal = ordinals[nth];
  return ordinal ? say('nth weekday', { nth: say(ordinal), weekday }) : null;
}
