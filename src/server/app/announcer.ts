import { EventEmitter } from 'node:events';
import type { Shared } from '../db/database.ts';

type Listener = (figures: Record<string, number>) => void;

/** Tells open pages that something changed, after it was kept, or how far long work is. */
export interface Announcer {
  announce(topic: string, figures?: Record<string, number>): void;
  /** Calls `listener` on every announcement of a topic. Returns how to stop. */
  listen(topic: string, listener: Listener): () => void;
  /** Begins to hear what other processes of the same database announce. Answers how to stop. */
  join(): Promise<() => Promise<void>>;
}

/** Makes an announcer that also reaches the pages that hang on other processes, where there are any. */
export function makeAnnouncer(shared: Shared | null = null): Announcer {
  const emitter = new EventEmitter().setMaxListeners(0);
  return {
    announce: (topic, figures = {}) => {
      emitter.emit(topic, figures);
      shared?.tell(topic, figures);
    },
    listen(topic, listener) {
      emitter.on(topic, listener);
      return () => emitter.off(topic, listener);
    },
    join: async () =>
      (await shared?.hear(
        (topic, figures) => emitter.emit(topic, figures),
        // Every open page looks again.
        () => {
          for (const topic of emitter.eventNames()) emitter.emit(topic, {});
        },
      )) ?? (async () => {}),
  };
}
