/** A small seeded generator (mulberry32): the same numbers on every machine. */
export interface Random {
  next(): number;
  /** A whole number from `from` to `to`, both included. */
  whole(from: number, to: number): number;
  pick<T>(from: readonly T[]): T;
  /** True with this probability. */
  chance(share: number): boolean;
  /** `count` different ones, in random order. */
  some<T>(from: readonly T[], count: number): T[];
  bytes(count: number): Uint8Array;
}

export function makeRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const whole = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
  return {
    next,
    whole,
    pick: (from) => from[Math.floor(next() * from.length)]!,
    chance: (share) => next() < share,
    some(from, count) {
      const left = [...from];
      const out = [];
      while (out.length < count && left.length)
        out.push(left.splice(Math.floor(next() * left.length), 1)[0]!);
      return out;
    },
    bytes: (count) => Uint8Array.from({ length: count }, () => Math.floor(next() * 256)),
  };
}
