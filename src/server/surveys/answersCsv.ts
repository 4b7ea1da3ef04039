import { writeCsv } from '#core/exchange/csv.ts';
import { sayAnswer } from '#core/surveys/answering.ts';
import { ofKey, questionsOf, type SurveyQuestion } from '#core/surveys/survey.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow, SurveyRow } from '../events/store.ts';
import { readResponses, readSessions, readShownSlips } from './store.ts';

/**
 * What was answered, as CSV. Under a name: a row for each who answered, a column for each question and session. Without: a row for each
 * answer to a question that is shown, since nothing joins those of one person.
 */
export async function answersCsv(tx: Queries, event: EventRow, survey: SurveyRow): Promise<string> {
  const byId = new Map([...survey.retired, ...questionsOf(survey)].map((q) => [q.id, q]));
  const sessions = new Map((await readSessions(tx, event.id)).map((s) => [s.id, s.title.en]));
  const named = (key: string) => {
    const { questionId, sessionId } = ofKey(key);
    const prompt = byId.get(questionId)?.prompt.en ?? questionId;
    return sessionId ? `${prompt} (${sessions.get(sessionId) ?? sessionId})` : prompt;
  };
  const said = (key: string, value: Parameters<typeof sayAnswer>[1]) => {
    const question: SurveyQuestion | undefined = byId.get(ofKey(key).questionId);
    return question ? sayAnswer(question, value) : String(value);
  };
  if (survey.anonymous)
    return writeCsv(
      ['Question', 'Answer'],
      (await readShownSlips(tx, survey.id)).map((s) => [named(s.question), said(s.question, s.value)]),
    );
  const responses = await readResponses(tx, survey.id);
  const keys = [...new Set(responses.flatMap((r) => Object.keys(r.answers)))].sort(
    (a, b) => orderIn(survey, a) - orderIn(survey, b) || a.localeCompare(b),
  );
  return writeCsv(
    ['Name', 'Answered on', 'First question only', ...keys.map(named)],
    responses.map((r) => [
      r.name,
      r.answeredOn,
      r.begun ? 'yes' : '',
      ...keys.map((key) => (r.answers[key] === undefined ? '' : said(key, r.answers[key]))),
    ]),
  );
}

/** Where a question stands in its survey; those not asked any more at the end. */
function orderIn(survey: SurveyRow, key: string): number {
  const at = questionsOf(survey).findIndex((q) => q.id === ofKey(key).questionId);
  return at < 0 ? Number.MAX_SAFE_INTEGER : at;
}
