import { useState } from 'react';
import type { MadeChange } from '#contract/changes.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayAspects } from './changeWords.ts';

/** The last change that can be taken back still: what it was, when its letters go out, and the way back. */
export function LastChange({
  eventId,
  of,
  may,
}: {
  eventId: string;
  /** What was changed: an event, or a series. */
  of: { settling: boolean };
  may: boolean;
}) {
  const changes = useAsk('GET /api/events/:id/changes', {
    params: { id: eventId },
    enabled: of.settling,
  }).data;
  const open = of.settling ? changes?.find((c) => c.settlesAt !== null) : undefined;
  return open ? <Shown eventId={eventId} change={open} may={may} /> : null;
}

function Shown({ eventId, change, may }: { eventId: string; change: MadeChange; may: boolean }) {
  const { at, timeOfDay } = useSaying();
  const [asking, setAsking] = useState<'back' | 'now' | null>(null);
  const params = { id: eventId, change: change.id };
  const close = () => setAsking(null);
  const back = useAction('POST /api/events/:id/changes/:change/back', () => {
    say(phrase('changes.takenBack'));
    close();
  });
  const now = useAction('POST /api/events/:id/changes/:change/now', ({ letters }) => {
    say(phrase('changes.sent', { count: letters }));
    close();
  });
  const [asked, doing] =
    asking === 'now' ? [now, 'changes.sendNow' as const] : [back, 'changes.takeBack' as const];
  return (
    <Note tone="know" marginTop="10px" role="status">
      <p>
        {change.kind === 'called off'
          ? phrase('changes.calledOff', { who: change.by, when: at(change.madeAt) })
          : phrase('changes.changed', {
              who: change.by,
              fields: sayAspects(change.fields),
              when: at(change.madeAt),
            })}{' '}
        {change.letters
          ? phrase('changes.lettersAt', { count: change.letters, time: timeOfDay(change.settlesAt) })
          : phrase('changes.canBeTakenBack')}
      </p>
      {change.stands && <p className="soft">{change.stands}</p>}
      {may && (
        <div className="acts">
          {!change.stands && <Button onClick={() => setAsking('back')}>{phrase('changes.takeBack')}</Button>}
          {change.letters > 0 && (
            <Button onClick={() => setAsking('now')}>{phrase('changes.sendNow')}</Button>
          )}
        </div>
      )}
      <Asking
        open={asking !== null}
        close={close}
        title={phrase(asking === 'now' ? 'changes.sendNowTitle' : 'changes.takeBackTitle')}
        actions={
          <Button look="main" disabled={asked.isPending} onClick={() => asked.mutate({ params, body: {} })}>
            {phrase(doing)}
          </Button>
        }
      >
        <Problems of={asked.problem} />
        <p>
          {asking === 'now'
            ? phrase('changes.sendNowText', { count: change.letters })
            : phrase('changes.takeBackText')}
        </p>
      </Asking>
    </Note>
  );
}
