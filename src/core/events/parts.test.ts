import { expect, test } from 'vitest';
import { clashing, partOf, partsOf, planParts } from './parts.ts';

test('every part has fields, and every field a part', () => {
  expect(new Set(Object.values(partOf))).toEqual(new Set(planParts));
  expect(partsOf(['summary', 'publicTitle', 'zone'])).toEqual(['page', 'times']);
});

test('two people clash where they write on one part, and not on two', () => {
  const savedAt = { page: 4, times: 7 };
  expect(clashing(['page'], savedAt, 4)).toEqual([]);
  expect(clashing(['page'], savedAt, 3)).toEqual(['page']);
  expect(clashing(['page', 'offers'], savedAt, 6)).toEqual([]);
  expect(clashing(['page', 'times', 'offers'], savedAt, 6)).toEqual(['times']);
  expect(clashing(['offers'], {}, 1)).toEqual([]);
});
