/** What somebody answers who is invited. */
export const replies = ['yes', 'perhaps', 'no'] as const;
export type Reply = (typeof replies)[number];

/** What is asked of those invited: whether they come, and whether they say so when they do not. */
export const replyRules = ['yes', 'yes or no', 'yes, perhaps or no'] as const;
export type ReplyRule = (typeof replyRules)[number];

/** The answers there are by a rule. */
export const repliesOf = (rule: ReplyRule): readonly Reply[] =>
  rule === 'yes' ? ['yes'] : rule === 'yes or no' ? ['yes', 'no'] : replies;

/** How many seats somebody may still take by an invitation: their own, and those of whom they bring along, less those they hold. */
export const seatsByInvitation = (companions: number, held: number): number =>
  Math.max(0, 1 + companions - held);
