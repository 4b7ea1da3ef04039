import { gen } from './gen.ts';
import { groundOf } from '#core/roster/ground.ts';
import { greedy } from '#core/roster/greedy.ts';
import { scoreOf } from '#core/roster/score.ts';
import { improve, numbersFrom } from '#core/roster/improving.ts';
const [P, S, D, seed, secs] = process.argv.slice(2).map(Number);
const g = groundOf(gen(P!, S!, D!, seed!)); 
const T = secs! * 1000; const st = greedy(g); const t0 = performance.now(); let n = 0;
const s = improve(st, numbersFrom(7), () => { n++; return performance.now() - t0 > T; }, () => (performance.now() - t0) / T); console.log('steps/s', (n * 256 / secs!) | 0, JSON.stringify(s));
