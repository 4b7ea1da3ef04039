import { readReach } from '#core/contacts/reach.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import type { Wrong } from '#core/words/problems.ts';
import { isDetail, mostCharacters } from './details.ts';
import type { Question } from './question.ts';

/** What was answered: a file by its id, a number and a date as they are written. */
export type AnswerValue = string | boolean | string[];

/** The longest answer kept, in characters. */
const longestAnswer = 2000;

/** A number as people write it, with a point or a comma and blanks between thousands, as it is kept: "1200.5"; null for none. */
export function writtenNumber(typed: string): string | null {
  const text = typed.replaceAll(/[\s’']/gu, '').replace(/^(-?\d+),(\d+)$/u, '$1.$2');
  return /^-?\d{1,12}(?:\.\d{1,6})?$/u.test(text) ? text : null;
}

/** The same as a number. */
export function readNumber(typed: string): number | null {
  const text = writtenNumber(typed);
  return text === null ? null : Number(text);
}

/** True where nothing was answered. A tick that is not set answers nothing. */
export const isEmpty = (question: Pick<Question, 'kind'>, value: AnswerValue | undefined): boolean =>
  value === undefined ||
  (typeof value === 'string' && !value.trim()) ||
  (Array.isArray(value) && value.length === 0) ||
  (question.kind === 'consent' && value === false);

/** Where and when something is answered. */
export interface Answering {
  country: string;
  today: string;
}

/** What is wrong with one answer, or null when it can be kept. An empty answer is `undefined`. */
export function problemWith(
  question: Question,
  value: AnswerValue | undefined,
  at: Answering,
): Omit<Wrong, 'path'> | null {
  if (isEmpty(question, value))
    return question.required
      ? { code: question.kind === 'consent' ? 'consent-needed' : 'answer-needed' }
      : null;
  switch (question.kind) {
    case 'yes or no':
    case 'consent':
      return typeof value === 'boolean' ? null : { code: 'answer-yes-or-no' };
    case 'one of':
      return typeof value === 'string' && question.choices.includes(value) ? null : { code: 'answer-one' };
    case 'several of':
      return Array.isArray(value) && value.every((v) => question.choices.includes(v))
        ? null
        : { code: 'answer-among' };
    case 'number':
      return numberProblem(question, value);
    case 'date':
      if (typeof value !== 'string' || !isCalendarDate(value)) return { code: 'no-such-date' };
      return question.keeps === 'birthDate' && value > at.today ? { code: 'in-the-future' } : null;
    case 'file':
      return typeof value === 'string' && /^[0-9a-f-]{36}$/u.test(value) ? null : { code: 'file-gone' };
    default:
      return textProblem(question, value, at);
  }
}

function numberProblem(
  { least, most }: Question,
  value: AnswerValue | undefined,
): Omit<Wrong, 'path'> | null {
  const number = typeof value === 'string' ? readNumber(value) : null;
  if (number === null) return { code: 'answer-number' };
  if (least !== null && number < least) return { code: 'answer-least', params: { least: String(least) } };
  return most !== null && number > most ? { code: 'answer-most', params: { most: String(most) } } : null;
}

function textProblem(
  question: Question,
  value: AnswerValue | undefined,
  at: Answering,
): Omit<Wrong, 'path'> | null {
  if (typeof value !== 'string') return { code: 'answer-in-words' };
  const most = isDetail(question.keeps) ? mostCharacters[question.keeps] : longestAnswer;
  if (value.length > most) return { code: 'too-long', params: { count: most } };
  if (question.keeps !== 'phone') return null;
  const { problems } = readReach({ phone: value }, at.country);
  return problems.length
    ? { code: problems[0]!.code, ...(problems[0]!.params && { params: problems[0]!.params }) }
    : null;
}

/** An answer as one line of text, for tables and CSV. A file is said by its name, where that is known. */
export function sayAnswer(value: AnswerValue, fileName?: string | null): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.join(', ');
  return fileName ?? value;
}
