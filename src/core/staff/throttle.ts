/** How often something failed lately, and when it may be tried again. Times in milliseconds. */
interface Failures {
  count: number;
  lastAt: number;
  freeAt: number;
}

export interface Throttle {
  /** Milliseconds to wait before a try under this key; 0 when it may be tried now. */
  wait(key: string, now: number): number;
  failed(key: string, now: number): void;
  succeeded(key: string): void;
}

/**
 * Slows tries down under each key: after `free` failures every further one doubles the wait, from a second up to `most`.
 * Failures are forgotten after `forget`. Keys beyond `keys` push the oldest out, so that nobody fills the memory.
 */
export function makeThrottle({
  free,
  most = 15 * 60_000,
  forget = 60 * 60_000,
  keys = 50_000,
}: {
  free: number;
  most?: number;
  forget?: number;
  keys?: number;
}): Throttle {
  const known = new Map<string, Failures>();
  const lately = (key: string, now: number): Failures | null => {
    const f = known.get(key);
    if (!f) return null;
    if (now - f.lastAt > forget && now >= f.freeAt) {
      known.delete(key);
      return null;
    }
    return f;
  };
  return {
    wait: (key, now) => Math.max(0, (lately(key, now)?.freeAt ?? 0) - now),
    failed(key, now) {
      const count = (lately(key, now)?.count ?? 0) + 1;
      const beyond = count - free;
      const wait = beyond < 0 ? 0 : Math.min(most, 1000 * 2 ** Math.min(beyond, 30));
      known.delete(key);
      known.set(key, { count, lastAt: now, freeAt: now + wait });
      if (known.size > keys) known.delete(known.keys().next().value!);
    },
    succeeded(key) {
      known.delete(key);
    },
  };
}
