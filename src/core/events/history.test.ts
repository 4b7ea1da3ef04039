import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sameValue } from '#core/words/canonical.ts';
import { type FieldChange, goesOn, listChange } from './history.ts';

const change = (more: Partial<FieldChange> = {}): FieldChange => ({
  field: 'summary',
  at: '2026-07-09T12:00:00Z',
  staffId: 'odalys',
  undoes: null,
  ...more,
});

test.each([
  ['goes on within ten minutes', {}, { at: '2026-07-09T12:09:59Z' }, true],
  ['is another after ten minutes', {}, { at: '2026-07-09T12:10:00Z' }, false],
  ['is another in another field', {}, { field: 'subtitle' }, false],
  ['is another by somebody else', {}, { staffId: 'piers' }, false],
  ['is another by nobody known', { staffId: null }, { staffId: null }, false],
  ['taking back never goes on', {}, { undoes: 'a' }, false],
  ['nothing goes on with what took back', { undoes: 'a' }, {}, false],
])('what somebody types %s', (_, last, now, together) => {
  expect(goesOn(change(last), change(now))).toBe(together);
});

test('values are the same whatever the order of their keys, and differ in what they say', () => {
  expect(sameValue({ a: 1, b: [{ c: 2, d: 3 }] }, { b: [{ d: 3, c: 2 }], a: 1 })).toBe(true);
  expect(sameValue([1, 2], [2, 1])).toBe(false);
  expect(sameValue(null, undefined)).toBe(true);
});

test('of a list: what was added, removed, changed and moved', () => {
  const row = (id: string, name = id) => ({ id, name });
  expect(listChange([row('a'), row('b'), row('c')], [row('c'), row('a', 'A'), row('d')])).toEqual({
    added: [row('d')],
    removed: [row('b')],
    changed: [row('a', 'A')],
    moved: true,
  });
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer()), fc.uniqueArray(fc.integer()), (a, b) => {
      const rows = (ids: number[]) => ids.map((id) => row(String(id)));
      const { added, removed, changed } = listChange(rows(a), rows(b));
      expect(a.length + added.length - removed.length).toBe(b.length);
      expect(changed).toEqual([]);
    }),
  );
});
