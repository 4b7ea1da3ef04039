import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { beyondNormal, beyondT, t975 } from './distributions.ts';
import { evenly, meanOf, recommendScore, shareOf } from './intervals.ts';
import { isMoreThanChance, sizeOf, twoMeans, twoShares } from './tests.ts';

describe('against published figures', () => {
  test('Student’s distribution: the tables of quantiles', () => {
    for (const [freedom, quantile] of [
      [1, 12.706],
      [2, 4.303],
      [5, 2.571],
      [10, 2.228],
      [30, 2.042],
      [120, 1.98],
    ] as const)
      expect(t975(freedom)).toBeCloseTo(quantile, 3);
    expect(beyondT(2.228139, 10)).toBeCloseTo(0.05, 5);
    expect(beyondNormal(1.959964)).toBeCloseTo(0.05, 5);
    expect(beyondNormal(2.575829)).toBeCloseTo(0.01, 5);
  });

  test('shares: Newcombe 1998, table I, method 3', () => {
    for (const [count, n, low, high] of [
      [81, 263, 0.2553, 0.3662],
      [15, 148, 0.0624, 0.1605],
      [0, 20, 0, 0.1611],
      [1, 29, 0.0061, 0.1718],
    ] as const) {
      const share = shareOf(count, n);
      expect(share.low).toBeCloseTo(low, 4);
      expect(share.high).toBeCloseTo(high, 4);
    }
    expect(shareOf(0, 0)).toEqual({ value: 0, low: 0, high: 1 });
    expect(shareOf(7, 7)).toMatchObject({ value: 1, high: 1 });
  });

  test('two shares: Newcombe 1998 II, method 10, 56 of 70 against 48 of 80', () => {
    const d = twoShares({ count: 48, n: 80 }, { count: 56, n: 70 })!;
    expect(d).toMatchObject({ test: 'two shares' });
    expect(d.by).toBeCloseTo(0.2, 10);
    expect(d.low).toBeCloseTo(0.0524, 4);
    expect(d.high).toBeCloseTo(0.3339, 4);
    expect(d.p).toBeCloseTo(0.0082, 3);
  });

  test('Fisher’s exact test: eight cups of tea, and the table of a study of diets (1 of 12 against 9 of 12)', () => {
    expect(twoShares({ count: 3, n: 4 }, { count: 1, n: 4 })!.p).toBeCloseTo(0.4857, 4);
    const diets = twoShares({ count: 1, n: 12 }, { count: 9, n: 12 })!;
    expect(diets.p).toBeCloseTo(0.00276, 5);
    expect(diets.test).toBe('fisher');
  });

  test('two means: a worked example of Welch’s test, t = −2.46 with 25.0 degrees of freedom', () => {
    const spread = [27.5, 21.0, 19.0, 23.6, 17.0, 17.9, 16.9, 20.1, 21.9, 22.6, 23.1, 19.6, 19.0, 21.7, 21.4];
    const other = [27.1, 22.0, 20.8, 23.4, 23.4, 23.5, 25.8, 22.0, 24.8, 20.2, 21.9, 22.1, 22.9, 20.5, 24.4];
    const mean = (values: number[]) => meanOf(evenly(values), 0, 100);
    const d = twoMeans(mean(spread), mean(other))!;
    expect(d.by).toBeCloseTo(22.987 - 20.82, 3);
    expect(d.p).toBeCloseTo(0.021, 3);
    expect(isMoreThanChance(d)).toBe(true);
    expect(sizeOf(d)).toBe('large');
  });

  test('the mean of five answers, by hand', () => {
    // 3, 4, 4, 5, 4: mean 4, deviation √0.5 = 0.7071, error 0.3162, 2.776 of them.
    const mean = meanOf(evenly([3, 4, 4, 5, 4]), 1, 5)!;
    expect(mean.value).toBe(4);
    expect(mean.deviation).toBeCloseTo(Math.SQRT1_2, 10);
    expect(mean.low).toBeCloseTo(4 - 0.878, 3);
    expect(mean.high).toBeCloseTo(4 + 0.878, 3);
  });

  test('who would recommend it, by hand: 12 would, 4 would not, 20 in all', () => {
    const score = recommendScore(12, 4, 20);
    expect(score.value).toBeCloseTo(40, 10);
    // p = 12.75/23, d = 4.75/23: 34.78 points, ±1.96·√((p + d − (p − d)²)/23).
    const [p, d] = [12.75 / 23, 4.75 / 23];
    const half = 1.959964 * Math.sqrt((p + d - (p - d) ** 2) / 23);
    expect(score.low).toBeCloseTo(100 * (p - d - half), 3);
    expect(score.high).toBeCloseTo(100 * (p - d + half), 3);
  });
});

describe('whatever comes', () => {
  test('a share lies within its bounds, and more answers bring them closer together', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, part) => {
        const count = Math.round(part * n);
        const [one, more] = [shareOf(count, n), shareOf(count * 4, n * 4)];
        expect(one.low).toBeLessThanOrEqual(one.value);
        expect(one.high).toBeGreaterThanOrEqual(one.value);
        expect(more.high - more.low).toBeLessThan(one.high - one.low);
      }),
    );
  });

  test('turning two groups round turns the sign and nothing else', () => {
    const group = fc
      .tuple(fc.integer({ min: 1, max: 60 }), fc.double({ min: 0, max: 1, noNaN: true }))
      .map(([n, part]) => ({ n, count: Math.round(n * part) }));
    fc.assert(
      fc.property(group, group, (a, b) => {
        const [there, back] = [twoShares(a, b)!, twoShares(b, a)!];
        expect(there.by).toBeCloseTo(-back.by, 10);
        expect(there.p).toBeCloseTo(back.p, 8);
        expect(there.p).toBeGreaterThanOrEqual(0);
        expect(there.p).toBeLessThanOrEqual(1);
        expect(there.low!).toBeCloseTo(-back.high!, 10);
      }),
    );
  });

  test('weights that are all alike change nothing', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 2, maxLength: 60 }), (values) => {
        const even = meanOf(evenly(values), 1, 5)!;
        const heavy = meanOf(
          values.map((value) => ({ value, weight: 3 })),
          1,
          5,
        )!;
        expect(heavy.value).toBeCloseTo(even.value, 10);
        expect(heavy.low).toBeCloseTo(even.low, 8);
        expect(heavy.n).toBeCloseTo(values.length, 8);
      }),
    );
  });

  test('one value alone, and groups that all said the same', () => {
    expect(meanOf(evenly([4]), 1, 5)).toMatchObject({ value: 4, low: 1, high: 5 });
    expect(meanOf([], 1, 5)).toBeNull();
    const fours = meanOf(evenly([4, 4, 4]), 1, 5);
    expect(twoMeans(fours, fours)).toMatchObject({ by: 0, p: 1 });
    expect(twoMeans(meanOf(evenly([4]), 1, 5), fours)).toBeNull();
    expect(twoShares({ count: 0, n: 0 }, { count: 1, n: 3 })).toBeNull();
  });
});
