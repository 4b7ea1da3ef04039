import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** What is written beside, as wide as a phone shows it; it stays in sight, and scrolls by itself where it is long. */
export function PhonePreview({ label, children }: { label: string; children: ReactNode }) {
  return (
    <chakra.section
      aria-label={label}
      border="1px solid"
      borderColor="line"
      borderRadius="14px"
      padding="14px 16px 10px"
      maxWidth="390px"
      background="paper"
      position={{ lg: 'sticky' }}
      top="64px"
      maxHeight={{ lg: 'calc(100vh - 90px)' }}
      overflowY="auto"
    >
      {children}
    </chakra.section>
  );
}
