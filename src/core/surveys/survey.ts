import type { Texts } from '#core/words/texts.ts';

/** Whom a survey of an event is for. Somebody who came is an attendee, somebody with a seat who did not is absent. */
export const surveyAudiences = ['attendees', 'absent', 'crew', 'guardians'] as const;
export type SurveyAudience = (typeof surveyAudiences)[number];

/** The first time they are asked, and later again: what came of it. */
export type Wave = 1 | 2;

export const surveyKinds = [
  'one of',
  'several of',
  'scale',
  'recommend',
  'order',
  'text',
  'number',
  'date',
] as const;
export type SurveyKind = (typeof surveyKinds)[number];

export interface SurveyChoice {
  id: string;
  text: Texts;
}

/** As long as another question was answered so: by one of these choices, or with a figure between these, both included. */
export interface AnsweredSo {
  questionId: string;
  is: string[];
  least: number | null;
  most: number | null;
}

/** What a survey asks. */
export interface SurveyQuestion {
  /** Kept when a survey is copied: the same question, however it is worded. */
  id: string;
  kind: SurveyKind;
  prompt: Texts;
  help: Texts;
  required: boolean;
  choices: SurveyChoice[];
  /** The ends of a scale, and within what a number lies; null is no end. */
  least: number | null;
  most: number | null;
  /** What the ends of a scale are called. */
  low: Texts;
  high: Texts;
  shownIf: AnsweredSo | null;
  /** Which answers to this very question ask whether one may come back to the person; null for none. */
  follows: Omit<AnsweredSo, 'questionId'> | null;
  /** The question of an earlier survey that it goes on from, where that had another id; null for none. */
  goesOn: string | null;
}

export interface SurveyPage {
  id: string;
  title: Texts;
  /** Asked once, or once for each session that somebody was at. */
  per: 'survey' | 'session';
  questions: SurveyQuestion[];
}

/** A survey as it is planned. */
export interface Survey {
  audience: SurveyAudience;
  wave: Wave;
  title: Texts;
  intro: Texts;
  anonymous: boolean;
  /** Of an anonymous one, the question by whose answers the others can be told apart; null for none. */
  groupBy: string | null;
  /** Days after the end of the event until which answers are taken. */
  closesDays: number;
  pages: SurveyPage[];
}

/** What a question is before anything is said of it. */
export const plainQuestion = {
  kind: 'scale',
  help: { en: '' },
  required: false,
  choices: [] as SurveyChoice[],
  least: null,
  most: null,
  low: { en: '' },
  high: { en: '' },
  shownIf: null,
  follows: null,
  goesOn: null,
} as const;

/** Those with choices of their own. */
export const hasChoices = (kind: SurveyKind): boolean =>
  kind === 'one of' || kind === 'several of' || kind === 'order';

/** Those whose answers are figures. */
export const isFigure = (kind: SurveyKind): boolean =>
  kind === 'scale' || kind === 'recommend' || kind === 'number';

/** Between which figures the answers to a question lie; a number may have no end. */
export function rangeOf({ kind, least, most }: Pick<SurveyQuestion, 'kind' | 'least' | 'most'>): {
  least: number;
  most: number;
} {
  if (kind === 'recommend') return { least: 0, most: 10 };
  if (kind === 'scale') return { least: least ?? 1, most: most ?? 5 };
  return { least: least ?? Number.NEGATIVE_INFINITY, most: most ?? Number.POSITIVE_INFINITY };
}

/** The points of a scale, one after the other. */
export function pointsOf(question: Pick<SurveyQuestion, 'kind' | 'least' | 'most'>): number[] {
  const { least, most } = rangeOf(question);
  return Array.from({ length: most - least + 1 }, (_, at) => least + at);
}

/** Every question of a survey, in order. */
export const questionsOf = (survey: Pick<Survey, 'pages'>): SurveyQuestion[] =>
  survey.pages.flatMap((page) => page.questions);

/** A session that somebody can say something about. */
export interface Session {
  id: string;
  title: Texts;
}

/** A question as it is asked: of a session, where its page is asked for each. `key` is under what its answer is kept. */
export interface Asked {
  key: string;
  question: SurveyQuestion;
  session: Session | null;
}

export const keyOf = (questionId: string, sessionId: string | null): string =>
  sessionId ? `${questionId}@${sessionId}` : questionId;

/** The question and the session of a key. */
export function ofKey(key: string): { questionId: string; sessionId: string | null } {
  const [questionId, sessionId] = key.split('@');
  return { questionId: questionId!, sessionId: sessionId ?? null };
}

/** A page as somebody sees it. */
export interface AskedPage {
  id: string;
  title: Texts;
  session: Session | null;
  asked: Asked[];
}

/** The pages that somebody is asked who was at these sessions; a page for each session is there as often as they were at one. */
export const pagesFor = (survey: Pick<Survey, 'pages'>, sessions: readonly Session[]): AskedPage[] =>
  survey.pages.flatMap((page) =>
    (page.per === 'session' ? sessions : [null]).map((session) => ({
      id: keyOf(page.id, session?.id ?? null),
      title: page.title,
      session,
      asked: page.questions.map((question) => ({
        key: keyOf(question.id, session?.id ?? null),
        question,
        session,
      })),
    })),
  );
