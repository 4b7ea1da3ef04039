import { changedIn, type Fact, type Looked, type NeededStep } from './rules.ts';
import { isThrough, type StepState } from './steps.ts';

/** A step of a clearance that was sent, as far as it is compared with what is needed now. */
export interface SentStep {
  id: string;
  ruleId: string | null;
  state: StepState;
  because: readonly Fact[];
  looked: Looked;
}

/** What a changed plan changes of its clearance. */
export interface Refreshed {
  /** Steps that were not needed before. */
  add: NeededStep[];
  /** Cleared steps whose facts changed since, with what changed: they are decided again. */
  reopen: { id: string; because: Fact[]; looked: Looked; changed: string[] }[];
  /** Steps that are still to be decided, and look at something else than before. */
  update: { id: string; because: Fact[]; looked: Looked }[];
  /** Steps that no rule asks for any more. What was said about them is kept. */
  drop: string[];
}

/** Compares what was sent with what is needed now: only what its facts ask for is decided again. */
export function refreshed(sent: readonly SentStep[], needed: readonly NeededStep[]): Refreshed {
  const result: Refreshed = { add: [], reopen: [], update: [], drop: [] };
  for (const step of needed) {
    const before = sent.find((s) => s.ruleId === step.rule.id);
    if (!before) {
      result.add.push(step);
      continue;
    }
    const { because, looked } = step;
    const changed = changedIn(before.looked, looked);
    const now = { id: before.id, because, looked };
    if (before.state === 'not needed' || (isThrough(before.state) && changed.length))
      result.reopen.push({ ...now, changed });
    else if (changed.length) result.update.push(now);
  }
  const rules = new Set(needed.map((s) => s.rule.id));
  result.drop = sent
    .filter((s) => s.state !== 'not needed' && (s.ruleId === null || !rules.has(s.ruleId)))
    .map((s) => s.id);
  return result;
}
