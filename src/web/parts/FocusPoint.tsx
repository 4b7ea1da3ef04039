import { chakra } from '@chakra-ui/react';
import { phrase } from '#web/words/phrase.ts';
import { placed } from '../kit/placed.ts';

const step = 0.05;
const within = (share: number): number => Math.min(Math.max(share, 0), 1);

/** A picture with the point that stays in view when its sides are cut: a click or the arrow keys move it. */
export function FocusPoint({
  src,
  alt,
  focus,
  set,
  ratio = null,
}: {
  src: string;
  alt: string;
  focus: { x: number; y: number };
  set: (focus: { x: number; y: number }) => void;
  /** The shape it will be cut to, shown beside it. */
  ratio?: string | null;
}) {
  return (
    <chakra.div display="flex" gap="14px" alignItems="flex-start" flexWrap="wrap" marginBottom="12px">
      <chakra.button
        type="button"
        position="relative"
        border="0"
        padding="0"
        background="none"
        cursor="crosshair"
        maxWidth="340px"
        aria-label={phrase('event.focusAt', {
          x: Math.round(focus.x * 100),
          y: Math.round(focus.y * 100),
        })}
        onClick={(e) => {
          // A press of a key comes without a place.
          if (e.detail === 0) return;
          const box = e.currentTarget.getBoundingClientRect();
          set({
            x: within((e.clientX - box.left) / box.width),
            y: within((e.clientY - box.top) / box.height),
          });
        }}
        onKeyDown={(e) => {
          const moves: Record<string, [number, number]> = {
            ArrowLeft: [-step, 0],
            ArrowRight: [step, 0],
            ArrowUp: [0, -step],
            ArrowDown: [0, step],
          };
          const move = moves[e.key];
          if (!move) return;
          e.preventDefault();
          set({ x: within(focus.x + move[0]), y: within(focus.y + move[1]) });
        }}
      >
        <chakra.img src={src} alt={alt} display="block" maxWidth="100%" maxHeight="240px" />
        <chakra.span
          position="absolute"
          width="18px"
          height="18px"
          margin="-9px 0 0 -9px"
          borderRadius="50%"
          border="2px solid"
          borderColor="sheet"
          background="verdigris"
          pointerEvents="none"
          style={placed({ left: `${focus.x * 100}%`, top: `${focus.y * 100}%` })}
        />
      </chakra.button>
      <chakra.div fontSize="small" color="soft" width="180px">
        {phrase('event.focusHelp')}
        <chakra.img
          src={src}
          alt=""
          display="block"
          width="180px"
          marginTop="6px"
          objectFit="cover"
          aspectRatio={ratio ?? '2 / 1'}
          objectPosition={`${focus.x * 100}% ${focus.y * 100}%`}
        />
      </chakra.div>
    </chakra.div>
  );
}
