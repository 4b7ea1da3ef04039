import { chakra } from '@chakra-ui/react';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { lessonsContract } from '#contract/lessons.ts';
import { type Stage, stages } from '#core/events/states.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { stageTitles } from '../stageTitles.ts';

type Lesson = Answer<'GET /api/events/:id/lessons'>['written'][number];

/** What was learnt at an event, written for whoever plans it next. */
export function Lessons({ page }: { page: EventPage }) {
  const lessons = useAsk('GET /api/events/:id/lessons', { params: { id: page.id } });
  const [changing, setChanging] = useState<string | null>(null);
  const { day } = useSaying();
  const may = page.may.change;
  return (
    <>
      <h2>{phrase('lessons.title')}</h2>
      <p className="soft">{phrase('lessons.help')}</p>
      <Loaded of={lessons}>
        {({ written }) => (
          <>
            {written.length === 0 && <Empty>{phrase('lessons.empty')}</Empty>}
            {stages
              .filter((stage) => written.some((l) => l.stage === stage))
              .map((stage) => (
                <section key={stage}>
                  <h3>{stageTitles[stage]}</h3>
                  <ul className="lines">
                    {written
                      .filter((l) => l.stage === stage)
                      .map((l) => (
                        <li key={l.id}>
                          {changing === l.id ? (
                            <LessonForm page={page} lesson={l} close={() => setChanging(null)} />
                          ) : (
                            <div className="spread">
                              <div>
                                <chakra.p margin="0" whiteSpace="pre-line">
                                  {l.text}
                                </chakra.p>
                                <small className="soft">
                                  {phrase('lessons.by', { author: l.author, date: day(l.at) })}
                                </small>
                              </div>
                              {may.includes(stage) && (
                                <Acts page={page} lesson={l} change={() => setChanging(l.id)} />
                              )}
                            </div>
                          )}
                        </li>
                      ))}
                  </ul>
                </section>
              ))}
          </>
        )}
      </Loaded>
      {may.length > 0 && <LessonForm page={page} lesson={null} close={null} />}
    </>
  );
}

function Acts({ page, lesson, change }: { page: EventPage; lesson: Lesson; change: () => void }) {
  const drop = useAction('DELETE /api/events/:id/lessons/:lesson', () => say(phrase('lessons.gone')));
  return (
    <>
      <div className="acts">
        <Button look="plain" aria-label={phrase('lessons.changeOf', { text: lesson.text })} onClick={change}>
          {phrase('lessons.change')}
        </Button>
        <Button
          look="plain"
          disabled={drop.isPending}
          aria-label={phrase('lessons.removeOf', { text: lesson.text })}
          onClick={() => drop.mutate({ params: { id: page.id, lesson: lesson.id } })}
        >
          <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
        </Button>
      </div>
      <Problems of={drop.problem} />
    </>
  );
}

/** Writes a lesson down, or changes one. */
function LessonForm({
  page,
  lesson,
  close,
}: {
  page: EventPage;
  lesson: Lesson | null;
  close: (() => void) | null;
}) {
  const may = stages.filter((s) => page.may.change.includes(s));
  const form = useForm<{ stage: Stage; text: string }, object>({
    values: { stage: (lesson?.stage ?? may[0]!) as Stage, text: lesson?.text ?? '' },
    request: (body) =>
      lesson
        ? prepare(lessonsContract, 'PATCH /api/events/:id/lessons/:lesson', {
            params: { id: page.id, lesson: lesson.id },
            body,
          })
        : prepare(lessonsContract, 'POST /api/events/:id/lessons', { params: { id: page.id }, body }),
    after: () => close?.(),
    again: lesson === null,
  });
  return (
    <chakra.div maxWidth="560px" marginTop="12px">
      <Form
        form={form}
        submit={phrase(lesson ? 'lessons.save' : 'lessons.add')}
        look={lesson ? 'main' : 'normal'}
        beside={
          close && (
            <Button look="plain" onClick={close}>
              {phrase('lessons.cancel')}
            </Button>
          )
        }
      >
        <Choose
          form={form}
          name="stage"
          label={phrase('lessons.stage')}
          choices={may.map((s) => ({ value: s, label: stageTitles[s] }))}
        />
        <LongText form={form} name="text" label={phrase('lessons.text')} rows={3} required />
      </Form>
    </chakra.div>
  );
}
