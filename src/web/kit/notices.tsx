import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { ApiProblem } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';

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
      <chakra.div className="note stop" role="alert" margin="20px" border="0">
        <p>{of.error instanceof ApiProblem ? of.error.message : 'Something went wrong here.'}</p>
        <Button onClick={() => of.refetch()}>Try again</Button>
      </chakra.div>
    );
  return (
    <chakra.p className="empty" role="status" padding="20px">
      One moment …
    </chakra.p>
  );
}

/** The problems of a form or an action, summed up. */
export function Problems({ of }: { of: ApiProblem | null }) {
  if (!of) return null;
  const messages = [...new Set((of.body.fields ?? []).map((f) => f.message))];
  return (
    <div className="problems" role="alert">
      {messages.length > 1 ? (
        <chakra.ul margin="0" paddingLeft="16px">
          {messages.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </chakra.ul>
      ) : (
        (messages[0] ?? of.message)
      )}
    </div>
  );
}
