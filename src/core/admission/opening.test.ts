import { expect, test } from 'vitest';
import { opensLocal } from './opening.ts';

const [june, july, august] = ['2026-06-01T10:00', '2026-07-01T10:00', '2026-08-01T10:00'];

test.each([
  [null, [], null],
  [july, [], july],
  // Members from June, everybody from July; some tickets from the beginning.
  [null, [july, june], june],
  [null, [july, null], null],
  // They may come from June, and tickets are sold from July.
  [july, [june], july],
  [june, [august], august],
])('tickets from %s, ways from %j: %s', (salesOpenLocal, ways, opens) => {
  expect(
    opensLocal({ salesOpenLocal, admission: { ways: ways.map((opensLocal) => ({ opensLocal })) } }),
  ).toBe(opens);
});
