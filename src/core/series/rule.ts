import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import type { Wrong } from '#core/words/problems.ts';

const frequencies = ['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY', 'HOURLY', 'MINUTELY'] as const;
export type Frequency = (typeof frequencies)[number];
export const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
export type Weekday = (typeof weekdays)[number];

/** A weekday, or its n-th of the month or year; negative from the end. */
export interface ByDay {
  day: Weekday;
  nth: number | null;
}

/** A recurrence rule (RFC 5545 section 3.3.10). Lists that are empty do not stand in it. */
export interface Rule {
  freq: Frequency;
  interval: number;
  /** The last moment that may be in it: a date, a wall time, or an instant of UTC written with Z. */
  until: CalendarDate | WallTime | `${string}Z` | null;
  count: number | null;
  byMonth: number[];
  byWeekNo: number[];
  byYearDay: number[];
  byMonthDay: number[];
  byDay: ByDay[];
  byHour: number[];
  byMinute: number[];
  bySetPos: number[];
  weekStart: Weekday;
}

export const ruleOf = (of: Partial<Rule> & Pick<Rule, 'freq'>): Rule => ({
  interval: 1,
  until: null,
  count: null,
  byMonth: [],
  byWeekNo: [],
  byYearDay: [],
  byMonthDay: [],
  byDay: [],
  byHour: [],
  byMinute: [],
  bySetPos: [],
  weekStart: 'MO',
  ...of,
});

const lists = {
  BYMONTH: { field: 'byMonth', least: 1, most: 12, signed: false },
  BYWEEKNO: { field: 'byWeekNo', least: 1, most: 53, signed: true },
  BYYEARDAY: { field: 'byYearDay', least: 1, most: 366, signed: true },
  BYMONTHDAY: { field: 'byMonthDay', least: 1, most: 31, signed: true },
  BYHOUR: { field: 'byHour', least: 0, most: 23, signed: false },
  BYMINUTE: { field: 'byMinute', least: 0, most: 59, signed: false },
  BYSETPOS: { field: 'bySetPos', least: 1, most: 366, signed: true },
} as const;

/** What is wrong with a rule as written: a code with the part it is about. */
type BadRulePart = Omit<Wrong, 'path'>;

/** Carries it out of reading. */
class BadRule extends Error {
  constructor(readonly wrong: BadRulePart) {
    super(wrong.code);
  }
}
const bad = (part: string, value = ''): never => {
  throw new BadRule({ code: 'rule-part', params: { part, value: value.slice(0, 60) } });
};

function whole(text: string, part: string, least: number, most: number, signed = false): number {
  const shape = signed ? /^[+-]?\d{1,6}$/u : /^\d{1,6}$/u;
  const n = Number(text);
  if (!shape.test(text) || Math.abs(n) < least || Math.abs(n) > most) bad(part, text);
  return n;
}

function readUntil(text: string): NonNullable<Rule['until']> {
  const found = /^(\d{4})(\d\d)(\d\d)(?:T(\d\d)(\d\d)(\d\d)(Z)?)?$/u.exec(text);
  if (!found) return bad('UNTIL', text);
  const [, year, month, day, hour, minute, second, utc] = found;
  const date = `${year}-${month}-${day}`;
  if (!isCalendarDate(date)) return bad('UNTIL', text);
  if (hour === undefined) return date;
  if (Number(hour) > 23 || Number(minute) > 59 || Number(second) > 60) return bad('UNTIL', text);
  return `${date}T${hour}:${minute}${utc ? 'Z' : ''}`;
}

function readByDay(text: string): ByDay {
  const found = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/u.exec(text);
  if (!found) return bad('BYDAY', text);
  const nth = found[1] === undefined ? null : whole(found[1], 'BYDAY', 1, 53, true);
  return { day: found[2] as Weekday, nth };
}

/** What a part of the standard may not stand beside (RFC 5545 section 3.3.10). */
function check(rule: Rule): void {
  const beside = (part: string, other: string): never => {
    throw new BadRule({ code: 'rule-beside', params: { part, other } });
  };
  const { freq } = rule;
  if (rule.count !== null && rule.until !== null) beside('COUNT', 'UNTIL');
  if (rule.byWeekNo.length && freq !== 'YEARLY') beside('BYWEEKNO', `FREQ=${freq}`);
  if (rule.byYearDay.length && ['DAILY', 'WEEKLY', 'MONTHLY'].includes(freq))
    beside('BYYEARDAY', `FREQ=${freq}`);
  if (rule.byMonthDay.length && freq === 'WEEKLY') beside('BYMONTHDAY', 'FREQ=WEEKLY');
  if (rule.byDay.some((d) => d.nth !== null)) {
    if (freq !== 'MONTHLY' && freq !== 'YEARLY') beside('BYDAY', `FREQ=${freq}`);
    if (freq === 'YEARLY' && rule.byWeekNo.length) beside('BYDAY', 'BYWEEKNO');
    if (freq === 'MONTHLY' && rule.byDay.some((d) => Math.abs(d.nth ?? 1) > 5)) bad('BYDAY');
  }
  if (rule.bySetPos.length) {
    const others = [
      ...rule.byMonth,
      ...rule.byWeekNo,
      ...rule.byYearDay,
      ...rule.byMonthDay,
      ...rule.byDay,
      ...rule.byHour,
      ...rule.byMinute,
    ];
    if (!others.length) throw new BadRule({ code: 'rule-alone', params: { part: 'BYSETPOS' } });
  }
}

/**
 * Reads a rule of RFC 5545, with or without RRULE: before it. Answers what is wrong as a code with parameters: a part that is
 * not of the standard or out of its range, parts that may not stand beside each other, seconds (events begin on a minute).
 */
export function readRule(text: string): { rule: Rule } | { wrong: BadRulePart } {
  try {
    return { rule: read(text) };
  } catch (error) {
    if (error instanceof BadRule) return { wrong: error.wrong };
    throw error;
  }
}

function read(text: string): Rule {
  const parts = text
    .trim()
    .toUpperCase()
    .replace(/^RRULE:/u, '')
    .replace(/;$/u, '')
    .split(';');
  const seen = new Set<string>();
  const of: Partial<Rule> = {};
  for (const part of parts) {
    const [name = '', value = ''] = part.split('=', 2);
    if (seen.has(name)) bad(name, value);
    seen.add(name);
    switch (name) {
      case 'FREQ':
        if (value === 'SECONDLY') throw new BadRule({ code: 'rule-too-often' });
        if (!frequencies.includes(value as Frequency)) bad(name, value);
        of.freq = value as Frequency;
        break;
      case 'INTERVAL':
        of.interval = whole(value, name, 1, 10_000);
        break;
      case 'COUNT':
        of.count = whole(value, name, 1, 10_000);
        break;
      case 'UNTIL':
        of.until = readUntil(value);
        break;
      case 'BYDAY':
        of.byDay = value.split(',').map(readByDay);
        break;
      case 'BYSECOND':
        // Events begin on a minute.
        if (value !== '0') throw new BadRule({ code: 'rule-too-often' });
        break;
      case 'WKST':
        if (!weekdays.includes(value as Weekday)) bad(name, value);
        of.weekStart = value as Weekday;
        break;
      default: {
        const list = lists[name as keyof typeof lists];
        if (!list) return bad(name || 'RRULE', value);
        of[list.field] = value.split(',').map((n) => whole(n, name, list.least, list.most, list.signed));
      }
    }
  }
  if (!of.freq) throw new BadRule({ code: 'rule-without-freq' });
  const rule = ruleOf({ ...of, freq: of.freq });
  check(rule);
  return rule;
}

const compact = (until: string): string => {
  if (until.length === 10) return until.replaceAll('-', '');
  const z = until.endsWith('Z');
  return `${until.slice(0, 16).replaceAll(/[-:]/gu, '')}00${z ? 'Z' : ''}`;
};

/** A rule as the standard writes it, without RRULE: before it. */
export function writeRule(rule: Rule): string {
  const parts = [`FREQ=${rule.freq}`];
  if (rule.interval !== 1) parts.push(`INTERVAL=${rule.interval}`);
  if (rule.count !== null) parts.push(`COUNT=${rule.count}`);
  if (rule.until !== null) parts.push(`UNTIL=${compact(rule.until)}`);
  for (const [name, { field }] of Object.entries(lists)) {
    if (name === 'BYHOUR' && rule.byDay.length)
      parts.push(`BYDAY=${rule.byDay.map((d) => `${d.nth ?? ''}${d.day}`).join(',')}`);
    if (rule[field].length) parts.push(`${name}=${rule[field].join(',')}`);
  }
  if (rule.weekStart !== 'MO') parts.push(`WKST=${rule.weekStart}`);
  return parts.join(';');
}
