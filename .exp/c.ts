import { gen } from './gen.ts';
import { groundOf } from '#core/roster/ground.ts';
import { greedy } from '#core/roster/greedy.ts';
import { scoreOf, coverOf } from '#core/roster/score.ts';
import { Standing } from '#core/roster/standing.ts';
import { improve, numbersFrom } from '#core/roster/improving.ts';
import { Master } from '#core/roster/master.ts';
import { loadSolver } from '../src/server/roster/highs.ts';
const [P, S, D, seed, most] = process.argv.slice(2).map(Number);
const ins = gen(P!, S!, D!, seed!);
const t0 = performance.now(); const T = () => ((performance.now() - t0) / 1000).toFixed(2);
const g = groundOf(ins); const st = greedy(g); console.log(T(), JSON.stringify(scoreOf(st)));
const b0 = performance.now(); console.log(T(), JSON.stringify(improve(st, numbersFrom(7), () => performance.now() - b0 > 1000, () => (performance.now() - b0) / 1000)));
const solver = await loadSolver(); const m = new Master(g, solver()); m.most = most ?? 3; m.learn(st); console.log(T(), 'master');
const W = 3000;
m.keep('least', coverOf(g, st.filled).least); m.aim({ least: 0, wished: W, wishes: 1, squares: 0 });
let r!: ReturnType<Master['round']>; let bound = -Infinity;
for (let k = 0; k < 100; k++) { const a = performance.now(); r = m.round(30); bound = Math.max(bound, r.bound); console.log(T(), k, ((performance.now() - a) | 0), (r.answer.objective / W).toFixed(3), 'bound', (bound / W).toFixed(3)); if (!r.more || bound / r.answer.objective < 1.0005) break; }
// dive
const held = new Set<number>();
for (let k = 0; k < Number(process.env.DIVES ?? 60); k++) {
  const v = m.lastly(r.answer); const frac = v.filter((x) => x.value < 0.999); console.log(T(), 'dive', k, 'obj', (r.answer.objective / W).toFixed(3), 'frac', frac.length, 'units held', held.size);
  for (const x of v) if (x.value >= 0.999 && !held.has(x.column.unit)) { m.hold(x.at, true); held.add(x.column.unit); }
  if (!frac.length) break;
  const up = frac.filter((x) => !held.has(x.column.unit)).sort((a, b) => b.value - a.value); let n = 0;
  for (const x of up) { if (held.has(x.column.unit)) continue; if (x.value < 0.75 && n >= Math.max(1, up.length * 0.03)) break; m.hold(x.at, true); held.add(x.column.unit); n++; }
  r = m.round(30); if (r.answer.status !== 'optimal') { console.log('status', r.answer.status); break; } if (r.more && k % 2 === 0) r = m.round(30);
}
const s2 = new Standing(g); const pairs = m.lastly(r.answer).filter((x) => x.value > 0.5).flatMap((x) => x.column.shifts.map((s): [number, number] => [x.column.unit, s])); console.log('ties', m.tie(pairs)); s2.become(pairs); console.log(T(), JSON.stringify(scoreOf(s2)));
