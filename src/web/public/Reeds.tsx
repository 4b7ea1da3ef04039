import { chakra } from '@chakra-ui/react';
import type { KindMark } from '#core/events/kinds.ts';
import { kindPaths } from '../parts/KindMark.tsx';

/** A drawing of reeds at the edge of open water, different for every event but the same every time; with the mark of its kind in the sky. */
export function Reeds({ seed, mark }: { seed: string; mark: KindMark | null }) {
  let state = [...seed].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) >>> 0, 7);
  const next = () => {
    state = (state * 1664525 + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const stems = Array.from({ length: 46 }, (_, n) => ({
    x: n * 14.6 + next() * 9,
    height: 44 + next() * 70,
    lean: next() * 14 - 5,
    head: next() > 0.55,
  }));
  const water = 84 + next() * 10;
  return (
    <chakra.svg
      display="block"
      width="100%"
      height="128px"
      viewBox="0 0 660 128"
      preserveAspectRatio="xMidYMax slice"
      aria-hidden="true"
    >
      <rect width="660" height="128" fill="#DCE6E1" />
      <circle cx={90 + next() * 480} cy={26 + next() * 14} r="13" fill="#F4EBD3" />
      {mark?.shape && (
        <chakra.g transform="translate(556 10) scale(3.6)" color={mark.colour || 'slate'} opacity={0.55}>
          <path d={kindPaths[mark.shape]} fill="currentColor" />
        </chakra.g>
      )}
      <rect y={water} width="660" height={128 - water} fill="#9DB8AD" />
      {[8, 20, 31].map((dy) => (
        <path
          key={dy}
          d={`M0 ${water + dy} q 82 -4 165 0 t 165 0 t 165 0 t 165 0`}
          stroke="#B9CDC4"
          fill="none"
          strokeWidth="1.4"
        />
      ))}
      {stems.map((s) => (
        <g key={s.x} stroke="#52705A" fill="none">
          <path d={`M${s.x} 128 q ${s.lean / 2} ${-s.height / 2} ${s.lean} ${-s.height}`} strokeWidth="1.8" />
          {s.head && (
            <path
              d={`M${s.x + s.lean} ${128 - s.height} l ${s.lean / 5} -13`}
              stroke="#7A5B3A"
              strokeWidth="4.5"
              strokeLinecap="round"
            />
          )}
        </g>
      ))}
    </chakra.svg>
  );
}
