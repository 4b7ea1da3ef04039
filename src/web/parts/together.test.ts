import { expect, test } from 'vitest';
import { together } from './together.ts';

test('rows of which the same is said are one line with their number, others stay as they are', () => {
  const rows = ['Ada', '', 'Bo', '', '', 'Ada'];
  expect(
    together(
      rows.map((name, at) => ({ name, at })),
      (r) => (r.name ? null : 'unnamed'),
    ),
  ).toEqual([
    { row: { name: 'Ada', at: 0 }, count: 1 },
    { row: { name: '', at: 1 }, count: 3 },
    { row: { name: 'Bo', at: 2 }, count: 1 },
    { row: { name: 'Ada', at: 5 }, count: 1 },
  ]);
});
