import { gen } from './gen.ts';
import { groundOf } from '#core/roster/ground.ts';
import { greedy } from '#core/roster/greedy.ts';
import { scoreOf } from '#core/roster/score.ts';
import { improve, numbersFrom } from '#core/roster/improving.ts';
const [P, S, D, seed, secs] = process.argv.slice(2).map(Number);
const ins = gen(P!, S!, D!, seed!);
let t0 = performance.now(); const g = groundOf(ins); console.log('ground', (performance.now() - t0) | 0, 'pairs', g.units.reduce((s, u) => s + u.shifts.length, 0));
t0 = performance.now(); const st = greedy(g); console.log('greedy', (performance.now() - t0) | 0, JSON.stringify(scoreOf(st)));
console.log('all', { least: g.shifts.reduce((s, x) => s + x.importance * x.least, 0), wished: g.shifts.reduce((s, x) => s + x.importance * (x.wished - x.least), 0) });
const T = (secs ?? 1.2) * 1000; t0 = performance.now(); const s = improve(st, numbersFrom(7), () => performance.now() - t0 > T, () => (performance.now() - t0) / T); console.log('improved', (performance.now() - t0) | 0, JSON.stringify(s), JSON.stringify(scoreOf(st)));
import { fill } from '#core/roster/filling.ts';
{ const st = greedy(g); t0 = performance.now(); fill(st); console.log('filled', (performance.now() - t0) | 0, JSON.stringify(scoreOf(st)));
t0 = performance.now(); const s = improve(st, numbersFrom(7), () => performance.now() - t0 > T, () => (performance.now() - t0) / T); console.log('then improved', (performance.now() - t0) | 0, JSON.stringify(s)); }
