import type { z } from 'zod';
import type { RosterAnswer, rosterFile } from '#contract/roster.ts';
import {
  type Change,
  explain,
  type ObstacleKind,
  obstacleKinds,
  type Unfilled,
} from '#core/roster/explaining.ts';
import { groundOf } from '#core/roster/ground.ts';
import { problemsWithRoster, type RosterInstance, type RosterRules } from '#core/roster/instance.ts';
import { type RosterProgress, solveRoster } from '#core/roster/solving.ts';
import { gapOf, worthOf } from '#core/roster/worth.ts';
import { say, words } from '#core/words/spoken.ts';
import { loadSolver } from './highs.ts';

/** Something wrong with an instance: where, and what. */
export class RosterRefused extends Error {}

const saidKinds = (why: Unfilled['why']): string => {
  const kinds = obstacleKinds.filter((kind) => why[kind]);
  if (!kinds.length) return words().roster.nobody as string;
  return `${kinds.map((kind: ObstacleKind) => say(words().roster[kind], { count: why[kind]! })).join(', ')}.`;
};

const saidChange = (change: Change, rules: RosterRules): string =>
  say(words().roster[`change-${change.kind}`], {
    count: change.people.length,
    to: Math.round(change.to * 100) / 100,
    from: rules.restHours,
  });

/** Works an instance out and says everything about the answer. Holds up the thread it runs in, for `seconds` at most. */
export async function answerRoster(
  instance: RosterInstance & Pick<z.infer<typeof rosterFile>, 'seconds'>,
  progress?: (so: RosterProgress) => void,
  /** Whether it is to end with what it has. */
  stopped?: () => boolean,
): Promise<RosterAnswer> {
  const problems = problemsWithRoster(instance);
  if (problems.length)
    throw new RosterRefused(
      problems.map(({ path, code }) => `${path}: ${say(words().roster[code], {})}`).join('\n'),
    );
  const began = performance.now();
  const now = () => performance.now() / 1000;
  const newLinear = await loadSolver();
  const ground = groundOf(instance);
  const { standing, score, bound } = solveRoster(ground, {
    newLinear,
    // What was read and loaded until now counts.
    seconds: instance.seconds - (performance.now() - began) / 1000,
    now,
    ...(progress ? { progress } : {}),
    ...(stopped ? { stopped } : {}),
  });
  const { shifts } = instance;
  const most = { ...bound, largest: score.largest, spread: score.spread };
  return {
    assignments: standing.assignments(),
    filled: Object.fromEntries(shifts.map((s, at) => [s.id, standing.filled[at]!])),
    objective: worthOf(score, most),
    bound: worthOf(bound, most),
    gap: gapOf(score, bound),
    seconds: Math.round(performance.now() - began) / 1000,
    terms: score,
    bounds: bound,
    unfilled: explain(standing).map(({ shift, missing, wish, why, cheapest }) => ({
      shift,
      missing,
      wish,
      why: saidKinds(why),
      cheapest: cheapest && saidChange(cheapest, instance.rules),
      change: cheapest,
    })),
  };
}
