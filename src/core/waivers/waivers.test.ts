import fc from 'fast-check';
import { expect, test } from 'vitest';
import { covers, isMinor, needOf, nothingToSign, offerAsksAge, signingOf } from './needs.ts';
import { problemsWithSigning, signedText } from './signing.ts';

test('waivers are asked by the age on the event’s date', () => {
  const child = { birthDate: '2007-08-09', saidMinor: false };
  expect(needOf('everyone', child, '2026-08-08', 19)).toBe('guardian');
  expect(needOf('everyone', child, '2026-08-09', 19)).toBe('self');
  // Nobody of unknown age passes as grown up.
  for (const audience of ['everyone', 'minors', 'adults'] as const)
    expect(needOf(audience, { birthDate: null, saidMinor: false }, '2026-08-08', 19)).toBe('guardian');
  expect(needOf('adults', child, '2026-08-08', 19)).toBe('not asked');
});

test('somebody signs alone or has somebody sign, never both, and grows up on the birthday', () => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date('1940-01-01'), max: new Date('2026-01-01'), noInvalidDate: true }),
      fc.integer({ min: 16, max: 21 }),
      (born, majority) => {
        const birthDate = born.toISOString().slice(0, 10);
        const birthday = `${Number(birthDate.slice(0, 4)) + majority}${birthDate.slice(4)}`;
        fc.pre(!birthDate.endsWith('02-29'));
        const before = new Date(Date.parse(birthday) - 86_400_000).toISOString().slice(0, 10);
        const p = { birthDate, saidMinor: false };
        expect(isMinor(p, before, majority)).toBe(true);
        expect(isMinor(p, birthday, majority)).toBe(false);
        expect(needOf('everyone', p, before, majority)).toBe('guardian');
        expect(needOf('everyone', p, birthday, majority)).toBe('self');
        // Between them, the two narrower audiences ask everybody exactly once.
        for (const day of [before, birthday])
          expect(
            ['minors', 'adults'].filter((a) => needOf(a as 'minors', p, day, majority) !== 'not asked'),
          ).toHaveLength(1);
      },
    ),
  );
  expect(isMinor({ birthDate: null, saidMinor: true }, '2026-08-08', 19)).toBe(true);
});

test('a signature needs every clause and the right person, and gives the same text each time', () => {
  const waiver = {
    title: 'On the water',
    version: 3,
    clauses: [
      { id: 'swim', text: 'I can swim.' },
      { id: 'risk', text: 'I know the risk.' },
    ],
  };
  const signing = {
    participant: 'Théo Wren',
    typedName: 'Mai Wren',
    ticked: ['swim', 'risk'],
    relation: 'guardian' as const,
  };
  expect(problemsWithSigning(waiver, signing, 'guardian')).toEqual([]);
  expect(problemsWithSigning(waiver, { ...signing, ticked: ['swim'] }, 'guardian')[0]!.path).toBe(
    'clauses.1',
  );
  expect(problemsWithSigning(waiver, { ...signing, typedName: 'Théo Wren' }, 'guardian')[0]!.code).toBe(
    'guardian-own-name',
  );
  expect(problemsWithSigning(waiver, { ...signing, typedName: 'Mai' }, 'guardian')[0]!.path).toBe(
    'typedName',
  );
  expect(problemsWithSigning(waiver, { ...signing, relation: 'self' }, 'guardian')[0]!.path).toBe('relation');
  expect(
    signedText(waiver, signing, { title: 'Open Water Day', when: '8 August' }, '2026-07-09T12:00:00.000Z'),
  ).toBe(
    'On the water, version 3\nEvent: Open Water Day, 8 August\nParticipant: Théo Wren\n\n1. [x] I can swim.\n2. [x] I know the risk.\n\nSigned by typing “Mai Wren”, as guardian of Théo Wren\nat 2026-07-09T12:00:00.000Z\n',
  );
});

test('who is of age signs alone; whoever is asked of nobody signs nothing wrong by it', () => {
  const waiver = { title: 'Overnight', version: 1, clauses: [{ id: 'a', text: 'I will.' }] };
  const signing = {
    participant: 'Mai Wren',
    typedName: 'Jun Wren',
    ticked: ['a'],
    relation: 'guardian' as const,
  };
  expect(problemsWithSigning(waiver, signing, 'self').map((p) => p.path)).toEqual(['relation']);
  expect(problemsWithSigning(waiver, { ...signing, typedName: '  ' }, 'self').map((p) => p.path)).toEqual([
    'typedName',
    'relation',
  ]);
  // What was not ticked is kept as not ticked.
  expect(
    signedText(waiver, { ...signing, ticked: [] }, { title: 'E', when: 'today' }, '2026-07-09T12:00:00.000Z'),
  ).toContain('1. [ ] I will.');
});

test('what was signed for another day counts only for somebody of that age', () => {
  expect(covers('self', 'adult')).toBe(true);
  expect(covers('guardian', 'minor')).toBe(true);
  // A child did not sign for itself, and whoever has come of age signs anew.
  expect(covers('self', 'minor')).toBe(false);
  expect(covers('guardian', 'adult')).toBe(false);
  // Whose age nobody knows was asked as well as it could be.
  expect(covers('self', 'unknown')).toBe(true);
  expect(covers('guardian', 'unknown')).toBe(true);
});

test('what is asked of one seat: the event’s waiver and that of what was chosen, each on its own', () => {
  const grown = { birthDate: '1990-05-05', saidMinor: false };
  const child = { birthDate: '2015-05-05', saidMinor: false };
  const asked = (signed: Record<string, 'self' | 'guardian'> = {}) => [
    { id: 'event', audience: 'everyone' as const, signedBy: signed.event ?? null },
    { id: 'canoe', audience: 'adults' as const, signedBy: signed.canoe ?? null },
  ];
  const of = (p: typeof grown, signed?: Record<string, 'self' | 'guardian'>) =>
    signingOf(asked(signed), p, '2026-08-08', 19);
  expect(of(grown)).toEqual({ standing: 'self', toSign: ['event', 'canoe'], signed: [] });
  // One of two is not all of it.
  expect(of(grown, { event: 'self' })).toEqual({ standing: 'self', toSign: ['canoe'], signed: ['event'] });
  expect(of(grown, { canoe: 'self', event: 'self' }).standing).toBe('signed');
  // A child is asked for one of them, and that is all.
  expect(of(child)).toEqual({ standing: 'guardian', toSign: ['event'], signed: [] });
  expect(of(child, { event: 'guardian' }).standing).toBe('signed');
  // Signed by a guardian for somebody who is of age by then: asked again.
  expect(of(grown, { event: 'guardian', canoe: 'self' })).toEqual({
    standing: 'self',
    toSign: ['event'],
    signed: ['canoe'],
  });
  expect(signingOf([], child, '2026-08-08', 19)).toEqual(nothingToSign);
  expect(signingOf(asked().slice(1), child, '2026-08-08', 19).standing).toBe('not asked');
});

test('a birth date is asked where it decides something about an offer', () => {
  const plain = { waiverId: null, fromAge: null, toAge: null };
  expect(offerAsksAge(plain)).toBe(false);
  for (const more of [{ waiverId: 'w' }, { fromAge: 0 }, { toAge: 12 }])
    expect(offerAsksAge({ ...plain, ...more })).toBe(true);
});
