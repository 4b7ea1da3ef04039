import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { holdsOn, type Span, saySpan, startOf, statusOn } from './membership.ts';

const of = (from: string | null, until: string | null): Span => ({ from, until });

describe('membership on a day', () => {
  test.each<[Span[], string]>([
    [[], 'never a member'],
    [[of('2020-01-01', null)], 'member'],
    [[of(null, null)], 'member'],
    [[of('2026-07-09', '2026-07-09')], 'member'],
    [[of('2026-07-10', null)], 'not yet'],
    [[of(null, '2026-07-08')], 'was a member'],
    // Lapsed and joined again: the one to come counts before the one that ended.
    [[of('2019-01-01', '2020-12-31'), of('2026-08-01', null)], 'not yet'],
    [[of('2019-01-01', '2020-12-31'), of('2026-01-01', '2026-12-31')], 'member'],
  ])('%j', (spans, status) => expect(statusOn(spans, '2026-07-09')).toBe(status));

  test('somebody who is a member on a day is one whatever else they were', () => {
    const day = fc
      .integer({ min: 0, max: 3000 })
      .map((n) => new Date(Date.UTC(2020, 0, 1 + n)).toISOString().slice(0, 10));
    const span = fc
      .tuple(fc.option(day), fc.option(day))
      .map(([a, b]): Span => (a && b && a > b ? of(b, a) : of(a, b)));
    fc.assert(
      fc.property(fc.array(span, { maxLength: 5 }), span, day, (spans, more, on) => {
        if (statusOn(spans, on) === 'member') expect(statusOn([...spans, more], on)).toBe('member');
        expect(statusOn([more], on) === 'member').toBe(holdsOn(more, on));
      }),
    );
  });

  test.each<[Span & { since?: string | null }, string]>([
    [of(null, null), ''],
    [of('2024-03-01', null), 'since 1 Mar 2024'],
    [of(null, '2025-12-31'), 'until 31 Dec 2025'],
    [of('2024-03-01', '2025-12-31'), '1 Mar 2024 to 31 Dec 2025'],
    // Only the year was ever known.
    [{ ...of('2012-01-01', null), since: '2012' }, 'since 2012'],
    [{ ...of(null, '2020-06-30'), since: 'spring 2012' }, 'spring 2012 to 30 Jun 2020'],
  ])('%j is said “%s”', (span, words) => expect(saySpan(span)).toBe(words));

  test('“since” says a day only where it is a year or a date there is', () => {
    expect(startOf('2012')).toBe('2012-01-01');
    expect(startOf('2012-03-31')).toBe('2012-03-31');
    for (const odd of ['2012-02-30', '12', 'spring 2012', '', null, '2012-3-1', '3012'])
      expect(startOf(odd)).toBeNull();
  });
});
