import type { Wrong } from '#core/words/problems.ts';

/** A question of a survey. */
export interface SurveyQuestion {
  id: string;
  kind: 'scale' | 'one of' | 'text';
  prompt: string;
  choices: string[];
  required: boolean;
}

export type SurveyAnswers = Record<string, string | number>;

/** The scale runs from 1 to this. */
const scaleTop = 5;

export interface QuestionResult {
  question: SurveyQuestion;
  answered: number;
  /** How often each point or choice was given, in the order of the scale or the choices. */
  counts: { label: string; count: number }[];
  /** Arithmetic mean of a scale, null without answers. */
  mean: number | null;
  texts: string[];
}

/** Says what is wrong with a set of answers, by question id. */
export function problemsWithAnswers(questions: readonly SurveyQuestion[], answers: SurveyAnswers): Wrong[] {
  const problems: Wrong[] = [];
  for (const q of questions) {
    const value = answers[q.id];
    const path = `answers.${q.id}`;
    if (value === undefined || value === '') {
      if (q.required) problems.push({ path, code: 'answer-needed' });
    } else if (
      q.kind === 'scale' &&
      !(typeof value === 'number' && Number.isInteger(value) && value >= 1 && value <= scaleTop)
    )
      problems.push({ path, code: 'answer-on-the-scale' });
    else if (q.kind === 'one of' && !q.choices.includes(String(value)))
      problems.push({ path, code: 'answer-one' });
    else if (q.kind === 'text' && (typeof value !== 'string' || value.length > 4000))
      problems.push({ path, code: 'too-long', params: { count: 4000 } });
  }
  for (const id of Object.keys(answers))
    if (!questions.some((q) => q.id === id))
      problems.push({ path: `answers.${id}`, code: 'question-not-asked' });
  return problems;
}

/** Counts and means of all responses, question by question. */
export function resultsOf(
  questions: readonly SurveyQuestion[],
  responses: readonly SurveyAnswers[],
): QuestionResult[] {
  return questions.map((question) => {
    const values = responses.map((r) => r[question.id]).filter((v) => v !== undefined && v !== '');
    const labels =
      question.kind === 'scale'
        ? Array.from({ length: scaleTop }, (_, i) => String(i + 1))
        : question.kind === 'one of'
          ? question.choices
          : [];
    const numbers = question.kind === 'scale' ? values.map(Number) : [];
    return {
      question,
      answered: values.length,
      counts: labels.map((label) => ({ label, count: values.filter((v) => String(v) === label).length })),
      mean: numbers.length ? numbers.reduce((a, b) => a + b, 0) / numbers.length : null,
      texts: question.kind === 'text' ? values.map(String) : [],
    };
  });
}
