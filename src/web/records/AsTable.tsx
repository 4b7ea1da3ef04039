import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { phrase } from '#web/words/phrase.ts';

/** What a chart shows as a table, opened by whoever would rather read it. */
export function AsTable({ children }: { children: ReactNode }) {
  return (
    <chakra.details
      css={{ '&[open]': { flexBasis: '100%' }, '& td:first-of-type': { whiteSpace: 'nowrap' } }}
    >
      <chakra.summary className="soft" cursor="pointer">
        {phrase('archive.asTable')}
      </chakra.summary>
      <div className="table still">
        <table>{children}</table>
      </div>
    </chakra.details>
  );
}
