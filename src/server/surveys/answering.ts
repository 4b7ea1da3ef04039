import type { BodyOf } from '#contract/endpoint.ts';
import type { surveysContract } from '#contract/surveys.ts';
import {
  followedUp,
  keptOf,
  problemsWithAnswers,
  type SurveyAnswers,
  sayAnswer,
} from '#core/surveys/answering.ts';
import { isClosed } from '#core/surveys/closing.ts';
import { firstQuestion, tapped } from '#core/surveys/inMail.ts';
import { type AskedPage, pagesFor } from '#core/surveys/survey.ts';
import { shiftDate } from '#core/time/dates.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { say, words } from '#core/words/spoken.ts';
import { followLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { writeNote } from '../contacts/commands.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { type EventRow, readEvent, type SurveyRow } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { type Ask, hasAnswered, keepSlips, readAsk, readSurvey, sessionsOf } from './store.ts';

/** What a link to a survey leads to. */
export interface AskedOf {
  ask: Ask;
  survey: SurveyRow;
  event: EventRow;
}

/** The survey behind a link; throws 404, also for whoever was erased and of what is gone. */
export async function askedBy(tx: Queries, token: string): Promise<AskedOf> {
  const askId = await followLink(tx, 'survey', token);
  const ask = askId && (await readAsk(tx, askId));
  const survey = ask && (await readSurvey(tx, ask.surveyId));
  if (!ask || !survey) throw notFound('This survey');
  return { ask, survey, event: await readEvent(tx, ask.eventId) };
}

/** Whether no answers are taken any more: its time is over, or the event is hidden. */
export const takesNone = ({ survey, event }: Pick<AskedOf, 'survey' | 'event'>, now: string): boolean =>
  event.state === 'shelved' || isClosed(event, survey.closesDays, now);

/** The pages that somebody is asked. */
export async function pagesOf(tx: Queries, { ask, survey, event }: AskedOf): Promise<AskedPage[]> {
  const each = survey.pages.some((p) => p.per === 'session');
  return pagesFor(survey, each ? await sessionsOf(tx, event.id, ask.contactId) : []);
}

/** Refuses what comes too late, or a second time. */
async function demandOpen(w: Work, of: AskedOf): Promise<void> {
  if (takesNone(of, w.now)) throw refused('survey-closed');
  if ((await hasAnswered(w.tx, of.ask.id)).answered) throw refused('survey-answered');
}

/** Keeps what somebody answered, once. */
export async function answerSurvey(
  w: Work,
  of: AskedOf,
  { answers, mayFollow }: BodyOf<(typeof surveysContract)['POST /api/public/surveys/:token']>,
): Promise<void> {
  const { ask, survey, event } = of;
  await demandOpen(w, of);
  const pages = await pagesOf(w.tx, of);
  const problems = problemsWithAnswers(pages, answers);
  if (problems.length) throw invalid(problems);
  const kept = keptOf(pages, answers);
  if (survey.anonymous) {
    const grouped = kept.find((k) => k.asked.key === survey.groupBy)?.value;
    await keepSlips(
      w.tx,
      ask,
      kept.map(({ asked, value }) => ({
        question: asked.key,
        value,
        grouped: typeof grouped === 'string' ? grouped : null,
      })),
    );
  } else {
    await update(w.tx, 'survey_asks', ask.id, { answered: true });
    await keepNamed(w, of, pages, answers, false);
  }
  if (mayFollow) await beTask(w, of, survey.anonymous ? null : { pages, answers });
  await record(w, 'survey answered', { eventId: event.id });
}

/** Keeps the answer tapped in the mail, until the others come with it. Of an anonymous survey nothing is kept before it is sent. */
export async function beginSurvey(w: Work, of: AskedOf, value: string): Promise<void> {
  const { survey, event } = of;
  await demandOpen(w, of);
  const question = firstQuestion(survey);
  const answer = tapped(survey, value);
  if (survey.anonymous || !question || answer === null)
    throw invalid([{ path: 'answer', code: 'answer-one' }]);
  await keepNamed(w, of, await pagesOf(w.tx, of), { [question.id]: answer }, true);
  await record(w, 'survey answered', { eventId: event.id });
}

/** Keeps answers under a name; those of the first question alone give way to all of them. */
async function keepNamed(
  { tx, app, now }: Work,
  { ask, survey, event }: AskedOf,
  pages: readonly AskedPage[],
  answers: SurveyAnswers,
  begun: boolean,
): Promise<void> {
  const kept = keptOf(pages, answers);
  const row = {
    answers: Object.fromEntries(kept.map((k) => [k.asked.key, k.value])),
    said: kept.map(({ asked, value }) => ({
      question: asked.question.prompt.en,
      said: sayAnswer(asked.question, value),
    })),
    answeredOn: dateOf(now, event.zone),
    begun,
  };
  const before = await first<{ id: string }>(
    tx,
    'select id from survey_responses where survey_id = $1 and contact_id = $2',
    [survey.id, ask.contactId],
  );
  if (before) await update(tx, 'survey_responses', before.id, row);
  else
    await insert(tx, 'survey_responses', {
      id: app.ids.id(),
      surveyId: survey.id,
      contactId: ask.contactId,
      ...row,
    });
}

/** Days within which somebody who may be written to is. */
const answeredWithin = 3;

/**
 * Makes a task of an answer, for whoever made the event: of a named one with what was said, where something asks for it; of an anonymous
 * one that they would like to hear from somebody, and nothing of what they said.
 */
async function beTask(
  w: Work,
  { ask, survey, event }: AskedOf,
  named: { pages: readonly AskedPage[]; answers: SurveyAnswers } | null,
): Promise<void> {
  const about = named ? followedUp(named.pages, named.answers) : [];
  if (named && !about.length) return;
  const author = await first<{ id: string; name: string }>(
    w.tx,
    `select id, name from staff where (id = (select created_by from events where id = $1) or 'coordinator' = any(roles)) and not resting
     order by (id = (select created_by from events where id = $1)) is true desc, created_at, id limit 1`,
    [event.id],
  );
  if (!author) return;
  const { findings } = words();
  const said = named
    ? about
        .map(({ key, question }) =>
          say(findings['task said'], {
            answer: sayAnswer(question, named.answers[key]!),
            question: question.prompt.en,
          }),
        )
        .join('; ')
    : say(findings['task asked']);
  const text = say(findings.task, { event: event.publicTitle, said }).slice(0, 2000);
  await writeNote(
    w,
    ask.contactId,
    { text, dueOn: shiftDate(dateOf(w.now, event.zone), answeredWithin) },
    author,
    survey.id,
  );
}
