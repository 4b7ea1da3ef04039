import { EventEmitter } from 'node:events';

/** Tells open pages that something changed, after it was kept, or how far long work is. */
export interface Announcer {
  announce(topic: string, figures?: Record<string, number>): void;
  /** Calls `listener` on every announcement of a topic. Returns how to stop. */
  listen(topic: string, listener: (figures: Record<string, number>) => void): () => void;
}

export function makeAnnouncer(): Announcer {
  const emitter = new EventEmitter().setMaxListeners(0);
  return {
    announce: (topic, figures = {}) => {
      emitter.emit(topic, figures);
    },
    listen(topic, listener) {
      emitter.on(topic, listener);
      return () => emitter.off(topic, listener);
    },
  };
}
