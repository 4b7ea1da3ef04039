import { z } from 'zod';
import { surveyAudiences, surveyKinds } from '#core/surveys/survey.ts';
import { id, text } from './endpoint.ts';

/** Words of a survey, as long as they may be. */
const said = (most: number) => z.object({ en: text(most), fr: text(most).optional() });
const nothing = { en: '' };
/** Without the marks that join a question to a session and stand in paths. */
const key = z
  .string()
  .min(1)
  .max(60)
  .regex(/^[^@.]+$/u, 'unreadable');
const figure = z.number().min(-1_000_000_000).max(1_000_000_000).nullable().default(null);
const so = { is: z.array(z.string().max(200)).max(30), least: figure, most: figure };

export const surveyQuestion = z.object({
  id: key,
  kind: z.enum(surveyKinds),
  prompt: said(300),
  help: said(300).default(nothing),
  required: z.boolean().default(false),
  choices: z
    .array(z.object({ id: z.string().min(1).max(200), text: said(200) }))
    .max(30)
    .default([]),
  least: figure,
  most: figure,
  low: said(60).default(nothing),
  high: said(60).default(nothing),
  shownIf: z
    .object({ questionId: key, ...so })
    .nullable()
    .default(null),
  follows: z.object(so).nullable().default(null),
  goesOn: z.string().max(60).nullable().default(null),
});
export type SurveyQuestionPlan = z.infer<typeof surveyQuestion>;

const surveyPage = z.object({
  id: key,
  title: said(120).default(nothing),
  per: z.enum(['survey', 'session']).default('survey'),
  questions: z.array(surveyQuestion).max(40),
});

export const surveyPlan = z.object({
  id,
  audience: z.enum(surveyAudiences).default('attendees'),
  /** 1 the first time, 2 once more later. */
  wave: z.union([z.literal(1), z.literal(2)]).default(1),
  title: said(120),
  intro: said(1000).default(nothing),
  anonymous: z.boolean(),
  /** Of an anonymous one, the question by whose answers the others can be told apart once it is over. */
  groupBy: z.string().max(60).nullable().default(null),
  /** Days after the event until which answers are taken. */
  closesDays: z.int('not-whole').min(1, 'at-least-one').max(400).default(60),
  pages: z.array(surveyPage).min(1).max(20),
});
export type SurveyPlan = z.infer<typeof surveyPlan>;
