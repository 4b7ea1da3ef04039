/** The states of a message, in the order they happen. */
export const messageStates = ['planned', 'due', 'sent', 'held back', 'failed', 'bounced'] as const;
export type MessageState = (typeof messageStates)[number];

/** States of what is still to go out for the first time. */
export const coming: readonly MessageState[] = ['planned', 'due'];
/** States of what did not reach anybody. */
export const undelivered: readonly MessageState[] = ['failed', 'bounced'];
