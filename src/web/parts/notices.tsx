import type { ReactNode } from 'react';
import { ApiProblem } from '#web/api.ts';

/** Shows what was asked for, or what stands in its way. */
export function Loaded<T>({
  of,
  children,
}: {
  of: { data: T | undefined; error: unknown; refetch: () => unknown };
  children: (data: T) => ReactNode;
}) {
  if (of.data !== undefined) return <>{children(of.data)}</>;
  if (of.error)
    return (
      <div className="note stop" role="alert" style={{ margin: 20, border: 0 }}>
        <p>{of.error instanceof ApiProblem ? of.error.message : 'Something went wrong here.'}</p>
        <button type="button" className="btn" onClick={() => of.refetch()}>
          Try again
        </button>
      </div>
    );
  return (
    <p className="empty" role="status" style={{ padding: 20 }}>
      One moment …
    </p>
  );
}

/** The problems of a form or an action, summed up. */
export function Problems({ of }: { of: ApiProblem | null }) {
  if (!of) return null;
  const messages = [...new Set((of.body.fields ?? []).map((f) => f.message))];
  return (
    <div className="problems" role="alert">
      {messages.length > 1 ? (
        <ul style={{ margin: 0, paddingLeft: 16 }}>
          {messages.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </ul>
      ) : (
        (messages[0] ?? of.message)
      )}
    </div>
  );
}
