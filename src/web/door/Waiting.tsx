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
  const { marks, requests, offline } = useOutbox();
  const since = useTaken((s) => s.from[address]);
  const noRoom = useTaken((s) => s.noRoom);
  const kept = [...marks, ...requests];
  const waiting = kept.filter((m) => m.refused === null && !('stopped' in m));
  const refused = kept.filter((m) => m.refused !== null);
  const stopped = requests.filter((r) => r.stopped !== undefined);
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
      {stopped.map((r) => (
        <div key={r.id} className="lamp settle" role="alert">
          <h2>{phrase('door.notInYet', { name: r.name })}</h2>
          <p>{phrase('door.registeredStopped', { what: r.stopped ?? '' })}</p>
          <Button size="touch" onClick={() => void dismiss(r.id)}>
            {phrase('door.iHaveSeenThis')}
          </Button>
        </div>
      ))}
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
