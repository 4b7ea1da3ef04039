import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** What can be done with several rows at once, above their table. */
export function ChosenBar({ label, children }: { label: string; children: ReactNode }) {
  return (
    <chakra.div
      role="group"
      aria-label={label}
      display="flex"
      flexWrap="wrap"
      gap="8px 14px"
      alignItems="center"
      padding="6px 12px"
      margin="6px 0"
      border="1px solid"
      borderColor="verdigris"
      background="wash"
      fontSize="14px"
    >
      <b className="num">{label}</b>
      {children}
    </chakra.div>
  );
}
