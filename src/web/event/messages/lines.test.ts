import { describe, expect, test } from 'vitest';
import { type Moment, momentRule, moments, yearMoments } from '#core/messages/moments.ts';
import { firstWords, offsetOf, saysFirst } from '../../parts/lines/values.ts';
import { lineOf, movedBy, valuesOf, withAfter, withLine } from './lines.ts';

const line = (id: string) => lineOf({ ...valuesOf(null), name: id }, id, null);
const ids = (lines: readonly { id: string }[]) => lines.map((l) => l.id).join('');
const abc = [line('a'), line('b'), line('c')];

describe('the order of lines', () => {
  test('one moves up and down, and not beyond the ends', () => {
    expect(ids(movedBy(abc, 'b', -1))).toBe('bac');
    expect(ids(movedBy(abc, 'b', 1))).toBe('acb');
    expect(ids(movedBy(abc, 'a', -1))).toBe('abc');
    expect(ids(movedBy(abc, 'c', 1))).toBe('abc');
    expect(ids(abc)).toBe('abc');
  });
  test('a copy stands behind what it is one of; a new one at the end', () => {
    expect(ids(withAfter(abc, 'a', line('x')))).toBe('axbc');
    expect(ids(withLine(abc, line('x')))).toBe('abcx');
    expect(withLine(abc, { ...line('b'), name: 'other' })[1]!.name).toBe('other');
  });
});

describe('what is typed', () => {
  const side = { days: '', hours: '', minutes: '' };
  test.each([
    [
      { ...side, days: '2', side: 'before' as const },
      { days: -2, minutes: 0 },
    ],
    [
      { ...side, days: '-2', side: 'before' as const },
      { days: -2, minutes: 0 },
    ],
    [
      { ...side, hours: '1', minutes: '10', side: 'before' as const },
      { days: 0, minutes: -70 },
    ],
    [
      { ...side, hours: '1,5', side: 'after' as const },
      { days: 0, minutes: 90 },
    ],
    [
      { ...side, minutes: 'x', side: 'before' as const },
      { days: 0, minutes: 0 },
    ],
  ])('%j is %j', (typed, offset) => {
    expect(offsetOf(typed)).toEqual(offset);
    expect(Object.is(offsetOf(typed).minutes, -0)).toBe(false);
  });

  test('a line opened and kept is the same line', () => {
    const before = {
      ...line('a'),
      offsetDays: -3,
      offsetMinutes: -70,
      usefulMinutes: 90,
      late: 'last' as const,
      workingDays: true,
      off: true,
    };
    expect(lineOf(valuesOf(before), before.id, before)).toEqual(before);
  });

  test('what it says to begin with is known for every moment, by either way', () => {
    for (const moment of [...moments, ...yearMoments] as Moment[])
      for (const channel of ['email', 'text message'] as const) {
        for (const audience of momentRule(moment).audiences) {
          const first = { ...firstWords(moment, channel, audience), formatted: { en: null, fr: null } };
          expect(saysFirst(first, moment, channel, audience)).toBe(true);
          const mine = { ...first, body: { ...first.body, en: 'Mine' } };
          expect(saysFirst(mine, moment, channel, audience)).toBe(false);
        }
      }
  });
});
