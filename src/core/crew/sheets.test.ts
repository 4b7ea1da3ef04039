import { expect, test } from 'vitest';
import { sheetKinds } from './sheetKinds.ts';
import { type SheetShift, sheetOf } from './sheets.ts';

const shift = (
  role: string,
  from: string,
  to: string,
  names: string[],
  more: Partial<SheetShift> = {},
): SheetShift => ({
  name: '',
  role,
  place: 'Hut',
  startsLocal: `2026-08-08T${from}`,
  endsLocal: `2026-08-08T${to}`,
  wished: 2,
  lead: null,
  assignments: names.map((name) => ({ contactId: name, name, state: 'agreed' as const })),
  ...more,
});
const shifts = [
  shift('Tea', '12:00', '15:00', ['Wen', 'Éva']),
  shift('Gate', '09:00', '12:00', ['Wen']),
  shift('Gate', '08:00', '09:00', [], {
    startsLocal: '2026-08-07T18:00',
    endsLocal: '2026-08-07T20:00',
    place: '',
  }),
];
const said = (kind: (typeof sheetKinds)[number]) =>
  sheetOf(shifts, kind).map((g) => [g.heading, g.lines.map((l) => `${l.shift.role} ${l.on?.name ?? '–'}`)]);

test('by day, role and place with open places, by person with those who are on something', () => {
  expect(said('day')).toEqual([
    ['2026-08-07', ['Gate –', 'Gate –']],
    ['2026-08-08', ['Gate Wen', 'Gate –', 'Tea Wen', 'Tea Éva']],
  ]);
  expect(said('role').map(([heading]) => heading)).toEqual(['Gate', 'Tea']);
  expect(said('place').map(([heading]) => heading)).toEqual(['', 'Hut']);
  expect(said('person')).toEqual([
    ['Éva', ['Tea Éva']],
    ['Wen', ['Gate Wen', 'Tea Wen']],
  ]);
});

test('whoever signs in is found by name, whatever its accents; open places come last', () => {
  expect(said('sign in')[1]).toEqual(['2026-08-08', ['Tea Éva', 'Gate Wen', 'Tea Wen', 'Gate –']]);
});

test('whoever only asked stands on no sheet', () => {
  const asked = shift('Aid', '09:00', '10:00', [], {
    wished: 1,
    assignments: [{ contactId: 'ewan', name: 'Ewan', state: 'proposed' }],
  });
  for (const kind of sheetKinds)
    expect(sheetOf([asked], kind).flatMap((g) => g.lines.map((l) => l.on))).toEqual(
      kind === 'person' ? [] : [null],
    );
});

test('two of one name are two people', () => {
  const twins = ['one', 'two'].map((contactId) => ({ contactId, name: 'Jun', state: 'agreed' as const }));
  const groups = sheetOf([shift('Tea', '09:00', '10:00', [], { assignments: twins })], 'person');
  expect(groups.map((g) => [g.heading, g.lines.map((l) => l.on?.contactId)])).toEqual([
    ['Jun', ['one']],
    ['Jun', ['two']],
  ]);
});
