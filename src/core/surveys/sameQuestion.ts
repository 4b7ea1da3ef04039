import { hasChoices, rangeOf, type SurveyQuestion } from './survey.ts';

/** Why answers to the same question cannot be set against each other; or that they can, of all choices or of those that stayed. */
export type Comparable = 'all' | 'shared choices' | 'other kind' | 'other scale' | 'no choice shared';

/** A question beside what was asked earlier. */
export interface SamePair {
  now: SurveyQuestion;
  was: SurveyQuestion;
  /** By what it is known to be the same. */
  by: 'copied' | 'said so' | 'same words';
  reworded: boolean;
  comparable: Comparable;
  /** Of choices, those of now with those of then. */
  choices: { now: string; was: string }[];
}

const folded = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** How alike two wordings are, from 0 to 1: words in common twice over words in all (L. R. Dice, Ecology 26, 1945). */
function alike(a: string, b: string): number {
  const [one, other] = [new Set(folded(a).split(' ')), new Set(folded(b).split(' '))];
  const shared = [...one].filter((w) => other.has(w)).length;
  return (2 * shared) / (one.size + other.size);
}
/** From here on it is asked whether two are the same. */
const alikeFrom = 0.5;

function pair(now: SurveyQuestion, was: SurveyQuestion, by: SamePair['by']): SamePair {
  const choices = now.choices.flatMap((c) => {
    const same =
      was.choices.find((t) => t.id === c.id) ??
      was.choices.find((t) => folded(t.text.en) === folded(c.text.en));
    return same ? [{ now: c.id, was: same.id }] : [];
  });
  return {
    now,
    was,
    by,
    reworded: folded(now.prompt.en) !== folded(was.prompt.en),
    comparable: comparable(now, was, choices.length),
    choices,
  };
}

function comparable(now: SurveyQuestion, was: SurveyQuestion, shared: number): Comparable {
  if (now.kind !== was.kind) return 'other kind';
  if (now.kind === 'scale') {
    const [a, b] = [rangeOf(now), rangeOf(was)];
    return a.least === b.least && a.most === b.most ? 'all' : 'other scale';
  }
  if (!hasChoices(now.kind)) return 'all';
  if (!shared) return 'no choice shared';
  return shared === now.choices.length && shared === was.choices.length ? 'all' : 'shared choices';
}

/**
 * Which questions of an earlier survey those of now are: by their id where one was copied from the other, by what somebody said, or by
 * the same words. `perhaps` are those whose words are alike, for somebody to say.
 */
export function sameQuestions(
  now: readonly SurveyQuestion[],
  was: readonly SurveyQuestion[],
): {
  pairs: SamePair[];
  perhaps: { now: SurveyQuestion; was: SurveyQuestion }[];
  /** Asked now and not then, and the other way round. */
  fresh: SurveyQuestion[];
  gone: SurveyQuestion[];
} {
  const pairs: SamePair[] = [];
  const taken = new Set<string>();
  const left = new Set(now);
  const find = (by: SamePair['by'], same: (q: SurveyQuestion, t: SurveyQuestion) => boolean) => {
    for (const q of left) {
      const found = was.find((t) => !taken.has(t.id) && same(q, t));
      if (!found) continue;
      pairs.push(pair(q, found, by));
      taken.add(found.id);
      left.delete(q);
    }
  };
  find('said so', (q, t) => q.goesOn === t.id);
  find('copied', (q, t) => q.id === t.id);
  find('same words', (q, t) => q.kind === t.kind && folded(q.prompt.en) === folded(t.prompt.en));
  const rest = was.filter((t) => !taken.has(t.id));
  const perhaps = [...left].flatMap((q) => {
    const [best] = rest
      .filter((t) => t.kind === q.kind)
      .map((t) => ({ t, like: alike(q.prompt.en, t.prompt.en) }))
      .filter(({ like }) => like >= alikeFrom)
      .sort((a, b) => b.like - a.like);
    return best ? [{ now: q, was: best.t }] : [];
  });
  const order = new Map(now.map((q, at) => [q.id, at]));
  pairs.sort((a, b) => order.get(a.now.id)! - order.get(b.now.id)!);
  return { pairs, perhaps, fresh: [...left], gone: rest };
}
