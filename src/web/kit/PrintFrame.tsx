import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** What goes on paper: black on white, whole lines on a page, with what it is and when it was printed above it. */
export function PrintFrame({
  title,
  printed,
  children,
}: {
  title: string;
  /** When, in words. */
  printed: string;
  children: ReactNode;
}) {
  return (
    <chakra.section
      aria-label={title}
      css={{
        '@media print': {
          color: 'black',
          background: 'white',
          fontSize: '11pt',
          '& tr, & li': { breakInside: 'avoid' },
          '& thead': { display: 'table-header-group' },
          '& button': { display: 'none' },
        },
      }}
    >
      <chakra.div
        display="none"
        justifyContent="space-between"
        borderBottom="1px solid"
        marginBottom="10px"
        css={{ '@media print': { display: 'flex' } }}
      >
        <b>{title}</b>
        <span>{printed}</span>
      </chakra.div>
      {children}
    </chakra.section>
  );
}
