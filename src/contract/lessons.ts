import { z } from 'zod';
import { stages } from '#core/events/states.ts';
import { contract, done, id, idParams, instant } from './endpoint.ts';

const lessonParams = idParams.extend({ lesson: id });
const lesson = z.object({
  id,
  /** The stage it concerns. */
  stage: z.enum(stages),
  text: z.string(),
  author: z.string(),
  at: instant,
});
const lessonBody = z.object({
  stage: z.enum(stages),
  text: z.string().trim().min(1, 'nothing-written').max(2000),
});

export const lessonsContract = contract({
  'GET /api/events/:id/lessons': {
    summary: 'What was learnt at an event, and what was learnt at those it goes back to',
    who: 'staff',
    params: idParams,
    response: z.object({
      written: z.array(lesson),
      /** Of earlier events, as far as the stage they concern is seen; the last event first. */
      before: z.array(
        lesson.extend({
          event: z.object({ id, title: z.string(), startsAt: instant.nullable() }),
          /** Who took care of it for this event; null where nobody has yet. */
          settledBy: z.string().nullable(),
        }),
      ),
    }),
  },
  'POST /api/events/:id/lessons': {
    summary: 'Write down what was learnt, for the next time',
    who: ['unit lead', 'crew lead'],
    params: idParams,
    body: lessonBody,
    response: z.object({ id }),
  },
  'PATCH /api/events/:id/lessons/:lesson': {
    summary: 'Change what was learnt',
    who: ['unit lead', 'crew lead'],
    params: lessonParams,
    body: lessonBody,
    response: done,
  },
  'DELETE /api/events/:id/lessons/:lesson': {
    summary: 'Take a lesson away, also from the margin of later events',
    who: ['unit lead', 'crew lead'],
    params: lessonParams,
    response: done,
  },
  'PUT /api/events/:id/lessons/:lesson/settled': {
    summary: 'Say that a lesson of an earlier event was taken care of for this one, or that it was not',
    who: ['unit lead', 'crew lead'],
    params: lessonParams,
    body: z.object({ settled: z.boolean() }),
    response: done,
  },
});
