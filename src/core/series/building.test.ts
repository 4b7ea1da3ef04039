import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { builtFor, builtOf, ruleIn } from './building.ts';
import { readRule } from './rule.ts';

const at = '2026-08-05T09:30';

describe('a rule put together on a screen', () => {
  test('begins with that of its weekday of the month which the first start is', () => {
    expect(ruleIn(builtFor(at))).toBe('FREQ=MONTHLY;BYDAY=1WE');
    expect(ruleIn(builtFor('2026-07-31T19:00'))).toBe('FREQ=MONTHLY;BYDAY=-1FR');
  });

  test.each([
    'FREQ=MONTHLY;BYDAY=1WE',
    'FREQ=MONTHLY;INTERVAL=2;UNTIL=20270630;BYDAY=1WE,3WE',
    'FREQ=MONTHLY;COUNT=5;BYMONTHDAY=-1',
    'FREQ=WEEKLY;INTERVAL=2;BYMONTH=3,4,5;BYDAY=FR',
    'FREQ=WEEKLY;BYDAY=MO,TH',
    'FREQ=YEARLY;BYMONTH=8;BYDAY=2SA',
    'FREQ=YEARLY;BYMONTH=8;BYMONTHDAY=5',
    'FREQ=DAILY;INTERVAL=3',
  ])('%s is chosen, and given again', (text) => {
    const built = builtOf(text, at);
    expect(built.how).toBe('every');
    expect(ruleIn(built)).toBe(text);
  });

  test('days that follow from the first start are chosen', () => {
    expect(ruleIn(builtOf('FREQ=WEEKLY', at))).toBe('FREQ=WEEKLY;BYDAY=WE');
    expect(ruleIn(builtOf('FREQ=MONTHLY', at))).toBe('FREQ=MONTHLY;BYMONTHDAY=5');
  });

  test.each([
    'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1',
    'FREQ=YEARLY;BYWEEKNO=20',
    'FREQ=MONTHLY;BYMONTHDAY=1,15',
    'FREQ=DAILY;BYHOUR=9,14',
    'FREQ=MONTHLY;BYDAY=1WE,2FR',
  ])('%s is more than can be chosen, and stays as it is written', (text) => {
    const built = builtOf(text, at);
    expect(built.how).toBe('written');
    expect(ruleIn(built)).toBe(text);
  });

  test('dates one by one have no rule; what was typed wrong is found by whoever reads it', () => {
    expect(builtOf(null, at).how).toBe('dates');
    expect(ruleIn(builtOf(null, at))).toBeNull();
    const wrong = ruleIn({ ...builtFor(at), interval: '0' })!;
    expect(readRule(wrong)).toMatchObject({ wrong: { params: { part: 'INTERVAL' } } });
    expect(readRule(ruleIn({ ...builtFor(at), ends: 'until', until: '' })!)).toMatchObject({
      wrong: { params: { part: 'UNTIL' } },
    });
  });

  test('whatever is chosen is a rule, and is chosen again', () => {
    const choices = fc.record({
      unit: fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY' as const),
      interval: fc.integer({ min: 1, max: 12 }).map(String),
      weekdays: fc.uniqueArray(fc.constantFrom('MO', 'WE', 'SU' as const), { minLength: 1 }),
      by: fc.constantFrom('weekday', 'day' as const),
      nth: fc.uniqueArray(fc.constantFrom('1', '2', '-1'), { minLength: 1 }),
      day: fc.integer({ min: 1, max: 31 }).map(String),
      months: fc.uniqueArray(fc.constantFrom('3', '4', '10')),
    });
    fc.assert(
      fc.property(choices, (chosen) => {
        const text = ruleIn({ ...builtFor(at), ...chosen })!;
        expect(readRule(text)).toHaveProperty('rule');
        expect(readRule(ruleIn(builtOf(text, at))!)).toEqual(readRule(text));
      }),
    );
  });
});
