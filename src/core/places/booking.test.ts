import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { instantOf } from '#core/time/wallTime.ts';
import { closedOn, freeStarts, keptFor, overlaps, type Span, spacesOf } from './booking.ts';

const zone = 'America/Halifax';
const at = (wall: string) => instantOf(wall, zone);
const span = (from: string, to: string): Span => ({ from: at(from), to: at(to) });
const open = { weekdays: [], dates: [] };

describe('what an event takes', () => {
  const hall = { id: 'hall', shared: false, rooms: ['main', 'upper'], setUpMinutes: 30 };
  test('a room is taken alone; the whole place takes every room; where several may be, nothing is taken', () => {
    expect(spacesOf(hall, 'upper')).toEqual(['upper']);
    expect(spacesOf(hall, null)).toEqual(['hall', 'main', 'upper']);
    expect(spacesOf({ ...hall, shared: true }, 'upper')).toEqual([]);
  });
  test('from setting up, or the doors where they are earlier, to the end', () => {
    const times = { startsAt: at('2026-08-08T09:00'), endsAt: at('2026-08-08T12:00'), doorsAt: null };
    expect(keptFor(times, 30)).toEqual(span('2026-08-08T08:30', '2026-08-08T12:00'));
    expect(keptFor({ ...times, doorsAt: at('2026-08-08T08:45') }, 30)).toEqual(
      span('2026-08-08T08:15', '2026-08-08T12:00'),
    );
    expect(keptFor({ ...times, endsAt: null }, 0)).toEqual(span('2026-08-08T09:00', '2026-08-08T11:00'));
    expect(keptFor({ ...times, startsAt: null }, 0)).toBeNull();
  });
  test('who begins as another ends is not in the way', () => {
    const morning = span('2026-08-08T09:00', '2026-08-08T12:00');
    expect(overlaps(morning, span('2026-08-08T12:00', '2026-08-08T13:00'))).toBe(false);
    expect(overlaps(morning, span('2026-08-08T11:59', '2026-08-08T13:00'))).toBe(true);
  });
});

test('closed on a stretch of dates, and on days of the week', () => {
  const closed = { weekdays: [0], dates: [{ from: '2026-12-24', to: '2027-01-02', why: 'Holidays' }] };
  expect(closedOn(closed, '2026-12-24')).toEqual({ why: 'Holidays' });
  expect(closedOn(closed, '2027-01-02')).toEqual({ why: 'Holidays' });
  expect(closedOn(closed, '2027-01-03')).toEqual({ weekday: 0 });
  expect(closedOn(closed, '2027-01-04')).toBeNull();
});

describe('free starts', () => {
  const wish = { startsLocal: '2026-08-08T10:00', zone, before: 30, long: 120 };
  const now = at('2026-07-09T09:00');
  test('before and after what is in the way, the next day, and a week on', () => {
    const busy = [span('2026-08-08T09:30', '2026-08-08T12:05')];
    expect(freeStarts(wish, busy, open, now)).toEqual([
      '2026-08-08T07:30',
      '2026-08-08T12:45',
      '2026-08-09T10:00',
      '2026-08-15T10:00',
    ]);
  });
  test('a closed day and another booking are passed over; nothing lies in the past', () => {
    const busy = [
      span('2026-08-08T00:00', '2026-08-08T23:30'),
      span('2026-08-10T09:00', '2026-08-10T18:00'),
      span('2026-08-15T09:00', '2026-08-15T18:00'),
    ];
    expect(freeStarts(wish, busy, { ...open, weekdays: [0] }, now)).toEqual([
      '2026-08-11T10:00',
      '2026-08-22T10:00',
    ]);
    expect(freeStarts(wish, busy, open, at('2026-08-20T00:00')).every((w) => w > '2026-08-20')).toBe(true);
  });
  test('the clock change moves nothing: the wall time is kept', () => {
    const late = { ...wish, startsLocal: '2026-10-31T10:00' };
    const busy = [span('2026-10-31T00:00', '2026-10-31T23:30')];
    expect(freeStarts(late, busy, open, now)).toContain('2026-11-01T10:00');
  });
  test('whatever is busy, what is proposed is free', () => {
    const minutes = fc.integer({ min: 0, max: 60 * 24 * 20 });
    const busySpan = fc.tuple(minutes, fc.integer({ min: 1, max: 600 })).map(([from, long]): Span => {
      const begin = Date.parse(at('2026-08-01T00:00')) + from * 60_000;
      return {
        from: new Date(begin).toISOString(),
        to: new Date(begin + long * 60_000).toISOString(),
      };
    });
    fc.assert(
      fc.property(fc.array(busySpan, { maxLength: 12 }), (busy) => {
        for (const start of freeStarts(wish, busy, open, now)) {
          const asked = keptFor({ startsAt: at(start), endsAt: null, doorsAt: null }, wish.before)!;
          expect(busy.some((b) => overlaps(b, asked))).toBe(false);
        }
      }),
    );
  });
});
