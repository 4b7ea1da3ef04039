import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Condition,
  columnKindOf,
  comparisons,
  comparisonsOf,
  everySeat,
  firstOfOrders,
  fixedColumns,
  type NarrowedSeat,
  narrowed,
  sameFilter,
} from './narrowing.ts';

const seat = (part: Partial<NarrowedSeat>): NarrowedSeat => ({
  orderId: 'o1',
  orderNumber: 1001,
  given: 'Fern',
  family: 'Ålder',
  buyer: 'Fern Ålder',
  email: null,
  phone: null,
  offer: 'Shore walk',
  state: 'confirmed',
  attendance: null,
  waiver: 'not asked',
  received: 0,
  balance: 0,
  source: null,
  since: '2026-07-01T02:30:00.000Z',
  arrivedAt: null,
  extras: [],
  sessions: [],
  answers: {},
  ...part,
});
/** Three hours behind, as Halifax is in summer. */
const dayOf = (at: string) => new Date(Date.parse(at) - 3 * 3_600_000).toISOString().slice(0, 10);
const left = (part: Partial<NarrowedSeat>, ...conditions: Condition[]) =>
  narrowed([seat(part)], { q: '', conditions }, dayOf).length === 1;
const is = (column: string, how: Condition['is'], ...values: string[]): Condition => ({
  column,
  is: how,
  values,
});
const answered = (value: string | boolean | string[], file: string | null = null) => ({
  q: { value, file: file ? { name: file } : null },
});

describe('one condition', () => {
  test.each<[string, Partial<NarrowedSeat>, Condition, boolean]>([
    ['one of some', { offer: 'Shore walk' }, is('offer', 'any of', 'Shore walk', 'Canoe'), true],
    ['none of some', { offer: 'Shore walk' }, is('offer', 'none of', 'Shore walk'), false],
    ['nothing is none of anything', { source: null }, is('source', 'none of', 'Poster'), true],
    ['words however they are written', {}, is('name', 'holds', 'alder'), true],
    ['every one of the words', {}, is('name', 'holds', 'alder', 'birch'), false],
    ['amounts as numbers', { balance: 900 }, is('balance', 'at least', '1000'), false],
    ['as much as that', { balance: 1000 }, is('balance', 'at least', '1000'), true],
    ['below nothing', { balance: -2500 }, is('balance', 'at most', '-1'), true],
    ['the day where the event is', {}, is('since', 'at most', '2026-06-30'), true],
    ['the day after', {}, is('since', 'at least', '2026-07-01'), false],
    ['nobody came yet', {}, is('arrived', 'missing'), true],
    ['nothing to compare with day', {}, is('arrived', 'at least', '2026-01-01'), false],
    ['an answer of several', { answers: answered(['bus', 'on foot']) }, is('q', 'any of', 'on foot'), true],
    ['a tick', { answers: answered(true) }, is('q', 'any of', 'yes'), true],
    ['numbers that are answered', { answers: answered('12') }, is('q', 'at least', '9'), true],
    ['words are not more than a number', { answers: answered('twelve') }, is('q', 'at least', '9'), false],
    ['and not less', { answers: answered('twelve') }, is('q', 'at most', '9'), false],
    ['a number is not more than words', { answers: answered('12') }, is('q', 'at least', 'few'), false],
    ['a file by its name', { answers: answered('id', 'first aid.pdf') }, is('q', 'holds', 'aid'), true],
    ['an answer that is not there', {}, is('q', 'given'), false],
    ['a column that is not there', {}, is('no such', 'missing'), true],
    ['one that is not filled in yet', {}, is('offer', 'any of'), true],
    ['blanks fill nothing in', {}, is('offer', 'any of', ' '), true],
  ])('%s', (_, part, condition, holds) => {
    expect(left(part, condition)).toBe(holds);
  });

  test('what can be compared goes with what a column holds', () => {
    expect(columnKindOf({ kind: 'long text' })).toBe('text');
    expect(columnKindOf({ kind: 'date' })).toBe('day');
    for (const { kind } of Object.values(fixedColumns))
      for (const how of comparisonsOf[kind]) expect(comparisons).toContain(how);
    expect(comparisonsOf.amount).not.toContain('holds');
  });
});

describe('the table', () => {
  test('all conditions hold, and the words are somewhere: names, addresses, orders, answers', () => {
    const rows = [
      seat({ given: 'Ida', email: 'ida@marsh.example' }),
      seat({ given: 'Ole', orderNumber: 2042, answers: answered('by bicycle') }),
    ];
    const found = (q: string, ...conditions: Condition[]) =>
      narrowed(rows, { q, conditions }, dayOf).map((r) => r.given);
    expect(found('marsh')).toEqual(['Ida']);
    expect(found('2042 bicycle')).toEqual(['Ole']);
    expect(found('', is('name', 'holds', 'o'), is('email', 'missing'))).toEqual(['Ole']);
    expect(narrowed(rows, everySeat, dayOf)).toEqual(rows);
  });

  test('each condition more leaves no seat more, and none of is the rest of any of', () => {
    const states = ['confirmed', 'held', 'withdrawn'] as const;
    fc.assert(
      fc.property(
        fc.array(fc.record({ state: fc.constantFrom(...states), balance: fc.integer({ min: -9, max: 9 }) })),
        fc.subarray([...states], { minLength: 1 }),
        fc.integer({ min: -9, max: 9 }),
        (parts, wanted, most) => {
          const rows = parts.map(seat);
          const by = (...conditions: Condition[]) => narrowed(rows, { q: '', conditions }, dayOf);
          const any = by(is('state', 'any of', ...wanted));
          expect(by(is('state', 'none of', ...wanted)).length).toBe(rows.length - any.length);
          const both = by(is('state', 'any of', ...wanted), is('balance', 'at most', String(most)));
          expect(both).toEqual(any.filter((r) => r.balance <= most));
        },
      ),
    );
  });

  test('filters are the same whatever the order of their keys, and not of their conditions', () => {
    const [a, b] = [is('offer', 'any of', 'Walk'), is('name', 'holds', 'x')];
    const turned = { values: ['Walk'], is: 'any of' as const, column: 'offer' };
    expect(sameFilter({ q: '', conditions: [a] }, { conditions: [turned], q: '' })).toBe(true);
    expect(sameFilter({ q: '', conditions: [a, b] }, { q: '', conditions: [b, a] })).toBe(false);
    for (const other of [
      is('offer', 'any of', 'Walk', 'x'),
      is('offer', 'any of', 'x'),
      is('offer', 'none of', 'Walk'),
      is('name', 'any of', 'Walk'),
    ])
      expect(sameFilter({ q: '', conditions: [a] }, { q: '', conditions: [other] })).toBe(false);
    expect(sameFilter({ q: 'a', conditions: [] }, { q: '', conditions: [] })).toBe(false);
  });

  test('what belongs to an order stands with the first of its seats that are shown', () => {
    const rows = [
      { id: 'b', orderId: 'x' },
      { id: 'a', orderId: 'x' },
      { id: 'c', orderId: 'y' },
    ];
    expect([...firstOfOrders(rows)]).toEqual(['b', 'c']);
    expect([...firstOfOrders(rows.slice(1))]).toEqual(['a', 'c']);
  });
});
