import { readTexts } from '#core/words/texts.ts';
import { pointsOf, type Survey, type SurveyQuestion } from './survey.ts';

/** The question that can be answered from a mail: the first of all, where one tap answers it. */
export function firstQuestion(survey: Pick<Survey, 'pages'>): SurveyQuestion | null {
  const [page] = survey.pages;
  const [question] = page?.questions ?? [];
  return page?.per === 'survey' &&
    question &&
    (question.kind === 'scale' || question.kind === 'recommend' || question.kind === 'one of')
    ? question
    : null;
}

/** How the first question of a survey stands in a mail; no answers where it cannot be answered with one tap. */
export function answersInMail(
  survey: Pick<Survey, 'pages'>,
  language: 'en' | 'fr',
): { prompt: string; answers: { label: string; value: string }[] } {
  const question = firstQuestion(survey);
  if (!question) return { prompt: '', answers: [] };
  const [low, high] = [readTexts(question.low, language), readTexts(question.high, language)];
  const points = question.kind === 'one of' ? [] : pointsOf(question);
  const ends = low && high && points.length ? ` (${points[0]} ${low}, ${points.at(-1)} ${high})` : '';
  return {
    prompt: `${readTexts(question.prompt, language)}${ends}`,
    answers:
      question.kind === 'one of'
        ? question.choices.map((c) => ({
            label: readTexts(c.text, language).replace(/:/gu, ''),
            value: encodeURIComponent(c.id).replace(/[!'()*]/gu, (x) => `%${x.charCodeAt(0).toString(16)}`),
          }))
        : points.map((n) => ({ label: String(n), value: String(n) })),
  };
}

/** What of an address was tapped as the answer to the first question; null where it is none of its answers. */
export function tapped(survey: Pick<Survey, 'pages'>, value: string | null): string | number | null {
  const question = firstQuestion(survey);
  if (!question || value === null) return null;
  if (question.kind === 'one of') return question.choices.some((c) => c.id === value) ? value : null;
  return pointsOf(question).find((n) => String(n) === value) ?? null;
}
