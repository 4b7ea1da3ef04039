import type { SurveyPlan } from '#contract/surveyPlan.ts';
import { changedAfter, problemsWithSurvey } from '#core/surveys/checking.ts';
import { isClosed } from '#core/surveys/closing.ts';
import { hasChoices, questionsOf } from '#core/surveys/survey.ts';
import { wrongAt } from '#core/words/problems.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { type FieldProblem, refused } from '../http/problem.ts';
import type { Saving } from './lists.ts';
import { type SurveyRow, surveyColumns } from './store.ts';

/** How many answered each question of a survey, and which choices somebody gave. */
async function answeredOf(tx: Queries, survey: SurveyRow) {
  // Of an anonymous one it is not told which of its questions were answered, nor how: all of them, once any was.
  if (survey.anonymous) {
    const { n } = (await first<{ n: number }>(
      tx,
      'select count(*)::int as n from survey_asks where survey_id = $1 and answered',
      [survey.id],
    ))!;
    return new Map(
      (n ? [...questionsOf(survey), ...survey.retired] : []).map((q) => [
        q.id,
        { n, given: new Set(q.choices.map((c) => c.id)) },
      ]),
    );
  }
  const choosing = [...questionsOf(survey), ...survey.retired]
    .filter((q) => hasChoices(q.kind))
    .map((q) => q.id);
  const rows = await tx.query<{ question: string; n: number; given: string[] }>(
    `with answers as (
       select split_part(a.key, '@', 1) as question, a.value from survey_responses x, jsonb_each(x.answers) a where x.survey_id = $1)
     select a.question, count(*)::int as n, coalesce((select array_agg(distinct c.given) from answers b,
         jsonb_array_elements_text(case when jsonb_typeof(b.value) = 'array' then b.value else jsonb_build_array(b.value) end) c (given)
         where b.question = a.question and a.question = any($2)), '{}') as given
     from answers a group by a.question`,
    [survey.id, choosing],
  );
  return new Map(rows.map((r) => [r.question, { n: r.n, given: new Set(r.given) }]));
}

/** The surveys of an event as they are kept, those taken out too. */
const stored = (tx: Queries, eventId: string) =>
  tx.query<SurveyRow & { removedAt: string | null }>(
    `select ${surveyColumns}, removed_at from surveys where event_id = $1`,
    [eventId],
  );

/** What becomes of a survey somebody may have answered. */
async function changeOf({ w, event }: Saving, was: SurveyRow, wanted: SurveyPlan, path: string) {
  return changedAfter(was, wanted, await answeredOf(w.tx, was), {
    now: w.now,
    path,
    closed: isClosed(event, was.closesDays, w.now),
  });
}

/** What does not go together in the surveys of a plan, or takes away what was answered. */
export async function checkSurveys(saving: Saving): Promise<FieldProblem[]> {
  const wanted = saving.change.surveys!;
  const known = new Map((await stored(saving.w.tx, saving.event.id)).map((s) => [s.id, s]));
  const problems = wanted.flatMap((s, at) => problemsWithSurvey(s, `surveys.${at}`));
  for (const [at, survey] of wanted.entries()) {
    const path = `surveys.${at}`;
    if (wanted.slice(0, at).some((s) => s.audience === survey.audience && s.wave === survey.wave))
      problems.push(wrongAt(`${path}.audience`, 'survey-twice'));
    const was = known.get(survey.id);
    if (!was) continue;
    const changed = await changeOf(saving, was, survey, path);
    problems.push(...changed.problems);
    const answered = (await answeredOf(saving.w.tx, was)).size > 0;
    if (answered && (was.audience !== survey.audience || was.wave !== survey.wave))
      problems.push(wrongAt(`${path}.audience`, 'survey-in-use'));
  }
  return problems;
}

/** Brings the surveys of an event to what is wanted. One that was answered stays; who was asked stays written down. */
export async function saveSurveys(saving: Saving): Promise<void> {
  const { w, event, change } = saving;
  const wanted = change.surveys!;
  const known = new Map((await stored(w.tx, event.id)).map((s) => [s.id, s]));
  for (const was of known.values()) {
    const stays = wanted.find((s) => s.id === was.id);
    if (!stays && !was.removedAt && (await answeredOf(w.tx, was)).size) throw refused('survey-in-use');
    // Set aside for a moment, so that two can change places.
    if (!was.removedAt && (!stays || stays.audience !== was.audience || stays.wave !== was.wave))
      await update(w.tx, 'surveys', was.id, { removedAt: w.now });
  }
  for (const [position, survey] of wanted.entries()) {
    const { id, ...fields } = survey;
    const was = known.get(id);
    if (!was) {
      await insert(w.tx, 'surveys', { id, eventId: event.id, position, ...fields });
      continue;
    }
    const { survey: kept, retired, reworded } = await changeOf(saving, was, survey, '');
    await update(w.tx, 'surveys', id, {
      ...fields,
      pages: kept.pages,
      retired,
      reworded: [...was.reworded, ...reworded],
      position,
      removedAt: null,
    });
  }
}
