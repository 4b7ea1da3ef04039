import { gen } from './gen.ts';
import { groundOf } from '#core/roster/ground.ts';
import { greedy } from '#core/roster/greedy.ts';
import { scoreOf, coverOf } from '#core/roster/score.ts';
import { improve, numbersFrom } from '#core/roster/improving.ts';
import { putAnew } from '#core/roster/freeing.ts';
import { loadSolver } from '../src/server/roster/highs.ts';
const [P, S, D, seed, K, secs] = process.argv.slice(2).map(Number);
const ins = gen(P!, S!, D!, seed!);
const solver = await loadSolver();
const t0 = performance.now(); const T = () => ((performance.now() - t0) / 1000).toFixed(2);
const g = groundOf(ins); const st = greedy(g); console.log(T(), JSON.stringify(scoreOf(st)));
const b0 = performance.now(); console.log(T(), JSON.stringify(improve(st, numbersFrom(7), () => performance.now() - b0 > 700, () => (performance.now() - b0) / 700)));
const r = numbersFrom(3); let it = 0;
while ((performance.now() - t0) / 1000 < secs!) {
  const open = g.shifts.flatMap((s, at) => st.filled[at]! < s.wished && g.candidates[at]!.length ? [at] : []); const s0 = open.length && r() < 0.8 ? open[Math.floor(r() * open.length)]! : Math.floor(r() * g.shifts.length);
  const near = g.candidates[s0]!; const set = new Set<number>(); for (let k = 0; k < K! * 3 && set.size < K! * 0.6; k++) set.add(near[Math.floor(r() * near.length)]!);
  const spare = g.units.flatMap((u, at) => u.shifts.length && st.shiftsOf[at]!.length < 2 ? [at] : []); while (set.size < K!) set.add(r() < 0.3 && spare.length ? spare[Math.floor(r() * spare.length)]! : Math.floor(r() * g.units.length));
  putAnew(st, [...set], solver, { weights: { least: 1000, wished: 20, wishes: 1/3, spread: 0 }, mostMinutes: Infinity, seconds: 3 }); it++;
  if (it % 5 === 0) console.log(T(), it, JSON.stringify(scoreOf(st)));
}
