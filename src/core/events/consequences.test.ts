import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { alsoFollows, type Consequences, noConsequences, sayConsequences } from './consequences.ts';

const messages = (fate: 'moved' | 'held back', count: number) =>
  ({ line: 'The day before', fate, count, from: null, to: null, why: null }) as const;
const shift = {
  role: 'Landing',
  from: null,
  to: { startsLocal: '2026-08-08T08:00', endsLocal: '2026-08-08T12:00' },
};
const party = { name: 'Una Sedge', seats: 2 };

const some: fc.Arbitrary<Consequences> = fc.record({
  messages: fc.array(
    fc
      .record({
        fate: fc.constantFrom('moved' as const, 'held back' as const),
        count: fc.integer({ min: 1, max: 50 }),
      })
      .map(({ fate, count }) => messages(fate, count)),
    { maxLength: 3 },
  ),
  shifts: fc.array(fc.constant(shift), { maxLength: 4 }),
  letGo: fc.array(fc.constant(party), { maxLength: 3 }),
  reopened: fc.array(fc.constantFrom('Safety', 'Finance'), { maxLength: 2 }),
  offered: fc.array(fc.constantFrom('Ida Quay', 'Ole Rail'), { maxLength: 2 }),
});

describe('what follows from a change', () => {
  test('is said before and after, with nouns that agree', () => {
    const one = {
      ...noConsequences,
      messages: [messages('moved', 1)],
      shifts: [shift, shift, shift],
      letGo: [party],
      reopened: ['Safety'],
    };
    expect(sayConsequences(one, false)).toEqual([
      '1 planned message will be moved',
      '3 shifts will be moved along',
      '1 party without a confirmed seat will be let go',
      'Will be reopened for clearance: Safety',
    ]);
    expect(
      sayConsequences(
        {
          ...one,
          messages: [...one.messages, messages('held back', 20), messages('held back', 7)],
          offered: ['Ida Quay', 'Ole Rail'],
        },
        true,
      ),
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
          [a.shifts, a.letGo, a.reopened, a.offered].filter((v) => v.length).length +
            new Set(a.messages.map((m) => m.fate)).size,
        );
      }),
    );
  });
});
