import { type Aim, putAnew } from './anew.ts';
import { bestColumns } from './columns.ts';
import { dive } from './diving.ts';
import { greedy } from './greedy.ts';
import type { Ground } from './ground.ts';
import { improve, numbersFrom } from './improving.ts';
import type { LinearAnswer, NewLinearModel } from './linear.ts';
import { Master } from './master.ts';
import { fewestChanges, take as goSteps } from './repairing.ts';
import { compareScores, coverOf, fixedWishes, isGain, type Score, type ScoreTerm, scoreOf } from './score.ts';
import { Standing } from './standing.ts';

/** How far it is: what there is so far, and what no roster can be better than. */
export interface RosterProgress {
  score: Score;
  bound: Score;
  seconds: number;
}

export interface SolvingWith {
  newLinear: NewLinearModel;
  /** Seconds it may take. */
  seconds: number;
  /** Seconds since some moment. */
  now: () => number;
  seed?: number;
  progress?: (so: RosterProgress) => void;
  /** Whether it is to end with what it has. */
  stopped?: () => boolean;
}

/** Below so many seconds nothing is proven of many people: all of it is needed to fill places. */
const quick = 5;
/** What share of what is possible is near to it. */
const near = 0.99;

export interface Solved extends RosterProgress {
  standing: Standing;
}

/** What nobody can be better than without looking further. */
function firstBounds(ground: Ground): Score {
  const reach = ground.shifts.map(
    (s, at) =>
      s.fixed +
      ground.candidates[at]!.reduce((sum, u) => {
        const unit = ground.units[u]!;
        return sum + unit.sizes[unit.at.get(at)!]!;
      }, 0),
  );
  const fixed = ground.fixedMinutes.map((m) => m / 60);
  const wishes = ground.units.reduce((sum, unit, at) => {
    const [best] = bestColumns(ground, at, (n) => unit.wishes[n]!, {
      squared: 0,
      above: 0,
      most: 1,
      mostMinutes: Infinity,
    });
    return sum + (best?.worth ?? 0);
  }, fixedWishes(ground));
  return {
    ...coverOf(ground, reach),
    wishes,
    largest: Math.max(0, ...fixed),
    spread: fixed.reduce((sum, h) => sum + h * h, 0),
  };
}

/** The finest step in which some numbers are whole, of 1, a half, a quarter, tenths and hundredths; 0 where in none. */
function stepOf(numbers: Iterable<number>): number {
  const all = [...new Set(numbers)];
  return (
    [1, 0.5, 0.25, 0.1, 0.05, 0.01].find((step) =>
      all.every((n) => Math.abs(n / step - Math.round(n / step)) < 1e-9),
    ) ?? 0
  );
}

/**
 * Works a roster out: a start that looks ahead as little as `greedy`, improved for a moment, then made as good as can be and
 * proven. Where everything each person can do is few enough to write down, whole-number models of it are solved term by term;
 * else columns are made as they are needed, and rosters put together by diving. Ends with what it has where time runs out,
 * and with how good it could be at most.
 */
export function solveRoster(ground: Ground, of: SolvingWith): Solved {
  const began = of.now();
  const elapsed = () => of.now() - began;
  const left = () => (of.stopped?.() ? 0 : of.seconds - elapsed());
  const random = numbersFrom(of.seed ?? 1);
  const best = greedy(ground);
  let score = scoreOf(best);
  const bound = firstBounds(ground);
  const steps: Record<'least' | 'wished' | 'wishes', number> = (() => {
    const places = stepOf(ground.shifts.map((s) => s.importance));
    return {
      least: places,
      wished: places,
      wishes: stepOf(ground.instance.people.flatMap((p) => Object.values(p.wishes))),
    };
  })();
  const tell = () => of.progress?.({ score, bound: { ...bound }, seconds: elapsed() });
  const proven = (term: ScoreTerm): boolean =>
    Math.abs(score[term] - bound[term]) <= 1e-6 * Math.max(1, Math.abs(score[term]));
  /** No roster is better than this in a term; what only fractions could reach is rounded away. */
  const lower = (term: ScoreTerm, to: number) => {
    const step = term === 'largest' || term === 'spread' ? 0 : steps[term];
    const kept = step ? Math.floor(to / step + 1e-6) * step : to;
    bound[term] = isGain(term)
      ? Math.max(score[term], Math.min(bound[term], kept))
      : Math.min(score[term], Math.max(bound[term], kept));
  };
  /** Whoever is of age first, so that nobody under age is refused for being alone. */
  const ordered = (pairs: readonly (readonly [number, number])[]) => {
    const young = ([unit, shift]: readonly [number, number]) => {
      const there = ground.units[unit]!;
      return there.adults[there.at.get(shift)!] ? 0 : 1;
    };
    return [...pairs].sort((a, b) => young(a) - young(b));
  };
  /** Fills what is open by moving people along, the most important first, for so many seconds at most. */
  const fillUp = (standing: Standing, seconds: number) => {
    const until = elapsed() + seconds;
    const { shifts } = ground;
    for (const upTo of ['least', 'wished'] as const) {
      const open = shifts
        .map((_, at) => at)
        .filter((at) => standing.filled[at]! < shifts[at]![upTo])
        .sort((a, b) => shifts[b]!.importance - shifts[a]!.importance);
      for (const shift of open)
        while (standing.filled[shift]! < shifts[shift]![upTo] && elapsed() < until && left() > 0) {
          const steps = fewestChanges(standing, shift);
          if (!steps || !goSteps(standing, steps)) break;
        }
    }
  };
  /** Takes a roster over where it is better. */
  const take = (pairs: readonly (readonly [number, number])[]): boolean => {
    const other = new Standing(ground);
    for (const [unit, shift] of ordered(pairs)) if (other.can(unit, shift)) other.put(unit, shift);
    const is = scoreOf(other);
    if (compareScores(is, score) >= 0) return false;
    best.become(other.pairs());
    score = is;
    tell();
    return true;
  };
  /** Whether every place is filled that can be at all, at this moment. */
  const isFull = (): boolean => {
    const { least, wished } = coverOf(ground, best.filled);
    return least > bound.least - 1e-6 && wished > bound.wished - 1e-6;
  };
  const polish = (seconds: number, warmth: number, { lean = 1, untilFull = false } = {}) => {
    const from = elapsed();
    const span = Math.min(seconds, left());
    if (span <= 0) return;
    const is = improve(
      best,
      random,
      () => left() <= 0 || elapsed() - from >= span || (untilFull && elapsed() > moment && isFull()),
      () => (elapsed() - from) / span,
      warmth,
      lean,
    );
    if (compareScores(is, score) < 0) score = is;
    tell();
  };
  const done = (): Solved => ({ standing: best, score, bound: { ...bound }, seconds: elapsed() });

  tell();
  const size = ground.units.reduce((sum, unit) => sum + unit.shifts.length, 0);
  const master = new Master(ground, of.newLinear);
  const small = master.learnAll(40_000);
  // A moment of chance is enough where all of it is looked at afterwards, or where there are people enough. Where they are scarce, chance
  // fills more places than anything else for as long as it has time.
  const moment = Math.min(1.2, of.seconds * 0.3, 0.1 + size / 10_000);
  if (small) polish(moment, 1.5);
  else if (of.seconds < quick) {
    polish(of.seconds * 0.85 - elapsed(), 1.5, { lean: 0.15, untilFull: true });
    // Every place has somebody: what is left of the time is for what people wish.
    if (isFull()) polish(of.seconds * 0.85 - elapsed(), 0.3);
  } else {
    polish(moment, 1.5);
    if (!(proven('least') && proven('wished')))
      polish(Math.min(of.seconds * 0.45, 1.5 + size / 4000) - elapsed(), 1.5, { untilFull: true });
  }
  const filled = new Standing(ground);
  filled.become(best.pairs());
  fillUp(filled, of.seconds * 0.03);
  take(filled.pairs());
  if (left() <= 0) {
    master.close();
    return done();
  }
  master.learn(best);
  try {
    if (small) exactly();
    else byColumns();
  } finally {
    master.close();
  }
  return done();

  /** Whole-number models of everything there is, term by term. */
  function exactly(): void {
    const aims: [Exclude<ScoreTerm, 'largest'>, Aim][] = [
      ['least', { least: 1, wished: 0, wishes: 0, squares: 0 }],
      ['wished', { least: 0, wished: 1, wishes: 0, squares: 0 }],
      ['wishes', { least: 0, wished: 0, wishes: 1, squares: 0 }],
      ['spread', { least: 0, wished: 0, wishes: 0, squares: 1 }],
    ];
    const base = scoreOf(new Standing(ground));
    for (const [term, aim] of aims) {
      if (term === 'spread' && !smallestLargest()) return;
      if (!proven(term)) {
        master.aim(aim, term === 'spread' ? score.largest * 60 + 1e-6 : Infinity);
        const reached = (to: number) => (term === 'spread' ? base.spread + to : base[term] - to);
        const relaxed = master.relaxed(left());
        if (!relaxed) return;
        lower(term, reached(relaxed.objective));
        while (!proven(term)) {
          if (left() <= 0) return;
          const found = master.whole(left(), best);
          if (!found) return;
          const tied = master.tie(found.pairs);
          if (!tied) take(found.pairs);
          lower(term, reached(found.bound));
          if (!tied) {
            if (!found.proven) return;
            break;
          }
        }
      }
      if (term !== 'spread') master.keep(term, score[term] - base[term]);
      tell();
    }
  }

  /** The fewest hours the busiest can have, by trying what is possible at all; false where time ran out. */
  function smallestLargest(): boolean {
    const floor = Math.max(0, ...ground.fixedMinutes);
    let tried = [...new Set([floor, ...master.minutes])]
      .filter((m) => m >= floor && m / 60 < score.largest - 1e-9)
      .sort((a, b) => a - b);
    while (tried.length) {
      if (left() <= 0) return false;
      const at = tried.length >> 1;
      const most = tried[at]!;
      master.aim({ least: 0, wished: 0, wishes: 0, squares: 0 }, most + 1e-6, true);
      const relaxed = master.relaxed(left());
      if (!relaxed) return false;
      const found = relaxed.objective > 1e-6 ? null : master.whole(left(), null);
      if (relaxed.objective <= 1e-6 && !found) return false;
      if (!found || found.objective > 1e-6) {
        if (found && found.bound <= 1e-6) return false;
        lower('largest', (tried[at + 1] ?? score.largest * 60) / 60);
        tried = tried.slice(at + 1);
      } else {
        if (master.tie(found.pairs)) continue;
        take(found.pairs);
        tried = tried.slice(0, at);
      }
    }
    lower('largest', score.largest);
    return true;
  }

  /** Columns as they are needed: places and wishes at once, with places so dear that no wish outweighs one. */
  function byColumns(): void {
    const base = scoreOf(new Standing(ground));
    if (!proven('least')) {
      const answer = relax(
        'least',
        { least: 1, wished: 0, wishes: 0, squares: 0 },
        (to) => base.least - to,
        0.55,
      );
      if (answer && !proven('least')) whole(answer);
    }
    master.keep('least', score.least - base.least);
    const dear = Math.max(1, bound.wishes - base.wishes) + 1;
    const together = { least: 10 * dear, wished: dear, wishes: 1, squares: 0 };
    if (!proven('wished')) {
      const answer = relax('wished', { ...together, least: 0 }, (to) => base.wished - to / dear, 0.75);
      // Where chance came near to what is possible, parts put together come no nearer.
      if (answer && left() > 0 && score.wished < near * bound.wished) {
        whole(answer);
        around(together, 0.15);
      }
      if (left() < of.seconds * 0.15) return;
      if (!proven('wished')) {
        // Places come before wishes: chance has the rest of the time, and whoever could still be moved along.
        polish(left() * 0.9, 1);
        const more = new Standing(ground);
        more.become(best.pairs());
        fillUp(more, left());
        take(more.pairs());
        if (!proven('wished')) return;
      }
    }
    // With as many places as there are, what people wish; then whoever has most gives some of it away.
    master.learn(best);
    master.keep('wished', score.wished - base.wished);
    const wishes = relax(
      'wishes',
      { least: 0, wished: 0, wishes: 1, squares: 0 },
      (to) => base.wishes - to,
      0.85,
    );
    if (wishes && left() > 0 && !proven('wishes')) whole(wishes);
    if (!proven('wishes')) around(together, 0.4);
    around({ least: 1000 * dear, wished: 100 * dear, wishes: 100, squares: 0.02 }, 0.9);
    polish(left() * 0.8, 0.02);
    hoursServed();
  }

  /** Where every place is filled, as many hours are served by every roster: shared out evenly, they are least squared. */
  function hoursServed(): void {
    if (ground.shifts.some((s, at) => best.filled[at]! < s.wished)) return;
    const able = ground.units.flatMap((unit) => (unit.shifts.length ? unit.people : []));
    const hours = able.map((p) => best.minutes[p]! / 60);
    const total = hours.reduce((sum, h) => sum + h, 0);
    if (!able.length) return;
    lower('largest', Math.max(bound.largest, total / able.length));
    const others = score.spread - hours.reduce((sum, h) => sum + h * h, 0);
    lower('spread', others + total ** 2 / able.length);
  }

  /** Puts a few units at a time anew, most often some that could fill what is open. */
  function around(aim: Aim, share: number): void {
    const until = left() * (1 - share);
    const { units, shifts, candidates } = ground;
    const active = units.flatMap((unit, at) => (unit.shifts.length ? [at] : []));
    const any = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
    const hoursOf = (unit: number) => Math.max(...units[unit]!.people.map((p) => best.minutes[p]!));
    let vain = 0;
    while (left() > until && vain < 60) {
      const open = shifts.flatMap((s, at) =>
        best.filled[at]! < s.wished && candidates[at]!.length ? [at] : [],
      );
      const freed = new Set<number>();
      // Whoever has most, and who could be where they are; else who could be where somebody is missing.
      const busiest = active.reduce((a, b) => (hoursOf(b) > hoursOf(a) ? b : a), active[0]!);
      const evening = aim.squares > 0 || open.length === 0;
      const beside = evening
        ? best.shiftsOf[random() < 0.5 ? busiest : any(active)]!.filter((s) => candidates[s]!.length)
        : open;
      if (evening && random() < 0.7) freed.add(busiest);
      for (let tries = 0; tries < 60 && freed.size < 14; tries += 1)
        freed.add(beside.length && tries % 2 === 0 ? any(candidates[any(beside)]!) : any(active));
      const before = best.pairs();
      putAnew(best, [...freed], of.newLinear, {
        aim,
        // Hours are shared out by taking from whoever has most, never by giving somebody more than that.
        mostMinutes: aim.squares > 0 ? score.largest * 60 + 1e-6 : Infinity,
        seconds: Math.min(0.6, left()),
        mostColumns: 2500,
      });
      const is = scoreOf(best);
      const by = compareScores(is, score);
      vain = by < 0 ? 0 : vain + 1;
      // What counts in all is not the order of the terms to the last digit.
      if (by > 0) best.become(before);
      else score = is;
      tell();
    }
  }

  /** Makes columns until they are worth nothing more, and says what no roster can be better than. */
  function relax(
    term: 'least' | 'wished' | 'wishes',
    aim: Aim,
    reach: (bound: number) => number,
    share: number,
  ) {
    master.aim(aim);
    let last: LinearAnswer | null = null;
    for (;;) {
      const seconds = of.seconds * share - elapsed();
      if (seconds <= 0 || left() <= 0) return last;
      const { answer, bound: to, more } = master.round(seconds);
      if (answer.status !== 'optimal') return last;
      last = answer;
      if (Number.isFinite(to)) lower(term, reach(to));
      tell();
      const close = term === 'wished' ? 1e-3 * Math.abs(answer.objective) : 0.3 * (steps[term] || 0.01);
      if (proven(term) || !more || Math.abs(to - answer.objective) <= close) return answer;
    }
  }

  /** Puts a roster together from what was solved in parts, and takes it over where it is better. */
  function whole(answer: LinearAnswer): void {
    const pairs = dive(ground, master, answer, { newLinear: of.newLinear, left });
    // What was lost on the way is filled again by moving people along, then looked at once more as a whole.
    const other = new Standing(ground);
    for (const [unit, shift] of ordered(pairs)) if (other.can(unit, shift)) other.put(unit, shift);
    fillUp(other, left());
    take(other.pairs());
    master.tie(pairs);
  }
}
