import { chakra } from '@chakra-ui/react';
import { type PointerEvent, useRef } from 'react';
import { Button } from '../kit/Button.tsx';
import { Group } from '../kit/Field.tsx';

/** The box a signature is drawn in, in its own units. */
const box = { width: 600, height: 200 } as const;
/** The longest drawing that is kept, in characters. */
const longest = 19_000;

/** A field to draw a signature in, by finger, pen or mouse. It is kept as the path of an SVG. Nobody has to: the typed name signs. */
export function SignaturePad({
  label,
  again,
  value,
  set,
  error,
}: {
  label: string;
  again: string;
  value: string;
  set: (path: string) => void;
  error?: string | undefined;
}) {
  const drawing = useRef<{ path: string; x: number; y: number } | null>(null);
  const at = (e: PointerEvent<SVGSVGElement>) => {
    const { left, top, width, height } = e.currentTarget.getBoundingClientRect();
    const within = (share: number, most: number) => Math.round(Math.min(Math.max(share, 0), 1) * most);
    return {
      x: within((e.clientX - left) / width, box.width),
      y: within((e.clientY - top) / height, box.height),
    };
  };
  return (
    <Group label={label} error={error}>
      <chakra.svg
        viewBox={`0 0 ${box.width} ${box.height}`}
        role="img"
        aria-label={label}
        width="100%"
        maxWidth="420px"
        display="block"
        border="1px dashed"
        borderColor="line"
        borderRadius="3px"
        background="sheet"
        touchAction="none"
        cursor="crosshair"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          const { x, y } = at(e);
          drawing.current = { path: `${value}M${x} ${y}`, x, y };
        }}
        onPointerMove={(e) => {
          const now = drawing.current;
          if (!now) return;
          const { x, y } = at(e);
          // A hand that trembles draws no more than can be seen.
          if (Math.hypot(x - now.x, y - now.y) < 4 || now.path.length > longest) return;
          drawing.current = { path: `${now.path}L${x} ${y}`, x, y };
          set(drawing.current.path);
        }}
        onPointerUp={() => {
          drawing.current = null;
        }}
        onPointerCancel={() => {
          drawing.current = null;
        }}
      >
        <chakra.line x1="30" x2="570" y1="160" y2="160" stroke="line" />
        <chakra.path d={value || 'M0 0'} fill="none" stroke="ink" strokeWidth="3" strokeLinecap="round" />
      </chakra.svg>
      {value && (
        <Button look="link" onClick={() => set('')}>
          {again}
        </Button>
      )}
    </Group>
  );
}
