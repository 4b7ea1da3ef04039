/** The states of attendance, in the order they happen. */
export const attendanceStates = ['expected', 'arrived', 'left', 'missed'] as const;
export type AttendanceState = (typeof attendanceStates)[number];

/** States of somebody who came. */
export const came: readonly AttendanceState[] = ['arrived', 'left'];

/** True of somebody who came, whether they are still in or left. */
export const hasCome = (state: AttendanceState | null): boolean => state !== null && came.includes(state);
