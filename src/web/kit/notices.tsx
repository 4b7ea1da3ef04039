import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { ApiProblem } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { useKitWords } from './words.ts';

/** Where something will stand; seen only when it takes longer than a moment. */
export function Loading() {
  const words = useKitWords();
  return (
    <chakra.div role="status" aria-label={words.loading} padding="20px" animation="appear 1ms 150ms both">
      {['62%', '90%', '76%'].map((width) => (
        <chakra.div key={width} height="12px" width={width} margin="0 0 12px" background="line" />
      ))}
    </chakra.div>
  );
}

/** What went wrong in place of what was asked for, with a way to ask again. */
function Failed({ error, again }: { error: unknown; again: () => unknown }) {
  const words = useKitWords();
  return (
    <chakra.div
      role="alert"
      borderLeft="2px solid"
      borderColor="madder"
      padding="2px 0 2px 12px"
      margin="20px 0"
    >
      <p>{error instanceof ApiProblem ? error.message : words.failed}</p>
      <Button marginTop="8px" onClick={() => again()}>
        {words.tryAgain}
      </Button>
    </chakra.div>
  );
}

/** Shows what was asked for, or what stands in its way. */
export function Loaded<T>({
  of,
  missing,
  children,
}: {
  of: { data: T | undefined; error: unknown; refetch: () => unknown };
  /** What is shown where it is not there. */
  missing?: ReactNode;
  children: (data: T) => ReactNode;
}) {
  if (of.data !== undefined) return <>{children(of.data)}</>;
  if (missing && of.error instanceof ApiProblem && of.error.body.status === 404) return <>{missing}</>;
  if (of.error) return <Failed error={of.error} again={of.refetch} />;
  return <Loading />;
}

/** The problems of an action, summed up. */
export function Problems({ of }: { of: ApiProblem | null }) {
  if (!of) return null;
  const messages = [...new Set(Object.values(of.fields))];
  return (
    <chakra.div
      role="alert"
      borderLeft="2px solid"
      borderColor="madder"
      color="madder"
      fontSize="medium"
      padding="2px 0 2px 11px"
      marginBottom="14px"
    >
      {messages.length > 1 ? (
        <chakra.ul margin="0" paddingLeft="16px">
          {messages.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </chakra.ul>
      ) : (
        (messages[0] ?? of.message)
      )}
    </chakra.div>
  );
}
