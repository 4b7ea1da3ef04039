import { expect, test } from 'vitest';
import { isGone, quietReasons } from './quiet.ts';

test('who asked not to be contacted is still there; who died or was erased is not', () => {
  expect(quietReasons.filter(isGone)).toEqual(['erased', 'died']);
  expect(isGone(null)).toBe(false);
});
