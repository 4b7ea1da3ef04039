import { sayCount } from './saying.ts';

/** How far long work is, with a way to stop it. */
export function Progress({
  words,
  done,
  all,
  cancel,
}: {
  words: string;
  done: number;
  all: number;
  cancel?: () => void;
}) {
  return (
    <div className="progress" role="status">
      <span>
        {words}: <span className="num">{sayCount(done)}</span> of <span className="num">{sayCount(all)}</span>
      </span>
      <progress max={Math.max(1, all)} value={done} aria-label={words} />
      {cancel && (
        <button type="button" className="btn" onClick={cancel}>
          Stop
        </button>
      )}
    </div>
  );
}
