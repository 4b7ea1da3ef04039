import { gen } from './gen.ts';
import { groundOf } from '#core/roster/ground.ts';
import { solveRoster, gapOf } from '#core/roster/solving.ts';
import { loadSolver } from '../src/server/roster/highs.ts';
const [P, S, D, seed, secs] = process.argv.slice(2).map(Number);
const g = groundOf(gen(P!, S!, D!, seed!)); const newLinear = await loadSolver(); let last = '';
const r = solveRoster(g, { newLinear, seconds: secs!, now: () => performance.now() / 1000, progress: (p) => { const t = JSON.stringify([p.score, p.bound]); if (t !== last) console.log(p.seconds.toFixed(2), Object.values(p.score).map((x) => x.toFixed(1)).join(' '), '|', Object.values(p.bound).map((x) => x.toFixed(1)).join(' ')); last = t; } });
console.log('gap', gapOf(r.score, r.bound), r.seconds.toFixed(2));
