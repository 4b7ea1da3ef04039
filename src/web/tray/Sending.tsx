import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Asking } from '../kit/Asking.tsx';
import { Button } from '../kit/Button.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { phrase } from '../words/phrase.ts';

/** Stops sending, of an event or of everything, and says where it is stopped and how much waits for it to go on. */
export function Sending({ eventId, may }: { eventId: string | null; may: boolean }) {
  const asked = useAsk('GET /api/sending', {
    ...(eventId && { query: { eventId } }),
    everyMs: 10_000,
  });
  const { at } = useSaying();
  const [asking, setAsking] = useState(false);
  const done = (stop: boolean) => {
    setAsking(false);
    say(phrase(stop ? 'tray.sendingIsStopped' : 'tray.sendingGoesOn'));
  };
  const all = useAction('PUT /api/sending', (_, sent) => done(sent!.body.stop));
  const ofEvent = useAction('PUT /api/events/:id/sending', (_, sent) => done(sent!.body.stop));
  const set = (stop: boolean) =>
    eventId ? ofEvent.mutate({ params: { id: eventId }, body: { stop } }) : all.mutate({ body: { stop } });
  const sending = asked.data;
  if (!sending) return null;
  const { stopped, everything, waiting } = sending;
  if (stopped)
    return (
      <chakra.div
        role="status"
        borderLeft="2px solid"
        borderColor="madder"
        paddingInlineStart="10px"
        marginBlock="10px"
      >
        <p>
          {phrase(everything ? 'tray.everythingStopped' : 'tray.eventStopped', {
            by: stopped.by,
            at: at(stopped.at),
          })}{' '}
          {waiting ? phrase('tray.waitForIt', { count: waiting }) : phrase('tray.nothingWaits')}
        </p>
        <Problems of={all.problem ?? ofEvent.problem} />
        {may && everything === (eventId === null) && (
          <Button onClick={() => set(false)}>{phrase('tray.goOn')}</Button>
        )}
      </chakra.div>
    );
  if (!may) return null;
  return (
    <>
      <Button look="plain" onClick={() => setAsking(true)}>
        {phrase(eventId ? 'tray.stopThis' : 'tray.stopAll')}
      </Button>
      {asking && (
        <Asking
          open
          close={() => setAsking(false)}
          title={phrase(eventId ? 'tray.stopThisTitle' : 'tray.stopAllTitle')}
          actions={
            <Button look="stop" onClick={() => set(true)}>
              {phrase(eventId ? 'tray.stopThis' : 'tray.stopAll')}
            </Button>
          }
        >
          <Problems of={all.problem ?? ofEvent.problem} />
          <p>{phrase(eventId ? 'tray.stopThisMeans' : 'tray.stopAllMeans')}</p>
          <p className="soft">{phrase('tray.goingOnMeans')}</p>
        </Asking>
      )}
    </>
  );
}
