import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { Button } from './Button.tsx';
import { useKitWords } from './words.ts';

/** Filters of a list: beside one another, and behind a button that counts those in use where there is no room. */
export function Filters({ inUse, children }: { inUse: number; children: ReactNode }) {
  const words = useKitWords();
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button hideFrom="md" aria-expanded={open} onClick={() => setOpen(!open)}>
        {words.filters(inUse)}
      </Button>
      <chakra.div
        display={{ base: open ? 'flex' : 'none', md: 'contents' }}
        flexWrap="wrap"
        gap="8px"
        width="100%"
      >
        {children}
      </chakra.div>
    </>
  );
}
