import { problemsWithAnswers, type SurveyAnswers } from '#core/surveys/results.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import type { EventRow, readSurvey } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { type Ask, hasAnswered, keepUnknownAnswer } from './store.ts';

/** Keeps what somebody answered, once. */
export async function answerSurvey(
  w: Work,
  ask: Ask,
  survey: NonNullable<Awaited<ReturnType<typeof readSurvey>>>,
  event: EventRow,
  answers: SurveyAnswers,
): Promise<void> {
  const problems = problemsWithAnswers(survey.questions, answers);
  if (problems.length) throw invalid(problems);
  if (await hasAnswered(w.tx, ask.id)) throw refused('survey-answered');
  const today = dateOf(w.now, event.zone);
  if (survey.anonymous) await keepUnknownAnswer(w.tx, ask.id, survey.id, answers, today);
  else {
    await update(w.tx, 'survey_asks', ask.id, { answered: true });
    await insert(w.tx, 'survey_responses', {
      id: w.app.ids.id(),
      surveyId: survey.id,
      contactId: ask.contactId,
      answers,
      answeredOn: today,
    });
  }
  await record(w, 'survey answered', { eventId: event.id });
}
