import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { becomes, isPossible, type Move, moves, movesOf, type Position, refusalOf } from './moves.ts';
import { eventStates } from './states.ts';

const position = (of: Partial<Position>): Position => ({
  state: 'draft',
  isTemplate: false,
  ended: false,
  absencesFound: false,
  cleared: false,
  blocked: [],
  lacking: false,
  before: null,
  ...of,
});

describe('what can be done with an event', () => {
  test.each<[Partial<Position>, Move[]]>([
    [{ state: 'draft' }, ['shelve', 'call off']],
    [{ state: 'in clearance' }, ['shelve', 'call off']],
    [{ state: 'cleared' }, ['shelve', 'call off']],
    [{ state: 'cleared', cleared: true }, ['open', 'shelve', 'call off']],
    [{ state: 'cleared', cleared: true, lacking: true }, ['shelve', 'call off']],
    [{ state: 'open' }, ['close', 'call off']],
    [{ state: 'closed' }, ['open', 'call off']],
    [{ state: 'closed', ended: true }, []],
    [{ state: 'closed', ended: true, absencesFound: true }, ['wrap up']],
    [{ state: 'wrapped', ended: true }, ['shelve']],
    [{ state: 'called off' }, ['shelve']],
    [{ state: 'shelved' }, ['bring back']],
    // A draft whose date has passed can be put away, or called off so that the trace says why.
    [{ state: 'draft', ended: true }, ['shelve', 'call off']],
    [{ state: 'open', isTemplate: true }, []],
  ])('%j: %j', (of, can) => expect(movesOf(position(of))).toEqual(can));

  test('says why not', () => {
    expect(refusalOf(position({ state: 'wrapped' }), 'open')).toEqual({
      code: 'event-state',
      state: 'wrapped',
      move: 'open',
    });
    expect(refusalOf(position({ state: 'cleared' }), 'open')).toEqual({ code: 'not-cleared' });
    expect(refusalOf(position({ state: 'closed', ended: true }), 'open')).toEqual({ code: 'ended' });
    expect(refusalOf(position({ state: 'closed', lacking: true }), 'open')).toEqual({ code: 'lacking' });
    expect(refusalOf(position({ state: 'closed' }), 'wrap up')).toEqual({ code: 'not-over' });
    expect(refusalOf(position({ state: 'open', ended: true }), 'call off')).toEqual({ code: 'ended' });
  });

  test('what was over comes back as it was, what was under way as a draft', () => {
    for (const before of eventStates)
      expect(becomes({ before }, 'bring back')).toBe(
        before === 'wrapped' || before === 'called off' ? before : 'draft',
      );
    expect(becomes({ before: null }, 'bring back')).toBe('draft');
  });

  test('every move that is allowed leads where the states allow', () => {
    fc.assert(
      fc.property(
        fc.record({
          state: fc.constantFrom(...eventStates),
          isTemplate: fc.boolean(),
          ended: fc.boolean(),
          absencesFound: fc.boolean(),
          cleared: fc.boolean(),
          blocked: fc.constantFrom([], ['A second boat.']),
          lacking: fc.boolean(),
          before: fc.constantFrom(...eventStates),
        }),
        fc.constantFrom(...moves),
        (of, move) => {
          if (refusalOf(of, move) === null) expect(isPossible(of.state, move)).toBe(true);
        },
      ),
    );
  });
});
