import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  decideStep,
  decisions,
  handOver,
  isOpenForDecision,
  isThrough,
  mayDecideStep,
  type Step,
  sendAgain,
  standingOf,
  undecidable,
} from './steps.ts';

const step = (id: string, ...after: string[]): Step => ({ id, after, state: 'waiting' });
const states = (steps: readonly Step[]) => steps.map((s) => s.state);

test('steps go to their approvers as soon as those they wait for are through', () => {
  const sent = handOver([step('a'), step('b'), step('c', 'a'), step('d', 'b', 'c')]);
  expect(states(sent)).toEqual(['with approver', 'with approver', 'waiting', 'waiting']);
  const one = decideStep(sent, 'a', 'clear');
  // It waits for the first alone, and goes on while the second is still looked at.
  expect(states(one)).toEqual(['cleared', 'with approver', 'with approver', 'waiting']);
  const two = decideStep(decideStep(one, 'c', 'clear with conditions'), 'b', 'clear');
  expect(states(two)).toEqual(['cleared', 'cleared', 'cleared with conditions', 'with approver']);
  expect(standingOf(two)).toBe('under way');
  expect(standingOf(decideStep(two, 'd', 'clear'))).toBe('cleared');
  expect(standingOf([])).toBe('cleared');
});

test('sent back, nothing goes on; sent again, who sent it back is asked and what was cleared stays', () => {
  const sent = handOver([step('a'), step('b'), step('c', 'a')]);
  const back = decideStep(decideStep(sent, 'b', 'send back'), 'a', 'clear');
  expect(states(back)).toEqual(['cleared', 'sent back', 'waiting']);
  expect(standingOf(back)).toBe('sent back');
  expect(states(sendAgain(back))).toEqual(['cleared', 'reopened', 'with approver']);
  expect(standingOf(decideStep(sent, 'a', 'refuse'))).toBe('refused');
});

test('what is no longer needed stands in nobody’s way', () => {
  const steps: Step[] = [{ ...step('a'), state: 'not needed' }, step('b', 'a'), step('c', 'gone')];
  expect(states(handOver(steps))).toEqual(['not needed', 'with approver', 'with approver']);
  expect(standingOf([{ state: 'not needed' }, { state: 'cleared' }])).toBe('cleared');
});

test('who decides: all who approve for its word, or one person; never who sent the plan', () => {
  const open = { state: 'with approver' as const, approves: 'safety', approverId: null };
  const tobias = { id: 'tobias', approves: ['safety'], sent: false };
  expect(mayDecideStep(open, tobias)).toBe(true);
  expect(mayDecideStep(open, { ...tobias, sent: true })).toBe(false);
  expect(mayDecideStep({ ...open, state: 'waiting' }, tobias)).toBe(false);
  expect(mayDecideStep({ ...open, state: 'reopened' }, tobias)).toBe(true);
  expect(mayDecideStep(open, { ...tobias, approves: ['finance'] })).toBe(false);
  // Who stands in for somebody decides what would be theirs.
  const deputy = {
    id: 'imani',
    approves: [],
    standsFor: [{ id: 'tobias', approves: ['safety'] }],
    sent: false,
  };
  expect(mayDecideStep(open, deputy)).toBe(true);
  expect(mayDecideStep({ ...open, approves: 'finance' }, deputy)).toBe(false);
  expect(mayDecideStep({ ...open, approves: null, approverId: 'tobias' }, deputy)).toBe(true);
  const named = { ...open, approves: null, approverId: 'marit' };
  expect(mayDecideStep(named, tobias)).toBe(false);
  expect(mayDecideStep(named, { id: 'marit', approves: [], sent: false })).toBe(true);
  expect(undecidable([open, named, { approves: 'boats', approverId: null }], [tobias])).toEqual([
    named,
    { approves: 'boats', approverId: null },
  ]);
});

test('however steps are decided, nobody is asked while what comes before is open', () => {
  fc.assert(
    fc.property(
      fc.array(fc.uniqueArray(fc.nat(5)), { minLength: 1, maxLength: 6 }),
      fc.array(fc.tuple(fc.nat(5), fc.constantFrom(...decisions, 'again' as const)), { maxLength: 14 }),
      (afters, decided) => {
        let steps: Step[] = handOver(
          afters.map((after, n) => step(`s${n}`, ...after.filter((a) => a < n).map((a) => `s${a}`))),
        );
        for (const [n, decision] of decided) {
          if (decision === 'again') {
            steps = sendAgain(steps);
            continue;
          }
          const open = steps.filter((s) => isOpenForDecision(s.state));
          if (!open.length) continue;
          const one = open[n % open.length]!;
          const others = steps.filter((s) => isThrough(s.state)).map((s) => s.id);
          steps = decideStep(steps, one.id, decision);
          // What was cleared before stays so.
          for (const id of others) expect(isThrough(steps.find((s) => s.id === id)!.state)).toBe(true);
        }
        const byId = new Map(steps.map((s) => [s.id, s]));
        for (const s of steps)
          if (s.state === 'with approver')
            expect(
              s.after.every((id) => isThrough(byId.get(id)!.state) || byId.get(id)!.state === 'reopened'),
            ).toBe(true);
        const standing = standingOf(steps);
        expect(standing === 'refused').toBe(steps.some((s) => s.state === 'refused'));
        if (standing === 'cleared') expect(steps.every((s) => isThrough(s.state))).toBe(true);
        if (standing === 'under way') expect(steps.some((s) => isOpenForDecision(s.state))).toBe(true);
      },
    ),
  );
});
