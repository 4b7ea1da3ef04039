import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { shiftDate } from '../time/dates.ts';
import { isWorkingDay } from '../time/workingDays.ts';
import { dueDates, lastDayToSubmit, longestPath } from './deadline.ts';
import { type ClearanceRule, factFlags, factsOf, sayFact, stepsFor } from './rules.ts';
import { decideStep, decisions, handOver, isOpenForDecision, type Step, standingOf } from './steps.ts';

describe('clearance', () => {
  const rule = (step: string, part: Partial<ClearanceRule>): ClearanceRule => ({
    id: step,
    step,
    approves: step,
    anyOf: [],
    headcountFrom: null,
    workingDays: 5,
    order: 1,
    asks: '',
    ...part,
  });
  const rules = [
    rule('Safety', { anyOf: ['boats', 'minors'], headcountFrom: 100 }),
    rule('Finance', { anyOf: ['money'], workingDays: 3 }),
    rule('Premises', { anyOf: ['alcohol'], order: 2, workingDays: 4 }),
  ];

  test('facts choose the steps and say why', () => {
    const steps = stepsFor(
      factsOf({ flags: ['boats', 'alcohol', 'unheard-of'], capacity: 120, highestPrice: 2500 }),
      rules,
    );
    expect(steps.map((s) => s.rule.step)).toEqual(['Finance', 'Safety', 'Premises']);
    expect(steps[1]!.because.map(sayFact)).toEqual([
      'boats or vehicles are used',
      '120 people, the rule starts at 100',
    ]);
    expect(stepsFor(factsOf({ flags: [], capacity: 10, highestPrice: 0 }), rules)).toEqual([]);
  });

  test('the last day to send counts the longest path over working days and holidays', () => {
    const steps = stepsFor(factsOf({ flags: ['boats', 'alcohol'], capacity: 50, highestPrice: 0 }), rules);
    expect(longestPath(steps)).toBe(9);
    // Cleared by Saturday 25 July, which is Friday 24; nine working days before it is Monday 13 July.
    expect(lastDayToSubmit('2026-08-08', steps, 14, [], '2026-07-09')).toMatchObject({
      date: '2026-07-13',
      daysLeft: 4,
    });
    expect(lastDayToSubmit('2026-08-08', steps, 14, ['2026-07-20'], '2026-07-20')).toMatchObject({
      date: '2026-07-10',
      daysLeft: -10,
    });
  });

  test('steps of one order run side by side, the next order waits', () => {
    const steps = handOver([
      { id: 'a', order: 1, state: 'waiting' as const },
      { id: 'b', order: 1, state: 'waiting' as const },
      { id: 'c', order: 2, state: 'waiting' as const },
    ]);
    expect(steps.map((s) => s.state)).toEqual(['with approver', 'with approver', 'waiting']);
    const one = decideStep(steps, 'a', 'clear');
    expect(one.map((s) => s.state)).toEqual(['cleared', 'with approver', 'waiting']);
    const two = decideStep(one, 'b', 'clear with conditions');
    expect(two.map((s) => s.state)).toEqual(['cleared', 'cleared with conditions', 'with approver']);
    expect(standingOf(two)).toBe('under way');
    expect(standingOf(decideStep(two, 'c', 'clear'))).toBe('cleared');
    expect(standingOf(decideStep(two, 'c', 'send back'))).toBe('sent back');
    expect(standingOf([])).toBe('cleared');
  });

  test('counted forward from the last day, the steps are through in time; a working day later they are not', () => {
    const anyRules = fc.array(
      fc.record({ days: fc.integer({ min: 1, max: 8 }), order: fc.integer({ min: 1, max: 3 }) }),
      { minLength: 1, maxLength: 5 },
    );
    fc.assert(
      fc.property(
        anyRules,
        fc.integer({ min: 0, max: 30 }),
        fc.integer({ min: 0, max: 364 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 120 }), { maxLength: 8 }),
        (parts, notice, day, off) => {
          const eventDate = shiftDate('2026-03-01', day);
          const holidays = off.map((n) => shiftDate(eventDate, -n));
          const steps = parts.map(({ days, order }, n) => ({
            rule: rule(`step ${n}`, { workingDays: days, order }),
            because: [],
          }));
          const { date } = lastDayToSubmit(eventDate, steps, notice, holidays, eventDate);
          expect(isWorkingDay(date, holidays)).toBe(true);
          // The approvers' own last days, as they are told them.
          const through = (sent: string): string => dueDates(steps, sent, holidays).sort().at(-1)!;
          const by = shiftDate(eventDate, -notice);
          expect(through(date) <= by).toBe(true);
          let later = shiftDate(date, 1);
          while (!isWorkingDay(later, holidays)) later = shiftDate(later, 1);
          expect(through(later) > by).toBe(true);
        },
      ),
    );
  });

  test('a step is needed exactly when one of its facts holds, and nothing else is asked', () => {
    const flag = fc.constantFrom(...factFlags);
    fc.assert(
      fc.property(
        fc.uniqueArray(flag),
        fc.uniqueArray(flag),
        fc.option(fc.integer({ min: 1, max: 200 })),
        fc.nat(200),
        (ticked, anyOf, headcountFrom, capacity) => {
          const facts = factsOf({ flags: ticked, capacity, highestPrice: 0 });
          const needed = stepsFor(facts, [rule('One', { anyOf, headcountFrom })]);
          const wanted =
            anyOf.some((f) => ticked.includes(f)) || (headcountFrom !== null && capacity >= headcountFrom);
          expect(needed.length === 1).toBe(wanted);
          if (wanted) expect(needed[0]!.because.length).toBeGreaterThan(0);
        },
      ),
    );
    // Money follows from a price, whether anybody ticked it or not.
    expect(factsOf({ flags: [], capacity: null, highestPrice: 1 })).toEqual({
      headcount: 0,
      flags: ['money'],
    });
  });

  test('however approvers decide, no step is skipped and the whole says what its parts say', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 6 }),
        fc.array(fc.tuple(fc.nat(5), fc.constantFrom(...decisions)), { maxLength: 12 }),
        (orders, decided) => {
          let steps: Step[] = handOver(
            orders.map((order, n) => ({ id: `s${n}`, order, state: 'waiting' as const })),
          );
          for (const [n, decision] of decided) {
            const open = steps.filter((s) => isOpenForDecision(s.state));
            if (!open.length) break;
            steps = decideStep(steps, open[n % open.length]!.id, decision);
            // Nobody of a later order is asked while an earlier one is not cleared.
            const asked = steps.filter((s) => isOpenForDecision(s.state)).map((s) => s.order);
            const before = steps.filter((s) => s.state === 'waiting').map((s) => s.order);
            if (asked.length && before.length)
              expect(Math.max(...asked)).toBeLessThanOrEqual(Math.min(...before));
          }
          const standing = standingOf(steps);
          const states = steps.map((s) => s.state);
          expect(standing === 'refused').toBe(states.includes('refused'));
          if (standing === 'cleared')
            expect(states.every((s) => s === 'cleared' || s === 'cleared with conditions')).toBe(true);
          if (standing === 'under way') expect(steps.some((s) => isOpenForDecision(s.state))).toBe(true);
        },
      ),
    );
  });
});
