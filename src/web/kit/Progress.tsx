import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { Button } from '#web/kit/Button.tsx';
import { useKitWords } from './words.ts';

const progressLook: SystemStyleObject = {
  display: 'flex',
  gap: '14px',
  alignItems: 'center',
  margin: '12px 0',
  padding: '8px 12px',
  border: '1px solid var(--line)',
  background: 'var(--sheet)',
  '& progress': {
    flex: 1,
    height: '6px',
    appearance: 'none',
    border: 0,
    background: 'var(--line)',
  },
  '& progress::-webkit-progress-bar': {
    background: 'var(--line)',
  },
  '& progress::-webkit-progress-value': {
    background: 'var(--verdigris)',
  },
  '& progress::-moz-progress-bar': {
    background: 'var(--verdigris)',
  },
};

/** How far long work is, with a way to stop it. */
export function Progress({
  words,
  done,
  all,
  cancel,
  sayAmount,
}: {
  words: string;
  done: number;
  all: number;
  cancel?: () => void;
  /** How an amount is said, where it is no count. */
  sayAmount?: (n: number) => string;
}) {
  const kit = useKitWords();
  const say = sayAmount ?? kit.count;
  return (
    <chakra.div css={progressLook} role="status">
      <span>
        {words}: <span className="num">{say(done)}</span> {kit.of} <span className="num">{say(all)}</span>
      </span>
      <progress max={Math.max(1, all)} value={done} aria-label={words} />
      {cancel && <Button onClick={cancel}>{kit.stop}</Button>}
    </chakra.div>
  );
}
