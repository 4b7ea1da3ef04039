import { chakra, Slider } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** A number between two ends, moved by hand or by the arrow keys; what it means is seen while it moves. */
export function Slide({
  label,
  said,
  value,
  set,
  min,
  max,
  consequence,
}: {
  /** Read out, where `said` shows more than words. */
  label: string;
  said: ReactNode;
  value: number;
  set: (value: number) => void;
  min: number;
  max: number;
  consequence?: ReactNode;
}) {
  return (
    <Slider.Root
      min={min}
      max={max}
      value={[value]}
      onValueChange={(d) => set(d.value[0] ?? value)}
      aria-label={[label]}
    >
      <span>{said}</span>
      <Slider.Control>
        <Slider.Track>
          <Slider.Range />
        </Slider.Track>
        <Slider.Thumb index={0}>
          <Slider.HiddenInput />
        </Slider.Thumb>
      </Slider.Control>
      {consequence && (
        <chakra.small color="soft" className="num">
          {consequence}
        </chakra.small>
      )}
    </Slider.Root>
  );
}
