import { drawn } from '#core/roster/drawing.ts';
import { greedy } from '#core/roster/greedy.ts';
import { groundOf } from '#core/roster/ground.ts';
import { fewestChanges } from '#core/roster/repairing.ts';
import { scoreOf, scoreTerms } from '#core/roster/score.ts';
import { solveRoster } from '#core/roster/solving.ts';
import { gapOf } from '#core/roster/worth.ts';
import { loadSolver } from '#server/roster/highs.ts';
import { quantile, Report } from './report.ts';

// npm run bench -- crew [seed …]: rosters of 600 people and 400 shifts after two seconds and after thirty, beside putting people on one
// after the other; how soon smaller ones are proven; how long it takes to replace somebody.
const seeds = process.argv.length > 2 ? process.argv.slice(2).map(Number) : [1, 2, 3];
const report = new Report('crew');
const newLinear = await loadSolver();
const now = () => performance.now() / 1000;

for (const seed of seeds) {
  const ground = groundOf(
    drawn(seed, {
      people: 600,
      shifts: 400,
      days: 4,
      there: 0.6,
      minors: 0.05,
      pairs: 15,
      fixed: 10,
      wished: seed % 2 ? 6 : 3,
    }),
  );
  const by = `600 × 400, drawn by ${seed}`;
  const first = scoreOf(greedy(ground));
  const quick = solveRoster(ground, { newLinear, seconds: 2, now });
  const slow = solveRoster(ground, { newLinear, seconds: 30, now });
  const places = ({ least, wished }: typeof first) => least + wished;
  report.row(`${by}: one after the other, of the bound`, places(first), 'places', {
    floor: places(slow.bound),
  });
  report.row(`${by}: after 2 s, of the bound`, places(quick.score), 'places', {
    floor: places(slow.bound),
    goal: { of: 'ratio', atLeast: 0.995 },
  });
  report.row(`${by}: after 30 s, of the bound`, places(slow.score), 'places', {
    floor: places(slow.bound),
    goal: { of: 'ratio', atLeast: 0.999 },
  });
  report.row(`${by}: gap after 30 s, of the first term not proven`, gapOf(slow.score, slow.bound), '', {
    goal: { of: 'value', atMost: 0 },
  });
  console.log(
    `  ${scoreTerms.map((term) => `${term} ${slow.score[term]} of ${slow.bound[term]}`).join(', ')}`,
  );
  const times: number[] = [];
  for (const [unit, shift] of slow.standing.pairs().slice(0, 100)) {
    if (!slow.standing.canLeave(unit, shift)) continue;
    slow.standing.take(unit, shift);
    const began = performance.now();
    fewestChanges(slow.standing, shift);
    times.push(performance.now() - began);
    slow.standing.put(unit, shift);
  }
  report.row(`${by}: replacing somebody, p95 of ${times.length}`, quantile(times, 0.95), 'ms', {
    goal: { of: 'value', atMost: 500 },
  });
}
for (const [people, shifts] of [
  [30, 20],
  [60, 40],
  [120, 60],
] as const) {
  const ground = groundOf(drawn(1, { people, shifts, days: 2, pairs: 3, minors: 0.1 }));
  const { score, bound, seconds } = solveRoster(ground, { newLinear, seconds: 60, now });
  report.row(
    `${people} × ${shifts}: ${gapOf(score, bound) === 0 ? 'all five terms proven' : 'not proven'} after`,
    seconds,
    's',
  );
}
report.finish();
