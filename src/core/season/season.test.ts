import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Clashing, clashesOf } from './clashes.ts';
import {
  around,
  broughtIn,
  dateOfDay,
  dayOf,
  drawnOf,
  filledAt,
  lanesOf,
  movedBy,
  panned,
  perDayLimits,
  pixelOf,
  rowsOf,
  ticksOf,
  zoomed,
} from './ribbon.ts';

describe('the time ribbon', () => {
  const view = { from: dayOf('2026-07-01'), perDay: 10 };

  test('a wall time stands where its day and its time of day are', () => {
    expect(pixelOf(view, '2026-07-01')).toBe(0);
    expect(pixelOf(view, '2026-07-03T12:00')).toBe(25);
    expect(dateOfDay(dayOf('2026-07-03T12:00'))).toBe('2026-07-03');
  });

  test('nearer and further the day under the pointer stays under it, within what can be seen', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 70, noNaN: true }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.integer({ min: 0, max: 1400 }),
        (perDay, factor, at) => {
          const before = { from: dayOf('2026-07-01'), perDay };
          const after = zoomed(before, factor, at);
          expect(after.from + at / after.perDay).toBeCloseTo(before.from + at / before.perDay, 6);
          expect(after.perDay).toBeGreaterThanOrEqual(perDayLimits.least);
          expect(after.perDay).toBeLessThanOrEqual(perDayLimits.most);
        },
      ),
    );
    expect(pixelOf(panned(view, 30), '2026-07-04')).toBe(0);
    expect(pixelOf(around('2026-07-09', 90, 900), '2026-07-09')).toBeCloseTo(300);
  });

  test('keys go along, nearer, further and to today; others do nothing', () => {
    const at = (key: string) => movedBy(key, view, 600, '2026-07-09');
    expect(at('ArrowRight')!.from - view.from).toBe(10);
    expect(at('ArrowLeft')!.from - view.from).toBe(-10);
    expect(at('+')!.perDay).toBe(14);
    expect(at('-')!.perDay).toBeCloseTo(7.14, 2);
    expect(pixelOf(at('t')!, '2026-07-09')).toBeCloseTo(200);
    expect(at('Enter')).toBeNull();
  });

  test('years and months are always drawn, weeks from Monday and days where there is room', () => {
    const units = (perDay: number) =>
      new Set(ticksOf({ from: dayOf('2026-11-30'), perDay }, 40 * perDay).map((t) => t.unit));
    expect(units(2)).toEqual(new Set(['month', 'year']));
    expect(units(8)).toEqual(new Set(['week', 'month', 'year']));
    expect(units(30)).toEqual(new Set(['week', 'day', 'month', 'year']));
    // 30 November 2026 is a Monday.
    expect(ticksOf({ from: dayOf('2026-11-29'), perDay: 8 }, 80)[0]).toEqual({
      date: '2026-11-30',
      at: 8,
      unit: 'week',
    });
    expect(ticksOf({ from: dayOf('2026-01-01'), perDay: 1 }, 364).map((t) => t.date)).toEqual([
      '2026-01-01',
      '2026-04-01',
      '2026-07-01',
      '2026-10-01',
    ]);
  });

  test('what is come upon is brought into sight, and nothing moves for what is seen already', () => {
    const view = { from: dayOf('2026-07-09'), perDay: 10 };
    const moved = (left: number, right: number) =>
      (broughtIn(view, { left, right }, 800).from - view.from) * view.perDay;
    expect(moved(8, 792)).toBeCloseTo(0, 6);
    expect(moved(-30, 60)).toBeCloseTo(-38, 6);
    expect(moved(760, 850)).toBeCloseTo(58, 6);
    // Longer than the ribbon: its beginning.
    expect(moved(100, 1200)).toBeCloseTo(92, 6);
    expect(moved(2, 1200)).toBeCloseTo(-6, 6);
  });

  test('more is drawn than is seen, on both sides, and it stays the same for most moves', () => {
    const some = fc.record({
      from: fc.double({ min: 10_000, max: 30_000, noNaN: true }),
      perDay: fc.double({ min: perDayLimits.least, max: perDayLimits.most, noNaN: true }),
    });
    fc.assert(
      fc.property(some, fc.integer({ min: 100, max: 3000 }), (at, width) => {
        const { first, last } = drawnOf(at, width);
        const seen = width / at.perDay;
        expect(at.from - first).toBeGreaterThanOrEqual(seen / 8);
        expect(last - at.from - seen).toBeGreaterThanOrEqual(seen / 8);
        expect(last - first).toBeLessThanOrEqual(seen * 2 + 1e-6);
      }),
    );
    const drawn = new Set<string>();
    for (let n = 0; n < 100; n += 1) drawn.add(JSON.stringify(drawnOf(panned(view, n * 8), 800)));
    expect(drawn.size).toBeLessThanOrEqual(16);
  });

  test('rows are filled for a day no wider than it is, and seldom anew', () => {
    fc.assert(
      fc.property(fc.double({ min: perDayLimits.least, max: perDayLimits.most, noNaN: true }), (perDay) => {
        expect(filledAt(perDay)).toBeLessThanOrEqual(perDay * 1.000001);
        expect(filledAt(perDay)).toBeGreaterThan(perDay / 1.16);
      }),
    );
    expect(filledAt(perDayLimits.least)).toBe(perDayLimits.least);
    expect(filledAt(10.5)).toBe(filledAt(10.6));
  });

  test('in a row nothing meets; each is in the first row with room, and the rest in none', () => {
    const at = (left: number, right: number) => ({ left, right });
    expect(rowsOf([at(0, 50), at(20, 60), at(30, 40), at(60, 90)], 2, 5)).toEqual([0, 1, null, 0]);
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ left: fc.integer({ min: 0, max: 900 }), length: fc.integer({ min: 1, max: 200 }) }),
        ),
        (list) => {
          const stretches = list.map((s) => at(s.left, s.left + s.length)).sort((a, b) => a.left - b.left);
          const rows = rowsOf(stretches, 4);
          for (const [n, row] of rows.entries())
            for (const [m, other] of rows.entries())
              if (n < m && row !== null && row === other)
                expect(stretches[m]!.left).toBeGreaterThanOrEqual(stretches[n]!.right + 6);
        },
      ),
    );
  });

  test('lanes by name, what has none last', () => {
    expect(lanesOf(['b1', 'x', 'a1', 'b2'], (e) => (e === 'x' ? null : e[0]!))).toEqual([
      { name: 'a', events: ['a1'] },
      { name: 'b', events: ['b1', 'b2'] },
      { name: null, events: ['x'] },
    ]);
  });
});

describe('events at odds', () => {
  const event = (id: string, from: number, to: number, more: Partial<Clashing> = {}): Clashing => ({
    id,
    startsAt: new Date(Date.UTC(2026, 7, 1, from)).toISOString(),
    endsAt: new Date(Date.UTC(2026, 7, 1, to)).toISOString(),
    space: null,
    leads: [],
    unit: null,
    ...more,
  });
  const said = (events: readonly Clashing[]) =>
    [...clashesOf(events)]
      .map(
        ([id, c]) =>
          `${id}: ${c
            .map((x) => `${x.kind} ${x.other}`)
            .sort()
            .join(', ')}`,
      )
      .sort();

  test('about a place, a lead or the people of a unit, where they have a moment in common', () => {
    const hall = event('hall', 9, 12, { space: 'Hall', leads: ['Ann'], unit: 'Herons' });
    const late = event('late', 12, 14, { space: 'Hall', leads: ['Ann'], unit: 'Herons' });
    const both = event('both', 11, 13, { space: 'Hall', leads: ['Bo', 'Ann'], unit: 'Boats' });
    expect(said([hall, late])).toEqual([]);
    expect(said([late, both, hall])).toEqual([
      'both: lead hall, lead late, place hall, place late',
      'hall: lead both, place both',
      'late: lead both, place both',
    ]);
    expect(said([hall, event('herons', 10, 11, { unit: 'Herons' })])).toEqual([
      'hall: audience herons',
      'herons: audience hall',
    ]);
  });

  test('without a date, an end, or anything in common there is none', () => {
    expect(said([event('a', 9, 12), event('b', 9, 12)])).toEqual([]);
    expect(said([event('a', 9, 12, { unit: 'U' }), event('b', 9, 12, { unit: 'U', endsAt: null })])).toEqual(
      [],
    );
  });

  test('the same as looking at every pair', () => {
    const events = fc.array(
      fc.record({
        from: fc.integer({ min: 0, max: 40 }),
        length: fc.integer({ min: 1, max: 9 }),
        space: fc.constantFrom(null, 'A', 'B'),
        unit: fc.constantFrom(null, 'U', 'V'),
      }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(events, (list) => {
        const all = list.map((e, n) =>
          event(String(n), e.from, e.from + e.length, { space: e.space, unit: e.unit }),
        );
        const pairs = new Set<string>();
        for (const a of all)
          for (const b of all) {
            if (a === b || a.startsAt! >= b.endsAt! || b.startsAt! >= a.endsAt!) continue;
            if (a.space && a.space === b.space) pairs.add(`${a.id} place ${b.id}`);
            if (a.unit && a.unit === b.unit) pairs.add(`${a.id} audience ${b.id}`);
          }
        const found = [...clashesOf(all)].flatMap(([id, c]) => c.map((x) => `${id} ${x.kind} ${x.other}`));
        expect(new Set(found)).toEqual(pairs);
        expect(found).toHaveLength(pairs.size);
      }),
    );
  });
});
