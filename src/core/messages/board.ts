import { emailKey } from '#core/contacts/reach.ts';
import type { Instant } from '#core/time/clock.ts';

/** When a question is shown on the page of its event. */
export const shownRules = ['at once', 'once looked at'] as const;
export type ShownRule = (typeof shownRules)[number];
/** Where nobody chose: anybody can ask in anybody’s name. */
export const usualRule: ShownRule = 'once looked at';

/** States of a question, in the order they happen. */
export const questionStates = ['waits', 'shown', 'hidden'] as const;
export type QuestionState = (typeof questionStates)[number];

/** Whether a question waits for an answer: also one that is not shown yet, but not one that was put away. */
export const isUnanswered = (of: { state: QuestionState; answeredAt: Instant | null }): boolean =>
  of.answeredAt === null && of.state !== 'hidden';

/** The name somebody is shown by: what they are called, and no more of the rest than its first letter. */
export function shownName(name: string): string {
  const [given = '', ...rest] = name.trim().split(/\s+/u);
  const last = rest.at(-1);
  return last ? `${given} ${[...last][0]}.` : given;
}

/** Who hears of an answer besides whoever asked: of one that is shown, those who follow the event, each address once. */
export function heardBy<Follower extends { email: string | null }>(
  question: { email: string; state: QuestionState },
  followers: readonly Follower[],
): Follower[] {
  if (question.state !== 'shown') return [];
  const told = new Set([emailKey(question.email)]);
  return followers.filter(({ email }) => {
    const key = emailKey(email ?? '');
    if (!key || told.has(key)) return false;
    told.add(key);
    return true;
  });
}
