import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** What is known of something, a line each; what nobody knows is left out, and a name that comes again is said once. */
export function Facts({ of }: { of: readonly (readonly [name: string, value: ReactNode])[] }) {
  return (
    // Beside a photo the lines would be too narrow.
    <chakra.dl clear="both" margin="12px 0" fontSize="medium">
      {of
        .filter(([, value]) => value !== null && value !== undefined && value !== '' && value !== false)
        .map(([name, value], at, shown) => (
          <chakra.div
            // Lines have no identity but their place.
            key={at}
            display="grid"
            gridTemplateColumns="112px minmax(0, 1fr)"
            gap="10px"
            padding="4px 0"
            borderBottom="1px solid"
            borderColor="line"
          >
            <chakra.dt color="soft">{name === shown[at - 1]?.[0] ? '' : name}</chakra.dt>
            <chakra.dd margin="0" overflowWrap="anywhere">
              {value}
            </chakra.dd>
          </chakra.div>
        ))}
    </chakra.dl>
  );
}
