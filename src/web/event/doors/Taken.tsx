import { chakra } from '@chakra-ui/react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

/** The lists of who was there that were taken, each with the way back. */
export function Taken({
  imports,
  may,
}: {
  imports: Answer<'GET /api/events/:id/attendance'>['imports'];
  may: boolean;
}) {
  const { at } = useSaying();
  const undo = useAction('POST /api/attendance-lists/:id/undo', () => say(phrase('event.listTakenBack')));
  if (!imports.length) return null;
  return (
    <>
      <chakra.h3 marginTop="18px">{phrase('event.listsTaken')}</chakra.h3>
      <Problems of={undo.problem} />
      <ul className="lines">
        {imports.map((i) => (
          <li key={i.id} className="spread">
            <span>
              {i.fileName}
              {i.session && `, ${i.session}`}:{' '}
              {phrase('event.rowsPeople', { rows: i.rows, people: i.people })}
              <br />
              <small className="soft">
                {[i.by, at(i.at), i.undoneAt && phrase('event.takenBackAt', { time: at(i.undoneAt) })]
                  .filter(Boolean)
                  .join(' · ')}
              </small>
            </span>
            {may && !i.undoneAt && (
              <Button
                look="plain"
                disabled={undo.isPending}
                onClick={() => undo.mutate({ params: { id: i.id }, body: {} })}
              >
                {phrase('event.takeListBack')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
