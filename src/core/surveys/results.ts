import {
  type Estimate,
  type Mean,
  meanOf,
  recommendScore,
  shareOf,
  type Weighed,
} from '#core/statistics/intervals.ts';
import type { SurveyAnswer } from './answering.ts';
import { type Asked, isFigure, pointsOf, rangeOf, type SurveyQuestion } from './survey.ts';
import { groupByTerms, type TermGroup } from './terms.ts';

/** One answer to one question, with how much it counts: 1, but where answers are weighted. */
export interface Given {
  value: SurveyAnswer;
  weight: number;
}

/** How often a choice was given, or a point of a scale. */
export interface ChoiceResult {
  id: string;
  label: string;
  count: number;
  /** Of those who answered, weighted where that was asked for. */
  share: Estimate;
}

/** Who would recommend it: 9 and 10 would, 0 to 6 would not, 7 and 8 are between. */
export interface Recommended {
  score: Estimate;
  would: number;
  between: number;
  not: number;
}
const wouldRecommend = (value: number): 'would' | 'between' | 'not' =>
  value >= 9 ? 'would' : value >= 7 ? 'between' : 'not';

/** What was answered to one question. */
export interface QuestionResult {
  key: string;
  question: SurveyQuestion;
  session: Asked['session'];
  answered: number;
  choices: ChoiceResult[];
  mean: Mean | null;
  recommend: Recommended | null;
  /** Of an order: the mean place of each, the first first, and how often it came first. */
  places: { id: string; label: string; mean: Mean; first: number }[];
  /** Of numbers and dates: the smallest, the one in the middle, the largest, and what numbers add up to. */
  span: { least: string; middle: string; most: string; sum: number | null } | null;
  texts: string[];
  terms: TermGroup[];
  finding: Finding;
}

/** What a result says, as a code with what it is filled in with. */
export interface Finding {
  code:
    | 'nobody'
    | 'too few'
    | 'share'
    | 'several'
    | 'mean'
    | 'recommend'
    | 'place'
    | 'number'
    | 'dates'
    | 'texts'
    | 'texts about';
  params: Record<string, string | number>;
}

export const percent = (share: number): number => Math.round(share * 100);
/** A figure as it is told: with one decimal place at most. */
export const tenths = (value: number): string =>
  (Math.round(value * 10) / 10).toFixed(1).replace(/\.0$/u, '');

/** Points from −100 to 100, with the sign that is as wide as a figure. */
const points = (value: number): string => String(Math.round(value)).replace('-', '−');

const labelOf = (question: SurveyQuestion, id: string): string =>
  question.choices.find((c) => c.id === id)?.text.en ?? id;

/** What was answered to a question, counted with its bounds. `held` says that answers may wait until they are enough to be shown. */
export function resultOf(
  { key, question, session }: Asked,
  given: readonly Given[],
  held = false,
): QuestionResult {
  const total = given.reduce((sum, g) => sum + g.weight, 0);
  const even = given.reduce((sum, g) => sum + g.weight * g.weight, 0);
  // As many even answers as say as much as these weighted ones do.
  const n = even ? (total * total) / even : 0;
  const share = (says: (value: SurveyAnswer) => boolean): Estimate => {
    const part = given.filter((g) => says(g.value)).reduce((sum, g) => sum + g.weight, 0);
    return shareOf(total ? (part / total) * n : 0, n);
  };
  const choice = (id: string, label: string, says: (value: SurveyAnswer) => boolean): ChoiceResult => ({
    id,
    label,
    count: given.filter((g) => says(g.value)).length,
    share: share(says),
  });
  const figures: Weighed[] = isFigure(question.kind)
    ? given.map((g) => ({ value: Number(g.value), weight: g.weight }))
    : [];
  const { least, most } = rangeOf(question);
  const texts = question.kind === 'text' ? given.map((g) => String(g.value)) : [];
  const partial: Omit<QuestionResult, 'finding'> = {
    key,
    question,
    session,
    answered: given.length,
    choices:
      question.kind === 'one of' || question.kind === 'several of'
        ? question.choices.map((c) =>
            choice(c.id, c.text.en, (v) => (Array.isArray(v) ? v.includes(c.id) : v === c.id)),
          )
        : question.kind === 'scale' || question.kind === 'recommend'
          ? pointsOf(question).map((point) =>
              choice(String(point), String(point), (v) => Number(v) === point),
            )
          : [],
    mean: meanOf(figures, least, most),
    recommend: question.kind === 'recommend' && given.length ? recommended(given, share, n) : null,
    places:
      question.kind === 'order' && given.length
        ? question.choices
            .map((c) => {
              const places = given.map((g) => ({
                value: (g.value as string[]).indexOf(c.id) + 1,
                weight: g.weight,
              }));
              return {
                id: c.id,
                label: c.text.en,
                mean: meanOf(places, 1, question.choices.length)!,
                first: places.filter((p) => p.value === 1).length,
              };
            })
            .sort((a, b) => a.mean.value - b.mean.value)
        : [],
    span: spanOf(question, given),
    texts,
    terms: groupByTerms(texts).groups,
  };
  return { ...partial, finding: findingOf(partial, held) };
}

function recommended(
  given: readonly Given[],
  share: (says: (value: SurveyAnswer) => boolean) => Estimate,
  n: number,
): Recommended {
  const of = (which: ReturnType<typeof wouldRecommend>) => (v: SurveyAnswer) =>
    wouldRecommend(Number(v)) === which;
  const count = (which: ReturnType<typeof wouldRecommend>) => given.filter((g) => of(which)(g.value)).length;
  return {
    score: recommendScore(share(of('would')).value * n, share(of('not')).value * n, n),
    would: count('would'),
    between: count('between'),
    not: count('not'),
  };
}

/** The smallest, the middle and the largest of numbers and dates. */
function spanOf(question: SurveyQuestion, given: readonly Given[]): QuestionResult['span'] {
  if (!given.length || (question.kind !== 'number' && question.kind !== 'date')) return null;
  const values = given.map((g) => g.value);
  const sorted =
    question.kind === 'number'
      ? values.map(Number).sort((a, b) => a - b)
      : values.map(String).sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
  return {
    least: String(sorted[0]),
    middle: String(sorted[Math.floor((sorted.length - 1) / 2)]),
    most: String(sorted.at(-1)),
    sum: question.kind === 'number' ? values.map(Number).reduce((a, b) => a + b, 0) : null,
  };
}

/** What a result says in one sentence. */
function findingOf(r: Omit<QuestionResult, 'finding'>, held: boolean): Finding {
  const n = r.answered;
  if (!n) return { code: held ? 'too few' : 'nobody', params: {} };
  const of = r.question;
  if (r.recommend)
    return {
      code: 'recommend',
      params: {
        score: points(r.recommend.score.value),
        low: points(r.recommend.score.low),
        high: points(r.recommend.score.high),
        would: r.recommend.would,
        not: r.recommend.not,
        n,
      },
    };
  if (of.kind === 'scale' && r.mean)
    return {
      code: 'mean',
      params: {
        mean: r.mean.value.toFixed(1),
        most: rangeOf(of).most,
        low: r.mean.low.toFixed(1),
        high: r.mean.high.toFixed(1),
        n,
      },
    };
  if (r.span && of.kind === 'number')
    return {
      code: 'number',
      params: { sum: tenths(r.span.sum!), middle: tenths(Number(r.span.middle)), n },
    };
  if (r.span)
    return { code: 'dates', params: { least: r.span.least, middle: r.span.middle, most: r.span.most, n } };
  if (r.places.length)
    return {
      code: 'place',
      params: { label: r.places[0]!.label, first: r.places[0]!.first, n },
    };
  if (of.kind === 'text') {
    const [about] = r.terms;
    return about
      ? { code: 'texts about', params: { n, count: about.count, term: about.term } }
      : { code: 'texts', params: { n } };
  }
  const top = [...r.choices].sort((a, b) => b.share.value - a.share.value)[0]!;
  return {
    code: of.kind === 'several of' ? 'several' : 'share',
    params: {
      share: percent(top.share.value),
      label: labelOf(of, top.id),
      low: percent(top.share.low),
      high: percent(top.share.high),
      n,
    },
  };
}

/** Every answer as much as any other. */
export const asGiven = (values: readonly SurveyAnswer[]): Given[] =>
  values.map((value) => ({ value, weight: 1 }));

/** The figures that two groups are compared by: points of a scale or a number as they are, a recommendation as 100, 0 or −100. */
export const comparedFigures = (question: SurveyQuestion, given: readonly Given[]): Weighed[] =>
  question.kind === 'recommend'
    ? given.map((g) => {
        const says = wouldRecommend(Number(g.value));
        return { value: says === 'would' ? 100 : says === 'not' ? -100 : 0, weight: g.weight };
      })
    : isFigure(question.kind)
      ? given.map((g) => ({ value: Number(g.value), weight: g.weight }))
      : [];
