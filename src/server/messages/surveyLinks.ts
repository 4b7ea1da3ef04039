import type { MessageLinePlan } from '#contract/plan.ts';
import { linkMark } from '#core/messages/links.ts';
import type { MergeValues } from '#core/messages/merge.ts';
import { surveyOf } from '#core/messages/moments.ts';
import { answersInMail } from '#core/surveys/inMail.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Work } from '../app/app.ts';
import { first, insert } from '../db/database.ts';
import { type EventRow, readSurveys } from '../events/store.ts';

const shown = '[link to their survey]';

/**
 * Where the personal link to a survey stands, and its first question with an answer a link; asking is kept, so that answers can be
 * counted against it. Nothing where the plan has no survey for whom the line is for.
 */
export async function surveyLinks(
  w: Pick<Work, 'tx' | 'app'>,
  event: EventRow,
  line: Pick<MessageLinePlan, 'moment' | 'audience'>,
  message: { contactId: string | null; language: 'en' | 'fr' },
  preview: boolean,
): Promise<Pick<MergeValues, 'survey_link' | 'survey_first_link'>> {
  const which = surveyOf(line.moment, line.audience);
  const survey = (await readSurveys(w.tx, event.id)).find(
    (s) => s.audience === which?.audience && s.wave === which.wave,
  );
  if (!survey) return preview ? { survey_link: shown, survey_first_link: shown } : {};
  const { prompt, answers } = answersInMail(survey, message.language);
  if (preview)
    return {
      survey_link: shown,
      survey_first_link: [prompt, ...answers.map((a) => `[${a.label}]`)].join('\n'),
    };
  if (!message.contactId) return {};
  await insert(
    w.tx,
    'survey_asks',
    { id: w.app.ids.id(), surveyId: survey.id, contactId: message.contactId, answered: false },
    'on conflict do nothing',
  );
  const { id } = (await first<{ id: string }>(
    w.tx,
    'select id from survey_asks where survey_id = $1 and contact_id = $2',
    [survey.id, message.contactId],
  ))!;
  const whole = linkMark('survey', id);
  const title = readTexts(survey.title, message.language).replace(/[\s:?!]+$/u, '');
  return {
    survey_link: whole,
    survey_first_link: answers.length
      ? [prompt, ...answers.map((a) => `${a.label}: ${linkMark('survey', id, `?a=${a.value}`)}`)].join('\n')
      : `${title}: ${whole}`,
  };
}
