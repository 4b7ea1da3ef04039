/** The states of one charge of a card, in the order they happen. */
export const attemptStates = ['asked', 'step', 'unknown', 'succeeded', 'declined'] as const;
export type AttemptState = (typeof attemptStates)[number];

/** States of a charge of which it is not known yet what became of it: until then nothing lapses and nothing is charged again. */
export const openAttempts: readonly AttemptState[] = ['asked', 'step', 'unknown'];
