/** The states of one step of a clearance. */
export const stepStates = [
  'waiting',
  'with approver',
  'cleared',
  'cleared with conditions',
  'sent back',
  'refused',
  'reopened',
] as const;
export type StepState = (typeof stepStates)[number];

export const decisions = ['clear', 'clear with conditions', 'send back', 'refuse'] as const;
export type DecisionWord = (typeof decisions)[number];

export interface Step {
  id: string;
  order: number;
  state: StepState;
}

const outcomeOf: Record<DecisionWord, StepState> = {
  clear: 'cleared',
  'clear with conditions': 'cleared with conditions',
  'send back': 'sent back',
  refuse: 'refused',
};

const isCleared = (s: StepState): boolean => s === 'cleared' || s === 'cleared with conditions';

/** What a clearance as a whole stands at. */
export type ClearanceStanding = 'under way' | 'cleared' | 'sent back' | 'refused';

/** True when a step is with its approver and can be decided. */
export const isOpenForDecision = (s: StepState): boolean => s === 'with approver' || s === 'reopened';

/** The steps after one was decided: when all steps of an order are cleared, those of the next order go to their approvers. */
export function decideStep<S extends Step>(steps: readonly S[], stepId: string, decision: DecisionWord): S[] {
  return handOver(steps.map((s) => (s.id === stepId ? { ...s, state: outcomeOf[decision] } : s)));
}

/** Hands the first order that is not fully cleared to its approvers. */
export function handOver<S extends Step>(steps: readonly S[]): S[] {
  const open = steps.filter((s) => !isCleared(s.state)).map((s) => s.order);
  if (!open.length || steps.some((s) => s.state === 'refused' || s.state === 'sent back')) return [...steps];
  const first = Math.min(...open);
  return steps.map((s) =>
    s.order === first && s.state === 'waiting' ? { ...s, state: 'with approver' } : s,
  );
}

/** The standing of the whole, from its steps. No steps means cleared. */
export function standingOf(steps: readonly Step[]): ClearanceStanding {
  if (steps.some((s) => s.state === 'refused')) return 'refused';
  if (steps.some((s) => s.state === 'sent back')) return 'sent back';
  return steps.every((s) => isCleared(s.state)) ? 'cleared' : 'under way';
}

/** Decisions that need words with them. */
export const needsWords = (decision: DecisionWord): boolean => decision !== 'clear';

/** True when somebody may decide a step: they approve for it, it waits for them, and it was not them who sent the plan. */
export const mayDecideStep = (
  step: { state: StepState; approves: string },
  by: { approves: readonly string[]; sent: boolean },
): boolean => isOpenForDecision(step.state) && by.approves.includes(step.approves) && !by.sent;
