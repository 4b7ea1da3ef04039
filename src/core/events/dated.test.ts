import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { daysBetween } from '#core/time/dates.ts';
import { type EventTimes, eventTimes, moveTimes, moveWall, putAt } from './dated.ts';

const times: EventTimes = {
  startsLocal: '2025-08-09T09:00',
  endsLocal: '2025-08-10T00:30',
  doorsLocal: '2025-08-08T20:00',
  registrationClosesLocal: '2025-08-07T18:00',
};

describe('what moves with the date', () => {
  test('every time keeps its time of day and its distance in days', () => {
    expect(moveTimes(times, '2026-08-08T09:00')).toEqual({
      startsLocal: '2026-08-08T09:00',
      endsLocal: '2026-08-09T00:30',
      doorsLocal: '2026-08-07T20:00',
      registrationClosesLocal: '2026-08-06T18:00',
    });
  });
  test('another time of day on the same date moves nothing else', () => {
    expect(moveTimes(times, '2025-08-09T10:15')).toEqual({ ...times, startsLocal: '2025-08-09T10:15' });
  });
  test('without a start there is nothing to keep a distance to', () => {
    expect(moveTimes({ ...times, startsLocal: null }, '2026-08-08T09:00')).toEqual({
      ...times,
      startsLocal: '2026-08-08T09:00',
    });
    expect(moveTimes(times, null)).toEqual({ ...times, startsLocal: null });
  });
  test('put at another time as a whole, it is as long as before, over midnight too; registration closes at its time of day', () => {
    const evening = {
      startsLocal: '2026-10-31T20:30',
      endsLocal: '2026-11-01T00:30',
      doorsLocal: '2026-10-31T20:00',
      registrationClosesLocal: '2026-10-28T18:00',
    };
    expect(putAt(evening, '2026-11-02T21:00')).toEqual({
      startsLocal: '2026-11-02T21:00',
      endsLocal: '2026-11-03T01:00',
      doorsLocal: '2026-11-02T20:30',
      registrationClosesLocal: '2026-10-30T18:00',
    });
    expect(putAt({ ...evening, endsLocal: null, doorsLocal: null }, '2026-10-31T22:00')).toEqual({
      startsLocal: '2026-10-31T22:00',
      endsLocal: null,
      doorsLocal: null,
      registrationClosesLocal: '2026-10-28T18:00',
    });
  });
  test('there and back again is where it was, also across the clock changes and leap days', () => {
    const day = fc.date({ min: new Date('2019-01-01'), max: new Date('2033-12-31'), noInvalidDate: true });
    const wall = fc
      .tuple(day, fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
      .map(
        ([d, h, m]) =>
          `${d.toISOString().slice(0, 10)}T${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`,
      );
    fc.assert(
      fc.property(wall, wall, wall, (hanging, from, to) => {
        const moved = moveWall(hanging, from, to);
        expect(moved.slice(11)).toBe(hanging.slice(11));
        expect(daysBetween(to.slice(0, 10), moved.slice(0, 10))).toBe(
          daysBetween(from.slice(0, 10), hanging.slice(0, 10)),
        );
        expect(moveWall(moved, to, from)).toBe(hanging);
      }),
    );
    expect(eventTimes.every((t) => t in times)).toBe(true);
  });
});
