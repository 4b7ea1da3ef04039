/** The states of one step of a clearance. */
export const stepStates = [
  'waiting',
  'with approver',
  'cleared',
  'cleared with conditions',
  'sent back',
  'refused',
  'reopened',
  'not needed',
] as const;
export type StepState = (typeof stepStates)[number];

export const decisions = ['clear', 'clear with conditions', 'send back', 'refuse'] as const;
export type DecisionWord = (typeof decisions)[number];

export interface Step {
  id: string;
  /** The steps it waits for. */
  after: readonly string[];
  state: StepState;
}

const outcomeOf: Record<DecisionWord, StepState> = {
  clear: 'cleared',
  'clear with conditions': 'cleared with conditions',
  'send back': 'sent back',
  refuse: 'refused',
};

/** True of a step that stands in nobody's way: cleared, or no longer needed. */
export const isThrough = (s: StepState): boolean =>
  s === 'cleared' || s === 'cleared with conditions' || s === 'not needed';

/** What a clearance as a whole stands at. */
export type ClearanceStanding = 'under way' | 'cleared' | 'sent back' | 'refused';

/** True when a step is with its approver and can be decided. */
export const isOpenForDecision = (s: StepState): boolean => s === 'with approver' || s === 'reopened';

/** The steps after one was decided: those that waited for it alone go to their approvers once it is cleared. */
export function decideStep<S extends Step>(steps: readonly S[], stepId: string, decision: DecisionWord): S[] {
  return handOver(steps.map((s) => (s.id === stepId ? { ...s, state: outcomeOf[decision] } : s)));
}

/** Hands every step whose turn has come to its approvers. Nothing is handed on while one is refused or sent back. */
export function handOver<S extends Step>(steps: readonly S[]): S[] {
  if (steps.some((s) => s.state === 'refused' || s.state === 'sent back')) return [...steps];
  const through = new Set(steps.filter((s) => isThrough(s.state)).map((s) => s.id));
  const there = new Set(steps.map((s) => s.id));
  return steps.map((s) =>
    s.state === 'waiting' && s.after.every((id) => through.has(id) || !there.has(id))
      ? { ...s, state: 'with approver' }
      : s,
  );
}

/** A plan that was sent back is sent again: whoever sent it back is asked again, and what was cleared stays so. */
export function sendAgain<S extends Step>(steps: readonly S[]): S[] {
  return handOver(
    steps.map((s) => (s.state === 'sent back' || s.state === 'refused' ? { ...s, state: 'reopened' } : s)),
  );
}

/** The standing of the whole, from its steps. No steps means cleared. */
export function standingOf(steps: readonly Pick<Step, 'state'>[]): ClearanceStanding {
  if (steps.some((s) => s.state === 'refused')) return 'refused';
  if (steps.some((s) => s.state === 'sent back')) return 'sent back';
  return steps.every((s) => isThrough(s.state)) ? 'cleared' : 'under way';
}

/** Who may decide a step, as far as it says: all who approve for a word, or one person. */
export interface Decides {
  approves: string | null;
  approverId: string | null;
  /** Whoever decided it left, or nobody approves for its word any more: it falls to coordinators. */
  orphaned?: boolean;
}

/** Somebody who decides: themselves, and whom they stand in for today. */
export interface Decider {
  id: string;
  approves: readonly string[];
  roles?: readonly string[];
  standsFor?: readonly { id: string; approves: readonly string[] }[];
}

/**
 * True when a step is somebody's to decide, whatever state it is in: their own, or of whom they stand in for; a coordinator's where
 * nobody is left who could.
 */
export const isTheirs = (step: Decides, { standsFor = [], ...by }: Decider): boolean =>
  (step.orphaned === true && by.roles?.includes('coordinator') === true) ||
  [by, ...standsFor].some((one) =>
    step.approverId !== null
      ? step.approverId === one.id
      : step.approves !== null && one.approves.includes(step.approves),
  );

/** True when somebody may decide a step: it is theirs, it waits for them, and it was not them who sent the plan. */
export const mayDecideStep = (
  step: { state: StepState } & Decides,
  by: Decider & { sent: boolean },
): boolean => isOpenForDecision(step.state) && isTheirs(step, by) && !by.sent;

/** Steps that nobody can decide: nobody who is on the team approves for their word, or their person left. */
export const undecidable = <S extends Decides>(
  steps: readonly S[],
  team: readonly { id: string; approves: readonly string[] }[],
): S[] => steps.filter((step) => !team.some((one) => isTheirs(step, one)));
