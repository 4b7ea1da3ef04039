import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Button } from './Button.tsx';

/** Where a filter leaves nothing: what was looked for, and each way to see more. */
export function NothingFound({
  children,
  ways,
}: {
  children: ReactNode;
  /** What can be let go of, each with what it does. */
  ways: readonly { label: string; run: () => void }[];
}) {
  return (
    <>
      {children}
      {ways.length > 0 && (
        <chakra.span display="flex" flexWrap="wrap" gap="6px" marginTop="8px">
          {ways.map((w) => (
            <Button key={w.label} onClick={w.run}>
              {w.label}
            </Button>
          ))}
        </chakra.span>
      )}
    </>
  );
}
