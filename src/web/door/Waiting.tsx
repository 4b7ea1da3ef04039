import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { dismiss, useOutbox } from './outbox.ts';

/** What this device still has to tell the server, and what the server would not take. Nothing when all is told. */
export function Waiting({ behind = false }: { behind?: boolean }) {
  const { marks, offline } = useOutbox();
  const waiting = marks.filter((m) => m.refused === null);
  const refused = marks.filter((m) => m.refused !== null);
  const cut = offline || behind;
  return (
    <>
      {(cut || waiting.length > 0) && (
        <div className={`offline ${cut ? 'cut' : ''}`} role="status" data-testid="offline">
          <b>{cut ? phrase('door.noConnection') : phrase('door.sending')}</b>{' '}
          {waiting.length > 0
            ? phrase('door.marksWait', { count: waiting.length })
            : phrase('door.theListMayBe')}
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
