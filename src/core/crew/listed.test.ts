import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readShifts, readTimeOfDay } from './listed.ts';

test('times of day are read as people write them', () => {
  const read = '9 09 9:30 9.30 9h30 9h 0930 21:00 9am 9 am 9:15pm 12am 12pm noon midnight 24:00 5:15 p.m.'
    .replace('9 am', '9_am')
    .replace('5:15 p.m.', '5:15_p.m.')
    .split(' ')
    .map((t) => readTimeOfDay(t.replace('_', ' ')));
  expect(read).toEqual([
    '09:00',
    '09:00',
    '09:30',
    '09:30',
    '09:30',
    '09:00',
    '09:30',
    '21:00',
    '09:00',
    '09:00',
    '21:15',
    '00:00',
    '12:00',
    '12:00',
    '00:00',
    '00:00',
    '17:15',
  ]);
  for (const none of ['', 'soon', '25:00', '9:60', '13pm', '0am', '9:5', '-3', '123', '24:30'])
    expect(readTimeOfDay(none), none).toBeNull();
});

const day = '2026-08-08';

test('a list without headings stands in one order; what is left out is that of the line above', () => {
  const lines = readShifts(
    'Gate\tEast\t\t9:00\t12:30\t3\t2\n\t\t\t12:30\t17\t2\nKitchen\tHut\tSunday\t22:00\t2:00\t1\nTea;x',
    day,
  );
  expect(
    lines.map(
      (l) => l.shift && [l.shift.role, l.shift.startsLocal, l.shift.endsLocal, l.shift.least, l.shift.wished],
    ),
  ).toEqual([
    ['Gate', '2026-08-08T09:00', '2026-08-08T12:30', 2, 3],
    ['Gate', '2026-08-08T12:30', '2026-08-08T17:00', 2, 2],
    // After midnight is the next day.
    ['Kitchen', '2026-08-09T22:00', '2026-08-10T02:00', 1, 1],
    null,
  ]);
  expect(lines[3]).toMatchObject({ line: 4, problem: 'no-start' });
});

test('headings say where what stands, in any order; both times may be in one cell', () => {
  const lines = readShifts(
    'When,Role,People,Min,Notes,Priority,Date\n"9–12:30",Gate,4,1,Bring the key,vital,9 Aug\n8am-10am,Tea,2,,,,',
    day,
  );
  expect(lines.map((l) => l.problem)).toEqual([null, null]);
  expect(lines[0]!.shift).toEqual({
    name: '',
    role: 'Gate',
    place: '',
    startsLocal: '2026-08-09T09:00',
    endsLocal: '2026-08-09T12:30',
    least: 1,
    wished: 4,
    importance: 'vital',
    briefing: 'Bring the key',
  });
  expect(lines[1]!.shift).toMatchObject({
    startsLocal: '2026-08-09T08:00',
    least: 2,
    wished: 2,
    importance: 'usual',
  });
});

test('an end at the hour of the start is a day later', () => {
  expect(readShifts('Watch;Hut;;9;9', day)[0]!.shift).toMatchObject({
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-09T09:00',
  });
});

test('each line says what is wrong with it', () => {
  const usual = new Map([['watch', 'Hut']]);
  const placeOf = (line: string) => readShifts(line, day, usual)[0]!.shift!.place;
  expect(placeOf('Watch;;;9;12')).toBe('Hut');
  expect(placeOf('Watch;Tower;;9;12')).toBe('Tower');
  expect(placeOf('Gate;;;9;12')).toBe('');
  const problem = (line: string) => readShifts(line, day)[0]!.problem;
  expect(problem(';East;;9;12')).toBe('no-role');
  expect(problem('Gate;East;someday;9;12')).toBe('no-day');
  expect(problem('Gate;East;;early;12')).toBe('no-start');
  expect(problem('Gate;East;;9;late')).toBe('no-end');
  expect(problem('Gate;East;;9;')).toBe('no-end');
  expect(problem('Gate;East;;9;12;0')).toBe('no-number');
  expect(problem('Gate;East;;9;12;10000')).toBe('no-number');
  expect(problem('Gate;East;;9;12;two')).toBe('no-number');
  expect(problem('Gate;East;;9;12;2;3')).toBe('least-above');
});

test('whatever is pasted is read without a fault, and every shift ends after it starts', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
      for (const { shift, problem } of readShifts(text, day)) {
        expect((shift === null) !== (problem === null)).toBe(true);
        if (shift) expect(shift.endsLocal > shift.startsLocal).toBe(true);
      }
    }),
  );
});
