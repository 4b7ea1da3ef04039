import { isCalendarDate } from '#core/time/dates.ts';
import type { Wrong } from '#core/words/problems.ts';
import {
  type AnsweredSo,
  type Asked,
  type AskedPage,
  isFigure,
  keyOf,
  rangeOf,
  type SurveyQuestion,
} from './survey.ts';

/** What was answered: a choice or several in their order by id, a figure, words, a date. */
export type SurveyAnswer = string | number | string[];
export type SurveyAnswers = Readonly<Record<string, SurveyAnswer>>;

/** The longest text kept, in characters. */
const longestText = 4000;

const isEmpty = (value: SurveyAnswer | undefined): value is undefined =>
  value === undefined ||
  (typeof value === 'string' && !value.trim()) ||
  (Array.isArray(value) && value.length === 0);

/** Whether an answer is one that is looked for. */
function isSo(value: SurveyAnswer | undefined, so: Omit<AnsweredSo, 'questionId'>): boolean {
  if (isEmpty(value)) return false;
  if (typeof value === 'number')
    return (
      (so.least !== null || so.most !== null) &&
      value >= (so.least ?? Number.NEGATIVE_INFINITY) &&
      value <= (so.most ?? Number.POSITIVE_INFINITY)
    );
  return (Array.isArray(value) ? value : [value]).some((v) => so.is.includes(v));
}

/**
 * What somebody is asked as far as they have answered. A question that is not asked counts as not answered, so what hangs on it is
 * not asked either. On a page for each session, a question hangs on what was said of the same one, or of the whole event.
 */
export function askedNow(pages: readonly AskedPage[], answers: SurveyAnswers): AskedPage[] {
  const asked = new Set<string>();
  return pages.flatMap((page) => {
    const shown = page.asked.filter(({ key, question: { shownIf }, session }) => {
      if (shownIf) {
        const on = [keyOf(shownIf.questionId, session?.id ?? null), shownIf.questionId].find((k) =>
          asked.has(k),
        );
        if (!on || !isSo(answers[on], shownIf)) return false;
      }
      asked.add(key);
      return true;
    });
    return shown.length ? [{ ...page, asked: shown }] : [];
  });
}

/** What is wrong with one answer; null when it can be kept. */
export function problemWith(
  question: SurveyQuestion,
  value: SurveyAnswer | undefined,
): Omit<Wrong, 'path'> | null {
  if (isEmpty(value)) return question.required ? { code: 'answer-needed' } : null;
  const known = new Set(question.choices.map((c) => c.id));
  switch (question.kind) {
    case 'one of':
      return typeof value === 'string' && known.has(value) ? null : { code: 'answer-one' };
    case 'several of':
      return isChosen(value, known) ? null : { code: 'answer-among' };
    case 'order':
      return isChosen(value, known) && value.length === known.size ? null : { code: 'order-all' };
    case 'text':
      if (typeof value !== 'string') return { code: 'answer-in-words' };
      return value.length > longestText ? { code: 'too-long', params: { count: longestText } } : null;
    case 'date':
      return typeof value === 'string' && isCalendarDate(value) ? null : { code: 'no-such-date' };
    default:
      return figureProblem(question, value);
  }
}

/** True of choices there are, each once. */
const isChosen = (value: SurveyAnswer, known: ReadonlySet<string>): value is string[] =>
  Array.isArray(value) && value.every((v) => known.has(v)) && new Set(value).size === value.length;

function figureProblem(question: SurveyQuestion, value: SurveyAnswer): Omit<Wrong, 'path'> | null {
  if (typeof value !== 'number' || !Number.isFinite(value)) return { code: 'answer-number' };
  const { least, most } = rangeOf(question);
  if (question.kind !== 'number')
    return Number.isInteger(value) && value >= least && value <= most
      ? null
      : { code: 'answer-on-the-scale' };
  if (value < least) return { code: 'answer-least', params: { least: String(least) } };
  return value > most ? { code: 'answer-most', params: { most: String(most) } } : null;
}

/**
 * What is wrong with what somebody sent. What was answered and then was not asked any more, since an answer before it changed, is
 * left out by `keptOf`; what was never part of the survey is wrong.
 */
export function problemsWithAnswers(pages: readonly AskedPage[], answers: SurveyAnswers): Wrong[] {
  const whole = new Map(pages.flatMap((p) => p.asked).map((a) => [a.key, a]));
  const problems: Wrong[] = askedNow(pages, answers)
    .flatMap((p) => p.asked)
    .flatMap(({ key, question }) => {
      const wrong = problemWith(question, answers[key]);
      return wrong ? [{ path: `answers.${key}`, ...wrong }] : [];
    });
  for (const key of Object.keys(answers))
    if (!whole.has(key)) problems.push({ path: `answers.${key}`, code: 'question-not-asked' });
  return problems;
}

/** The answers that are kept: to what was asked, without empty ones, in the order they were asked. */
export const keptOf = (
  pages: readonly AskedPage[],
  answers: SurveyAnswers,
): { asked: Asked; value: SurveyAnswer }[] =>
  askedNow(pages, answers)
    .flatMap((p) => p.asked)
    .flatMap((asked) => {
      const value = answers[asked.key];
      return isEmpty(value) ? [] : [{ asked, value: typeof value === 'string' ? value.trim() : value! }];
    });

/** An answer in words: choices as they are called, an order as “1 …, 2 …”. */
export function sayAnswer(
  question: SurveyQuestion,
  value: SurveyAnswer,
  language: 'en' | 'fr' = 'en',
): string {
  const called = (id: string) => {
    const choice = question.choices.find((c) => c.id === id);
    return (choice && ((language === 'fr' && choice.text.fr) || choice.text.en)) ?? id;
  };
  if (Array.isArray(value))
    return question.kind === 'order'
      ? value.map((id, at) => `${at + 1} ${called(id)}`).join(', ')
      : value.map(called).join(', ');
  if (typeof value === 'number' || isFigure(question.kind)) return String(value);
  return question.kind === 'one of' ? called(value) : value;
}

/** The questions whose answers ask whether one may come back to the person. */
export const followedUp = (pages: readonly AskedPage[], answers: SurveyAnswers): Asked[] =>
  askedNow(pages, answers)
    .flatMap((p) => p.asked)
    .filter(({ key, question }) => question.follows !== null && isSo(answers[key], question.follows));
