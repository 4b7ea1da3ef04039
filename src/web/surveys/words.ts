import type { SurveyAudience, SurveyKind, Wave } from '#core/surveys/survey.ts';
import { phrase } from '#web/words/phrase.ts';
import type { SurveyWords } from './SurveyControl.tsx';

export const kindWords: Readonly<Record<SurveyKind, string>> = {
  'one of': phrase('surveys.kindChoice'),
  'several of': phrase('surveys.kindSeveral'),
  scale: phrase('surveys.kindScale'),
  recommend: phrase('surveys.kindRecommend'),
  order: phrase('surveys.kindOrder'),
  text: phrase('surveys.kindText'),
  number: phrase('surveys.kindNumber'),
  date: phrase('surveys.kindDate'),
};

const audienceWords: Readonly<Record<SurveyAudience, string>> = {
  attendees: phrase('surveys.attendees'),
  absent: phrase('surveys.absent'),
  crew: phrase('surveys.crew'),
  guardians: phrase('surveys.guardians'),
};

/** Whose survey it is: "Those who came, later". */
export const sayWhose = ({ audience, wave }: { audience: SurveyAudience; wave: Wave | number }): string =>
  wave === 2 ? phrase('surveys.again', { who: audienceWords[audience] }) : audienceWords[audience];

/** What stands around the questions of a survey where staff try it. */
export const surveyWords: SurveyWords = {
  unlikely: phrase('surveys.unlikely'),
  likely: phrase('surveys.likely'),
  orderHelp: phrase('surveys.orderHelp'),
  placed: (choice, place) => phrase('surveys.placed', { choice, place }),
  unplaced: (choice) => phrase('surveys.unplaced', { choice }),
  language: 'en',
};
