import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { shiftDate } from '../time/dates.ts';
import { isWorkingDay, workingDaysAfter } from '../time/workingDays.ts';
import { circleIn, depthsOf, waitsFor } from './order.ts';
import { lastDayToSend, runningTime, timeOf } from './schedule.ts';

const step = (id: string, workingDays: number, ...after: string[]) => ({ id, workingDays, after });

describe('what comes after what', () => {
  test('a circle is named in the order in which it goes round; without one there is none', () => {
    expect(circleIn([step('a', 1), step('b', 1, 'a'), step('c', 1, 'a', 'b')])).toBeNull();
    expect(circleIn([step('a', 1, 'c'), step('b', 1, 'a'), step('c', 1, 'b')])).toEqual(['a', 'c', 'b']);
    expect(circleIn([step('x', 1, 'a'), step('a', 1, 'b'), step('b', 1, 'a')])).toEqual(['a', 'b']);
    expect(circleIn([step('self', 1, 'self')])).toEqual(['self']);
    // Also where another of the same id hides it.
    expect(circleIn([step('a', 1, 'a'), step('a', 1)])).toEqual(['a']);
    expect(circleIn([step('a', 1, 'b'), step('b', 1, 'a'), step('b', 1)])).toEqual(['a', 'b']);
    // What it waits for may be gone.
    expect(circleIn([step('a', 1, 'gone')])).toBeNull();
  });

  test('what is left out between two does not let the later one come sooner', () => {
    const all = [step('a', 1), step('b', 1, 'a'), step('c', 1, 'b'), step('d', 1)];
    expect(Object.fromEntries(waitsFor(['a', 'c', 'd'], all))).toEqual({ a: [], c: ['a'], d: [] });
    expect(Object.fromEntries(waitsFor(['b', 'c'], all))).toEqual({ b: [], c: ['b'] });
  });

  test('who waits for nobody comes first, then who waits for those', () => {
    const waits = new Map([
      ['c', ['b', 'a']],
      ['a', []],
      ['b', ['a']],
    ]);
    expect(Object.fromEntries(depthsOf(waits))).toEqual({ a: 0, b: 1, c: 2 });
  });

  test('as random orders have it: nobody comes before whoever they wait for', () => {
    const edges = fc.uniqueArray(fc.tuple(fc.nat(6), fc.nat(6)), { maxLength: 14 });
    fc.assert(
      fc.property(edges, fc.uniqueArray(fc.nat(6)), (pairs, needed) => {
        // Later ones wait for earlier ones only: no circle.
        const all = Array.from({ length: 7 }, (_, n) =>
          step(String(n), 1, ...pairs.flatMap(([a, b]) => (a === n && b < n ? [String(b)] : []))),
        );
        expect(circleIn(all)).toBeNull();
        const reach = (id: string): Set<string> => {
          const found = new Set<string>();
          for (const before of all[Number(id)]!.after) {
            found.add(before);
            for (const one of reach(before)) found.add(one);
          }
          return found;
        };
        const here = needed.map(String);
        const waits = waitsFor(here, all);
        const reachHere = (id: string): Set<string> => {
          const found = new Set<string>();
          for (const before of waits.get(id)!) {
            found.add(before);
            for (const one of reachHere(before)) found.add(one);
          }
          return found;
        };
        for (const id of here)
          expect([...reachHere(id)].sort()).toEqual(
            [...reach(id)].filter((one) => here.includes(one)).sort(),
          );
      }),
    );
  });
});

describe('when steps are due', () => {
  test('the longest path, what is on it, and how long the others have', () => {
    // Safety 5, then Premises 4; Finance 3 beside. Sent on Monday 13 July 2026.
    const time = timeOf(
      [step('safety', 5), step('finance', 3), step('premises', 4, 'safety', 'finance')],
      '2026-07-13',
      [],
    );
    expect(time.working).toBe(9);
    expect(time.path).toEqual(['safety', 'premises']);
    expect(time.clearedOn).toBe('2026-07-24');
    expect(Object.fromEntries(time.steps)).toEqual({
      safety: { dueOn: '2026-07-20', slack: 0 },
      finance: { dueOn: '2026-07-16', slack: 2 },
      premises: { dueOn: '2026-07-24', slack: 0 },
    });
    expect(timeOf([], '2026-07-13', [])).toMatchObject({ working: 0, clearedOn: '2026-07-13', path: [] });
  });

  test('as it stands: who has a step has until it is due, who is late decides today, the others follow', () => {
    const time = runningTime(
      [
        { ...step('safety', 5), dueOn: '2026-07-20' },
        { ...step('finance', 3), dueOn: '2026-07-13' },
        { ...step('premises', 4, 'safety', 'finance'), dueOn: null },
      ],
      // A Wednesday.
      '2026-07-15',
      ['2026-07-21'],
    );
    expect(Object.fromEntries(time.steps)).toEqual({
      safety: { dueOn: '2026-07-20', slack: 0 },
      finance: { dueOn: '2026-07-15', slack: 3 },
      premises: { dueOn: '2026-07-27', slack: 0 },
    });
    expect(time.clearedOn).toBe('2026-07-27');
    expect(time.path).toEqual(['safety', 'premises']);
  });

  test('the last day to send: by hand, over a weekend and a holiday', () => {
    // Cleared by Saturday 25 July, which is Friday 24; nine working days before it is Monday 13 July.
    expect(lastDayToSend('2026-08-08', 9, 14, [], '2026-07-09')).toMatchObject({
      date: '2026-07-13',
      clearedBy: '2026-07-24',
      daysLeft: 4,
    });
    expect(lastDayToSend('2026-08-08', 9, 14, ['2026-07-20'], '2026-07-20')).toMatchObject({
      date: '2026-07-10',
      daysLeft: -10,
    });
  });

  test('sent on the last day all is through in time; a working day later it is not', () => {
    const steps = fc.array(fc.record({ days: fc.integer({ min: 1, max: 8 }), after: fc.nat(7) }), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(
        steps,
        fc.integer({ min: 0, max: 30 }),
        fc.integer({ min: 0, max: 364 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 120 }), { maxLength: 8 }),
        (parts, notice, day, off) => {
          const eventDate = shiftDate('2026-03-01', day);
          const holidays = off.map((n) => shiftDate(eventDate, -n));
          const all = parts.map(({ days, after }, n) =>
            step(String(n), days, ...(after < n ? [String(after)] : [])),
          );
          const { working } = timeOf(all, eventDate, holidays);
          const { date } = lastDayToSend(eventDate, working, notice, holidays, eventDate);
          expect(isWorkingDay(date, holidays)).toBe(true);
          const through = (sent: string): string => timeOf(all, sent, holidays).clearedOn;
          const by = shiftDate(eventDate, -notice);
          expect(through(date) <= by).toBe(true);
          let later = shiftDate(date, 1);
          while (!isWorkingDay(later, holidays)) later = shiftDate(later, 1);
          expect(through(later) > by).toBe(true);
        },
      ),
    );
  });

  test('a step that takes as much longer as its slack delays nothing; one day more does', () => {
    const steps = fc.array(
      fc.record({ days: fc.integer({ min: 1, max: 6 }), after: fc.uniqueArray(fc.nat(5)) }),
      {
        minLength: 1,
        maxLength: 6,
      },
    );
    fc.assert(
      fc.property(steps, fc.nat(5), (parts, which) => {
        const all = parts.map(({ days, after }, n) =>
          step(String(n), days, ...after.filter((a) => a < n).map(String)),
        );
        const { working, steps: times, path } = timeOf(all, '2026-07-13', []);
        const one = all[which % all.length]!;
        const longer = (by: number) =>
          timeOf(
            all.map((s) => (s === one ? { ...s, workingDays: s.workingDays + by } : s)),
            '2026-07-13',
            [],
          ).working;
        const { slack, dueOn } = times.get(one.id)!;
        expect(longer(slack)).toBe(working);
        expect(longer(slack + 1)).toBe(working + 1);
        expect(dueOn <= workingDaysAfter('2026-07-13', working, [])).toBe(true);
        // The path is as long as the whole, and nothing on it has any time left.
        expect(path.reduce((sum, id) => sum + all[Number(id)]!.workingDays, 0)).toBe(working);
        expect(path.every((id) => times.get(id)!.slack === 0)).toBe(true);
      }),
    );
  });
});
