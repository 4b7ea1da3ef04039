import { EventEmitter } from 'node:events';

/** Tells open pages that something about an event changed, after it was kept. */
export interface Announcer {
  announce(topic: string): void;
  /** Calls `listener` on every announcement of a topic. Returns how to stop. */
  listen(topic: string, listener: () => void): () => void;
}

export function makeAnnouncer(): Announcer {
  const emitter = new EventEmitter().setMaxListeners(0);
  return {
    announce: (topic) => {
      emitter.emit(topic);
    },
    listen(topic, listener) {
      emitter.on(topic, listener);
      return () => emitter.off(topic, listener);
    },
  };
}
