/** The states of somebody on a shift, in the order they happen. */
export const assignmentStates = ['proposed', 'agreed', 'dropped', 'served', 'missed'] as const;
export type AssignmentState = (typeof assignmentStates)[number];

/** States in which somebody counts on the shift. Whoever asked for it does only once the crew lead agreed. */
export const onShift: readonly AssignmentState[] = ['agreed', 'served', 'missed'];

/** States in which somebody has a part in the shift, before it and after: whoever never came is written to no more. */
export const takingPart: readonly AssignmentState[] = ['agreed', 'served'];

/** States in which a shift is still somebody's, or may become theirs. */
export const onOrAsked: readonly AssignmentState[] = ['proposed', ...onShift];

/** Why somebody on a shift cannot be marked so. */
export type AssignmentRefusal = { code: 'dropped' } | { code: 'not-yet' } | { code: 'only-asked' };

/**
 * Why an assignment cannot become what is wanted; null where it can. Whoever was dropped is put on anew, so that they are
 * told; what was served or missed is known once the shift has begun, and can be corrected. Whoever only asked served nothing.
 */
export function refusalOf(
  assignment: { state: AssignmentState; begun: boolean },
  to: Exclude<AssignmentState, 'proposed'>,
): AssignmentRefusal | null {
  if (assignment.state === 'dropped') return { code: 'dropped' };
  if (to !== 'served' && to !== 'missed') return null;
  if (assignment.state === 'proposed') return { code: 'only-asked' };
  return assignment.begun ? null : { code: 'not-yet' };
}
