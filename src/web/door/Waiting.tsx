import { Button } from '#web/kit/Button.tsx';
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
          <b>{cut ? 'No connection.' : 'Sending …'}</b>{' '}
          {waiting.length > 0
            ? `${waiting.length} ${waiting.length === 1 ? 'mark is' : 'marks are'} kept on this device and ${waiting.length === 1 ? 'goes' : 'go'} out by ${waiting.length === 1 ? 'itself' : 'themselves'}.`
            : 'The list may be old. Arrivals are kept on this device.'}
        </div>
      )}
      {refused.map((m) => (
        <div key={m.id} className="lamp stop" role="alert">
          <h2>Not counted: {m.name}</h2>
          <p>{m.refused}</p>
          <Button size="touch" onClick={() => void dismiss(m.id)}>
            I have seen this
          </Button>
        </div>
      ))}
    </>
  );
}
