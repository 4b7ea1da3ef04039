import { chakra } from '@chakra-ui/react';
import type { Answer } from '#web/api.ts';
import { placed } from '#web/kit/placed.ts';

type Goal = Answer<'GET /api/initiatives'>[number]['goals'][number];

/** How far a goal is: what there is, what is on its way as things go, and where the goal stands. Said in words beside it. */
export function GoalBar({ goal: { value, target, ahead, kind, direction } }: { goal: Goal }) {
  if (kind === 'latest' || direction === 'less' || value === null || target <= 0) return null;
  const full = Math.max(target, ahead?.high ?? 0, value);
  const share = (n: number) => `${Math.min(100, (n / full) * 100)}%`;
  return (
    <chakra.div
      aria-hidden
      position="relative"
      height="12px"
      margin="4px 0 6px"
      borderBottom="1px solid"
      borderColor="line"
    >
      <chakra.div
        position="absolute"
        inset="2px auto 2px 0"
        background="verdigris"
        style={placed({ width: share(value) })}
      />
      {ahead && (
        <chakra.div
          position="absolute"
          top="5px"
          height="2px"
          background="verdigris"
          style={placed({ left: share(ahead.low), width: share(ahead.high - ahead.low) })}
        />
      )}
      <chakra.div
        position="absolute"
        top="-2px"
        height="16px"
        borderLeft="2px solid"
        borderColor="ink"
        style={placed({ left: `calc(${share(target)} - 2px)` })}
      />
    </chakra.div>
  );
}
