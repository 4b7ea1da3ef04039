import { expect, test } from 'vitest';
import { isGone, quietReasons } from './quiet.ts';

test('who asked not to be contacted is still there; who died or was erased is not', () => {
  expect(Object.values(quietReasons).filter(isGone)).toEqual([quietReasons.erased, quietReasons.died]);
  expect(isGone(null)).toBe(false);
});
