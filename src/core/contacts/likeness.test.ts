import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { jaroWinkler, mistyped, skeleton, slips } from './likeness.ts';
import { initialsOf, isNickname, rootsOfGiven } from './nicknames.ts';

describe('Jaro–Winkler', () => {
  // The published examples: W. E. Winkler, 1994, table 1, and M. A. Jaro, 1989.
  test.each([
    ['martha', 'marhta', 0.961],
    ['dwayne', 'duane', 0.84],
    ['dixon', 'dicksonx', 0.813],
    ['shackleford', 'shackelford', 0.982],
    ['jones', 'johnson', 0.832],
    ['abc', 'xyz', 0],
  ])('%s and %s', (a, b, wanted) => {
    expect(jaroWinkler(a, b)).toBeCloseTo(wanted, 3);
  });
  test('is symmetric, between 0 and 1, and 1 only for equal strings', () => {
    const word = fc.string({ unit: fc.constantFrom(...'abcde'), maxLength: 12 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        const likeness = jaroWinkler(a, b);
        expect(likeness).toBeCloseTo(jaroWinkler(b, a), 10);
        expect(likeness).toBeGreaterThanOrEqual(0);
        expect(likeness).toBeLessThanOrEqual(1);
        if (a !== b && likeness === 1) throw new Error(`${a} is not ${b}`);
      }),
    );
  });
});

describe('slips of the hand', () => {
  test.each([
    ['niamh', 'niahm', 1],
    ['lefevre', 'lefvre', 1],
    ['yamada', 'yamaada', 1],
    ['kitten', 'sitting', 3],
    ['ca', 'abc', 3],
  ])('%s and %s', (a, b, wanted) => expect(slips(a, b, 5)).toBe(wanted));
  test('stop counting above the most that matters', () => {
    expect(slips('kitten', 'sitting', 1)).toBe(2);
    expect(slips('a', 'abcdefgh', 2)).toBe(3);
  });
  test('one slip is found wherever it is made', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[a-z]{3,12}$/u),
        fc.nat(11),
        fc.constantFrom(...'xyz'),
        (word, at, letter) => {
          const place = at % word.length;
          const spoilt = word.slice(0, place) + letter + word.slice(place);
          expect(slips(word, spoilt, 2)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
  test('tell a mistyped name from another name', () => {
    for (const [a, b] of [
      ['gwendolyn', 'gwenndolyn'],
      ['nakashima', 'nkaashima'],
      ['isidore', 'isidoer'],
      ['wren', 'wreen'],
    ] as const)
      expect(mistyped(a, b)).toBe(true);
    for (const [a, b] of [
      ['mai', 'noor'],
      ['jo', 'jon'],
      ['hollis', 'harris'],
    ] as const)
      expect(mistyped(a, b)).toBe(false);
  });
  test('leave the skeleton of a name as it is', () => {
    expect(skeleton('nkaashima')).toBe(skeleton('nakashima'));
    expect(skeleton('niahm')).toBe(skeleton('niamh'));
    expect(skeleton('lefvre')).toBe(skeleton('lefevre'));
    expect(skeleton('hollis')).not.toBe(skeleton('harris'));
  });
});

describe('what people are called', () => {
  test('short forms stand for full names, and for each other', () => {
    expect(isNickname('bill', 'william')).toBe(true);
    expect(isNickname('will', 'bill')).toBe(true);
    expect(isNickname('peggy', 'margaret')).toBe(true);
    expect(isNickname('alexander', 'alexandra')).toBe(false);
    expect(isNickname('bill', 'bill')).toBe(false);
    expect([...rootsOfGiven('alex')].sort()).toEqual(['alex', 'alexander', 'alexandra']);
  });
  test('an initial may be that of the short form', () => {
    expect(initialsOf('elizabeth')).toContain('l');
    expect(initialsOf('william')).toContain('b');
    expect(initialsOf('odalys')).toEqual(new Set(['o']));
  });
});
