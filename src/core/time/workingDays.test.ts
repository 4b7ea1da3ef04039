import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sayConsequence } from './distance.ts';
import { sayRange } from './say.ts';
import { isWorkingDay, lastWorkingDayBy, workingDaysAfter, workingDaysBefore } from './workingDays.ts';

test('working days skip weekends and holidays', () => {
  // Monday 3 August 2026 is a holiday in Nova Scotia.
  expect(workingDaysBefore('2026-08-05', 2, ['2026-08-03'])).toBe('2026-07-31');
  expect(workingDaysBefore('2026-08-05', 0, [])).toBe('2026-08-05');
  expect(workingDaysAfter('2026-07-31', 1, ['2026-08-03'])).toBe('2026-08-04');
  // Monday is the holiday, so what has to be through by then is through on Friday.
  expect(lastWorkingDayBy('2026-08-03', ['2026-08-03'])).toBe('2026-07-31');
  expect(lastWorkingDayBy('2026-08-04', ['2026-08-03'])).toBe('2026-08-04');
  expect(() => workingDaysBefore('2026-08-05', 1.5, [])).toThrow(RangeError);
});

test('going back and on again never loses a working day', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 1, max: 40 }), (offset, days) => {
      const date = new Date(Date.UTC(2026, 0, 1 + offset)).toISOString().slice(0, 10);
      const back = workingDaysBefore(date, days, ['2026-08-03']);
      expect(isWorkingDay(back, ['2026-08-03'])).toBe(true);
      expect(
        workingDaysAfter(back, days, ['2026-08-03']) >= date || !isWorkingDay(date, ['2026-08-03']),
      ).toBe(true);
    }),
  );
});

test('ranges are said as a person says them', () => {
  expect(sayRange('2026-08-08T09:00', '2026-08-08T16:30')).toBe('Saturday 8 August 2026, 09:00–16:30');
  expect(sayRange('2026-03-06T20:30', '2026-03-07T00:30')).toBe('Friday 6 March 2026, 20:30–00:30 next day');
  // Two days, each with its hours, are no night.
  expect(sayRange('2026-09-18T09:00', '2026-09-19T17:00')).toBe(
    'Friday 18 September 2026, 09:00 – Saturday 19 September 2026, 17:00',
  );
  expect(sayRange('2026-03-06T20:30', '2026-03-07T20:30')).toBe(
    'Friday 6 March 2026, 20:30 – Saturday 7 March 2026, 20:30',
  );
  expect(sayRange('2026-09-18T09:00', '2026-09-20T17:00')).toBe(
    'Friday 18 September 2026, 09:00 – Sunday 20 September 2026, 17:00',
  );
  expect(sayRange('2026-08-08T09:00', null, 'fr')).toContain('août');
  expect(sayConsequence('2026-08-08', '2026-07-09')).toBe('a Saturday, 30 days from now');
});
