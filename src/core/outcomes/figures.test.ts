import fc from 'fast-check';
import { expect, test } from 'vitest';
import { registrationStates } from '../registration/states.ts';
import { type EventFacts, figuresOf } from './figures.ts';

test('an event’s figures reconcile, and say so when they do not', () => {
  const figures = figuresOf({
    seats: [
      { state: 'confirmed', attendance: 'arrived', walkIn: false },
      { state: 'confirmed', attendance: 'missed', walkIn: false },
      { state: 'withdrawn', attendance: null, walkIn: false },
    ],
    movements: [
      { kind: 'seats', amount: 2500, method: 'card' },
      { kind: 'donation', amount: 1000, method: 'card' },
      { kind: 'seats', amount: -500, method: 'card' },
      { kind: 'seats', amount: 700, method: 'waived' },
    ],
    stints: [
      { state: 'served', hours: 4 },
      { state: 'missed', hours: 4 },
    ],
    survey: { asked: 4, answered: 1 },
    kept: { ordersReceived: 3000, gifts: 1000 },
  });
  expect(figures).toMatchObject({
    arrived: 1,
    missed: 1,
    expected: 0,
    hoursServed: 4,
    money: { seats: 2500, donations: 1000, refunds: 500, net: 3000, waived: 700 },
  });
  expect(figures.checks.every((c) => c.holds)).toBe(true);
  const broken = figuresOf({
    seats: [
      { state: 'withdrawn', attendance: 'arrived', walkIn: false },
      // Confirmed, and on no list of the door.
      { state: 'confirmed', attendance: null, walkIn: false },
    ],
    movements: [{ kind: 'donation', amount: 500, method: 'cash' }],
    stints: [],
    survey: { asked: 1, answered: 2 },
    kept: { ordersReceived: 400, gifts: 0 },
  });
  // Every one of them can fail.
  expect(broken.checks.every((c) => !c.holds)).toBe(true);
  expect(broken.checks).toHaveLength(5);
});

test('whatever happened at an event, its sums agree with one another', () => {
  const seat = fc.oneof(
    fc.record({
      state: fc.constant('confirmed' as const),
      attendance: fc.constantFrom(
        'expected' as const,
        'arrived' as const,
        'left' as const,
        'missed' as const,
      ),
      walkIn: fc.boolean(),
    }),
    fc.record({
      state: fc.constantFrom(...registrationStates.filter((s) => s !== 'confirmed')),
      attendance: fc.constant(null),
      walkIn: fc.constant(false),
    }),
  );
  const facts: fc.Arbitrary<Omit<EventFacts, 'kept'>> = fc.record({
    seats: fc.array(seat, { maxLength: 40 }),
    movements: fc.array(
      fc.record({
        kind: fc.constantFrom('seats' as const, 'donation' as const),
        amount: fc.integer({ min: -5000, max: 5000 }),
        method: fc.constantFrom('card', 'cash'),
      }),
      { maxLength: 20 },
    ),
    stints: fc.array(
      fc.record({ state: fc.constantFrom('served' as const, 'missed' as const), hours: fc.nat(8) }),
      { maxLength: 10 },
    ),
    survey: fc.option(
      fc.tuple(fc.nat(50), fc.nat(50)).map(([a, b]) => ({ asked: Math.max(a, b), answered: Math.min(a, b) })),
    ),
  });
  fc.assert(
    fc.property(facts, (f) => {
      const sum = (of: typeof f.movements) => of.reduce((n, m) => n + m.amount, 0);
      const gifts = sum(f.movements.filter((m) => m.kind === 'donation'));
      const figures = figuresOf({ ...f, kept: { ordersReceived: sum(f.movements), gifts } });
      expect(figures.checks.filter((c) => !c.holds)).toEqual([]);
      expect(Object.values(figures.seatsByState).reduce((n, x) => n + x, 0)).toBe(figures.seats);
      expect(figures.money.net).toBe(f.movements.reduce((n, m) => n + m.amount, 0));
      expect(figures.walkIns).toBeLessThanOrEqual(figures.arrived);
      if (figures.survey) expect(figures.survey.share).toBeLessThanOrEqual(1);
    }),
  );
});
