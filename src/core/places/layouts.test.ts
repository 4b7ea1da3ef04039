import { expect, test } from 'vitest';
import { readLayout, sayLayout, wrongLayouts } from './layouts.ts';

test('a layout is its name and a number; without either it is none', () => {
  expect(readLayout(' Tables of eight: 128 ')).toEqual({ name: 'Tables of eight', capacity: 128 });
  expect(readLayout('Rows 180')).toEqual({ name: 'Rows', capacity: 180 });
  expect(readLayout('Block 2, 60')).toEqual({ name: 'Block 2', capacity: 60 });
  expect(readLayout('Rows')).toBeNull();
  expect(readLayout('180')).toBeNull();
  expect(readLayout(sayLayout({ name: 'Rows', capacity: 7 }))).toEqual({ name: 'Rows', capacity: 7 });
});

test('what is wrong stands beside the room', () => {
  expect(wrongLayouts([{ layouts: ['Rows 180'] }, { layouts: ['Rows', 'Tables 12'] }])).toEqual([
    { path: 'rooms.1.layouts', code: 'layout-number' },
  ]);
});
