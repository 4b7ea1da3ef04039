import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  ageDecides,
  asksCrew,
  asksSeat,
  offerAsksAge,
  plainRule,
  problemsWithRules,
  type WaiverRule,
  withoutGone,
} from './asking.ts';
import { countsFrom, isInFrench, problemsWithText, sameText, shownIn, type WaiverText } from './form.ts';
import { holdsFrom, holdsUntil, isYearDay } from './holding.ts';
import { covers, isMinor, needOf, nothingToSign, type Signed, signingOf } from './needs.ts';

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

const by = (relation: 'self' | 'guardian', version = 1, signers = 1): Signed => ({
  relation,
  version,
  signers,
});

test('what is asked of one seat: each waiver on its own', () => {
  const grown = { birthDate: '1990-05-05', saidMinor: false };
  const child = { birthDate: '2015-05-05', saidMinor: false };
  const of = (p: typeof grown, signed: Record<string, Signed[]> = {}) =>
    signingOf(
      [
        { id: 'event', audience: 'everyone', from: 1, guardians: 1, signed: signed.event ?? [] },
        { id: 'canoe', audience: 'adults', from: 1, guardians: 1, signed: signed.canoe ?? [] },
      ],
      p,
      '2026-08-08',
      19,
    );
  expect(of(grown)).toEqual({ standing: 'self', toSign: ['event', 'canoe'], partly: [], signed: [] });
  // One of two is not all of it.
  expect(of(grown, { event: [by('self')] })).toMatchObject({
    standing: 'self',
    toSign: ['canoe'],
    signed: ['event'],
  });
  expect(of(grown, { canoe: [by('self')], event: [by('self')] }).standing).toBe('signed');
  // A child is asked for one of them, and that is all.
  expect(of(child)).toMatchObject({ standing: 'guardian', toSign: ['event'] });
  expect(of(child, { event: [by('guardian')] }).standing).toBe('signed');
  // Signed by a guardian for somebody who is of age by then: asked again.
  expect(of(grown, { event: [by('guardian')], canoe: [by('self')] })).toMatchObject({
    standing: 'self',
    toSign: ['event'],
    signed: ['canoe'],
  });
  // What was signed as a child and again as a grown-up stands.
  expect(of(grown, { event: [by('guardian'), by('self')], canoe: [by('self')] }).standing).toBe('signed');
  expect(signingOf([], child, '2026-08-08', 19)).toEqual(nothingToSign);
});

test('where both guardians sign, one is not enough; an older version counts until one that matters', () => {
  const child = { birthDate: '2015-05-05', saidMinor: false };
  const of = (signed: Signed[], from = 1) =>
    signingOf([{ id: 'w', audience: 'everyone', from, guardians: 2, signed }], child, '2026-08-08', 19);
  expect(of([by('guardian', 1, 1)])).toEqual({
    standing: 'guardian',
    toSign: ['w'],
    partly: ['w'],
    signed: [],
  });
  expect(of([by('guardian', 1, 2)])).toMatchObject({ standing: 'signed', partly: [] });
  expect(of([by('guardian', 1, 2)], 2)).toMatchObject({ standing: 'guardian', partly: [] });
  // A grown-up signs alone, whatever is asked for children.
  const grown = { birthDate: '1990-05-05', saidMinor: false };
  expect(
    signingOf(
      [{ id: 'w', audience: 'everyone', from: 1, guardians: 2, signed: [by('self')] }],
      grown,
      '2026-08-08',
      19,
    ).standing,
  ).toBe('signed');
});

test('from which version on signatures count: the newest that mattered before the event began', () => {
  const versions = [
    { version: 1, madeAt: '2026-01-01T00:00:00.000Z', material: true },
    { version: 2, madeAt: '2026-03-01T00:00:00.000Z', material: false },
    { version: 3, madeAt: '2026-05-01T00:00:00.000Z', material: true },
    { version: 4, madeAt: '2026-06-01T00:00:00.000Z', material: false },
  ];
  expect(countsFrom(versions, '2026-02-01T00:00:00.000Z')).toBe(1);
  expect(countsFrom(versions, '2026-04-01T00:00:00.000Z')).toBe(1);
  expect(countsFrom(versions, '2026-05-01T00:00:00.000Z')).toBe(3);
  expect(countsFrom(versions, '2027-01-01T00:00:00.000Z')).toBe(3);
  // An event before the first version asks for whichever there is.
  expect(countsFrom(versions, '2020-01-01T00:00:00.000Z')).toBe(1);
});

test('for how long a signature holds, by the day it is for', () => {
  expect(holdsUntil({ for: 'event' }, '2026-08-08')).toBeNull();
  expect(holdsUntil({ for: 'year' }, '2026-08-08')).toBe('2026-12-31');
  expect(holdsUntil({ for: 'season', ends: '10-31' }, '2026-08-08')).toBe('2026-10-31');
  expect(holdsUntil({ for: 'season', ends: '10-31' }, '2026-10-31')).toBe('2026-10-31');
  expect(holdsUntil({ for: 'season', ends: '10-31' }, '2026-11-01')).toBe('2027-10-31');
  expect(holdsUntil({ for: 'until', date: '2026-09-01' }, '2026-09-01')).toBe('2026-09-01');
  expect(holdsUntil({ for: 'until', date: '2026-09-01' }, '2026-09-02')).toBeNull();
  // Signed in December for January: it holds in the year it is for, and not in December.
  expect(holdsFrom({ for: 'year' }, '2026-12-20', '2027-01-10')).toBe('2027-01-01');
  expect(holdsFrom({ for: 'year' }, '2026-07-09', '2026-08-08')).toBe('2026-07-09');
  expect(holdsFrom({ for: 'season', ends: '10-31' }, '2026-10-01', '2026-12-01')).toBe('2026-11-01');
  expect(holdsFrom({ for: 'until', date: '2026-09-01' }, '2026-07-09', '2026-08-08')).toBe('2026-07-09');
  expect(['10-31', '02-28'].every(isYearDay)).toBe(true);
  expect(['02-29', '13-01', '6-1', ''].some(isYearDay)).toBe(false);
});

test('a signature always holds on the day it was given for', () => {
  const day = fc
    .date({ min: new Date('2024-01-01'), max: new Date('2030-12-31'), noInvalidDate: true })
    .map((d) => d.toISOString().slice(0, 10));
  const holds = fc.oneof(
    fc.constant({ for: 'year' as const }),
    fc.tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 28 })).map(([m, d]) => ({
      for: 'season' as const,
      ends: `${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`,
    })),
  );
  fc.assert(
    fc.property(holds, day, day, (rule, a, b) => {
      const [signed, on] = a < b ? [a, b] : [b, a];
      const until = holdsUntil(rule, on)!;
      const from = holdsFrom(rule, signed, on);
      expect(from <= on && on <= until).toBe(true);
      // Never longer than a year and a day.
      expect(Date.parse(until) - Date.parse(from)).toBeLessThanOrEqual(366 * 86_400_000);
    }),
  );
});

const rule = (part: Partial<WaiverRule> = {}): WaiverRule => ({
  ...plainRule,
  id: 'r',
  waiverId: 'w',
  ...part,
});
const seat = { offerId: 'canoe', sessionIds: ['dusk'], answers: { swim: ['no'] } };

test('who is asked: everything that is said has to hold', () => {
  const asks = (part: Partial<WaiverRule>, birthDate: string | null = '1990-01-01') =>
    asksSeat(rule(part), seat, birthDate, '2026-08-08');
  expect(asks({})).toBe(true);
  expect(asks({ seats: false })).toBe(false);
  expect(asks({ offerIds: ['shore'] })).toBe(false);
  expect(asks({ offerIds: ['shore', 'canoe'] })).toBe(true);
  expect(asks({ sessionIds: ['dawn'] })).toBe(false);
  expect(asks({ sessionIds: ['dusk'], offerIds: ['canoe'] })).toBe(true);
  expect(asks({ sessionIds: ['dusk'], offerIds: ['shore'] })).toBe(false);
  expect(asks({ answered: { questionId: 'swim', is: ['no'] } })).toBe(true);
  expect(asks({ answered: { questionId: 'swim', is: ['yes'] } })).toBe(false);
  expect(asks({ answered: { questionId: 'other', is: ['no'] } })).toBe(false);
  expect(asks({ fromAge: 36 })).toBe(true);
  expect(asks({ fromAge: 37 })).toBe(false);
  expect(asks({ toAge: 35 })).toBe(false);
  // Whose age is not known is asked.
  expect(asks({ toAge: 12 }, null)).toBe(true);
});

test('the crew is asked by its roles, and only where it is asked', () => {
  const asks = (part: Partial<WaiverRule>) => asksCrew(rule(part), ['Safety boat'], null, '2026-08-08');
  expect(asks({})).toBe(false);
  expect(asks({ crew: true })).toBe(true);
  expect(asks({ crew: true, roles: ['Kitchen'] })).toBe(false);
  expect(asks({ crew: true, roles: ['Kitchen', 'Safety boat'] })).toBe(true);
});

test('a rule goes with what it asked about, and is never widened by it', () => {
  const plan = { offers: [{ id: 'a' }], sessions: [], questions: [{ id: 'q' }] };
  expect(withoutGone([rule({ offerIds: ['a', 'b'] })], plan)).toEqual([rule({ offerIds: ['a'] })]);
  expect(withoutGone([rule({ offerIds: ['b'] })], plan)).toEqual([]);
  expect(withoutGone([rule({ sessionIds: ['s'] })], plan)).toEqual([]);
  expect(withoutGone([rule({ answered: { questionId: 'gone', is: ['yes'] } })], plan)).toEqual([]);
  // What it asks of the crew stays.
  expect(withoutGone([rule({ offerIds: ['b'], crew: true })], plan)).toEqual([
    rule({ seats: false, crew: true }),
  ]);
  expect(withoutGone([rule()], plan)).toEqual([rule()]);
});

test('what is wrong with rules stands beside them', () => {
  const plan = { offers: [], sessions: [], questions: [] };
  const found = (part: Partial<WaiverRule>) =>
    problemsWithRules([rule(part)], plan).map((w) => `${w.path} ${w.code}`);
  expect(found({})).toEqual([]);
  expect(found({ seats: false })).toEqual(['waivers.0.seats nobody-asked']);
  expect(found({ offerIds: ['x'] })).toEqual(['waivers.0.offerIds thing-gone']);
  expect(found({ sessionIds: ['x'] })).toEqual(['waivers.0.sessionIds thing-gone']);
  expect(found({ answered: { questionId: 'x', is: [] } })).toEqual([
    'waivers.0.answered thing-gone',
    'waivers.0.answered answer-needed',
  ]);
  expect(found({ fromAge: 12, toAge: 7 })).toEqual(['waivers.0.toAge most-below-least']);
});

test('a birth date is asked where it decides something', () => {
  const plain = { id: 'o', fromAge: null, toAge: null };
  expect(offerAsksAge(plain, [])).toBe(false);
  expect(offerAsksAge(plain, [rule({ offerIds: ['o'] })])).toBe(true);
  expect(offerAsksAge(plain, [rule({ offerIds: ['other'] })])).toBe(false);
  for (const more of [{ fromAge: 0 }, { toAge: 12 }])
    expect(offerAsksAge({ ...plain, ...more }, [])).toBe(true);
  expect(ageDecides({ waivers: [rule()], facts: {} })).toBe(true);
  expect(ageDecides({ waivers: [rule({ offerIds: ['o'] })], facts: {} })).toBe(false);
  expect(ageDecides({ waivers: [rule({ seats: false, crew: true })], facts: {} })).toBe(false);
  expect(ageDecides({ waivers: [], facts: { minors: true } })).toBe(true);
});

const text: WaiverText = {
  title: { en: 'On the water', fr: 'Sur l’eau' },
  clauses: [
    { id: 'a', kind: 'agree', heading: { en: '' }, text: { en: 'I can swim.', fr: 'Je sais nager.' } },
  ],
  questions: [],
};

test('a text is in French all through, or read in English all through', () => {
  expect(isInFrench(text)).toBe(true);
  expect(shownIn(text, 'fr').clauses[0]!.text).toBe('Je sais nager.');
  const half: WaiverText = {
    ...text,
    clauses: [...text.clauses, { id: 'b', kind: 'read', heading: { en: '' }, text: { en: 'Only English.' } }],
  };
  expect(isInFrench(half)).toBe(false);
  expect(shownIn(half, 'fr').title).toBe('On the water');
  expect(shownIn(half, 'fr').clauses.map((c) => c.text)).toEqual(['I can swim.', 'Only English.']);
  // A heading that is there in one language alone is a gap, too.
  expect(isInFrench({ ...text, clauses: [{ ...text.clauses[0]!, heading: { en: 'Swimming' } }] })).toBe(
    false,
  );
});

test('what is wrong with a text, by field; the same text makes no version', () => {
  expect(problemsWithText(text)).toEqual([]);
  expect(
    problemsWithText({
      title: { en: ' ' },
      clauses: [],
      questions: [
        {
          id: 'q',
          kind: 'one of',
          prompt: { en: '' },
          help: { en: '' },
          required: false,
          choices: ['one'],
          least: null,
          most: null,
          health: false,
        },
      ],
    }).map((w) => `${w.path} ${w.code}`),
  ).toEqual([
    'text.title.en title-needed',
    'text.clauses clause-needed',
    'text.questions.0.prompt.en question-empty',
    'text.questions.0.choices two-choices-needed',
  ]);
  expect(problemsWithText({ ...text, clauses: [{ ...text.clauses[0]!, text: { en: '' } }] })[0]!.path).toBe(
    'text.clauses.0.text.en',
  );
  expect(sameText(text, structuredClone(text))).toBe(true);
  expect(sameText(text, { ...text, title: { en: 'Other' } })).toBe(false);
});
