import type { Texts } from '#core/words/texts.ts';
import {
  plainQuestion,
  type Survey,
  type SurveyAudience,
  type SurveyChoice,
  type SurveyQuestion,
  type Wave,
} from './survey.ts';

const question = (
  id: string,
  kind: SurveyQuestion['kind'],
  prompt: Texts,
  more: Partial<SurveyQuestion> = {},
): SurveyQuestion => ({ ...plainQuestion, id, kind, prompt, choices: [], ...more });

const choices = (...all: [string, string, string][]): SurveyChoice[] =>
  all.map(([id, en, fr]) => ({ id, text: { en, fr } }));

const liking = { low: { en: 'not at all', fr: 'pas du tout' }, high: { en: 'very much', fr: 'beaucoup' } };
const agreeing = choices(['yes', 'yes', 'oui'], ['perhaps', 'perhaps', 'peut-être'], ['no', 'no', 'non']);

const liked = question(
  'liked',
  'scale',
  { en: 'How did you like it?', fr: 'Cela vous a-t-il plu ?' },
  { ...liking, required: true, follows: { is: [], least: null, most: 2 } },
);
const recommend = question('recommend', 'recommend', {
  en: 'How likely are you to tell a friend to come next time?',
  fr: 'Conseilleriez-vous à un ami de venir la prochaine fois ?',
});
const words = question('words', 'text', {
  en: 'What should we do differently?',
  fr: 'Que devrions-nous faire autrement ?',
});
const help = question(
  'help',
  'one of',
  { en: 'Would you like to help with the next one?', fr: 'Aimeriez-vous aider la prochaine fois ?' },
  { choices: agreeing, follows: { is: ['yes', 'perhaps'], least: null, most: null } },
);

const survey = (audience: SurveyAudience, wave: Wave, title: Texts, ...pages: Survey['pages']): Survey => ({
  audience,
  wave,
  title,
  intro: { en: '' },
  anonymous: false,
  groupBy: null,
  closesDays: wave === 1 ? 60 : 180,
  pages,
});
const page = (id: string, questions: SurveyQuestion[], more: Partial<Survey['pages'][number]> = {}) => ({
  id,
  title: { en: '' },
  per: 'survey' as const,
  questions,
  ...more,
});

/** Surveys to begin with. The same question has the same id in each, so that years can be set beside each other. */
export const starters: readonly { name: string; survey: Survey }[] = [
  {
    name: 'Short: how was it',
    survey: survey(
      'attendees',
      1,
      { en: 'How was it?', fr: 'Comment était-ce ?' },
      page('first', [liked, recommend, words]),
    ),
  },
  {
    name: 'Day of sessions',
    survey: survey(
      'attendees',
      1,
      { en: 'How was the day?', fr: 'Comment était la journée ?' },
      page('first', [liked, recommend]),
      page(
        'sessions',
        [
          question(
            'useful',
            'scale',
            { en: 'How useful was it for you?', fr: 'Était-ce utile pour vous ?' },
            liking,
          ),
          question(
            'why',
            'text',
            { en: 'What was missing?', fr: 'Que manquait-il ?' },
            { shownIf: { questionId: 'useful', is: [], least: null, most: 2 } },
          ),
        ],
        { per: 'session', title: { en: 'What you were at', fr: 'Ce à quoi vous étiez' } },
      ),
      page('last', [words, help]),
    ),
  },
  {
    name: 'Without names',
    survey: {
      ...survey(
        'attendees',
        1,
        { en: 'Tell us frankly', fr: 'Dites-le franchement' },
        page('first', [
          { ...liked, follows: null },
          question(
            'welcome',
            'scale',
            { en: 'How welcome did you feel?', fr: 'Vous êtes-vous senti·e le bienvenu, la bienvenue ?' },
            liking,
          ),
          words,
        ]),
      ),
      anonymous: true,
    },
  },
  {
    name: 'Those who did not come',
    survey: survey(
      'absent',
      1,
      { en: 'What kept you?', fr: 'Qu’est-ce qui vous a retenu·e ?' },
      page('first', [
        question(
          'kept',
          'one of',
          { en: 'What kept you from coming?', fr: 'Qu’est-ce qui vous a empêché·e de venir ?' },
          {
            required: true,
            choices: choices(
              ['ill', 'I was ill', 'J’étais malade'],
              ['plans', 'Something else came up', 'Un empêchement'],
              ['weather', 'The weather', 'Le temps qu’il faisait'],
              ['way', 'How to get there', 'Le trajet'],
              ['forgot', 'I forgot', 'J’ai oublié'],
              ['other', 'Something else', 'Autre chose'],
            ),
          },
        ),
        question(
          'reminded',
          'one of',
          {
            en: 'Would another reminder have helped?',
            fr: 'Un autre rappel aurait-il aidé ?',
          },
          {
            choices: agreeing,
            shownIf: { questionId: 'kept', is: ['forgot', 'plans'], least: null, most: null },
          },
        ),
      ]),
    ),
  },
  {
    name: 'Crew',
    survey: survey(
      'crew',
      1,
      { en: 'How was it to help?', fr: 'Comment était-ce d’aider ?' },
      page('first', [
        { ...liked, prompt: { en: 'How was your shift?', fr: 'Comment était votre quart ?' } },
        question(
          'briefed',
          'scale',
          { en: 'Did you know what to do?', fr: 'Saviez-vous quoi faire ?' },
          liking,
        ),
        { ...help, prompt: { en: 'Will you help again?', fr: 'Aiderez-vous encore ?' } },
        words,
      ]),
    ),
  },
  {
    name: 'Guardians',
    survey: survey(
      'guardians',
      1,
      { en: 'How was it for your child?', fr: 'Comment était-ce pour votre enfant ?' },
      page('first', [
        { ...liked, prompt: { en: 'How did your child like it?', fr: 'Cela a-t-il plu à votre enfant ?' } },
        question(
          'safe',
          'scale',
          {
            en: 'Did you feel your child was in good hands?',
            fr: 'Votre enfant était-il entre de bonnes mains ?',
          },
          { ...liking, follows: { is: [], least: null, most: 2 } },
        ),
        words,
      ]),
    ),
  },
  {
    name: 'Three months later',
    survey: survey(
      'attendees',
      2,
      { en: 'What came of it?', fr: 'Que reste-t-il ?' },
      page('first', [
        question(
          'since',
          'one of',
          { en: 'Have you used what you learned?', fr: 'Avez-vous utilisé ce que vous avez appris ?' },
          { choices: agreeing, required: true },
        ),
        question(
          'what',
          'text',
          { en: 'For what?', fr: 'Pour quoi ?' },
          {
            shownIf: { questionId: 'since', is: ['yes'], least: null, most: null },
          },
        ),
        recommend,
      ]),
    ),
  },
];
