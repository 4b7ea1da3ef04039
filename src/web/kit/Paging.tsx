import { chakra } from '@chakra-ui/react';
import { Button } from './Button.tsx';
import { useKitWords } from './words.ts';

/** Goes through a long list part by part. Where it is not known how many there are, `more` says whether any follow. */
export function Paging({
  offset,
  size,
  shown,
  total,
  more = total !== undefined && offset + size < total,
  set,
}: {
  offset: number;
  size: number;
  /** How many are shown now. */
  shown: number;
  total?: number;
  more?: boolean;
  set: (offset: number) => void;
}) {
  const words = useKitWords();
  if (offset === 0 && !more) return null;
  return (
    <chakra.nav
      aria-label={words.parts}
      display="flex"
      gap="10px"
      alignItems="center"
      margin="10px 0"
      fontSize="medium"
      color="soft"
      textStyle="figures"
    >
      {words.range(offset + 1, offset + shown, total)}
      <Button disabled={offset === 0} onClick={() => set(Math.max(0, offset - size))}>
        {words.previous}
      </Button>
      <Button disabled={!more} onClick={() => set(offset + size)}>
        {words.next}
      </Button>
    </chakra.nav>
  );
}
