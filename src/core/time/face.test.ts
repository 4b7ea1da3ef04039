import { afterEach, expect, test } from 'vitest';
import { faceAs, sayTimeOfDay } from './face.ts';
import { sayRange, sayTime } from './say.ts';

afterEach(() => faceAs(() => 24));

test('by the 12-hour clock, noon and midnight too; in French by the 24-hour clock', () => {
  faceAs(() => 12);
  expect(['00:05', '09:00', '12:00', '12:30', '23:59'].map((t) => sayTimeOfDay(t, 'en'))).toEqual([
    '12:05 am',
    '9:00 am',
    '12:00 pm',
    '12:30 pm',
    '11:59 pm',
  ]);
  expect(sayTimeOfDay('13:30', 'fr')).toBe('13:30');
  expect(sayRange('2026-08-08T09:00', '2026-08-08T16:30')).toBe('Saturday 8 August 2026, 9:00 am–4:30 pm');
});

test('by the 24-hour clock it is said as it is written', () => {
  expect(sayTime('2026-08-08T13:30')).toBe('13:30');
});

test('a range of whole days says no times', () => {
  expect(sayRange('2026-08-08', null)).toBe('Saturday 8 August 2026');
  expect(sayRange('2026-08-08', '2026-08-08')).toBe('Saturday 8 August 2026');
  expect(sayRange('2026-08-08', '2026-08-09')).toBe('Saturday 8 August 2026 – Sunday 9 August 2026');
});
