import { expect, test } from 'vitest';
import { dropOuts, fillOver, type Held, loadSpread } from './figures.ts';

const start = '2026-08-08T12:00:00.000Z';
const before = (days: number) => new Date(Date.parse(start) - days * 86_400_000).toISOString();
const shifts = [
  { id: 'gate', wished: 2, startsAt: start },
  { id: 'boat', wished: 1, startsAt: start },
];
const held = (
  contactId: string,
  shiftId: string,
  from: number,
  until: number | null = null,
  more: Partial<Held> = {},
): Held => ({
  contactId,
  shiftId,
  hours: 2,
  madeAt: before(from),
  droppedAt: until === null ? null : before(until),
  returning: false,
  ...more,
});

test('how the places filled, day by day; too many on one fill no other, and days to come are not there', () => {
  const crew = [
    held('Ann', 'gate', 3.5),
    held('Ben', 'gate', 2.5, 1.6),
    held('Cy', 'boat', 2.5),
    held('Dee', 'boat', 0.6),
  ];
  const over = (now: string, most: number) =>
    fillOver(shifts, crew, '2026-08-08', 'America/Halifax', now, most);
  // The event begins at nine in the morning: half a day before it is the evening before.
  expect(over(before(-1), 4)).toEqual([
    { days: 4, filled: 1 },
    { days: 3, filled: 3 },
    { days: 2, filled: 2 },
    { days: 1, filled: 2 },
    { days: 0, filled: 2 },
  ]);
  // Today is as it is now.
  expect(over(before(2.9), 3)).toEqual([{ days: 3, filled: 1 }]);
  expect(over(before(9), 3)).toEqual([]);
});

test('drop-outs by how long before the shift; who changed places did not drop out', () => {
  const crew = [
    held('Ann', 'gate', 30, 8),
    held('Ben', 'gate', 30, 7),
    held('Cy', 'gate', 30, 3),
    held('Dee', 'boat', 30, 0.2),
    held('Eve', 'gate', 30, 5),
    held('Eve', 'boat', 5),
    held('Fay', 'gate', 30),
    held('Gus', 'gate', 30),
  ];
  expect(dropOuts(shifts, crew)).toEqual({ all: 4, early: 2, late: 1, last: 1, share: 0.5 });
  // Taken and given up within one instant, as by a clock that stands.
  expect(dropOuts(shifts, [held('Hal', 'gate', 3, 3)])).toMatchObject({ all: 1, share: 1 });
  expect(dropOuts(shifts, [])).toEqual({ all: 0, early: 0, late: 0, last: 0, share: 0 });
});

test('how hours are spread: a fifth of the people has what share of them', () => {
  const crew = [
    held('Ann', 'gate', 9, null, { hours: 6, returning: true }),
    held('Ann', 'boat', 9, null, { hours: 2, returning: true }),
    ...['Ben', 'Cy', 'Dee'].map((who) => held(who, 'gate', 9)),
    held('Eve', 'gate', 9, null, { hours: 6 }),
    held('Fay', 'gate', 9, 1, { returning: true }),
  ];
  expect(loadSpread(crew)).toEqual({ people: 5, least: 2, median: 2, most: 8, busiest: 0.4, returning: 1 });
  expect(loadSpread([...crew, held('Gil', 'gate', 3, null, { hours: 4 })])).toMatchObject({
    people: 6,
    median: 3,
  });
  expect(loadSpread([])).toEqual({ people: 0, least: 0, median: 0, most: 0, busiest: 0, returning: 0 });
});
