import { meanOf } from '#core/statistics/intervals.ts';
import { type Difference, isMoreThanChance, sizeOf, twoMeans, twoShares } from '#core/statistics/tests.ts';
import { comparedFigures, type Given, percent, tenths } from './results.ts';
import type { SurveyQuestion } from './survey.ts';

/** Answers to one question in one group. */
export interface Group {
  name: string;
  given: readonly Given[];
}

/** One group beside all the others, or beside that of another year. */
export interface Against {
  name: string;
  n: number;
  /** The mean, or the score from −100 to 100; null of choices. */
  figure: number | null;
  /** Of choices, how many gave each. */
  choices: { id: string; count: number }[];
  /** What it differs by most; null where there is too little to tell. */
  difference: Difference | null;
  /** Of choices, the one that it is about. */
  about: string | null;
}

const says = (id: string) => (g: Given) =>
  Array.isArray(g.value) ? g.value.includes(id) : String(g.value) === id;

/**
 * What `of` differs by from `than`. Of choices, that which differs most, its likelihood times the number of choices looked at (C. E.
 * Bonferroni, 1936): who looks at many finds one.
 */
function between(
  question: SurveyQuestion,
  of: readonly Given[],
  than: readonly Given[],
  choices: readonly { now: string; was: string }[],
): { difference: Difference | null; about: string | null } {
  const bounds = { least: Number.NEGATIVE_INFINITY, most: Number.POSITIVE_INFINITY };
  const [a, b] = [than, of].map((given) =>
    meanOf(comparedFigures(question, given), bounds.least, bounds.most),
  );
  if (a || b) return { difference: twoMeans(a ?? null, b ?? null), about: null };
  if (question.kind !== 'one of' && question.kind !== 'several of') return { difference: null, about: null };
  const all = choices.flatMap(({ now, was }) => {
    const difference = twoShares(
      { count: than.filter(says(was)).length, n: than.length },
      { count: of.filter(says(now)).length, n: of.length },
    );
    return difference
      ? [{ difference: { ...difference, p: Math.min(1, difference.p * choices.length) }, about: now }]
      : [];
  });
  all.sort(
    (x, y) => x.difference.p - y.difference.p || Math.abs(y.difference.by) - Math.abs(x.difference.by),
  );
  return all[0] ?? { difference: null, about: null };
}

const figureOf = (question: SurveyQuestion, given: readonly Given[]): number | null =>
  meanOf(comparedFigures(question, given), Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY)?.value ?? null;

const countsOf = (question: SurveyQuestion, given: readonly Given[]) =>
  question.choices.map((c) => ({ id: c.id, count: given.filter(says(c.id)).length }));

const sameChoices = (question: SurveyQuestion) => question.choices.map((c) => ({ now: c.id, was: c.id }));

/**
 * Every group beside all the others together. The likelihoods are raised for as many comparisons as are made, the least likely first (S.
 * Holm, Scandinavian Journal of Statistics 6, 1979).
 */
export function groupsCompared(question: SurveyQuestion, groups: readonly Group[]): Against[] {
  const rows = groups.map((group) => {
    const others = groups.filter((g) => g !== group).flatMap((g) => g.given);
    return {
      name: group.name,
      n: group.given.length,
      figure: figureOf(question, group.given),
      choices: countsOf(question, group.given),
      ...between(question, group.given, others, sameChoices(question)),
    };
  });
  // Of two groups, either says the same of the other: that is one comparison.
  const many = rows.length === 2 ? 1 : rows.length;
  let worst = 0;
  const ranked = rows
    .filter((r) => r.difference)
    .sort((a, b) => a.difference!.p - b.difference!.p)
    .map((r, at) => {
      worst = Math.max(worst, Math.min(1, r.difference!.p * Math.max(1, many - at)));
      return [r, worst] as const;
    });
  const raised = new Map(ranked);
  return rows.map((r) => (r.difference ? { ...r, difference: { ...r.difference, p: raised.get(r)! } } : r));
}

/** A question beside the same one of an earlier survey. */
export const earlierCompared = (
  question: SurveyQuestion,
  now: readonly Given[],
  was: { question: SurveyQuestion; given: readonly Given[]; name: string },
  choices: readonly { now: string; was: string }[],
): Against => ({
  name: was.name,
  n: was.given.length,
  figure: figureOf(was.question, was.given),
  choices: choices.map((c) => ({ id: c.now, count: was.given.filter(says(c.was)).length })),
  ...between(question, now, was.given, choices),
});

/** What a comparison says, as a code with what it is filled in with. */
export interface ComparedFinding {
  code:
    | 'less'
    | 'more'
    | 'score less'
    | 'score more'
    | 'share less'
    | 'share more'
    | 'no difference'
    | 'too little';
  params: Record<string, string | number>;
}

/** In one sentence what a group differs by, with the test and its size; `than` is what it is beside. */
export function comparedFinding(
  question: SurveyQuestion,
  against: Against,
  n: number,
  than: number,
): ComparedFinding {
  const d = against.difference;
  const sizes = { name: against.name, n, than };
  if (!d) return { code: 'too little', params: sizes };
  const points = question.kind === 'recommend';
  const p = d.p < 0.001 ? 'p < 0.001' : `p = ${d.p.toFixed(3)}`;
  const params = {
    ...sizes,
    test: d.test,
    p,
    size: sizeOf(d),
    by:
      d.test === 'welch'
        ? points
          ? Math.round(Math.abs(d.by))
          : tenths(Math.abs(d.by))
        : Math.abs(percent(d.by)),
    label: question.choices.find((c) => c.id === against.about)?.text.en ?? '',
  };
  if (!isMoreThanChance(d)) return { code: 'no difference', params };
  if (points) return { code: d.by < 0 ? 'score less' : 'score more', params };
  if (d.test === 'welch') return { code: d.by < 0 ? 'less' : 'more', params };
  return { code: d.by < 0 ? 'share less' : 'share more', params };
}
