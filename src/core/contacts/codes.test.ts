import fc from 'fast-check';
import { expect, test } from 'vitest';
import { codeOf, readCode, sayCode } from './codes.ts';

test('a code is six digits of a digest, and is read however it is typed', () => {
  expect(codeOf(new Uint8Array(32))).toBe('000000');
  expect(codeOf(Uint8Array.from([0, 0, 0, 0, 1, 1]))).toBe('000257');
  expect(sayCode('042917')).toBe('042 917');
  fc.assert(
    fc.property(fc.uint8Array({ minLength: 32, maxLength: 32 }), (digest) => {
      const code = codeOf(digest);
      expect(code).toMatch(/^\d{6}$/u);
      expect(readCode(` ${sayCode(code)} `)).toBe(code);
      expect(readCode(`${code.slice(0, 3)}-${code.slice(3)}`)).toBe(code);
    }),
  );
});
