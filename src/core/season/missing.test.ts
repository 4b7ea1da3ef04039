import { expect, test } from 'vitest';
import { type MissingFacts, missingOf } from './missing.ts';

const well: MissingFacts = {
  state: 'open',
  over: false,
  dated: true,
  placed: true,
  onOffer: true,
  unfilled: 0,
};

test('what an event lacks at a glance, while it is planned or runs', () => {
  expect(missingOf(well)).toEqual([]);
  expect(
    missingOf({ ...well, state: 'draft', dated: false, placed: false, onOffer: false, unfilled: 2 }),
  ).toEqual(['date', 'place', 'tickets', 'clearance', 'crew']);
  expect(missingOf({ ...well, unfilled: 1 })).toEqual(['crew']);
});

test('of one that is over, wrapped, called off or hidden nothing', () => {
  expect(missingOf({ ...well, over: true, unfilled: 3 })).toEqual([]);
  for (const state of ['wrapped', 'called off', 'shelved'] as const)
    expect(missingOf({ ...well, state, placed: false })).toEqual([]);
});
