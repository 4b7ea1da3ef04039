import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ageOn, daysBetween, shiftDate } from './dates.ts';
import { momentFrom, sayOffset } from './moment.ts';
import { dateOf, instantOf, meaningOf, shiftWall, wallOf, withOffset } from './wallTime.ts';

const halifax = 'America/Halifax';
/** Beirut changes its clocks at midnight: on 29 March 2026 the hour from 00:00 to 01:00 is left out. */
const beirut = 'Asia/Beirut';

describe('what a wall time means', () => {
  test('an ordinary time is exact', () => {
    expect(meaningOf('2026-08-08T09:00', halifax)).toEqual({
      kind: 'exact',
      instant: '2026-08-08T12:00:00.000Z',
    });
    expect(meaningOf('2026-01-08T09:00', halifax)).toEqual({
      kind: 'exact',
      instant: '2026-01-08T13:00:00.000Z',
    });
  });

  test('the hour that spring leaves out does not exist in Halifax', () => {
    expect(meaningOf('2026-03-08T02:30', halifax)).toEqual({
      kind: 'gap',
      before: '2026-03-08T01:30',
      after: '2026-03-08T03:30',
    });
    expect(instantOf('2026-03-08T02:30', halifax)).toBe('2026-03-08T06:30:00.000Z');
  });

  test('the hour that autumn repeats comes twice, an hour apart', () => {
    expect(meaningOf('2026-11-01T01:30', halifax)).toEqual({
      kind: 'repeated',
      first: '2026-11-01T04:30:00.000Z',
      second: '2026-11-01T05:30:00.000Z',
    });
    expect(instantOf('2026-11-01T01:30', halifax)).toBe('2026-11-01T04:30:00.000Z');
  });

  test('a zone that changes at midnight has a date without its first hour', () => {
    expect(meaningOf('2026-03-29T00:30', beirut).kind).toBe('gap');
    expect(meaningOf('2026-03-29T01:00', beirut).kind).toBe('exact');
    expect(meaningOf('2026-10-24T23:30', beirut).kind).toBe('repeated');
  });

  test('every instant comes back from its wall time, except in a repeated hour', () => {
    const minutes = Date.UTC(2026, 0, 1) / 60_000;
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 366 * 1440 }),
        fc.constantFrom(halifax, beirut, 'UTC', 'Australia/Lord_Howe'),
        (after, zone) => {
          const at = new Date((minutes + after) * 60_000).toISOString();
          const meaning = meaningOf(wallOf(at, zone), zone);
          expect(meaning.kind).not.toBe('gap');
          if (meaning.kind === 'exact') expect(meaning.instant).toBe(at);
          if (meaning.kind === 'repeated') expect([meaning.first, meaning.second]).toContain(at);
        },
      ),
    );
  });
});

describe('moments hang on an anchor', () => {
  test('a day before keeps the wall time across both clock changes', () => {
    const spring = instantOf('2026-03-08T09:00', halifax);
    expect(wallOf(momentFrom(spring, { days: -1, minutes: 0 }, halifax), halifax)).toBe('2026-03-07T09:00');
    expect(Date.parse(spring) - Date.parse(momentFrom(spring, { days: -1, minutes: 0 }, halifax))).toBe(
      23 * 3_600_000,
    );
    const autumn = instantOf('2026-11-01T09:00', halifax);
    expect(Date.parse(autumn) - Date.parse(momentFrom(autumn, { days: -1, minutes: 0 }, halifax))).toBe(
      25 * 3_600_000,
    );
  });

  test('an hour before is sixty minutes, also where the clock jumps', () => {
    const start = instantOf('2026-03-08T03:15', halifax);
    const before = momentFrom(start, { days: 0, minutes: -60 }, halifax);
    expect(Date.parse(start) - Date.parse(before)).toBe(3_600_000);
    expect(wallOf(before, halifax)).toBe('2026-03-08T01:15');
  });

  test('a day before the first of a month is the last of the month before', () => {
    const first = instantOf('2027-03-01T18:00', halifax);
    expect(wallOf(momentFrom(first, { days: -1, minutes: 0 }, halifax), halifax)).toBe('2027-02-28T18:00');
  });

  test('a day before keeps the wall time on every date of the year where it exists', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 730 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.constantFrom(halifax, beirut),
        (day, minute, zone) => {
          const wall = shiftWall(`${shiftDate('2026-01-01', day)}T00:00`, { minutes: minute });
          const wanted = shiftWall(wall, { days: -1 });
          fc.pre(meaningOf(wall, zone).kind === 'exact' && meaningOf(wanted, zone).kind !== 'gap');
          expect(wallOf(momentFrom(instantOf(wall, zone), { days: -1, minutes: 0 }, zone), zone)).toBe(
            wanted,
          );
        },
      ),
    );
  });

  test('offsets are said in words', () => {
    expect(sayOffset({ days: -1, minutes: 0 }, 'the start')).toBe('1 day before the start');
    expect(sayOffset({ days: 0, minutes: -90 }, 'the start')).toBe('1 hour 30 minutes before the start');
    expect(sayOffset({ days: 0, minutes: 120 }, 'the end')).toBe('2 hours after the end');
    expect(sayOffset({ days: 0, minutes: 0 }, 'the start')).toBe('at the start');
  });
});

describe('dates', () => {
  test('ages turn on the birthday, and for 29 February on 1 March', () => {
    expect(ageOn('2007-08-08', '2026-08-07')).toBe(18);
    expect(ageOn('2007-08-08', '2026-08-08')).toBe(19);
    expect(ageOn('2008-02-29', '2027-02-28')).toBe(18);
    expect(ageOn('2008-02-29', '2027-03-01')).toBe(19);
  });

  test('days between and shifting are each other’s inverse', () => {
    fc.assert(
      fc.property(fc.integer({ min: -2000, max: 2000 }), (days) => {
        expect(daysBetween('2026-07-09', shiftDate('2026-07-09', days))).toBe(days);
      }),
    );
    expect(daysBetween('2024-02-28', '2024-03-01')).toBe(2);
    expect(dateOf('2026-07-10T02:30:00.000Z', halifax)).toBe('2026-07-09');
  });
});

test('an instant as the clock there shows it, with its offset', () => {
  expect(withOffset('2026-08-08T12:00:00.000Z', halifax)).toBe('2026-08-08T09:00:00-03:00');
  expect(withOffset('2026-12-08T13:00:00.000Z', halifax)).toBe('2026-12-08T09:00:00-04:00');
  expect(withOffset('2026-08-08T12:00:00.000Z', 'Asia/Kolkata')).toBe('2026-08-08T17:30:00+05:30');
});
