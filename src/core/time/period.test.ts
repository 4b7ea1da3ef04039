import { expect, test } from 'vitest';
import { daysOf } from './period.ts';

test('a period begins and ends on days of the calendar, over years and leap days', () => {
  expect(daysOf('ever', '2026-07-09')).toEqual({});
  expect(daysOf('year', '2026-07-09')).toEqual({ from: '2026-01-01' });
  expect(daysOf('last year', '2026-01-01')).toEqual({ from: '2025-01-01', until: '2025-12-31' });
  expect(daysOf('month', '2026-07-09')).toEqual({ from: '2026-07-01' });
  expect(daysOf('last month', '2026-07-31')).toEqual({ from: '2026-06-01', until: '2026-06-30' });
  expect(daysOf('last month', '2026-01-01')).toEqual({ from: '2025-12-01', until: '2025-12-31' });
  expect(daysOf('last month', '2028-03-15')).toEqual({ from: '2028-02-01', until: '2028-02-29' });
});
