import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { alsoFollows, type Consequences, noConsequences, sayConsequences } from './consequences.ts';

const some: fc.Arbitrary<Consequences> = fc.record({
  messagesMoved: fc.nat(50),
  messagesHeldBack: fc.nat(50),
  shiftsMoved: fc.nat(9),
  letGo: fc.nat(9),
  reopened: fc.array(fc.constantFrom('Safety', 'Finance'), { maxLength: 2 }),
  offered: fc.array(fc.constantFrom('Ida Quay', 'Ole Rail'), { maxLength: 2 }),
});

describe('what follows from a change', () => {
  test('is said before and after, with nouns that agree', () => {
    const one = { ...noConsequences, messagesMoved: 1, shiftsMoved: 3, letGo: 1, reopened: ['Safety'] };
    expect(sayConsequences(one, false)).toEqual([
      '1 planned message will be moved',
      '3 shifts will be moved along',
      '1 party without a confirmed seat will be let go',
      'Will be reopened for clearance: Safety',
    ]);
    expect(
      sayConsequences({ ...one, messagesHeldBack: 27, offered: ['Ida Quay', 'Ole Rail'] }, true),
    ).toEqual([
      '1 planned message was moved',
      '27 planned messages were held back',
      '3 shifts were moved along',
      '1 party without a confirmed seat was let go',
      '2 parties from the waitlist were offered seats',
      'Reopened for clearance: Safety',
    ]);
    expect(sayConsequences(noConsequences, false)).toEqual([]);
  });

  test('adds up, whatever the order, and nothing adds nothing', () => {
    fc.assert(
      fc.property(some, some, some, (a, b, c) => {
        expect(alsoFollows(noConsequences, a)).toEqual(a);
        expect(alsoFollows(a, {})).toEqual(a);
        expect(alsoFollows(alsoFollows(a, b), c)).toEqual(alsoFollows(a, alsoFollows(b, c)));
        expect(sayConsequences(a, true).length).toBe(
          Object.values(a).filter((v) => (Array.isArray(v) ? v.length : v)).length,
        );
      }),
    );
  });
});
