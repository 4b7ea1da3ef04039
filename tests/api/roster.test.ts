import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { rosterFile } from '#contract/roster.ts';
import { putAnew } from '#core/roster/anew.ts';
import { broken } from '#core/roster/broken.ts';
import { allColumns } from '#core/roster/columns.ts';
import { drawn, person, roster, shift } from '#core/roster/drawing.ts';
import { groundOf } from '#core/roster/ground.ts';
import type { RosterInstance } from '#core/roster/instance.ts';
import type { NewLinearModel } from '#core/roster/linear.ts';
import { Master } from '#core/roster/master.ts';
import { compareScores, type Score, scoreOf } from '#core/roster/score.ts';
import { solveRoster } from '#core/roster/solving.ts';
import { Standing } from '#core/roster/standing.ts';
import { loadSolver } from '#server/roster/highs.ts';
import { answerRoster, RosterRefused } from '#server/roster/solve.ts';

let newLinear: NewLinearModel;
const folder = mkdtempSync(join(tmpdir(), 'acolyte-'));
beforeAll(async () => {
  newLinear = await loadSolver();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The best of all rosters there are, by trying every one. */
function bestOfAll(instance: RosterInstance): Score {
  const ground = groundOf(instance);
  const standing = new Standing(ground);
  let best: Score | null = null;
  const check = () => {
    if (broken(instance, standing.assignments()).length) return;
    const score = scoreOf(standing);
    if (!best || compareScores(score, best) < 0) best = score;
  };
  const walk = (unit: number): void => {
    if (unit === ground.units.length) {
      check();
      return;
    }
    walk(unit + 1);
    for (const shifts of allColumns(ground, unit, 1000)!) {
      for (const s of shifts) standing.put(unit, s);
      walk(unit + 1);
      for (const s of shifts) standing.take(unit, s);
    }
  };
  walk(0);
  return best!;
}

test('what is worked out is the best of everything there is, term by term, and says so', () => {
  for (let seed = 1; seed <= 40; seed += 1) {
    const instance = drawn(seed, { people: 4, shifts: 5, days: 2, pairs: 1, fixed: seed % 3, minors: 0.3 });
    const { score, bound, standing } = solveRoster(groundOf(instance), {
      newLinear,
      seconds: 20,
      now: () => performance.now() / 1000,
    });
    const best = bestOfAll(instance);
    expect(compareScores(score, best), `seed ${seed}: ${JSON.stringify([score, best])}`).toBe(0);
    expect(compareScores(bound, best), `bound of ${seed}: ${JSON.stringify([bound, best])}`).toBe(0);
    expect(scoreOf(standing)).toEqual(score);
  }
});

test('what no column could improve is a bound for every roster, from the first round on', () => {
  for (let seed = 1; seed <= 20; seed += 1) {
    const instance = drawn(seed, { people: 4, shifts: 5, days: 2, pairs: 1, fixed: seed % 2 });
    const ground = groundOf(instance);
    const [best, base] = [bestOfAll(instance), scoreOf(new Standing(ground))];
    const master = new Master(ground, newLinear);
    master.aim({ least: 1, wished: 0, wishes: 0, squares: 0 });
    for (let rounds = 0, more = true; more; rounds += 1) {
      const round = master.round(5);
      expect(base.least - round.bound, `seed ${seed}, round ${rounds}`).toBeGreaterThan(best.least - 1e-6);
      more = round.more;
    }
    master.close();
  }
});

test('people of a weekend: proven, within its rules, every gap explained', async () => {
  const instance = drawn(7, { people: 24, shifts: 16, days: 2, pairs: 2, fixed: 2, minors: 0.1 });
  const heard: number[] = [];
  const answer = await answerRoster({ ...instance, seconds: 60 }, (so) => heard.push(so.seconds));
  expect(broken(instance, answer.assignments)).toEqual([]);
  expect(answer.gap).toBe(0);
  expect(answer.objective).toBeCloseTo(answer.bound);
  expect(answer.terms).toEqual(answer.bounds);
  expect(heard.length).toBeGreaterThan(1);
  for (const s of instance.shifts) {
    const filled = answer.assignments.filter(([, on]) => on === s.id).length;
    expect(answer.filled[s.id]).toBe(filled);
    expect(answer.unfilled.some((u) => u.shift === s.id)).toBe(filled < s.wished);
  }
  for (const u of answer.unfilled) {
    expect(u.why.length).toBeGreaterThan(5);
    expect(u.cheapest === null).toBe(u.change === null);
  }
});

test('where there is too much to write down, columns are made as they are needed: no rule is broken, and no bound is passed', () => {
  const instance = drawn(3, { people: 60, shifts: 60, days: 4, pairs: 3, fixed: 3, minors: 0.1 });
  const free = {
    ...instance,
    // Nobody is limited, so that there is far more than could be written down.
    people: instance.people.map((p) => ({ ...p, available: null, maxHours: null, maxShifts: 6 })),
    rules: { restHours: 0, daily: false, placeMinutes: 0, zone: 'UTC' },
  };
  const ground = groundOf(free);
  let last = 0;
  const { score, bound, standing } = solveRoster(ground, {
    newLinear,
    seconds: 12,
    now: () => performance.now() / 1000,
    progress: (so) => {
      expect(so.seconds).toBeGreaterThanOrEqual(last);
      last = so.seconds;
    },
  });
  expect(broken(free, standing.assignments())).toEqual([]);
  expect(compareScores(bound, score)).toBeLessThanOrEqual(0);
  // Sixty people without limits fill everything.
  expect(score.least).toBe(bound.least);
});

test('units that can do nothing as things stand are left as they are', () => {
  const ground = groundOf(roster([person('ada', { available: [] }), person('bea')], [shift('s', 8, 12)]));
  const standing = new Standing(ground);
  const of = {
    aim: { least: 1, wished: 1, wishes: 0, squares: 0 },
    mostMinutes: 600,
    seconds: 1,
    mostColumns: 9,
  };
  expect(putAnew(standing, [0], newLinear, of)).toBe(false);
  expect(putAnew(standing, [0, 1], newLinear, of)).toBe(true);
  expect(standing.assignments()).toEqual([['bea', 's']]);
});

test('whoever stops it has what there is by then', () => {
  const instance = drawn(5, { people: 40, shifts: 40, days: 3 });
  const { score, standing } = solveRoster(groundOf(instance), {
    newLinear,
    seconds: 60,
    now: () => performance.now() / 1000,
    stopped: () => true,
  });
  expect(scoreOf(standing)).toEqual(score);
  expect(standing.pairs().length).toBeGreaterThan(0);
});

test('nobody there, nothing to do, and everybody away are answered, not refused', async () => {
  const none = await answerRoster({ ...roster([], [shift('s', 8, 12)]), seconds: 5 });
  expect(none).toMatchObject({ assignments: [], filled: { s: 0 }, gap: 0 });
  expect(none.unfilled[0]!.why).toBe('There is nobody who is not on it.');
  expect(await answerRoster({ ...roster([person('a')], []), seconds: 5 })).toMatchObject({
    assignments: [],
    gap: 0,
    unfilled: [],
  });
  const away = await answerRoster({
    ...roster([person('a', { available: [] })], [shift('s', 8, 12, { least: 10_000, wished: 10_000 })]),
    seconds: 5,
  });
  expect(away.unfilled[0]).toMatchObject({
    missing: 10_000,
    why: '1 person is not there then.',
    cheapest: '1 person is free if they stay or come 4 h beyond what they said.',
  });
});

test('a file is read as the page says: what is left out has its usual value, what is wrong is said where', async () => {
  const file = rosterFile.parse({
    people: [{ id: 'ada', skills: ['helm'] }],
    shifts: [
      {
        id: 'boat',
        start: '2026-08-08T08:00:00Z',
        end: '2026-08-08T12:00:00-03:00',
        least: 1,
        wished: 2,
        needs: ['helm'],
      },
    ],
  });
  expect(file.seconds).toBe(30);
  const answer = await answerRoster({ ...file, seconds: 2 });
  expect(answer.assignments).toEqual([['ada', 'boat']]);
  expect(answer.unfilled).toEqual([
    {
      shift: 'boat',
      missing: 1,
      wish: true,
      why: 'There is nobody who is not on it.',
      cheapest: null,
      change: null,
    },
  ]);
  const wrong = (change: object) =>
    rosterFile.safeParse({ people: [], shifts: [], ...change }).error?.issues[0]?.path.join('.');
  expect(wrong({ seconds: 0 })).toBe('seconds');
  expect(wrong({ shifts: [{ id: 's', start: 'soon', end: 'late', least: 0, wished: 1 }] })).toBe(
    'shifts.0.start',
  );
  expect(wrong({ people: [{ id: 'a', maxShifts: -1 }] })).toBe('people.0.maxShifts');
  expect(wrong({ rules: { rest: 4 } })).toBe('rules');
  await expect(answerRoster({ ...roster([person('a', { apart: ['b'] })], []), seconds: 1 })).rejects.toThrow(
    RosterRefused,
  );
});

test('the command prints an answer and nothing else, and says what is wrong on the other output', () => {
  const run = (...args: string[]) =>
    spawnSync(process.execPath, ['--import', 'tsx', 'src/server/roster/command.ts', ...args], {
      encoding: 'utf8',
    });
  const path = join(folder, 'weekend.json');
  writeFileSync(path, JSON.stringify({ ...drawn(9, { people: 6, shifts: 4, days: 1 }), seconds: 5 }));
  const good = run(path);
  expect(good.status).toBe(0);
  expect(Object.keys(JSON.parse(good.stdout))).toEqual([
    'assignments',
    'filled',
    'objective',
    'bound',
    'gap',
    'seconds',
    'terms',
    'bounds',
    'unfilled',
  ]);
  writeFileSync(path, '{"people": [');
  expect(run(path)).toMatchObject({
    status: 1,
    stdout: '',
    stderr: expect.stringContaining('cannot be read as JSON'),
  });
  writeFileSync(path, JSON.stringify({ people: [{ id: 'a' }, { id: 'a' }], shifts: [] }));
  expect(run(path)).toMatchObject({ status: 1, stderr: 'people.1.id: This id stands here twice.\n' });
  expect(run()).toMatchObject({ status: 1, stderr: 'Say which file: npm run roster -- FILE\n' });
});
