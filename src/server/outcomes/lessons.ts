import type { lessonsContract } from '#contract/lessons.ts';
import { stagesOf } from '#core/access/stages.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { demand, eventFor } from '../events/access.ts';
import { readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import {
  deleteLesson,
  keepSettled,
  type Lesson,
  readLesson,
  readLessons,
  readLessonsBefore,
} from './lessonStore.ts';

/** A lesson of an event; throws 404. */
async function lessonOf(tx: Queries, eventId: string, id: string): Promise<Lesson> {
  const lesson = await readLesson(tx, eventId, id);
  if (!lesson) throw notFound('This lesson');
  return lesson;
}

/** Whoever may change a stage of an event says what was learnt of it. */
export const lessonsHandlers: Handlers<typeof lessonsContract> = {
  'GET /api/events/:id/lessons': async (c) => {
    const event = await readEvent(c.tx, c.params.id);
    const may = stagesOf(c.staff, event, c.now);
    if (!may.size) throw refused('not-your-event', {}, 403);
    const seen = (lesson: Lesson) => may.has(lesson.stage) || may.has('wrap-up');
    return {
      written: (await readLessons(c.tx, event.id)).filter(seen),
      before: (await readLessonsBefore(c.tx, event.id))
        .filter((l) => may.has(l.stage))
        .map(({ eventId, title, startsAt, ...lesson }) => ({
          ...lesson,
          event: { id: eventId, title, startsAt },
        })),
    };
  },

  'POST /api/events/:id/lessons': async (c) => {
    const event = await eventFor(c, c.params.id, c.body.stage, 'change');
    const id = c.app.ids.id();
    await insert(c.tx, 'lessons', {
      id,
      eventId: event.id,
      ...c.body,
      author: c.staff.name,
      staffId: c.staff.id,
      at: c.now,
    });
    await record(c, 'lesson changed', { eventId: event.id, lessonId: id, how: 'wrote a lesson down' });
    return { id };
  },

  'PATCH /api/events/:id/lessons/:lesson': async (c) => {
    const event = await readEvent(c.tx, c.params.id);
    const lesson = await lessonOf(c.tx, event.id, c.params.lesson);
    demand(c, event, lesson.stage, 'change');
    demand(c, event, c.body.stage, 'change');
    await update(c.tx, 'lessons', lesson.id, { ...c.body });
    await record(c, 'lesson changed', { eventId: event.id, lessonId: lesson.id, how: 'changed a lesson' });
    return { done: true };
  },

  'DELETE /api/events/:id/lessons/:lesson': async (c) => {
    const event = await readEvent(c.tx, c.params.id);
    const lesson = await lessonOf(c.tx, event.id, c.params.lesson);
    demand(c, event, lesson.stage, 'change');
    await deleteLesson(c.tx, lesson.id);
    await record(c, 'lesson changed', {
      eventId: event.id,
      lessonId: lesson.id,
      how: 'took a lesson away',
      text: lesson.text,
    });
    return { done: true };
  },

  'PUT /api/events/:id/lessons/:lesson/settled': async (c) => {
    const event = await readEvent(c.tx, c.params.id);
    const lesson = (await readLessonsBefore(c.tx, event.id)).find((l) => l.id === c.params.lesson);
    // Whether there is one at all is told to who sees the stage.
    if (!lesson) {
      demand(c, event, 'plan', 'see');
      throw notFound('This lesson');
    }
    demand(c, event, lesson.stage, 'change');
    await keepSettled(c.tx, lesson.id, event.id, c.body.settled ? { actor: c.staff.name, at: c.now } : null);
    await record(c, 'lesson changed', {
      eventId: event.id,
      lessonId: lesson.id,
      how: c.body.settled ? 'took care of a lesson' : 'opened a lesson again',
    });
    return { done: true };
  },
};
