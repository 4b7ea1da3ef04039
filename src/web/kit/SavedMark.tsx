import { chakra } from '@chakra-ui/react';
import type { Saving } from './useSelfSaving.ts';
import { useKitWords } from './words.ts';

/** How far something that saves itself is. */
export function SavedMark({ state }: { state: Saving }) {
  const words = useKitWords();
  return (
    <chakra.span
      role="status"
      fontSize="small"
      color={state === 'failed' ? 'madder' : 'soft'}
      whiteSpace="nowrap"
    >
      {words.saving[state]}
    </chakra.span>
  );
}
