import { expect, test } from 'vitest';
import { shownTimes, wholeDays } from './shown.ts';

const event = {
  startsLocal: '2026-08-08T09:00',
  endsLocal: '2026-08-08T16:30',
  endsAt: '2026-08-08T19:30:00.000Z',
  allDay: false,
  showEnd: true,
};

test('an end that is not shown is nowhere told', () => {
  expect(shownTimes(event)).toEqual({
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T16:30',
    endsAt: '2026-08-08T19:30:00.000Z',
  });
  expect(shownTimes({ ...event, showEnd: false })).toEqual({
    startsLocal: '2026-08-08T09:00',
    endsLocal: null,
    endsAt: null,
  });
});

test('whole days are told as dates', () => {
  const days = wholeDays('2026-08-08', '2026-08-09');
  expect(days).toEqual({ startsLocal: '2026-08-08T00:00', endsLocal: '2026-08-09T23:59', doorsLocal: null });
  expect(shownTimes({ ...event, ...days, allDay: true })).toMatchObject({
    startsLocal: '2026-08-08',
    endsLocal: '2026-08-09',
  });
});
