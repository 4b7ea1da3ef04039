import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** One thing that was done. */
export interface Deed {
  id: string;
  when: string;
  who: string;
  what: ReactNode;
  /** What it was done to. */
  about?: ReactNode;
}

/** Who did what, newest first. */
export function History({ label, deeds }: { label: string; deeds: readonly Deed[] }) {
  return (
    <chakra.ol aria-label={label} listStyleType="none" margin="0" padding="0" fontSize="medium">
      {deeds.map((d) => (
        <chakra.li
          key={d.id}
          display="grid"
          gridTemplateColumns={{ base: 'minmax(0, 1fr)', md: '110px 150px minmax(0, 1fr) minmax(0, 1fr)' }}
          gap={{ base: '0', md: '12px' }}
          padding="6px 0"
          borderBottom="1px solid"
          borderColor="line"
        >
          <chakra.span color="soft" textStyle="figures">
            {d.when}
          </chakra.span>
          <chakra.span fontFamily="title" fontWeight={500}>
            {d.who}
          </chakra.span>
          <span>{d.what}</span>
          <span>{d.about}</span>
        </chakra.li>
      ))}
    </chakra.ol>
  );
}
