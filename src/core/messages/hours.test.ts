import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { isWorkingDay } from '#core/time/workingDays.ts';
import { isQuiet, notBefore, type QuietHours } from './hours.ts';

const zone = 'America/Halifax';
const night: QuietHours = { from: '21:00', until: '08:00' };
const holidays = ['2026-08-03'];
const first = (wall: string, quiet: QuietHours | null, workingDays = false) =>
  wallOf(notBefore(instantOf(wall, zone), { quiet, workingDays, holidays }, zone), zone);

describe('what can wait', () => {
  test.each([
    ['the evening waits for the morning', '2026-07-09T22:30', '2026-07-10T08:00'],
    ['the small hours for the same morning', '2026-07-10T03:15', '2026-07-10T08:00'],
    ['the first quiet minute is quiet', '2026-07-09T21:00', '2026-07-10T08:00'],
    ['the minute it ends with is not', '2026-07-10T08:00', '2026-07-10T08:00'],
    ['the day goes on as it is', '2026-07-10T13:07', '2026-07-10T13:07'],
  ])('%s', (_, at, goes) => {
    expect(first(at, night)).toBe(goes);
  });

  test('quiet hours within a day', () => {
    expect(first('2026-07-10T13:30', { from: '12:00', until: '14:00' })).toBe('2026-07-10T14:00');
    expect(first('2026-07-10T22:30', { from: '12:00', until: '14:00' })).toBe('2026-07-10T22:30');
  });

  test('hours that begin and end at once are none', () => {
    expect(isQuiet('08:00', { from: '08:00', until: '08:00' })).toBe(false);
  });

  test('a Saturday waits for Monday, over a holiday for Tuesday, and keeps its time of day', () => {
    expect(first('2026-07-11T10:30', null, true)).toBe('2026-07-13T10:30');
    expect(first('2026-08-01T10:30', null, true)).toBe('2026-08-04T10:30');
    // Friday night is Saturday morning, and so Monday morning.
    expect(first('2026-07-10T23:00', night, true)).toBe('2026-07-13T08:00');
  });

  test('it is the clock of whoever is written to', () => {
    const at = '2026-07-10T02:00:00.000Z';
    const waits = { quiet: night, workingDays: false, holidays: [] };
    expect(notBefore(at, waits, 'America/Halifax')).toBe('2026-07-10T11:00:00.000Z');
    expect(notBefore(at, waits, 'America/Vancouver')).toBe(at);
  });

  test('a morning that the clocks take an hour from still comes', () => {
    // 8 March 2026: 02:00 becomes 03:00 in Halifax.
    const at = notBefore(
      '2026-03-08T05:30:00.000Z',
      { quiet: { from: '21:00', until: '02:30' }, workingDays: false, holidays: [] },
      zone,
    );
    expect(wallOf(at, zone)).toBe('2026-03-08T03:30');
  });

  test('never earlier, never quiet, and doing it again changes nothing', () => {
    const time = fc
      .tuple(fc.nat(23), fc.nat(59))
      .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
    fc.assert(
      fc.property(
        fc.date({
          min: new Date('2026-01-01'),
          max: new Date('2027-12-31'),
          noInvalidDate: true,
        }),
        time,
        time,
        fc.boolean(),
        fc.constantFrom('America/Halifax', 'Europe/Paris', 'Asia/Kathmandu', 'Pacific/Auckland'),
        (date, from, until, workingDays, where) => {
          const at = date.toISOString();
          const waits = { quiet: { from, until }, workingDays, holidays };
          const goes = notBefore(at, waits, where);
          expect(goes >= at).toBe(true);
          const wall = wallOf(goes, where);
          // A time that the clocks skip comes an hour later than it is called.
          const skipped =
            wallOf(instantOf(`${wall.slice(0, 10)}T${until}`, where), where).slice(11) !== until;
          if (!skipped) expect(isQuiet(wall.slice(11), waits.quiet)).toBe(false);
          if (workingDays) expect(isWorkingDay(wall.slice(0, 10), holidays)).toBe(true);
          if (!skipped) expect(notBefore(goes, waits, where)).toBe(goes);
        },
      ),
    );
  });
});
