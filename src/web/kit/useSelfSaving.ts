import { useEffect, useRef, useState } from 'react';

export type Saving = 'saved' | 'unsaved' | 'saving' | 'failed';

/** Milliseconds after the last change until it is saved. */
const pause = 600;

/**
 * Saves a value by itself: a moment after its last change, one save after the other, the newest value last; and at once
 * where the page is left. `ready` false waits, as where the value cannot be saved yet.
 */
export function useSelfSaving<T>(
  value: T,
  save: (value: T) => Promise<unknown>,
  { ready = true }: { ready?: boolean } = {},
): Saving {
  const [state, setState] = useState<Saving>('saved');
  const text = JSON.stringify(value);
  const kept = useRef(text);
  const running = useRef<Promise<void> | null>(null);
  const latest = useRef({ value, text, ready, save });
  latest.current = { value, text, ready, save };
  const run = useRef(async () => {
    if (running.current) return;
    const { value, text, ready, save } = latest.current;
    if (!ready || text === kept.current) return;
    running.current = (async () => {
      setState('saving');
      try {
        await save(value);
        kept.current = text;
        setState(latest.current.text === text ? 'saved' : 'unsaved');
      } catch {
        setState('failed');
      }
    })();
    const failed = await running.current.then(() => kept.current !== text);
    running.current = null;
    // What was changed meanwhile follows; what failed waits for the next change.
    if (!failed && latest.current.text !== kept.current) void run.current();
  });
  useEffect(() => {
    if (text === kept.current) return;
    setState((s) => (s === 'saving' ? s : 'unsaved'));
    if (!ready) return;
    const soon = setTimeout(() => void run.current(), pause);
    return () => clearTimeout(soon);
  }, [text, ready]);
  useEffect(() => () => void run.current(), []);
  return state;
}
