import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** One part of what follows, under its heading. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.section margin="14px 0 0" paddingTop="8px" borderTop="1px solid" borderColor="line">
      <chakra.h3 margin="0 0 6px">{title}</chakra.h3>
      {children}
    </chakra.section>
  );
}

/** Lines of one part, without marks before them. */
export const Lines = chakra('ul', {
  base: { listStyle: 'none', padding: 0, margin: '0 0 8px', display: 'grid', gap: '4px' },
});
