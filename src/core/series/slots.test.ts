import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { readRule, ruleOf, writeRule } from './rule.ts';
import { nextSlots, type Recurrence, slotsOf, startsOf } from './slots.ts';

const newYork = 'America/New_York';
const rule = (text: string) => {
  const read = readRule(text);
  if ('wrong' in read) throw new Error(`${text}: ${JSON.stringify(read.wrong)}`);
  return read.rule;
};
const starts = (text: string, dtstart: string, most = 60, to = '2012-12-31T23:59') =>
  startsOf(rule(text), dtstart, newYork, dtstart, to, most);
/** The days of a month, or of several, at one time: `days(9, '1997-09', 2, 9)`. */
const on = (time: string, months: Record<string, readonly number[]>): string[] =>
  Object.entries(months).flatMap(([month, days]) =>
    days.map((d) => `${month}-${String(d).padStart(2, '0')}T${time}`),
  );

// RFC 5545 section 3.8.5.3, in the order they stand there; those that never end by their first dates.
const sept2 = '1997-09-02T09:00';
const nine = (months: Record<string, readonly number[]>) => on('09:00', months);
const range = (a: number, b: number, step = 1) =>
  Array.from({ length: Math.floor((b - a) / step) + 1 }, (_, n) => a + n * step);
const examples: [string, string, string[]][] = [
  ['FREQ=DAILY;COUNT=10', sept2, nine({ '1997-09': range(2, 11) })],
  [
    'FREQ=DAILY;UNTIL=19971224T000000Z',
    sept2,
    nine({
      '1997-09': range(2, 30),
      '1997-10': range(1, 31),
      '1997-11': range(1, 30),
      '1997-12': range(1, 23),
    }),
  ],
  ['FREQ=DAILY;INTERVAL=2', sept2, nine({ '1997-09': range(2, 30, 2), '1997-10': [2, 4, 6] })],
  ['FREQ=DAILY;INTERVAL=10;COUNT=5', sept2, nine({ '1997-09': [2, 12, 22], '1997-10': [2, 12] })],
  [
    'FREQ=WEEKLY;COUNT=10',
    sept2,
    nine({ '1997-09': [2, 9, 16, 23, 30], '1997-10': [7, 14, 21, 28], '1997-11': [4] }),
  ],
  [
    'FREQ=WEEKLY;UNTIL=19971224T000000Z',
    sept2,
    nine({
      '1997-09': [2, 9, 16, 23, 30],
      '1997-10': [7, 14, 21, 28],
      '1997-11': [4, 11, 18, 25],
      '1997-12': [2, 9, 16, 23],
    }),
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
    sept2,
    nine({ '1997-09': [2, 16, 30], '1997-10': [14, 28], '1997-11': [11, 25], '1997-12': [9, 23] }),
  ],
  [
    'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
    sept2,
    nine({ '1997-09': [2, 4, 9, 11, 16, 18, 23, 25, 30], '1997-10': [2] }),
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR',
    '1997-09-01T09:00',
    nine({
      '1997-09': [1, 3, 5, 15, 17, 19, 29],
      '1997-10': [1, 3, 13, 15, 17, 27, 29, 31],
      '1997-11': [10, 12, 14, 24, 26, 28],
      '1997-12': [8, 10, 12, 22],
    }),
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
    sept2,
    nine({ '1997-09': [2, 4, 16, 18, 30], '1997-10': [2, 14, 16] }),
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '1997-09-05T09:00',
    nine({
      '1997-09': [5],
      '1997-10': [3],
      '1997-11': [7],
      '1997-12': [5],
      '1998-01': [2],
      '1998-02': [6],
      '1998-03': [6],
      '1998-04': [3],
      '1998-05': [1],
      '1998-06': [5],
    }),
  ],
  [
    'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
    '1997-09-07T09:00',
    nine({
      '1997-09': [7, 28],
      '1997-11': [2, 30],
      '1998-01': [4, 25],
      '1998-03': [1, 29],
      '1998-05': [3, 31],
    }),
  ],
  [
    'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
    '1997-09-22T09:00',
    nine({
      '1997-09': [22],
      '1997-10': [20],
      '1997-11': [17],
      '1997-12': [22],
      '1998-01': [19],
      '1998-02': [16],
    }),
  ],
  [
    'FREQ=MONTHLY;BYMONTHDAY=-3',
    '1997-09-28T09:00',
    nine({
      '1997-09': [28],
      '1997-10': [29],
      '1997-11': [28],
      '1997-12': [29],
      '1998-01': [29],
      '1998-02': [26],
    }),
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15',
    sept2,
    nine({
      '1997-09': [2, 15],
      '1997-10': [2, 15],
      '1997-11': [2, 15],
      '1997-12': [2, 15],
      '1998-01': [2, 15],
    }),
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
    '1997-09-30T09:00',
    nine({
      '1997-09': [30],
      '1997-10': [1, 31],
      '1997-11': [1, 30],
      '1997-12': [1, 31],
      '1998-01': [1, 31],
      '1998-02': [1],
    }),
  ],
  [
    'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
    '1997-09-10T09:00',
    nine({ '1997-09': range(10, 15), '1999-03': range(10, 13) }),
  ],
  [
    'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU',
    sept2,
    nine({
      '1997-09': [2, 9, 16, 23, 30],
      '1997-11': [4, 11, 18, 25],
      '1998-01': [6, 13, 20, 27],
      '1998-03': [3, 10],
    }),
  ],
  [
    'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
    '1997-06-10T09:00',
    [1997, 1998, 1999, 2000, 2001].flatMap((y) => nine({ [`${y}-06`]: [10], [`${y}-07`]: [10] })),
  ],
  [
    'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
    '1997-03-10T09:00',
    [
      ...nine({ '1997-03': [10] }),
      ...[1999, 2001, 2003].flatMap((y) => nine({ [`${y}-01`]: [10], [`${y}-02`]: [10], [`${y}-03`]: [10] })),
    ],
  ],
  [
    'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
    '1997-01-01T09:00',
    nine({
      '1997-01': [1],
      '1997-04': [10],
      '1997-07': [19],
      '2000-01': [1],
      '2000-04': [9],
      '2000-07': [18],
      '2003-01': [1],
      '2003-04': [10],
      '2003-07': [19],
      '2006-01': [1],
    }),
  ],
  ['FREQ=YEARLY;BYDAY=20MO', '1997-05-19T09:00', nine({ '1997-05': [19], '1998-05': [18], '1999-05': [17] })],
  [
    'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO',
    '1997-05-12T09:00',
    nine({ '1997-05': [12], '1998-05': [11], '1999-05': [17] }),
  ],
  [
    'FREQ=YEARLY;BYMONTH=3;BYDAY=TH',
    '1997-03-13T09:00',
    nine({ '1997-03': [13, 20, 27], '1998-03': [5, 12, 19, 26], '1999-03': [4, 11, 18, 25] }),
  ],
  [
    'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8',
    '1997-06-05T09:00',
    nine({
      '1997-06': [5, 12, 19, 26],
      '1997-07': [3, 10, 17, 24, 31],
      '1997-08': [7, 14, 21, 28],
      '1998-06': [4],
    }),
  ],
  [
    'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
    sept2,
    nine({ '1998-02': [13], '1998-03': [13], '1998-11': [13], '1999-08': [13], '2000-10': [13] }),
  ],
  [
    'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13',
    '1997-09-13T09:00',
    nine({
      '1997-09': [13],
      '1997-10': [11],
      '1997-11': [8],
      '1997-12': [13],
      '1998-01': [10],
      '1998-02': [7],
      '1998-03': [7],
      '1998-04': [11],
      '1998-05': [9],
      '1998-06': [13],
    }),
  ],
  [
    'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
    '1996-11-05T09:00',
    nine({ '1996-11': [5], '2000-11': [7], '2004-11': [2] }),
  ],
  [
    'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3',
    '1997-09-04T09:00',
    nine({ '1997-09': [4], '1997-10': [7], '1997-11': [6] }),
  ],
  [
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
    '1997-09-29T09:00',
    nine({
      '1997-09': [29],
      '1997-10': [30],
      '1997-11': [27],
      '1997-12': [30],
      '1998-01': [29],
      '1998-02': [26],
      '1998-03': [30],
    }),
  ],
  [
    'FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T210000Z',
    sept2,
    ['1997-09-02T09:00', '1997-09-02T12:00', '1997-09-02T15:00'],
  ],
  [
    'FREQ=MINUTELY;INTERVAL=15;COUNT=6',
    sept2,
    ['09:00', '09:15', '09:30', '09:45', '10:00', '10:15'].map((t) => `1997-09-02T${t}`),
  ],
  [
    'FREQ=MINUTELY;INTERVAL=90;COUNT=4',
    sept2,
    ['09:00', '10:30', '12:00', '13:30'].map((t) => `1997-09-02T${t}`),
  ],
  [
    'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40',
    sept2,
    ['09:00', '09:20', '09:40', '10:00', '10:20'].map((t) => `1997-09-02T${t}`),
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO',
    '1997-08-05T09:00',
    nine({ '1997-08': [5, 10, 19, 24] }),
  ],
  [
    'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU',
    '1997-08-05T09:00',
    nine({ '1997-08': [5, 17, 19, 31] }),
  ],
  [
    'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5',
    '2007-01-15T09:00',
    nine({ '2007-01': [15, 30], '2007-02': [15], '2007-03': [15, 30] }),
  ],
];

describe('the examples of RFC 5545', () => {
  test.each(examples)('%s', (text, dtstart, expected) => {
    const ends = /COUNT|UNTIL/u.test(text);
    // One more than there should be, where it ends.
    expect(starts(text, dtstart, ends ? 400 : expected.length)).toEqual(expected);
    // Written and read again it is the same rule.
    expect(rule(writeRule(rule(text)))).toEqual(rule(text));
  });
});

describe('across clock changes', () => {
  const of = (zone: string, dtstart: string, text: string, more: Partial<Recurrence> = {}): Recurrence => ({
    rule: rule(text),
    startsLocal: dtstart,
    zone,
    extra: [],
    skipped: [],
    ...more,
  });
  const utc = (r: Recurrence, from: string, most: number) =>
    nextSlots(r, from, most).map((s) => [s.startsLocal, instantOf(s.startsLocal, r.zone).slice(0, 16)]);

  test('a series keeps its time on the wall', () => {
    // In Halifax the clocks go back on 1 November 2026.
    expect(
      utc(of('America/Halifax', '2026-10-07T19:00', 'FREQ=MONTHLY;BYDAY=1WE'), '2026-10-01T00:00', 2),
    ).toEqual([
      ['2026-10-07T19:00', '2026-10-07T22:00'],
      ['2026-11-04T19:00', '2026-11-04T23:00'],
    ]);
  });

  test('a start that a clock change removes is later by the jump, and known by the start that the rule gave', () => {
    // Halifax, 14 March 2027: 02:00 becomes 03:00.
    const slots = nextSlots(of('America/Halifax', '2027-03-07T02:30', 'FREQ=WEEKLY'), '2027-03-07T00:00', 3);
    expect(slots.map((s) => [s.slot, s.startsLocal])).toEqual([
      ['2027-03-07T02:30', '2027-03-07T02:30'],
      ['2027-03-14T02:30', '2027-03-14T03:30'],
      ['2027-03-21T02:30', '2027-03-21T02:30'],
    ]);
  });

  test('in a zone that changes at midnight', () => {
    // Santiago, 6 September 2026: 00:00 becomes 01:00.
    expect(utc(of('America/Santiago', '2026-09-05T00:00', 'FREQ=DAILY'), '2026-09-05T00:00', 3)).toEqual([
      ['2026-09-05T00:00', '2026-09-05T04:00'],
      ['2026-09-06T01:00', '2026-09-06T04:00'],
      ['2026-09-07T00:00', '2026-09-07T03:00'],
    ]);
  });

  test('an end in UTC is compared in the zone', () => {
    // 03:00 UTC on 8 October is midnight before in Halifax: the one at 23:30 on the 7th is out by half an hour.
    const late = of('America/Halifax', '2026-10-06T23:30', 'FREQ=DAILY;UNTIL=20261008T020000Z');
    expect(nextSlots(late, '2026-10-01T00:00', 9).map((s) => s.slot)).toEqual(['2026-10-06T23:30']);
  });

  test('a month that begins on the weekday', () => {
    // 1 July 2026 is a Wednesday.
    const first = of('America/Halifax', '2026-06-03T09:30', 'FREQ=MONTHLY;BYDAY=1WE');
    expect(nextSlots(first, '2026-06-01T00:00', 3).map((s) => s.slot.slice(0, 10))).toEqual([
      '2026-06-03',
      '2026-07-01',
      '2026-08-05',
    ]);
  });

  test('dates beside the rule have their own times, and those left out are not there', () => {
    const r = of('America/Halifax', '2026-06-03T09:30', 'FREQ=MONTHLY;BYDAY=1WE', {
      extra: [{ startsLocal: '2026-06-20T14:00', endsLocal: '2026-06-20T17:00' }],
      skipped: ['2026-07-01T09:30'],
    });
    expect(nextSlots(r, '2026-06-01T00:00', 3)).toEqual([
      { slot: '2026-06-03T09:30', startsLocal: '2026-06-03T09:30', endsLocal: null, extra: false },
      {
        slot: '2026-06-20T14:00',
        startsLocal: '2026-06-20T14:00',
        endsLocal: '2026-06-20T17:00',
        extra: true,
      },
      { slot: '2026-08-05T09:30', startsLocal: '2026-08-05T09:30', endsLocal: null, extra: false },
    ]);
    expect(nextSlots({ ...r, rule: null }, '2026-06-01T00:00', 9)).toHaveLength(1);
  });

  test('an extra date at a time of the rule is there once, with its own end', () => {
    const r = of('America/Halifax', '2026-06-03T09:30', 'FREQ=WEEKLY;COUNT=2', {
      extra: [{ startsLocal: '2026-06-03T09:30', endsLocal: '2026-06-03T18:00' }],
    });
    expect(nextSlots(r, '2026-06-01T00:00', 9).map((s) => s.endsLocal)).toEqual(['2026-06-03T18:00', null]);
  });
});

test('a rule that gives no date ends the search: 31 February, an end before the start', () => {
  const of = (text: string): Recurrence => ({
    rule: rule(text),
    startsLocal: '2026-06-03T09:30',
    zone: newYork,
    extra: [],
    skipped: [],
  });
  expect(nextSlots(of('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31'), '2026-06-03T00:00', 12)).toEqual([]);
  expect(nextSlots(of('FREQ=DAILY;UNTIL=20260101'), '2026-06-03T00:00', 12)).toEqual([]);
  // Every minute, for ever: no more than asked.
  expect(nextSlots(of('FREQ=MINUTELY'), '2026-06-03T00:00', 12)).toHaveLength(12);
});

test('from wherever it is looked at, a series has the same dates', () => {
  const rules = fc.oneof(
    fc.record({ freq: fc.constant('WEEKLY' as const), interval: fc.integer({ min: 1, max: 4 }) }),
    fc.record({
      freq: fc.constant('MONTHLY' as const),
      interval: fc.integer({ min: 1, max: 3 }),
      byDay: fc
        .record({ day: fc.constantFrom('MO', 'WE', 'SU' as const), nth: fc.constantFrom(1, 2, -1) })
        .map((d) => [d]),
    }),
    fc.record({ freq: fc.constant('DAILY' as const), count: fc.integer({ min: 1, max: 90 }) }),
  );
  fc.assert(
    fc.property(
      rules,
      fc.integer({ min: 0, max: 200 }),
      fc.integer({ min: 1, max: 200 }),
      (r, days, length) => {
        const of: Recurrence = {
          rule: ruleOf(r),
          startsLocal: '2026-01-05T19:00',
          zone: newYork,
          extra: [],
          skipped: [],
        };
        const from = `${shiftDate('2026-01-01', days)}T00:00`;
        const to = `${shiftDate('2026-01-01', days + length)}T23:59`;
        const all = slotsOf(of, '2026-01-01T00:00', '2027-12-31T00:00', 2000);
        expect(slotsOf(of, from, to, 2000)).toEqual(all.filter((s) => s.slot >= from && s.slot <= to));
      },
    ),
    { numRuns: 60 },
  );
});
