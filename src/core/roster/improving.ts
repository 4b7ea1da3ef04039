import { compareScores, coverOf, type Score, scoreOf } from './score.ts';
import type { Standing } from './standing.ts';

/** Numbers from 0 to 1 that look random; the same for the same seed. */
export function numbersFrom(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** What one change is worth while searching: the terms of the score with weights that keep their order in nearly all changes. */
interface Weights {
  least: number;
  wished: number;
  wishes: number;
  load: number;
}

function weightsFor(standing: Standing, lean: number): Weights {
  const { shifts, units } = standing.ground;
  const importances = shifts.map((s) => s.importance).filter((i) => i > 0);
  const lowest = Math.min(1, ...importances);
  const highest = Math.max(lowest, ...importances);
  let wish = 0;
  for (const unit of units) for (const w of unit.wishes) wish = Math.max(wish, Math.abs(w));
  const wishes = wish === 0 ? 0 : lean / wish;
  const wished = 4 / lowest;
  return { least: (3 * wished * highest) / lowest, wished, wishes, load: 0.002 * lean };
}

/**
 * Improves a roster by giving a unit a shift, taking off what is in its way, and filling again what that left open; changes
 * for the worse are taken less and less often (simulated annealing): `warmth` says how readily at first, `share` how much of the time has gone.
 * With `lean` below 1 what people wish and how hours are shared counts for less beside places: more of them are filled in a short time.
 * Ends when `until` says so, with the best that was seen.
 */
export function improve(
  standing: Standing,
  random: () => number,
  until: () => boolean,
  share: () => number,
  warmth = 1.5,
  lean = 1,
): Score {
  const { ground } = standing;
  const { units, shifts, candidates, conflicts, places: at } = ground;
  const w = weightsFor(standing, lean);
  const active = units.flatMap((unit, at) => (unit.shifts.length ? [at] : []));
  let best = scoreOf(standing);
  let kept = standing.pairs();
  if (!active.length) return best;
  const any = (n: number) => Math.floor(random() * n);
  const done: [put: boolean, unit: number, shift: number][] = [];
  let gained = 0;
  /** What a unit on a shift is worth at this moment, beside the places it fills. */
  const ownWorth = (unit: number, shift: number, put: 1 | -1): number => {
    const of = units[unit]!;
    const hours = (put * shifts[shift]!.minutes) / 60;
    let squares = 0;
    // (now + h)² − now², and the same backwards where it is taken off.
    for (const p of of.people) squares += put * hours * ((2 * standing.minutes[p]!) / 60 + hours);
    return w.wishes * of.wishes[at[unit * shifts.length + shift]!]! - w.load * squares;
  };
  const places = (shift: number): number => {
    const { importance, least } = shifts[shift]!;
    const n = standing.filled[shift]!;
    return importance * (w.least * Math.min(n, least) + w.wished * Math.max(0, n - least));
  };
  const put = (unit: number, shift: number) => {
    const before = places(shift);
    gained += ownWorth(unit, shift, 1);
    standing.put(unit, shift);
    gained += places(shift) - before;
    done.push([true, unit, shift]);
  };
  const take = (unit: number, shift: number) => {
    const before = places(shift);
    gained -= ownWorth(unit, shift, -1);
    standing.take(unit, shift);
    gained += places(shift) - before;
    done.push([false, unit, shift]);
  };
  const undo = () => {
    for (const [was, unit, shift] of done.reverse())
      if (was) standing.take(unit, shift);
      else standing.put(unit, shift);
  };
  /** Somebody of a few looked at who can take a place of a shift: whoever is worth most there. */
  const refill = (shift: number, not: number) => {
    const there = candidates[shift]!;
    let found = -1;
    let worth = -Infinity;
    for (let tries = 0; tries < 12; tries += 1) {
      const unit = there[any(there.length)]!;
      if (unit === not || !standing.can(unit, shift)) continue;
      const is = ownWorth(unit, shift, 1);
      if (is > worth) [found, worth] = [unit, is];
    }
    if (found >= 0) put(found, shift);
  };
  const occupy = (unit: number, not: number) => {
    const of = units[unit]!;
    let found = -1;
    let worth = -Infinity;
    for (let tries = 0; tries < 12; tries += 1) {
      const shift = of.shifts[any(of.shifts.length)]!;
      if (shift === not || !standing.can(unit, shift)) continue;
      const { importance, least } = shifts[shift]!;
      const is =
        importance * (standing.filled[shift]! < least ? w.least : w.wished) + ownWorth(unit, shift, 1);
      if (is > worth) [found, worth] = [shift, is];
    }
    if (found >= 0) put(unit, found);
  };

  let heat = 1;
  let scalar = 0;
  let bestScalar = 0;
  /** Keeps what there is where it is the best so far. Now and then is often enough, and much cheaper than at every step. */
  const look = () => {
    if (scalar <= bestScalar + 1e-9) return;
    bestScalar = scalar;
    if (coverOf(ground, standing.filled).least < best.least) return;
    const score = scoreOf(standing);
    if (compareScores(score, best) >= 0) return;
    best = score;
    kept = standing.pairs();
  };
  for (let step = 0; ; step += 1) {
    if (step % 256 === 0) {
      look();
      if (until()) break;
      heat = warmth * (1 - share()) ** 2 + 0.002;
    }
    let unit = active[any(active.length)]!;
    let shift = units[unit]!.shifts[any(units[unit]!.shifts.length)]!;
    if (random() < 0.5) {
      // Half of the time where something is open.
      for (let tries = 0; tries < 20; tries += 1) {
        const wanted = any(shifts.length);
        if (standing.filled[wanted]! < shifts[wanted]!.wished && candidates[wanted]!.length) {
          shift = wanted;
          unit = candidates[wanted]![any(candidates[wanted]!.length)]!;
          break;
        }
      }
    }
    const of = units[unit]!;
    done.length = 0;
    gained = 0;
    const left: number[] = [];
    const out: number[] = [];
    if (standing.has(unit, shift)) {
      if (!standing.canLeave(unit, shift)) continue;
      take(unit, shift);
      left.push(shift);
      out.push(unit);
    } else {
      // What is in the way: shifts at that time, and where a limit is reached one more of their own.
      const own = standing.shiftsOf[unit]!;
      for (let n = own.length - 1; n >= 0; n -= 1) {
        const other = own[n]!;
        if (!conflicts[shift * shifts.length + other]) continue;
        if (!standing.canLeave(unit, other)) continue;
        take(unit, other);
        left.push(other);
      }
      // Somebody gives way where no place is free.
      const on = standing.unitsOn[shift]!;
      if (
        standing.filled[shift]! + of.sizes[at[unit * shifts.length + shift]!]! > shifts[shift]!.wished &&
        on.length
      ) {
        const away = on[any(on.length)]!;
        if (standing.canLeave(away, shift)) {
          take(away, shift);
          out.push(away);
        }
      }
      if (!standing.can(unit, shift) && standing.shiftsOf[unit]!.length) {
        const other = standing.shiftsOf[unit]![any(standing.shiftsOf[unit]!.length)]!;
        if (standing.canLeave(unit, other)) {
          take(unit, other);
          left.push(other);
        }
      }
      if (!standing.can(unit, shift)) {
        undo();
        continue;
      }
      put(unit, shift);
    }
    for (const s of left) if (standing.filled[s]! < shifts[s]!.wished) refill(s, unit);
    for (const u of out) occupy(u, shift);
    if (gained < 0 && random() >= Math.exp(gained / heat)) {
      undo();
      continue;
    }
    scalar += gained;
  }
  standing.become(kept);
  return best;
}
