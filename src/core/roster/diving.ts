import { putAnew } from './anew.ts';
import type { Column } from './columns.ts';
import { fillGreedily } from './greedy.ts';
import type { Ground } from './ground.ts';
import type { LinearAnswer, NewLinearModel } from './linear.ts';
import type { Master } from './master.ts';
import { Standing } from './standing.ts';

/** Once so many parts are left, everything those units can do is written down instead, where that is no more than this. */
const fewParts = 40;
const fewColumns = 6000;

/**
 * Puts a roster together from what was solved in parts: what is nearly whole is held where it fits beside what is held, the
 * rest solved again with better columns, until nothing is in parts (diving). Where it is stopped, or leads nowhere, what is
 * held by then.
 */
export function dive(
  ground: Ground,
  master: Master,
  answer: LinearAnswer,
  of: { newLinear: NewLinearModel; left: () => number },
): [number, number][] {
  const { left } = of;
  const here = new Standing(ground);
  const held = new Map<number, number>();
  const out: number[] = [];
  const hold = (at: number, column: Column): boolean => {
    const fits = column.shifts.every((s) => here.can(column.unit, s));
    master.hold(at, fits ? 'in' : 'out');
    if (!fits) {
      out.push(at);
      return false;
    }
    for (const s of column.shifts) here.put(column.unit, s);
    held.set(column.unit, at);
    return true;
  };
  const isYoungAlone = ({ unit, shifts }: Column): boolean => {
    const there = ground.units[unit]!;
    return shifts.some((s) => !there.adults[there.at.get(s)!] && !here.hasAdult(s));
  };
  // What is kept of the terms before may have to give a little on the way.
  const { aim } = master.aimed;
  master.mayMiss(10 * (1 + aim.least + aim.wished));
  for (let now: LinearAnswer | null = answer; now?.values && left() > 0; ) {
    const on = master.used(now).filter(({ column }) => !held.has(column.unit));
    if (!on.length || (on.length <= fewParts && finish())) break;
    const parts = on.filter(({ value }) => value < 0.999).length;
    // Whoever is under age waits for somebody of age, as long as others can be held.
    const early = on.filter(({ column }) => !isYoungAlone(column));
    let up = 0;
    for (const { at, column, value } of early.length ? early : on) {
      if (held.has(column.unit)) continue;
      if (value < 0.999 && up >= 1 + parts * 0.04) break;
      if (hold(at, column) && value < 0.999) up += 1;
    }
    // Holding costs something; better columns for the rest win most of it back.
    const before: number = now.objective;
    now = null;
    for (let tries = 0; tries < 3 && left() > 0; tries += 1) {
      const round = master.round(left(), held);
      if (round.answer.status !== 'optimal') break;
      now = round.answer;
      if (!round.more || now.objective <= before + 2e-5 * Math.abs(before)) break;
    }
  }
  for (const at of [...held.values(), ...out]) master.hold(at, 'free');
  master.mayMiss(null);
  return here.pairs();

  function finish(): boolean {
    const rest = [...ground.units.keys()].filter((unit) => !held.has(unit));
    const before = here.pairs();
    fillGreedily(here);
    const done = putAnew(here, rest, of.newLinear, {
      aim: { ...aim, least: Math.max(aim.least, 10 * (1 + aim.wished + aim.wishes)) },
      mostMinutes: master.aimed.mostMinutes,
      seconds: Math.min(6, left() / 2),
      mostColumns: fewColumns,
    });
    if (!done) here.become(before);
    return done;
  }
}
