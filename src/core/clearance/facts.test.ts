import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type FactPlan, planFacts } from './facts.ts';
import { aloneAtNight, endsLate, type NeededShift } from './night.ts';

const plan = (part: Partial<FactPlan> = {}): FactPlan => ({
  facts: {},
  capacity: null,
  onlineCapacity: null,
  startsLocal: '2026-08-08T09:00',
  endsLocal: '2026-08-08T16:00',
  allDay: false,
  highestPrice: 0,
  venueOurs: null,
  speakers: 0,
  shifts: [],
  unitId: null,
  venueId: null,
  ...part,
});

describe('facts of a plan', () => {
  test('what the plan shows is taken from it, whatever was answered; the rest is as it was answered', () => {
    const { values, fromPlan } = planFacts(
      plan({
        facts: { money: false, food: true, boats: false, own: 12 },
        capacity: 90,
        onlineCapacity: 40,
        highestPrice: 2500,
        venueOurs: false,
        speakers: 2,
        endsLocal: '2026-08-08T23:30',
      }),
    );
    expect(values).toEqual({
      food: true,
      boats: false,
      own: 12,
      money: true,
      'off-site': true,
      speakers: true,
      late: true,
      alone: false,
      headcount: 130,
    });
    expect(fromPlan).toEqual(['money', 'off-site', 'speakers', 'late']);
  });

  test('what it does not show is not known until somebody says so; money may be taken where nothing has a price', () => {
    const { values, fromPlan } = planFacts(plan({ facts: { money: true } }));
    expect(values).toEqual({ money: true, late: false, alone: false, headcount: 0 });
    expect(fromPlan).toEqual([]);
    expect(planFacts(plan({ venueOurs: true })).values['off-site']).toBe(false);
    expect(planFacts(plan({ venueOurs: true, facts: { 'off-site': true } })).values['off-site']).toBe(true);
  });

  test('what is only ever seen from the plan is not taken from an answer', () => {
    expect(planFacts(plan({ facts: { late: true, alone: true } })).values).toMatchObject({
      late: false,
      alone: false,
    });
    expect(planFacts(plan({ allDay: true, endsLocal: '2026-08-08T23:59' })).values.late).toBe(false);
  });
});

test('it ends late after 23:00 or in the night; days that follow each other are no night', () => {
  const late = (startsLocal: string, endsLocal: string | null) => endsLate({ startsLocal, endsLocal });
  expect(late('2026-08-08T19:00', '2026-08-08T23:00')).toBe(false);
  expect(late('2026-08-08T19:00', '2026-08-08T23:01')).toBe(true);
  expect(late('2026-08-08T19:00', '2026-08-09T00:00')).toBe(true);
  expect(late('2026-08-08T20:00', '2026-08-09T09:00')).toBe(true);
  // A symposium of two days, and one whose second evening is long.
  expect(late('2026-09-18T09:00', '2026-09-19T17:00')).toBe(false);
  expect(late('2026-09-18T09:00', '2026-09-19T23:30')).toBe(true);
  expect(late('2026-09-18T09:00', '2026-09-20T02:00')).toBe(true);
  expect(late('2026-08-08T19:00', null)).toBe(false);
});

describe('alone at night', () => {
  const shift = (startsLocal: string, endsLocal: string, needed: number): NeededShift => ({
    startsLocal,
    endsLocal,
    needed,
  });

  test('one person by themselves between ten in the evening and six in the morning', () => {
    expect(aloneAtNight([shift('2026-06-27T20:00', '2026-06-27T22:00', 1)])).toBe(false);
    expect(aloneAtNight([shift('2026-06-27T20:00', '2026-06-27T22:01', 1)])).toBe(true);
    expect(aloneAtNight([shift('2026-06-27T20:00', '2026-06-28T08:00', 2)])).toBe(false);
    expect(aloneAtNight([shift('2026-06-28T06:00', '2026-06-28T09:00', 1)])).toBe(false);
    // Two shifts of one, of which one ends before the other.
    expect(
      aloneAtNight([
        shift('2026-06-27T21:00', '2026-06-28T02:00', 1),
        shift('2026-06-27T21:00', '2026-06-28T01:00', 1),
      ]),
    ).toBe(true);
    expect(
      aloneAtNight([
        shift('2026-06-27T21:00', '2026-06-28T02:00', 1),
        shift('2026-06-27T21:00', '2026-06-28T02:00', 1),
      ]),
    ).toBe(false);
  });

  test('the same as looking at every half hour', () => {
    const half = (n: number): string =>
      new Date(Date.UTC(2026, 5, 27, 18) + n * 1_800_000).toISOString().slice(0, 16);
    const shifts = fc.array(
      fc.record({ from: fc.nat(50), lasts: fc.integer({ min: 1, max: 30 }), needed: fc.nat(2) }),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(shifts, (list) => {
        let alone = false;
        for (let n = 0; n < 90; n += 1) {
          const hour = (18 + n / 2) % 24;
          const there = list.reduce(
            (sum, s) => (s.from <= n && n < s.from + s.lasts ? sum + s.needed : sum),
            0,
          );
          if (there === 1 && (hour >= 22 || hour < 6)) alone = true;
        }
        const those = list.map((s) => shift(half(s.from), half(s.from + s.lasts), s.needed));
        expect(aloneAtNight(those)).toBe(alone);
      }),
    );
  });
});
