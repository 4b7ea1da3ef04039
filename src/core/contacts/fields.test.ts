import { describe, expect, test } from 'vitest';
import { sayReason } from '#core/words/reasons.ts';
import { type FieldRule, readFieldValue } from './fields.ts';

const of = (kind: FieldRule['kind'], choices: string[] = []): FieldRule => ({ kind, choices });

describe('a field of one’s own', () => {
  test.each<[FieldRule, string, string | null]>([
    [of('text'), '  canoe  ', 'canoe'],
    [of('text'), '   ', null],
    [of('number'), '1 250', '1250'],
    [of('number'), '3,5', '3.5'],
    [of('number'), '-2', '-2'],
    [of('date'), '2026-02-28', '2026-02-28'],
    [of('yes or no'), 'no', 'no'],
    [of('one of', ['North hut', 'South hut']), 'north hut', 'North hut'],
  ])('%j reads “%s”', (field, typed, value) => expect(readFieldValue(field, typed)).toEqual({ value }));

  test.each<[FieldRule, string, string]>([
    [of('text'), 'x'.repeat(501), 'At most 500 characters.'],
    [of('number'), 'a dozen', 'This is not a number.'],
    [of('number'), '1e9', 'This is not a number.'],
    [of('number'), '1,234,567', 'This is not a number.'],
    [of('date'), '2026-02-29', 'There is no such date.'],
    [of('date'), '28/02/2026', 'There is no such date.'],
    [of('yes or no'), 'perhaps', 'Yes or no.'],
    [of('one of', ['A', 'B']), 'C', 'One of: A, B.'],
  ])('%j refuses “%s”', (field, typed, wrong) => {
    const read = readFieldValue(field, typed);
    expect('wrong' in read && sayReason(read.wrong)).toBe(wrong);
  });
});
