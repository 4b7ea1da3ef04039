import { chakra } from '@chakra-ui/react';
import { useKitWords } from './words.ts';
import { chip } from './workRecipes.ts';

/** A view that can be switched on: pressed or not. */
export const Chip = chakra('button', chip, { defaultProps: { type: 'button' } });

/** Which part of a list is shown: one of a few, with how many are in each. */
export function ListViews<V extends string>({
  label,
  value,
  set,
  views,
}: {
  label: string;
  value: V | null;
  set: (value: V) => void;
  views: readonly { value: V; label: string; count?: number | undefined }[];
}) {
  const words = useKitWords();
  return (
    <chakra.div role="group" aria-label={label} display="flex" flexWrap="wrap" gap="6px">
      {views.map((v) => (
        <Chip key={v.value} aria-pressed={value === v.value} onClick={() => set(v.value)}>
          {v.label} {v.count === undefined ? '' : words.count(v.count)}
        </Chip>
      ))}
    </chakra.div>
  );
}
