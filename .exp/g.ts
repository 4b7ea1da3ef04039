import { gen } from './gen.ts';
import { groundOf } from '#core/roster/ground.ts';
import { greedy } from '#core/roster/greedy.ts';
import { scoreOf } from '#core/roster/score.ts';
import { improve, numbersFrom } from '#core/roster/improving.ts';
import { putAnew } from '#core/roster/anew.ts';
import { loadSolver } from '../src/server/roster/highs.ts';
const [P, S, D, seed, K, secs] = process.argv.slice(2).map(Number);
const g = groundOf(gen(P!, S!, D!, seed!)); const newLinear = await loadSolver();
const t0 = performance.now(); const T = () => (performance.now() - t0) / 1000;
const st = greedy(g); const random = numbersFrom(5);
const b0 = performance.now(); improve(st, random, () => performance.now() - b0 > 800, () => (performance.now() - b0) / 800); console.log(T().toFixed(1), JSON.stringify(scoreOf(st)));
const { units, shifts, candidates } = g; const active = units.flatMap((u, at) => (u.shifts.length ? [at] : [])); const any = <X>(f: readonly X[]): X => f[Math.floor(random() * f.length)]!;
let next = 2, n = 0;
while (T() < secs!) {
  const open = shifts.flatMap((s, at) => (st.filled[at]! < s.wished && candidates[at]!.length ? [at] : []));
  const freed = new Set<number>();
  const a = open.length && random() < 0.9 ? any(open) : Math.floor(random() * shifts.length);
  // units near: candidates of a, and those on shifts that overlap a
  for (let tries = 0; tries < 200 && freed.size < K!; tries++) { const r = random(); if (r < 0.5) freed.add(any(candidates[a]!)); else if (r < 0.8 && open.length) freed.add(any(candidates[any(open)]!)); else freed.add(any(active)); }
  putAnew(st, [...freed], newLinear, { aim: { least: 30000, wished: 3000, wishes: 1, squares: 0 }, mostMinutes: Infinity, seconds: 0.8, mostColumns: 4000 }); n++;
  if (T() > next) { console.log(T().toFixed(1), n, JSON.stringify(scoreOf(st))); next = T() + 4; }
}
