import type { Stage } from '#core/events/states.ts';
import { first, type Queries } from '../db/database.ts';

/** What was learnt at an event. */
export interface Lesson {
  id: string;
  stage: Stage;
  text: string;
  author: string;
  at: string;
}

export const readLessons = (tx: Queries, eventId: string): Promise<Lesson[]> =>
  tx.query<Lesson>('select id, stage, text, author, at from lessons where event_id = $1 order by at, id', [
    eventId,
  ]);

/** One lesson of an event. */
export const readLesson = (tx: Queries, eventId: string, id: string): Promise<Lesson | null> =>
  first<Lesson>(tx, 'select id, stage, text, author, at from lessons where event_id = $1 and id = $2', [
    eventId,
    id,
  ]);

/** A lesson of an event that came before. */
interface LessonBefore extends Lesson {
  eventId: string;
  title: string;
  startsAt: string | null;
  settledBy: string | null;
}

/** What was learnt at the events that one goes back to, the last one first. */
export const readLessonsBefore = (tx: Queries, eventId: string): Promise<LessonBefore[]> =>
  tx.query<LessonBefore>(
    `select l.id, l.stage, l.text, l.author, l.at, b.id as event_id, b.public_title as title, b.starts_at, s.actor as settled_by
     from events e join events b on b.first_of = e.first_of and b.id <> e.id and (e.starts_at is null or b.starts_at < e.starts_at)
       join lessons l on l.event_id = b.id left join lessons_settled s on s.lesson_id = l.id and s.event_id = e.id
     where e.id = $1 and e.first_of is not null order by b.starts_at desc nulls last, l.at, l.id limit 100`,
    [eventId],
  );

/** Says that a lesson was taken care of for an event, or that it was not; the same may come twice. */
export async function keepSettled(
  tx: Queries,
  lessonId: string,
  eventId: string,
  by: { actor: string; at: string } | null,
): Promise<void> {
  if (by)
    await tx.query(
      'insert into lessons_settled (lesson_id, event_id, actor, at) values ($1, $2, $3, $4) on conflict do nothing',
      [lessonId, eventId, by.actor, by.at],
    );
  else
    await tx.query('delete from lessons_settled where lesson_id = $1 and event_id = $2', [lessonId, eventId]);
}

export const deleteLesson = (tx: Queries, id: string) => tx.query('delete from lessons where id = $1', [id]);
