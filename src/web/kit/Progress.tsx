import { Button } from '#web/kit/Button.tsx';
import { sayCount } from '../parts/saying.ts';

/** How far long work is, with a way to stop it. */
export function Progress({
  words,
  done,
  all,
  cancel,
  sayAmount = sayCount,
}: {
  words: string;
  done: number;
  all: number;
  cancel?: () => void;
  /** How an amount is said, where it is no count. */
  sayAmount?: (n: number) => string;
}) {
  return (
    <div className="progress" role="status">
      <span>
        {words}: <span className="num">{sayAmount(done)}</span> of{' '}
        <span className="num">{sayAmount(all)}</span>
      </span>
      <progress max={Math.max(1, all)} value={done} aria-label={words} />
      {cancel && <Button onClick={cancel}>Stop</Button>}
    </div>
  );
}
