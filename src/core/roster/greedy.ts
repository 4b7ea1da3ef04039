import type { Ground } from './ground.ts';
import { Standing } from './standing.ts';

/**
 * Fills places one after the other and never looks back: first those that are needed at least, then those that are wished;
 * what is important first, and of that what the fewest can do. Of those who can, whoever wants it most and has served least
 * is put on. What everything better is measured against.
 */
export function greedy(ground: Ground): Standing {
  const standing = new Standing(ground);
  fillGreedily(standing);
  return standing;
}

/** Fills what is open of a roster the same way. */
export function fillGreedily(standing: Standing): void {
  const { ground } = standing;
  const { shifts, candidates, units } = ground;
  const order = shifts
    .map((_, at) => at)
    .sort(
      (a, b) =>
        shifts[b]!.importance - shifts[a]!.importance ||
        candidates[a]!.length - candidates[b]!.length ||
        shifts[a]!.start - shifts[b]!.start ||
        a - b,
    );
  for (const upTo of ['least', 'wished'] as const)
    for (const shift of order)
      while (standing.filled[shift]! < shifts[shift]![upTo]) {
        let best = -1;
        let worth = -Infinity;
        for (const unit of candidates[shift]!) {
          if (!standing.can(unit, shift)) continue;
          const of = units[unit]!;
          const load = Math.max(...of.people.map((p) => standing.minutes[p]!));
          const is = of.wishes[of.at.get(shift)!]! * 10_000 - load;
          if (is > worth) [best, worth] = [unit, is];
        }
        if (best < 0) break;
        standing.put(best, shift);
      }
}
