import fc from 'fast-check';
import { expect, test } from 'vitest';
import { shiftDate } from '#core/time/dates.ts';
import { readAmount } from './amount.ts';
import { countingState, countingWindow, problemWithTime } from './counting.ts';
import { byDay, standingByDay, trendOf } from './days.ts';
import { type Measure, sayFigure, settledOf } from './measure.ts';
import { sayTrend } from './sayTrend.ts';
import { doubtsAbout, perEach, type SignedTally, type Tally, totalOf } from './tally.ts';
import { type Goal, trendOfLatest, trendOfSum } from './trend.ts';

const kilos = { kind: 'sum', unit: { en: 'kg' }, decimals: 1 } as const;
const birds = { kind: 'count', unit: { en: 'birds' }, decimals: 0 } as const;
const depth = { kind: 'latest', unit: { en: 'cm' }, decimals: 0 } as const;

test.each([
  ['12', 12],
  ['12,5 kg', 12.5],
  ['1,200', 1200],
  ['1 200,5', 1200.5],
  ['1.200,5', 1200.5],
  ['1,200.5', 1200.5],
  ['.5', 0.5],
  ['26 lb', 11.8],
  ['500 g', 0.5],
  ['0.2 t', 200],
  ['12 KG.', 12],
])('%s is %d kilograms', (typed, value) => {
  expect(readAmount(typed, kilos)).toEqual({ value });
});

test('a foot is 30.48 cm, an acre 0.4 ha, an hour 60 minutes', () => {
  expect(readAmount('1 ft', { ...depth, decimals: 2 })).toEqual({ value: 30.48 });
  expect(readAmount('1 acre', { kind: 'sum', unit: { en: 'ha' }, decimals: 3 })).toEqual({ value: 0.405 });
  expect(readAmount('1.5 h', { kind: 'sum', unit: { en: 'min' }, decimals: 0 })).toEqual({ value: 90 });
});

test.each([
  ['twelve', kilos, 'tally-no-number'],
  ['', kilos, 'tally-no-number'],
  ['12 m', kilos, 'tally-other-unit'],
  ['12 birds', kilos, 'tally-other-unit'],
  ['-3', kilos, 'tally-negative'],
  ['0', kilos, 'tally-nothing'],
  ['0.01', kilos, 'tally-nothing'],
  ['9999999999', kilos, 'tally-too-large'],
  ['2.5', birds, 'not-whole'],
  ['1.2.3,4,5', kilos, 'tally-no-number'],
] as const)('%s is refused', (typed, measure, code) => {
  expect(readAmount(typed, measure).wrong?.code).toBe(code);
});

test('what is measured can be below nought, and nought', () => {
  expect(readAmount('−4', depth)).toEqual({ value: -4 });
  expect(readAmount('0', depth)).toEqual({ value: 0 });
});

test('a figure is read as it is written, in either language', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 9_999_999 }),
      fc.constantFrom('en-CA', 'fr-CA', 'de'),
      (tenths, language) => {
        const typed = new Intl.NumberFormat(language, { minimumFractionDigits: 1 }).format(tenths / 10);
        expect(readAmount(typed, kilos)).toEqual({ value: tenths / 10 });
      },
    ),
  );
});

const zone = 'America/Halifax';
const count = { startsAt: '2026-05-02T23:00:00.000Z', endsAt: '2026-05-03T05:00:00.000Z', zone };

test('a counting window keeps the wall time across the change of clocks', () => {
  // The clocks went forward on 8 March 2026: 20:00 stays 20:00.
  const march = { startsAt: '2026-03-08T23:00:00.000Z', endsAt: '2026-03-09T01:00:00.000Z', zone };
  expect(countingWindow(march, { opensDays: 1, closesDays: 0 })).toEqual({
    from: '2026-03-08T00:00:00.000Z',
    until: '2026-03-09T01:00:00.000Z',
  });
  expect(countingWindow({ ...count, startsAt: null }, { opensDays: 1, closesDays: 1 })).toBeNull();
  expect(countingWindow({ ...count, endsAt: null }, { opensDays: 0, closesDays: 0 })).toEqual({
    from: count.startsAt,
    until: count.startsAt,
  });
});

test('a tally is neither in the future nor outside the window', () => {
  const window = countingWindow(count, { opensDays: 1, closesDays: 2 })!;
  const now = '2026-05-03T02:00:00.000Z';
  expect(problemWithTime('2026-05-03T01:00:00.000Z', window, now)).toBeNull();
  expect(problemWithTime('2026-05-03T02:05:00.000Z', window, now)).toBeNull();
  expect(problemWithTime('2026-05-03T02:06:00.000Z', window, now)).toBe('tally-ahead');
  expect(problemWithTime('2026-05-01T22:59:00.000Z', window, now)).toBe('tally-outside');
  expect(problemWithTime(window.until, window, '2026-06-01T00:00:00.000Z')).toBeNull();
  expect(problemWithTime('2026-05-05T05:01:00.000Z', window, '2026-06-01T00:00:00.000Z')).toBe(
    'tally-outside',
  );
  expect(problemWithTime(now, null, now)).toBe('tally-undated');
  expect(countingState(window, '2026-05-01T22:00:00.000Z')).toBe('not yet');
  expect(countingState(window, now)).toBe('open');
  expect(countingState(window, '2026-05-05T05:00:01.000Z')).toBe('over');
  expect(countingState(null, now)).toBe('undated');
});

const tally = (of: Partial<SignedTally> = {}): SignedTally => ({
  measureId: 'm',
  value: 10,
  thing: '',
  countedAt: '2026-05-03T01:00:00.000Z',
  enteredAt: '2026-05-03T01:00:00.000Z',
  contactId: 'c1',
  byName: 'Wren Aldous',
  ...of,
});
const open: Pick<Measure, 'most' | 'enteredBy' | 'lookedAt' | 'kind'> = {
  most: null,
  enteredBy: 'people',
  lookedAt: false,
  kind: 'sum',
};

test('what somebody enters who was there counts at once; for others it waits', () => {
  const doubts = (entrant: Parameters<typeof doubtsAbout>[2], measure = open) =>
    doubtsAbout(tally(), measure, entrant, []);
  expect(doubts({ known: 'people', there: true })).toEqual([]);
  expect(doubts({ known: 'crew', there: true })).toEqual([]);
  expect(doubts({ known: 'people', there: false })).toEqual(['not there']);
  expect(doubts({ known: 'nobody' })).toEqual(['nobody']);
  expect(doubts({ known: 'people', there: true }, { ...open, enteredBy: 'crew' })).toEqual(['not theirs']);
  expect(doubts({ known: 'crew', there: true }, { ...open, enteredBy: 'crew' })).toEqual([]);
  expect(doubts({ known: 'nobody' }, { ...open, enteredBy: 'anyone' })).toEqual([]);
  expect(doubts({ known: 'people', there: true }, { ...open, lookedAt: true })).toEqual(['looked at']);
  expect(doubts({ known: 'team' }, { ...open, lookedAt: true })).toEqual([]);
});

test('much more than is usual waits, and so does the same entered again', () => {
  const there = { known: 'people', there: true } as const;
  const others = [8, 9, 10, 11, 12].map((value, at) => tally({ value, contactId: `o${at}` }));
  const doubts = (of: Partial<SignedTally>, measure = open, beside = others) =>
    doubtsAbout(tally(of), measure, there, beside);
  expect(doubts({ value: 99 })).toEqual([]);
  expect(doubts({ value: 100 })).toEqual(['much']);
  expect(doubts({ value: 100 }, open, others.slice(1))).toEqual([]);
  expect(doubts({ value: 51 }, { ...open, most: 50 }, [])).toEqual(['much']);
  expect(doubts({ value: 50 }, { ...open, most: 50 }, [])).toEqual([]);
  // What is measured again and again may jump.
  expect(doubts({ value: 900 }, { ...open, kind: 'latest' })).toEqual([]);
  const again = (of: Partial<SignedTally>) => doubts(of, open, [tally()]);
  expect(again({ countedAt: '2026-05-03T01:10:00.000Z' })).toEqual(['twice']);
  expect(again({ countedAt: '2026-05-03T01:11:00.000Z' })).toEqual([]);
  expect(again({ value: 11 })).toEqual([]);
  expect(again({ contactId: 'c2' })).toEqual([]);
  expect(doubts({ contactId: null, byName: 'WREN aldous' }, open, [tally({ contactId: null })])).toEqual([
    'twice',
  ]);
  expect(doubts({ contactId: null, byName: '' }, open, [tally({ contactId: null, byName: '' })])).toEqual([]);
});

test('tallies come to a figure by their kind', () => {
  const of = (value: number | null, at: string, thing = ''): Tally => ({
    measureId: 'm',
    value,
    thing,
    countedAt: at,
    enteredAt: at,
  });
  expect(totalOf('sum', [of(0.1, 'a'), of(0.2, 'b')])).toBe(0.3);
  expect(totalOf('count', [of(3, 'a'), of(4, 'b')])).toBe(7);
  expect(totalOf('latest', [of(40, '2026-02'), of(35, '2026-03'), of(50, '2026-01')])).toBe(35);
  expect(totalOf('latest', [])).toBeNull();
  expect(
    totalOf('distinct', [of(null, 'a', 'Grey heron'), of(null, 'b', 'grey  heron'), of(null, 'c', 'Sora')]),
  ).toBe(2);
  expect(totalOf('sum', [])).toBe(0);
});

test('what an event came to by what it took', () => {
  const took = { heads: 40, hours: 80, spent: 20_000 };
  expect(perEach('sum', 120, took)).toEqual({ head: 3, hour: 1.5, spent: 0.6 });
  expect(perEach('sum', 120, { heads: 0, hours: 0, spent: 0 })).toEqual({
    head: null,
    hour: null,
    spent: null,
  });
  expect(perEach('latest', 120, took)).toEqual({ head: null, hour: null, spent: null });
  expect(perEach('distinct', 12, took)).toEqual({ head: null, hour: null, spent: null });
});

test('a measure keeps what was counted by it', () => {
  const measure = { kind: 'sum', unit: { en: 'kg' }, decimals: 1 } as const;
  expect(settledOf(measure)).toEqual(settledOf({ ...measure, unit: { en: ' KG ', fr: 'kg' } }));
  expect(settledOf(measure)).not.toEqual(settledOf({ ...measure, unit: { en: 'lb' } }));
});

test('figures stand with their unit; money as money', () => {
  expect(sayFigure(1240.5, kilos, 'en')).toBe('1,240.5\u00a0kg');
  expect(sayFigure(1240, kilos, 'en')).toBe('1,240\u00a0kg');
  expect(sayFigure(1240.5, kilos, 'fr')).toBe('1\u202f240,5\u00a0kg');
  expect(sayFigure(4000, { decimals: 0, unit: { en: 'CAD' } }, 'en-CA')).toBe('$4,000');
});

const goal: Goal = { direction: 'more', target: 1200, from: '2026-01-01', by: '2026-12-31' };
const weekly = (n: number, value: number, from = '2026-01-01') =>
  Array.from({ length: n }, (_, at) => ({ on: shiftDate(from, at * 7), value }));

test('a pace goes on, with the bounds of a compound Poisson process', () => {
  // 26 figures of 20 in 181 days; 184 are left: 520 · 184/181 more. Variance Σx²·(r + r²).
  const trend = trendOfSum(goal, weekly(26, 20), '2026-06-30');
  const r = 184 / 181;
  expect(trend).toMatchObject({ state: 'under way', value: 520, reachedOn: null });
  expect(trend.ahead!.value).toBeCloseTo(520 + 520 * r, 6);
  const spread = Math.sqrt(26 * 400 * (r + r * r));
  expect(trend.ahead!.high - trend.ahead!.value).toBeCloseTo(1.959964 * spread, 3);
  expect(trend.ahead!.low).toBeCloseTo(trend.ahead!.value - 1.959964 * spread, 3);
  // z = (1048.6 − 1200) / 146.2 = −1.035: 15 in 100.
  expect(trend.ahead!.likely).toBeCloseTo(0.15, 2);
  expect(trend.monthly!.needed).toBeCloseTo((680 / 184) * (365.25 / 12), 6);
  expect(trend.monthly!.now).toBeCloseTo((520 / 181) * (365.25 / 12), 6);
});

test('a goal is reached on its day, missed after it, and not told from too little', () => {
  expect(trendOfSum({ ...goal, target: 100 }, weekly(26, 20), '2026-06-30')).toMatchObject({
    state: 'reached',
    reachedOn: '2026-01-29',
  });
  expect(trendOfSum(goal, weekly(26, 20), '2027-01-01')).toMatchObject({ state: 'missed', ahead: null });
  // What came after its day does not count to it.
  expect(trendOfSum({ ...goal, by: '2026-01-10' }, weekly(26, 20), '2026-06-30').value).toBe(40);
  expect(trendOfSum(goal, weekly(26, 20, '2025-12-01'), '2026-06-30').value).toBe(20 * 21);
  expect(trendOfSum(goal, weekly(2, 20), '2026-06-30').ahead).toBeNull();
  expect(trendOfSum(goal, weekly(4, 20), '2026-01-20').ahead).toBeNull();
  expect(trendOfSum(goal, [], '2025-06-30').state).toBe('to come');
  expect(trendOfSum({ ...goal, direction: 'less' }, weekly(52, 30), '2026-12-30').state).toBe('missed');
  expect(trendOfSum({ ...goal, direction: 'less' }, weekly(10, 20), '2027-01-30').state).toBe('reached');
});

test('the pace is that of the last year', () => {
  const long: Goal = { ...goal, from: '2024-01-01', by: '2026-12-31', target: 1e6 };
  const days = [...weekly(52, 1000, '2024-01-01'), ...weekly(52, 10, '2025-07-01')];
  const { monthly } = trendOfSum(long, days, '2026-06-30');
  expect(monthly!.now).toBeCloseTo((520 / 365) * (365.25 / 12), 6);
});

test('what is measured again and again follows a line', () => {
  const clear: Goal = { direction: 'more', target: 80, from: '2026-01-01', by: '2026-07-20' };
  const days = [0, 10, 20, 30, 40].map((d, at) => ({
    on: shiftDate('2026-01-01', d),
    value: 50 + d / 10 + (at % 2 ? 0.5 : -0.5),
  }));
  const trend = trendOfLatest(clear, days, '2026-03-01');
  expect(trend.value).toBe(53.5);
  // The wobble is even about the line: its slope stays 0.1 a day, its height 0.1 below.
  expect(trend.ahead!.value).toBeCloseTo(49.9 + 20, 6);
  expect(trend.ahead!.low).toBeLessThan(trend.ahead!.value);
  expect(trend.ahead!.high - trend.ahead!.value).toBeCloseTo(trend.ahead!.value - trend.ahead!.low, 9);
  expect(trend.monthly!.now).toBeCloseTo(0.1 * (365.25 / 12), 6);
  // The bounds of one more measurement (Student, three degrees of freedom).
  const spread = Math.sqrt((1.2 / 3) * (1 + 1 / 5 + 180 ** 2 / 1000));
  expect(trend.ahead!.high - trend.ahead!.value).toBeCloseTo(3.182446 * spread, 4);
  expect(trendOfLatest(clear, days.slice(0, 2), '2026-03-01').ahead).toBeNull();
  expect(trendOfLatest({ ...clear, target: 53 }, days, '2026-03-01').state).toBe('reached');
  expect(trendOfLatest({ ...clear, direction: 'less' }, days, '2026-08-01').state).toBe('reached');
  expect(trendOfLatest(clear, days, '2026-08-01').state).toBe('missed');
});

test('a pace that makes it sure is likely, bounds never below what there is', () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ at: fc.nat(179), value: fc.integer({ min: 1, max: 500 }) }), {
        minLength: 3,
        maxLength: 60,
      }),
      fc.integer({ min: 1, max: 100_000 }),
      (of, target) => {
        const days = of.map(({ at, value }) => ({ on: shiftDate('2026-01-01', at), value }));
        const { ahead, value } = trendOfSum({ ...goal, target }, days, '2026-06-30');
        expect(ahead!.low).toBeGreaterThanOrEqual(value!);
        expect(ahead!.high).toBeGreaterThanOrEqual(ahead!.value);
        expect(ahead!.likely).toBeGreaterThanOrEqual(0);
        expect(ahead!.likely).toBeLessThanOrEqual(1);
        if (ahead!.value > target) expect(ahead!.likely).toBeGreaterThan(0.5);
        if (ahead!.value < target) expect(ahead!.likely).toBeLessThan(0.5);
      },
    ),
  );
});

test('by day: sums, first sightings, newest figures', () => {
  const of = (value: number | null, countedAt: string, thing = ''): Tally => ({
    measureId: 'm',
    value,
    thing,
    countedAt,
    enteredAt: countedAt,
  });
  // 02:00 UTC is still the evening before in Halifax.
  const tallies = [
    of(1, '2026-05-03T02:00:00.000Z'),
    of(2, '2026-05-02T20:00:00.000Z'),
    of(4, '2026-05-04T12:00:00.000Z'),
  ];
  expect(byDay('sum', tallies, zone)).toEqual([
    { on: '2026-05-02', value: 3 },
    { on: '2026-05-04', value: 4 },
  ]);
  expect(byDay('latest', tallies, zone)).toEqual([
    { on: '2026-05-02', value: 1 },
    { on: '2026-05-04', value: 4 },
  ]);
  const things = [
    of(null, '2026-05-02T12:00:00.000Z', 'Sora'),
    of(null, '2026-05-04T12:00:00.000Z', 'sora'),
    of(null, '2026-05-04T13:00:00.000Z', 'Bittern'),
  ];
  expect(byDay('distinct', things, zone)).toEqual([
    { on: '2026-05-02', value: 1 },
    { on: '2026-05-04', value: 1 },
  ]);
  expect(standingByDay('sum', goal, byDay('sum', tallies, zone), '2026-06-01').at(-1)).toEqual({
    on: '2026-05-04',
    value: 7,
  });
  expect(standingByDay('sum', goal, byDay('sum', tallies, zone), '2026-05-03')).toHaveLength(1);
  expect(trendOf('distinct', goal, weekly(26, 20), '2026-06-30').ahead).toBeNull();
});

test('a goal is said in a sentence', () => {
  const said = (of: object, days = weekly(26, 20), today = '2026-06-30') =>
    sayTrend({ ...kilos, ...goal, ...of, ...trendOf('sum', { ...goal, ...of }, days, today) });
  expect(said({})).toContain('is unlikely');
  expect(said({ target: 900 })).toContain('is likely');
  expect(said({ target: 1050 })).toContain('either way');
  expect(said({ target: 100 })).toMatch(/^520\u00a0kg: reached on 29 Jan 2026, 336 days before its day\.$/u);
  expect(said({}, weekly(26, 20), '2027-02-01')).toContain('not reached by 31 Dec 2026');
  expect(said({}, [], '2025-02-01')).toBe('It counts from 1 Jan 2026 on.');
  expect(said({}, weekly(2, 20))).toContain('once there is more');
});
