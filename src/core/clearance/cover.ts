import { sameValue } from '#core/words/canonical.ts';
import type { Looked } from './rules.ts';
import { isThrough, type StepState } from './steps.ts';

/** A step as it was decided for one plan. */
interface Decided {
  ruleId: string | null;
  state: StepState;
  looked: Looked;
}

/** A step that another plan needs. */
interface Wanted {
  rule: { id: string; step: string };
  looked: Looked;
}

/**
 * The steps of another plan that what was decided of this one does not settle: nobody decided them, or they looked at something
 * that is different there. Nothing where one clearance covers both.
 */
export const notCovered = (decided: readonly Decided[], needed: readonly Wanted[]): string[] =>
  needed
    .filter(
      ({ rule, looked }) =>
        !decided.some(
          (d) =>
            d.ruleId === rule.id &&
            d.state !== 'not needed' &&
            isThrough(d.state) &&
            sameValue(d.looked, looked),
        ),
    )
    .map(({ rule }) => rule.step);
