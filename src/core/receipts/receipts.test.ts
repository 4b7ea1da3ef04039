import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { eligibleOf, type Paid, paperOf } from './eligible.ts';
import { type Indexed, isAbroad, rulesFor } from './rules.ts';

const CA = rulesFor('CA', '2026-10-17').rules!;
const US = rulesFor('US', '2026-10-17').rules!;
/** A payment as the cases have it: amount, the event itself, beside it. */
const paid = (amount: number, itself: number | null, beside = 0, more: Partial<Paid> = {}): Paid => ({
  kind: itself === 0 ? 'gift' : 'seats',
  amount,
  currency: 'CAD',
  itself,
  beside,
  nearCash: 0,
  ...more,
});
const usd = (amount: number, itself: number, beside = 0, more: Partial<Paid> = {}): Paid =>
  paid(amount, itself, beside, { currency: 'USD', ...more });

describe('Canada, worked by hand', () => {
  test.each([
    ['supper, single seat', paid(12_000, 4500), 4500, 7500],
    ['supper, table of eight', paid(90_000, 36_000), 36_000, 54_000],
    [
      'the same with a favour worth 9.00 a seat: 72.00 is at most 75.00 and 90.00',
      paid(90_000, 36_000, 7200),
      36_000,
      54_000,
    ],
    [
      'the same with a favour worth 9.50 a seat: 76.00 is above 75.00',
      paid(90_000, 36_000, 7600),
      43_600,
      46_400,
    ],
    ['seat at 60.00, meal worth 48.00: 80 % exactly', paid(6000, 4800), 4800, 1200],
    ['gift of 500.00, a mug worth 12.00', paid(50_000, 0, 1200), 0, 50_000],
    ['gift of 100.00, a book worth 12.00', paid(10_000, 0, 1200), 1200, 8800],
    [
      'table paid 900.00, two of eight seats given up and 225.00 returned',
      paid(67_500, 27_000),
      27_000,
      40_500,
    ],
    ['a favour of exactly 10 %', paid(10_000, 0, 1000), 0, 10_000],
    ['one cent more', paid(10_000, 0, 1001), 1001, 8999],
    ['exactly 75.00 beside a large gift', paid(100_000, 0, 7500), 0, 100_000],
    ['75.01 beside it', paid(100_000, 0, 7501), 7501, 92_499],
    [
      'a voucher of 5.00 beside a gift of 100.00 always counts',
      paid(10_000, 0, 500, { nearCash: 500 }),
      500,
      9500,
    ],
    [
      'a mug of 5.00 and a voucher of 5.00: the mug is ignored',
      paid(10_000, 0, 1000, { nearCash: 500 }),
      500,
      9500,
    ],
    ['auction: paid 300.00, value made known before 200.00', paid(30_000, 20_000), 20_000, 10_000],
    ['canoes in kind, appraised at 1,600.00', paid(160_000, 0, 0, { kind: 'in kind' }), 0, 160_000],
  ] as const)('%s', (_, p, advantage, eligible) => {
    expect(eligibleOf(CA, p)).toMatchObject({ advantage, eligible, why: null });
  });
  test.each([
    ['seat at 60.00, meal worth 49.00: 81.7 %', paid(6000, 4900), 'mostly advantage'],
    ['a painting, one of a kind', paid(30_000, null), 'value unknown'],
    ['raffle tickets', paid(2000, 0, 0, { kind: 'chance' }), 'a chance'],
    ['sponsorship with advertising', paid(100_000, 0, 0, { kind: 'sponsorship' }), 'sponsorship'],
    ['a quilt sold at its price', paid(25_000, 25_000, 0, { kind: 'thing' }), 'nothing given'],
    ['value received above the price', paid(4000, 4500), 'nothing given'],
    ['everything went back', paid(0, 0), 'nothing stayed'],
    ['paid in another currency', paid(10_000, 0, 0, { currency: 'USD' }), 'another currency'],
  ] as const)('none: %s', (_, p, why) => {
    expect(eligibleOf(CA, p)).toMatchObject({ eligible: 0, why });
  });
  test('every paper is an official receipt', () => {
    expect(paperOf(CA, 100, 0)).toBe('official receipt');
  });
});

describe('the United States, worked by hand', () => {
  test.each([
    ['seat at 120.00, meal worth 45.00', usd(12_000, 4500), 4500, 7500, 'statement'],
    ['seat at 70.00, meal worth 45.00', usd(7000, 4500), 4500, 2500, 'given all the same'],
    ['gift of 250.00, nothing in return', usd(25_000, 0), 0, 25_000, 'acknowledgment'],
    ['gift of 249.99', usd(24_999, 0), 0, 24_999, 'given all the same'],
    ['exactly 75.00 with something received', usd(7500, 1000), 1000, 6500, 'given all the same'],
    ['75.01', usd(7501, 1000), 1000, 6501, 'statement'],
    // No most share is known there: 81.7 % still leaves a gift.
    ['seat at 60.00, meal worth 49.00', usd(6000, 4900), 4900, 1100, 'given all the same'],
    ['a mug without confirmed yearly amounts counts', usd(50_000, 0, 1000), 1000, 49_000, 'statement'],
  ] as const)('%s', (_, p, advantage, eligible, paper) => {
    expect(eligibleOf(US, p)).toMatchObject({ advantage, eligible, why: null });
    expect(paperOf(US, p.amount, advantage)).toBe(paper);
  });
  test('benefits of small value count as nothing once the organization confirmed the yearly amounts', () => {
    const indexed: Indexed = { year: 2026, smallMost: 13_000, lowCostMost: 1300, lowCostFrom: 6500 };
    // 2 % of 500.00 is 10.00.
    expect(eligibleOf(US, usd(50_000, 0, 1000), indexed)).toMatchObject({ advantage: 0, ignored: 1000 });
    expect(eligibleOf(US, usd(50_000, 0, 1001), indexed)).toMatchObject({ advantage: 1001 });
    // 2 % of 10,000.00 is more than 130.00.
    expect(eligibleOf(US, usd(1_000_000, 0, 13_001), indexed)).toMatchObject({ advantage: 13_001 });
    expect(eligibleOf(US, usd(6500, 0, 1300, { lowCost: true }), indexed)).toMatchObject({ advantage: 0 });
    expect(eligibleOf(US, usd(6499, 0, 1300, { lowCost: true }), indexed)).toMatchObject({ advantage: 1300 });
    expect(eligibleOf(US, usd(6500, 0, 1301, { lowCost: true }), indexed)).toMatchObject({ advantage: 1301 });
  });
  test('raffle tickets: none', () => {
    expect(eligibleOf(US, usd(2000, 0, 0, { kind: 'chance' })).why).toBe('a chance');
  });
});

describe('the rules', () => {
  test('are those of the organization’s country on the day, and none where none are known', () => {
    expect(rulesFor('CA', '2026-01-01').rules?.country).toBe('CA');
    expect(rulesFor('CA', '2001-01-01').why).toBe('before the rules');
    expect(rulesFor('FR', '2026-01-01').why).toBe('no rules for the country');
    expect([isAbroad(CA, 'US'), isAbroad(CA, 'CA'), isAbroad(CA, null)]).toEqual([true, false, false]);
    for (const rules of [CA, US]) expect(rules.source.length).toBeGreaterThan(20);
  });
});

test('whatever was paid: eligible and advantage never exceed it, and add up to it where there is a receipt', () => {
  const amount = fc.integer({ min: 0, max: 10 ** 9 });
  fc.assert(
    fc.property(
      fc.constantFrom(CA, US),
      amount,
      fc.option(amount, { nil: null }),
      amount,
      fc.nat(100),
      fc.constantFrom('seats' as const, 'gift' as const, 'thing' as const, 'chance' as const),
      (rules, of, itself, beside, share, kind) => {
        const p: Paid = {
          kind,
          amount: of,
          currency: rules.currency,
          itself,
          beside,
          nearCash: Math.floor((beside * share) / 100),
        };
        const { eligible, advantage, ignored, why } = eligibleOf(rules, p);
        expect(eligible).toBeGreaterThanOrEqual(0);
        expect(eligible + advantage).toBeLessThanOrEqual(Math.max(0, of));
        expect(ignored).toBeLessThanOrEqual(beside - p.nearCash);
        if (why === null) {
          expect(eligible + advantage).toBe(of);
          expect(eligible).toBeGreaterThan(0);
          if (rules === CA) expect(advantage * 100).toBeLessThanOrEqual(of * 80);
          // More received never means more receipted.
          const more = eligibleOf(rules, { ...p, itself: (itself ?? 0) + 1 });
          expect(more.eligible).toBeLessThanOrEqual(eligible);
        } else expect(eligible).toBe(0);
      },
    ),
    { numRuns: 2000 },
  );
});
