import { ArrowDown, ArrowUp } from 'lucide-react';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';

/** One place further up or down, where there is one. */
export function Moves({
  name,
  up,
  down,
}: {
  name: string;
  up: (() => void) | null;
  down: (() => void) | null;
}) {
  return (
    <>
      {up && (
        <Button look="plain" onClick={up} aria-label={phrase('questions.moveUp', { name })}>
          <ArrowUp size={14} aria-hidden /> {phrase('questions.up')}
        </Button>
      )}
      {down && (
        <Button look="plain" onClick={down} aria-label={phrase('questions.moveDown', { name })}>
          <ArrowDown size={14} aria-hidden /> {phrase('questions.down')}
        </Button>
      )}
    </>
  );
}
