import type { EventPage } from '#contract/events.ts';
import type { Stage } from '#core/events/states.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

type Lesson = Answer<'GET /api/events/:id/lessons'>['before'][number];

/** What was learnt of a stage the times before; nothing once an event is wrapped up or called off, which learns nothing any more. */
export function useLessonsBefore(page: EventPage, stage: Stage): readonly Lesson[] {
  const lessons = useAsk('GET /api/events/:id/lessons', { params: { id: page.id } }).data?.before ?? [];
  if (page.state === 'wrapped' || page.state === 'called off') return [];
  return lessons.filter((l) => l.stage === stage);
}

/** In the margin: what was learnt of this stage the times before, until it is taken care of here. */
export function LessonsBefore({
  page,
  stage,
  lessons,
}: {
  page: EventPage;
  stage: Stage;
  lessons: readonly Lesson[];
}) {
  const settle = useAction('PUT /api/events/:id/lessons/:lesson/settled');
  const may = page.may.change.includes(stage);
  const put = (lesson: string, settled: boolean) =>
    settle.mutate({ params: { id: page.id, lesson }, body: { settled } });
  return (
    <>
      {lessons.map((l) => (
        <Note key={l.id} tone={l.settledBy ? 'know' : 'need'}>
          <p>
            {!l.settledBy && <b>{phrase('lessons.fromBefore')}: </b>}
            <span className={l.settledBy ? 'soft' : ''}>{l.text}</span>
          </p>
          <p className="soft">
            {phrase('lessons.from', {
              event: l.event.title,
              year: l.event.startsAt?.slice(0, 4) ?? '',
              author: l.author,
            })}
            {l.settledBy && ` ${phrase('lessons.settledBy', { name: l.settledBy })}`}
          </p>
          {may && (
            <Button
              look={l.settledBy ? 'plain' : 'normal'}
              disabled={settle.isPending}
              onClick={() => put(l.id, !l.settledBy)}
            >
              {phrase(l.settledBy ? 'lessons.reopen' : 'lessons.settle')}
            </Button>
          )}
        </Note>
      ))}
      <Problems of={settle.problem} />
    </>
  );
}
