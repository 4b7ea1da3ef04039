import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fewest, merged } from './anonymous.ts';
import { comparedFinding, earlierCompared, groupsCompared } from './comparing.ts';
import { asGiven, type Given, resultOf } from './results.ts';
import { plainQuestion, type SurveyKind, type SurveyQuestion } from './survey.ts';
import { groupByTerms, termsIn } from './terms.ts';
import { weightsOf } from './weighting.ts';

const q = (kind: SurveyKind, more: Partial<SurveyQuestion> = {}): SurveyQuestion => ({
  ...plainQuestion,
  id: 'q',
  kind,
  prompt: { en: 'q?' },
  choices: ['soup', 'walk', 'talk'].map((c) => ({ id: c, text: { en: c } })),
  ...more,
});
const result = (question: SurveyQuestion, values: (string | number | string[])[], held = false) =>
  resultOf({ key: 'q', question, session: null }, asGiven(values), held);

describe('results', () => {
  test('a scale: every point, the mean with its bounds, said in a sentence', () => {
    const r = result(q('scale'), [3, 4, 4, 5, 4]);
    expect(r.choices.map((c) => [c.label, c.count])).toEqual([
      ['1', 0],
      ['2', 0],
      ['3', 1],
      ['4', 3],
      ['5', 1],
    ]);
    expect(r.finding).toEqual({
      code: 'mean',
      params: { mean: '4.0', most: 5, low: '3.1', high: '4.9', n: 5 },
    });
  });

  test('who would recommend it: 9 and 10 would, up to 6 would not', () => {
    const r = result(q('recommend'), [10, 9, 9, 8, 7, 6, 0]);
    expect(r.recommend).toMatchObject({ would: 3, between: 2, not: 2 });
    expect(r.recommend!.score.value).toBeCloseTo(100 / 7, 8);
    expect(r.finding.params).toMatchObject({ score: '14', low: '−40', would: 3, not: 2, n: 7 });
  });

  test('choices, several of them, an order, numbers, dates and words', () => {
    expect(result(q('one of'), ['walk', 'walk', 'soup']).finding).toMatchObject({
      code: 'share',
      params: { share: 67, label: 'walk', n: 3 },
    });
    expect(result(q('several of'), [['walk', 'soup'], ['soup']]).choices.map((c) => c.count)).toEqual([
      2, 1, 0,
    ]);
    const order = result(q('order'), [
      ['talk', 'soup', 'walk'],
      ['talk', 'walk', 'soup'],
      ['soup', 'talk', 'walk'],
    ]);
    expect(order.places.map((p) => [p.id, p.mean.value, p.first])).toEqual([
      ['talk', 4 / 3, 2],
      ['soup', 2, 1],
      ['walk', 8 / 3, 0],
    ]);
    expect(result(q('number'), [12, 3, 5]).span).toEqual({ least: '3', middle: '5', most: '12', sum: 20 });
    expect(result(q('date'), ['2026-07-09', '2025-01-31']).span).toEqual({
      least: '2025-01-31',
      middle: '2025-01-31',
      most: '2026-07-09',
      sum: null,
    });
    expect(result(q('text'), ['The soup!', 'More soup, please']).finding).toEqual({
      code: 'texts about',
      params: { n: 2, count: 2, term: 'soup' },
    });
    expect(result(q('scale'), []).finding.code).toBe('nobody');
    expect(result(q('scale'), [], true).finding.code).toBe('too few');
  });

  test('whatever was answered, nothing is counted twice and nothing is lost', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 5 }), { maxLength: 80 }), (values) => {
        const r = result(q('scale'), values);
        expect(r.choices.reduce((sum, c) => sum + c.count, 0)).toBe(values.length);
        if (values.length) {
          expect(r.mean!.value).toBeCloseTo(values.reduce((a, b) => a + b, 0) / values.length, 8);
          expect(r.mean!.low).toBeGreaterThanOrEqual(1);
          expect(r.mean!.high).toBeLessThanOrEqual(5);
        }
      }),
    );
  });
});

describe('words', () => {
  test('an answer is about the words that say something', () => {
    expect([...termsIn('The guides were lovely, and the SOUPS too — merci pour l’accueil!').keys()]).toEqual([
      'guide',
      'lovely',
      'soup',
      'accueil',
    ]);
  });

  test('answers that speak of one thing stand together, with the one that says most', () => {
    const { groups, rest } = groupByTerms([
      'More time on the water.',
      'Hard to find the gate.',
      'The gate was shut, and no sign to the gate',
      'On the water longer!',
      'Sign at the gate',
      'All fine',
    ]);
    expect(groups.map((g) => [g.term, g.of])).toEqual([
      ['gate', [1, 2, 4]],
      ['water', [0, 3]],
    ]);
    expect(groups[0]!.example).toBe('Sign at the gate');
    expect(rest).toEqual([5]);
  });

  test('every answer stands in one place', () => {
    const word = fc.constantFrom('gate', 'water', 'soup', 'guide', 'the', 'is', 'bench', 'early');
    fc.assert(
      fc.property(
        fc.array(
          fc.array(word, { maxLength: 6 }).map((w) => w.join(' ')),
          { maxLength: 30 },
        ),
        (texts) => {
          const { groups, rest } = groupByTerms(texts);
          const places = [...groups.flatMap((g) => g.of), ...rest].sort((a, b) => a - b);
          expect(places).toEqual(texts.map((_, at) => at));
          for (const g of groups) {
            expect(g.count).toBe(g.of.length);
            expect(g.count).toBeGreaterThan(1);
          }
        },
      ),
    );
  });
});

describe('compared', () => {
  const scale = q('scale');
  const many = (value: number | string, n: number): Given[] =>
    asGiven(Array.from({ length: n }, () => value));
  test('with last year: by how much, whether by more than chance, and how large that is', () => {
    const now = [...many(5, 20), ...many(4, 10), ...many(3, 4)];
    const was = [...many(5, 6), ...many(4, 12), ...many(3, 14), ...many(2, 4)];
    const against = earlierCompared(scale, now, { question: scale, given: was, name: '2025' }, []);
    const finding = comparedFinding(scale, against, now.length, was.length);
    // Means 4.47 and 3.56.
    expect(finding).toMatchObject({
      code: 'more',
      params: { name: '2025', by: '0.9', n: 34, than: 36, test: 'welch', p: 'p < 0.001', size: 'large' },
    });
    const same = earlierCompared(scale, now, { question: scale, given: now, name: '2025' }, []);
    expect(comparedFinding(scale, same, 34, 34).code).toBe('no difference');
    expect(
      comparedFinding(
        scale,
        earlierCompared(scale, now, { question: scale, given: many(4, 1), name: '2025' }, []),
        34,
        1,
      ).code,
    ).toBe('too little');
  });

  test('of choices that which differs most, and only those both had', () => {
    const one = q('one of');
    const now = [...many('walk', 40), ...many('soup', 5), ...many('talk', 5)];
    const was = [...many('w', 10), ...many('soup', 20), ...many('tea', 20)];
    const against = earlierCompared(one, now, { question: one, given: was, name: '2025' }, [
      { now: 'walk', was: 'w' },
      { now: 'soup', was: 'soup' },
    ]);
    expect(against.about).toBe('walk');
    expect(comparedFinding(one, against, 50, 50)).toMatchObject({
      code: 'share more',
      params: { label: 'walk', by: 60 },
    });
  });

  test('who looks at many choices finds one: its likelihood counts as often as there are choices', () => {
    const given = (soup: number, walk: number, talk: number) => [
      ...many('soup', soup),
      ...many('walk', walk),
      ...many('talk', talk),
    ];
    const pOf = (choices: { now: string; was: string }[]) =>
      earlierCompared(
        q('one of'),
        given(20, 15, 15),
        { question: q('one of'), given: given(10, 20, 20), name: '' },
        choices,
      ).difference!.p;
    const soup = { now: 'soup', was: 'soup' };
    expect(pOf([soup, { now: 'walk', was: 'walk' }, { now: 'talk', was: 'talk' }])).toBeCloseTo(
      3 * pOf([soup]),
      10,
    );
  });

  test('of three groups the least likely difference counts three times, the next twice, and none less than one before it', () => {
    const group = (name: string, high: number) => ({
      name,
      given: [...many(5, high), ...many(3, 20 - high)],
    });
    const groups = [group('a', 18), group('b', 9), group('c', 5)];
    const alone = (name: string) => {
      const one = groups.find((g) => g.name === name)!;
      const rest = groups.filter((g) => g !== one).flatMap((g) => g.given);
      return groupsCompared(scale, [one, { name: 'rest', given: rest }])[0]!.difference!.p;
    };
    const raised = new Map(groupsCompared(scale, groups).map((r) => [r.name, r.difference!.p]));
    const ranked = groups.map((g) => g.name).sort((x, y) => alone(x) - alone(y));
    expect(raised.get(ranked[0]!)).toBeCloseTo(Math.min(1, 3 * alone(ranked[0]!)), 10);
    expect(raised.get(ranked[1]!)).toBeCloseTo(
      Math.max(raised.get(ranked[0]!)!, Math.min(1, 2 * alone(ranked[1]!))),
      10,
    );
    expect(raised.get(ranked[2]!)!).toBeGreaterThanOrEqual(raised.get(ranked[1]!)!);
  });

  test('groups beside all the others, the likelihoods raised for as many comparisons', () => {
    const groups = [
      { name: 'first time', given: [...many(5, 18), ...many(4, 6)] },
      { name: 'came before', given: [...many(4, 14), ...many(3, 14)] },
      { name: 'crew', given: [...many(4, 5), ...many(5, 4)] },
    ];
    const rows = groupsCompared(scale, groups);
    expect(rows.map((r) => [r.name, r.n])).toEqual([
      ['first time', 24],
      ['came before', 28],
      ['crew', 9],
    ]);
    expect(rows[0]!.difference!.by).toBeGreaterThan(0);
    expect(rows[1]!.difference!.by).toBeLessThan(0);
    // Twice the same comparison says the same of both.
    const two = groupsCompared(scale, groups.slice(0, 2));
    expect(two[0]!.difference!.p).toBeCloseTo(two[1]!.difference!.p, 12);
  });

  test('those who answered, made up as those who came', () => {
    // 80 came for the first time and 20 had come before; 10 of each answered: each first one counts 1.6, each other 0.4.
    const answered = [
      ...Array.from({ length: 10 }, () => ({ stratum: 'first' })),
      ...Array.from({ length: 10 }, () => ({ stratum: 'again' })),
    ];
    const { weightBy, missing, evens } = weightsOf(
      new Map([
        ['first', 80],
        ['again', 20],
        ['child', 3],
      ]),
      answered,
    );
    expect(weightBy.get('first')).toBeCloseTo(1.6, 10);
    expect(weightBy.get('again')).toBeCloseTo(0.4, 10);
    expect(missing).toEqual(['child']);
    // (Σw)² / Σw² = 400 / (10·2.56 + 10·0.16).
    expect(evens).toBeCloseTo(400 / 27.2, 8);
    // First ones all said 5, the others 3: 4.6 and not 4.
    const r = resultOf({ key: 'q', question: scale, session: null }, [
      ...Array.from({ length: 10 }, () => ({ value: 5, weight: 1.6 })),
      ...Array.from({ length: 10 }, () => ({ value: 3, weight: 0.4 })),
    ]);
    expect(r.mean!.value).toBeCloseTo(4.6, 10);
    expect(r.choices[4]!.share.value).toBeCloseTo(0.8, 10);
    expect(r.choices[4]!.count).toBe(10);
  });
});

describe('groups of anonymous answers', () => {
  test('small ones are put together, with the smallest of the others where that is not enough', () => {
    const cell = (name: string, n: number) => ({
      name,
      of: Array.from({ length: n }, (_, at) => `${name}${at}`),
    });
    const names = (cells: ReturnType<typeof cell>[]) =>
      merged(cells)?.map((g) => [g.names.join('+'), g.of.length]) ?? null;
    expect(names([cell('a', 9), cell('b', 6)])).toEqual([
      ['a', 9],
      ['b', 6],
    ]);
    expect(names([cell('a', 9), cell('b', 3), cell('c', 2)])).toEqual([
      ['a', 9],
      ['b+c', 5],
    ]);
    expect(names([cell('a', 9), cell('b', 6), cell('c', 2)])).toEqual([
      ['a', 9],
      ['b+c', 8],
    ]);
    expect(names([cell('a', 9), cell('b', 4)])).toBeNull();
    expect(names([cell('a', 3), cell('b', 4)])).toBeNull();
  });

  test('no two groups, nor what is left of the whole, differ by fewer than five', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(12), { minLength: 1, maxLength: 7 }), (sizes) => {
        const cells = sizes.map((n, at) => ({
          name: String(at),
          of: Array.from({ length: n }, (_, k) => `${at}/${k}`),
        }));
        const groups = merged(cells);
        if (!groups) return;
        const all = groups.flatMap((g) => g.of);
        expect(new Set(all).size).toBe(sizes.reduce((a, b) => a + b, 0));
        for (let picked = 0; picked < 1 << groups.length; picked++) {
          const union = groups.filter((_, at) => picked & (1 << at)).flatMap((g) => g.of).length;
          expect(union === 0 || union >= fewest).toBe(true);
          expect(all.length - union === 0 || all.length - union >= fewest).toBe(true);
        }
      }),
    );
  });
});
