import type { Wrong } from '#core/words/problems.ts';

/** A question as asked of a registrant. */
export interface Question {
  id: string;
  scope: 'order' | 'attendee';
  kind: 'text' | 'long text' | 'yes or no' | 'one of' | 'several of';
  prompt: string;
  required: boolean;
  choices: string[];
  /** The offer it belongs to; null for every offer. */
  offerId: string | null;
}

export type AnswerValue = string | boolean | string[];

/** The longest answer kept, in characters. */
const longestAnswer = 2000;

/** What is wrong with one answer, or null when it can be kept. An empty answer is `undefined`. */
export function problemWith(question: Question, value: AnswerValue | undefined): Omit<Wrong, 'path'> | null {
  const empty =
    value === undefined ||
    (typeof value === 'string' && !value.trim()) ||
    (Array.isArray(value) && value.length === 0);
  if (empty) return question.required ? { code: 'answer-needed' } : null;
  switch (question.kind) {
    case 'yes or no':
      return typeof value === 'boolean' ? null : { code: 'answer-yes-or-no' };
    case 'one of':
      return typeof value === 'string' && question.choices.includes(value) ? null : { code: 'answer-one' };
    case 'several of':
      return Array.isArray(value) && value.every((v) => question.choices.includes(v))
        ? null
        : { code: 'answer-among' };
    default:
      if (typeof value !== 'string') return { code: 'answer-in-words' };
      return value.length > longestAnswer ? { code: 'too-long', params: { count: longestAnswer } } : null;
  }
}

/** An answer as one line of text, for tables and CSV. */
export function sayAnswer(value: AnswerValue): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return Array.isArray(value) ? value.join(', ') : value;
}
