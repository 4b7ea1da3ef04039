import { describe, expect, test } from 'vitest';
import { readRule, ruleOf, writeRule } from './rule.ts';

describe('a rule as it is written', () => {
  test('is read whole, in any case and order, and written in one order', () => {
    const read = readRule(' rrule:byday=1WE,-1fr;freq=monthly;until=20270630;INTERVAL=2; ');
    expect(read).toEqual({
      rule: ruleOf({
        freq: 'MONTHLY',
        interval: 2,
        until: '2027-06-30',
        byDay: [
          { day: 'WE', nth: 1 },
          { day: 'FR', nth: -1 },
        ],
      }),
    });
    expect('rule' in read && writeRule(read.rule)).toBe(
      'FREQ=MONTHLY;INTERVAL=2;UNTIL=20270630;BYDAY=1WE,-1FR',
    );
  });

  test.each([
    ['FREQ=WEEKLY;UNTIL=20261224T000000Z', 'FREQ=WEEKLY;UNTIL=20261224T000000Z'],
    ['FREQ=WEEKLY;UNTIL=20261224T193000', 'FREQ=WEEKLY;UNTIL=20261224T193000'],
    ['FREQ=DAILY;BYSECOND=0;INTERVAL=1', 'FREQ=DAILY'],
  ])('%s', (text, written) => {
    const read = readRule(text);
    expect('rule' in read && writeRule(read.rule)).toBe(written);
  });

  test.each([
    ['', 'rule-part', { part: 'RRULE', value: '' }],
    ['INTERVAL=2', 'rule-without-freq', undefined],
    ['FREQ=FORTNIGHTLY', 'rule-part', { part: 'FREQ', value: 'FORTNIGHTLY' }],
    ['FREQ=SECONDLY', 'rule-too-often', undefined],
    ['FREQ=DAILY;BYSECOND=30', 'rule-too-often', undefined],
    ['FREQ=DAILY;COUNT=0', 'rule-part', { part: 'COUNT', value: '0' }],
    ['FREQ=DAILY;COUNT=3;UNTIL=20270101', 'rule-beside', { part: 'COUNT', other: 'UNTIL' }],
    ['FREQ=DAILY;INTERVAL=-1', 'rule-part', { part: 'INTERVAL', value: '-1' }],
    ['FREQ=DAILY;UNTIL=20270231', 'rule-part', { part: 'UNTIL', value: '20270231' }],
    ['FREQ=DAILY;UNTIL=20270201T250000', 'rule-part', { part: 'UNTIL', value: '20270201T250000' }],
    ['FREQ=DAILY;FREQ=WEEKLY', 'rule-part', { part: 'FREQ', value: 'WEEKLY' }],
    ['FREQ=MONTHLY;BYMONTHDAY=32', 'rule-part', { part: 'BYMONTHDAY', value: '32' }],
    ['FREQ=MONTHLY;BYMONTHDAY=0', 'rule-part', { part: 'BYMONTHDAY', value: '0' }],
    ['FREQ=MONTHLY;BYDAY=6WE', 'rule-part', { part: 'BYDAY', value: '' }],
    ['FREQ=WEEKLY;BYDAY=1WE', 'rule-beside', { part: 'BYDAY', other: 'FREQ=WEEKLY' }],
    ['FREQ=WEEKLY;BYMONTHDAY=3', 'rule-beside', { part: 'BYMONTHDAY', other: 'FREQ=WEEKLY' }],
    ['FREQ=MONTHLY;BYYEARDAY=3', 'rule-beside', { part: 'BYYEARDAY', other: 'FREQ=MONTHLY' }],
    ['FREQ=MONTHLY;BYWEEKNO=3', 'rule-beside', { part: 'BYWEEKNO', other: 'FREQ=MONTHLY' }],
    ['FREQ=YEARLY;BYWEEKNO=3;BYDAY=1MO', 'rule-beside', { part: 'BYDAY', other: 'BYWEEKNO' }],
    ['FREQ=DAILY;BYSETPOS=1', 'rule-alone', { part: 'BYSETPOS' }],
    ['FREQ=DAILY;X-MOON=FULL', 'rule-part', { part: 'X-MOON', value: 'FULL' }],
  ])('%s is refused, with the part named', (text, code, params) => {
    expect(readRule(text)).toEqual({ wrong: params ? { code, params } : { code } });
  });
});
