import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { dismiss, useOutbox } from './outbox.ts';
import { useTaken } from './taken.ts';

const minute = 60_000;

/** How old something is, in words. */
const sayAge = (since: number): string => {
  const minutes = Math.round((Date.now() - since) / minute);
  return minutes < 1
    ? phrase('door.justNow')
    : minutes < 90
      ? phrase('door.minutesOld', { count: minutes })
      : phrase('door.hoursOld', { count: Math.round(minutes / 60) });
};

/** What this device still has to tell the server, how fresh its list is, and what the server would not take. Nothing when all is told. */
export function Waiting({ behind = false, address }: { behind?: boolean; address: string }) {
  const { marks, offline } = useOutbox();
  const since = useTaken((s) => s.from[address]);
  const noRoom = useTaken((s) => s.noRoom);
  const waiting = marks.filter((m) => m.refused === null);
  const refused = marks.filter((m) => m.refused !== null);
  const cut = offline || behind || since !== undefined;
  return (
    <>
      {(cut || waiting.length > 0) && (
        <div className={`offline ${cut ? 'cut' : ''}`} role="status" data-testid="offline">
          <b>{cut ? phrase('door.noConnection') : phrase('door.sending')}</b>{' '}
          {since !== undefined && `${phrase('door.listFrom', { age: sayAge(since) })} `}
          {waiting.length > 0
            ? phrase('door.marksWait', { count: waiting.length })
            : phrase('door.theListMayBe')}
        </div>
      )}
      {noRoom && (
        <div className="offline" role="status">
          {phrase('door.noRoom')}
        </div>
      )}
      {refused.map((m) => (
        <div key={m.id} className="lamp stop" role="alert">
          <h2>{phrase('door.notCounted', { name: m.name })}</h2>
          <p>{m.refused}</p>
          <Button size="touch" onClick={() => void dismiss(m.id)}>
            {phrase('door.iHaveSeenThis')}
          </Button>
        </div>
      ))}
    </>
  );
}
