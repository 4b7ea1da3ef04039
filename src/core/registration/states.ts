/** The states of a registration, in the order they happen. Attendance is a separate fact. */
export const registrationStates = [
  'asked',
  'held',
  'waitlisted',
  'offered',
  'confirmed',
  'withdrawn',
  'declined',
  'lapsed',
] as const;
export type RegistrationState = (typeof registrationStates)[number];

const next: Record<RegistrationState, readonly RegistrationState[]> = {
  asked: ['held', 'confirmed', 'waitlisted', 'declined', 'withdrawn', 'lapsed'],
  held: ['confirmed', 'lapsed', 'withdrawn'],
  waitlisted: ['offered', 'withdrawn', 'lapsed'],
  offered: ['held', 'confirmed', 'waitlisted', 'withdrawn', 'lapsed'],
  // Back to the waitlist where there is less room than was given away.
  confirmed: ['withdrawn', 'waitlisted'],
  withdrawn: [],
  declined: [],
  lapsed: ['held', 'confirmed'],
};

/** True when a registration may go from one state to the other. From `lapsed` on only money that came late leads. */
export const mayBecome = (from: RegistrationState, to: RegistrationState): boolean => next[from].includes(to);

/** States in which a seat is taken from the capacity. */
export const occupying: readonly RegistrationState[] = ['held', 'offered', 'confirmed'];

/** States in which somebody still stands behind the registration. */
export const standing: readonly RegistrationState[] = ['asked', 'held', 'waitlisted', 'offered', 'confirmed'];
