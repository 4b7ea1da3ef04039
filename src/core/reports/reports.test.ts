import { expect, test } from 'vitest';
import type { ReportFigures, Totals } from './report.ts';
import { startingWords } from './starting.ts';

const totals = (of: Partial<Totals> = {}): Totals => ({
  events: 4,
  calledOff: 0,
  registered: 200,
  came: 180,
  missed: 20,
  firstTimers: 45,
  people: 150,
  hours: 80,
  money: { seats: 400_000, extras: 0, gifts: 100_000, costs: 200_000 },
  recommend: { would: 0, not: 0, n: 0 },
  ...of,
});
const figures = (of: Partial<ReportFigures> = {}): ReportFigures => ({
  event: null,
  from: '2025-01-01',
  until: '2025-12-31',
  currency: 'CAD',
  now: totals(),
  before: null,
  planned: { seats: 240, income: 0, costs: 0 },
  outcomes: [],
  initiatives: [],
  lessons: [],
  ...of,
});
const silt = {
  measureId: 'm',
  name: { en: 'Silt' },
  unit: { en: 'kg' },
  kind: 'sum',
  direction: 'more',
  decimals: 0,
} as const;

test('each section is said from the figures', () => {
  const said = startingWords(figures({ outcomes: [{ ...silt, planned: 500, total: 400, before: 200 }] }));
  expect(said.planned).toBe('4 events with 240 seats were planned. To be reached: Silt: 500\u00a0kg.');
  expect(said.happened).toBe(
    '4 events were held. 180 people came; of 200 seats that were booked, 90% were used. They were 150 different people on record, 45 of them (30%) for the first time. The crew served 80 hours.',
  );
  expect(said.money).toBe(
    '$5,000 came in, $1,000 of it as gifts. $2,000 was spent. $3,000 was left over. That is $16.67 for each who came.',
  );
  expect(said.changed).toBe('Silt: 400\u00a0kg of 500\u00a0kg planned (100% more than before).');
  expect(said.asked).toBe('Nothing is asked for. Say here what the board is to decide.');
});

test('it is held against the time before, and against its plan where it is one event', () => {
  const before = totals({ came: 90, money: { seats: 500_000, extras: 0, gifts: 500_000, costs: 0 } });
  const said = startingWords(
    figures({ before, event: 'Supper', planned: { seats: 240, income: 1_000_000, costs: 300_000 } }),
  );
  expect(said.planned).toBe('There were 240 seats planned. It was to bring $10,000 and to cost $3,000.');
  expect(said.happened).toContain('180 people came (100% more than before)');
  expect(said.happened).not.toContain('held');
  expect(said.money).toContain('(50% less than before)');
  expect(said.money).toContain('50% of the planned $10,000 came in.');
  expect(startingWords(figures({ before: totals({ came: 178 }) })).happened).toContain('(as many as before)');
  // Of several events only some have a plan of their money.
  const many = startingWords(figures({ planned: { seats: null, income: 1_000_000, costs: 0 } }));
  expect(many.planned).toBe('No figures were planned.');
  expect(many.money).not.toContain('of the planned');
});

test('what falls short is where somebody begins to ask', () => {
  const goal = {
    ...silt,
    target: 5000,
    from: '2025-01-01',
    by: '2027-12-31',
    state: 'under way',
    value: 1000,
    reachedOn: null,
    ahead: { value: 2000, low: 1500, high: 2500, likely: 0.01 },
    monthly: { now: 55.4, needed: 222.2 },
  } as const;
  const of = figures({
    now: totals({
      money: { seats: 0, extras: 0, gifts: 0, costs: 100 },
      recommend: { would: 30, not: 5, n: 50 },
    }),
    initiatives: [{ name: 'Clear Water', goals: [goal] }],
    lessons: ['Two people for the life jackets.'],
  });
  const said = startingWords(of);
  expect(said.asked.split('\n')).toEqual([
    'Silt takes 220\u00a0kg a month to be reached, and 55\u00a0kg comes in: help us to more, or to another date.',
    'What fell short has to come from elsewhere.',
    'What we learnt: Two people for the life jackets.',
  ]);
  expect(said.changed).toMatch(/^Clear Water, Silt: 1,000\u00a0kg so far\./u);
  expect(said.changed).toMatch(/a score of 50 \(between 29 and 66, 50 answers\)\.$/u);
  expect(said.money).toContain('It fell short by $1.');
  const likely = { ...goal, ahead: { ...goal.ahead, likely: 0.9 } };
  expect(
    startingWords({ ...of, initiatives: [{ name: 'Clear Water', goals: [likely] }] }).asked,
  ).not.toContain('Silt');
});
