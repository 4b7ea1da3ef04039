import { chakra } from '@chakra-ui/react';
import type { KindShape, KindMark as Mark } from '#core/events/kinds.ts';

/** Every mark on a field of 16 by 16. */
export const kindPaths: Readonly<Record<KindShape, string>> = {
  reed: 'M7.2 15V6.6h1.6V15zM6 1.8a2 2.4 0 0 1 4 0v3.4a2 2.4 0 0 1-4 0z',
  wave: 'M1 6.2c2.4-3 4.6-3 7 0s4.6 3 7 0v3.2c-2.4 3-4.6 3-7 0s-4.6-3-7 0z',
  leaf: 'M2 14C2 6 6.5 2 14.2 1.8 14 9.6 10 14 2 14zm1.6-1.6 6-6-.9-.9-6 6z',
  roof: 'M8 1.6 15 8h-2.2v6.4H9.6V10H6.4v4.4H3.2V8H1z',
  lamp: 'M6.4 1h3.2v1.8H12L13.4 12H2.6L4 2.8h2.4zM4.6 13.2h6.8V15H4.6z',
  stone: 'M3 12.6 1.4 8.4 4.6 3l6-.8 4 4.6-1.4 5.8z',
};

/** The mark of a kind of event; nothing where it has none. Its name always stands beside it, so it is not read out. */
export function KindMark({ mark, size = '13px' }: { mark: Mark | null; size?: string }) {
  if (!mark?.shape) return null;
  return (
    <chakra.svg
      display="inline-block"
      width={size}
      height={size}
      marginRight="6px"
      verticalAlign="-1px"
      color={mark.colour || 'soft'}
      viewBox="0 0 16 16"
      aria-hidden="true"
    >
      <path d={kindPaths[mark.shape]} fill="currentColor" />
    </chakra.svg>
  );
}
