/** The states of somebody on a shift, in the order they happen. */
export const assignmentStates = ['proposed', 'agreed', 'dropped', 'served', 'missed'] as const;
export type AssignmentState = (typeof assignmentStates)[number];

/** States in which somebody counts on the shift. */
export const onShift: readonly AssignmentState[] = ['proposed', 'agreed', 'served', 'missed'];

/** Why somebody on a shift cannot be marked so. */
export type AssignmentRefusal = { code: 'dropped' } | { code: 'not-yet' };

/**
 * Why an assignment cannot become what is wanted; null where it can. Whoever was dropped is put on anew, so that they are
 * told; what was served or missed is known once the shift has begun, and can be corrected.
 */
export function refusalOf(
  assignment: { state: AssignmentState; begun: boolean },
  to: Exclude<AssignmentState, 'proposed'>,
): AssignmentRefusal | null {
  if (assignment.state === 'dropped') return { code: 'dropped' };
  if ((to === 'served' || to === 'missed') && !assignment.begun) return { code: 'not-yet' };
  return null;
}
