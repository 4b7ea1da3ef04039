import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { shiftDate } from '#core/time/dates.ts';
import { datesToMake, reshape } from './dates.ts';
import { readRule } from './rule.ts';
import type { Recurrence, Slot } from './slots.ts';

const of = (text: string, more: Partial<Recurrence> = {}): Recurrence => {
  const read = readRule(text);
  if ('wrong' in read) throw new Error(text);
  return {
    rule: read.rule,
    startsLocal: '2026-07-01T09:30',
    zone: 'America/Halifax',
    extra: [],
    skipped: [],
    ...more,
  };
};
// 09:20 in Halifax.
const now = '2026-07-09T12:20:00.000Z';
const days = (slots: readonly Slot[]) => slots.map((s) => s.slot.slice(0, 10));

describe('dates made ahead', () => {
  test('those to come within the horizon that nobody made yet, and when the next one comes within it', () => {
    const { make, nextAt } = datesToMake(of('FREQ=MONTHLY;BYDAY=1WE'), new Set(['2026-08-05T09:30']), 3, now);
    expect(days(make)).toEqual(['2026-09-02', '2026-10-07']);
    // 4 November is within three months from 4 August on, at its own time of day.
    expect(nextAt).toBe('2026-08-04T12:30:00.000Z');
  });

  test('one that begins in ten minutes is made; one that began is not', () => {
    expect(days(datesToMake(of('FREQ=DAILY'), new Set(), 1, now).make)[0]).toBe('2026-07-09');
    expect(days(datesToMake(of('FREQ=DAILY'), new Set(), 1, '2026-07-09T12:40:00.000Z').make)[0]).toBe(
      '2026-07-10',
    );
  });

  test('a rule that ends makes no more; one of every minute makes a hundred and twenty, and goes on when they are over', () => {
    expect(datesToMake(of('FREQ=WEEKLY;COUNT=3'), new Set(), 12, now).nextAt).toBeNull();
    const often = datesToMake(of('FREQ=HOURLY'), new Set(), 12, now);
    expect(often.make).toHaveLength(120);
    expect(often.nextAt! > now).toBe(true);
    expect(often.nextAt! < '2026-07-09T14:00:00.000Z').toBe(true);
  });

  test('however often it is looked at, nothing is made twice and nothing is left out', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('FREQ=WEEKLY', 'FREQ=MONTHLY;BYDAY=1WE', 'FREQ=DAILY;INTERVAL=10'),
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 6 }),
        (rule, steps) => {
          const known = new Set<string>();
          let day = '2026-07-09';
          for (const step of steps) {
            day = shiftDate(day, step);
            const { make } = datesToMake(of(rule), known, 3, `${day}T12:20:00.000Z`);
            for (const { slot } of make) {
              expect(known.has(slot)).toBe(false);
              known.add(slot);
            }
          }
          const { make } = datesToMake(of(rule), new Set(), 3, `${day}T12:20:00.000Z`);
          for (const { slot } of make) expect(known.has(slot)).toBe(true);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('dates when their rule changes', () => {
  const made = (slot: string) => ({ id: slot, slot });
  const slot = (at: string): Slot => ({ slot: at, startsLocal: at, endsLocal: null, extra: false });
  const said = (dates: readonly string[], slots: readonly string[]) => {
    const { keep, move, without } = reshape(dates.map(made), slots.map(slot));
    return {
      keep: keep.map((d) => d.id),
      move: move.map((m) => `${m.date.id} > ${m.to.slot}`),
      without: without.map((d) => d.id),
    };
  };

  test('stay where their slot stays, go to another time of the same day first, else to the nearest', () => {
    expect(
      said(
        ['2026-08-05T09:30', '2026-09-02T09:30', '2026-10-07T09:30'],
        ['2026-08-05T09:30', '2026-09-02T18:00', '2026-09-03T09:30', '2026-10-08T09:30'],
      ),
    ).toEqual({
      keep: ['2026-08-05T09:30'],
      move: ['2026-09-02T09:30 > 2026-09-02T18:00', '2026-10-07T09:30 > 2026-10-08T09:30'],
      without: [],
    });
  });

  test('what finds no slot within twenty days, or only one that another took, is without', () => {
    expect(said(['2026-08-05T09:30'], ['2026-08-26T09:30']).without).toEqual(['2026-08-05T09:30']);
    expect(said(['2026-08-05T09:30'], ['2026-08-25T09:30']).move).toHaveLength(1);
    expect(said(['2026-08-05T09:30', '2026-08-06T09:30'], ['2026-08-07T09:30'])).toEqual({
      keep: [],
      move: ['2026-08-06T09:30 > 2026-08-07T09:30'],
      without: ['2026-08-05T09:30'],
    });
  });

  test('no date is lost, and no slot has two', () => {
    const walls = fc
      .uniqueArray(fc.integer({ min: 0, max: 90 }), { maxLength: 12 })
      .map((list) => list.map((n) => `${shiftDate('2026-08-01', n)}T09:30`));
    fc.assert(
      fc.property(walls, walls, (dates, slots) => {
        const { keep, move, without } = reshape(dates.map(made), slots.map(slot));
        const all = [...keep, ...move.map((m) => m.date), ...without].map((d) => d.id);
        expect(all.sort()).toEqual([...dates].sort());
        const taken = [...keep.map((d) => d.slot), ...move.map((m) => m.to.slot)];
        expect(new Set(taken).size).toBe(taken.length);
      }),
    );
  });
});
