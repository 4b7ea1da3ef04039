import { type TextKey, textKeys } from '#core/contacts/attributes.ts';
import {
  type ConsentChannel,
  type ConsentTopic,
  consentChannels,
  consentTopics,
} from '#core/contacts/consent.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import type { Params } from '#core/words/filling.ts';
import { isId } from '#core/words/ids.ts';
import type { ProblemCode, Wrong } from '#core/words/problems.ts';

/** A bound on a number: at least two times, at most none. */
export interface Bound {
  is: 'at least' | 'at most' | 'exactly';
  n: number;
}

/** When something has to have happened. Dates are calendar days of the organization, both included. */
export interface Window {
  /** `days` counts back from today, `this year` begins on 1 January. */
  when: 'ever' | 'this year' | 'last year' | 'days' | 'between';
  days?: number;
  from?: string;
  to?: string;
}

/** Which events count. What is not said does not matter. */
export interface OfEvents {
  unitId?: string;
  category?: string;
  /** Part of the public title. */
  title?: string;
  /** The first event of those that happen again and again, one copied from the other. */
  seriesId?: string;
}

/** The day something has to hold on: today, whenever that is asked, or one day for good. */
export type OnDay = 'today' | string;

/** How a custom field is compared; without regard to capitals, numbers and dates by their size. */
export const fieldTests = ['filled', 'is', 'contains', 'at least', 'at most'] as const;
export type FieldTest = (typeof fieldTests)[number];
/** How a line of text of a record is compared, without regard to capitals. */
export const textTests = ['filled', 'is', 'contains'] as const satisfies readonly FieldTest[];
export type TextTest = (typeof textTests)[number];

/** One question about somebody and their history. */
export type Question =
  | { ask: 'tag'; tag: string }
  | { ask: 'reach'; by: 'email' | 'phone' | 'address' }
  | { ask: 'age'; from?: number; to?: number }
  | { ask: 'postal code'; begins: string }
  | { ask: 'language'; language: string }
  | { ask: 'consent'; topic: ConsentTopic; channel: ConsentChannel; said: 'yes' | 'no' | 'nothing' }
  | { ask: 'not to be contacted' }
  | { ask: 'moved away' }
  | { ask: 'organization' }
  | { ask: 'custom field'; fieldId: string; is: FieldTest; value?: string }
  | { ask: 'detail'; detail: TextKey; is: TextTest; value?: string }
  | { ask: 'member'; level?: string; on: OnDay }
  | { ask: 'in a unit'; unitId: string; role?: string; on: OnDay }
  | { ask: 'works for'; organizationId?: string; on: OnDay }
  | { ask: 'registered' | 'attended' | 'missed'; times: Bound; of: OfEvents; within: Window }
  | { ask: 'donated'; amount: Bound; fundId?: string; within: Window }
  | { ask: 'served'; hours: Bound; role?: string; within: Window }
  | { ask: 'signed'; waiverId?: string; within: Window }
  | { ask: 'last seen'; within: Window }
  | { ask: 'answered a survey'; of: OfEvents; within: Window; question?: string; said?: string }
  | { ask: 'in the household of'; who: Segment };

/** Questions joined by and, or, not. */
export type Segment = { all: readonly Segment[] } | { any: readonly Segment[] } | { not: Segment } | Question;

export const questionKinds = [
  'tag',
  'reach',
  'age',
  'postal code',
  'language',
  'consent',
  'not to be contacted',
  'moved away',
  'organization',
  'custom field',
  'detail',
  'member',
  'in a unit',
  'works for',
  'registered',
  'attended',
  'missed',
  'donated',
  'served',
  'signed',
  'last seen',
  'answered a survey',
  'in the household of',
] as const satisfies readonly Question['ask'][];

export const isQuestion = (s: Segment): s is Question => 'ask' in s;

/** Questions that are asked so often that they have a name of their own, though they are another's with “none”. */
export const neverKinds = ['never came', 'never gave'] as const;
export type NeverKind = (typeof neverKinds)[number];

/** Whether a question asks for people who never did something. */
export function neverKindOf(q: Question): NeverKind | null {
  const none = (bound: { is: string; n: number }) => bound.n === 0 && bound.is !== 'at least';
  if (q.ask === 'attended') return none(q.times) ? 'never came' : null;
  if (q.ask === 'donated') return none(q.amount) ? 'never gave' : null;
  return null;
}

/** The question by which somebody who never did something is found. */
export const neverQuestion = (kind: NeverKind): Question =>
  kind === 'never came'
    ? { ask: 'attended', times: { is: 'at most', n: 0 }, of: {}, within: { when: 'ever' } }
    : { ask: 'donated', amount: { is: 'at most', n: 0 }, within: { when: 'ever' } };

/** What every question begins as. */
export function freshQuestion(ask: Question['ask']): Question {
  const ever: Window = { when: 'ever' };
  switch (ask) {
    case 'tag':
      return { ask, tag: '' };
    case 'reach':
      return { ask, by: 'email' };
    case 'age':
      return { ask, from: 18 };
    case 'postal code':
      return { ask, begins: 'B' };
    case 'language':
      return { ask, language: 'fr' };
    case 'consent':
      return { ask, topic: 'newsletter', channel: 'email', said: 'yes' };
    case 'not to be contacted':
    case 'moved away':
    case 'organization':
      return { ask };
    case 'custom field':
      return { ask, fieldId: '', is: 'filled' };
    case 'detail':
      return { ask, detail: textKeys[0]!, is: 'filled' };
    case 'member':
    case 'works for':
      return { ask, on: 'today' };
    case 'in a unit':
      return { ask, unitId: '', on: 'today' };
    case 'registered':
    case 'attended':
    case 'missed':
      return { ask, times: { is: 'at least', n: 1 }, of: {}, within: { when: 'this year' } };
    case 'donated':
      return { ask, amount: { is: 'at least', n: 1 }, within: ever };
    case 'served':
      return { ask, hours: { is: 'at least', n: 1 }, within: { when: 'this year' } };
    case 'signed':
      return { ask, within: ever };
    case 'last seen':
      return { ask, within: { when: 'days', days: 365 } };
    case 'answered a survey':
      return { ask, of: {}, within: ever };
    case 'in the household of':
      return { ask, who: { all: [] } };
  }
}

/** How deep groups may stand in one another, and how many questions a segment may have. */
export const segmentLimits = { depth: 24, questions: 200 } as const;

/**
 * Reads a segment as it comes from outside. Returns it, or what is wrong and where: the path leads through the groups
 * ("all.0.times.n").
 */
export function readSegment(value: unknown): { segment: Segment } | { problems: Wrong[] } {
  const problems: Wrong[] = [];
  let questions = 0;
  const wrong: Refuse = (path, code, params) => {
    problems.push({ path, code, ...(params && { params }) });
    return [];
  };
  const visit = (v: unknown, path: string, depth: number): void => {
    if (problems.length > 20) return;
    if (depth > segmentLimits.depth) {
      wrong(path, 'groups-too-deep', { depth: segmentLimits.depth });
      return;
    }
    if (!isRecord(v)) {
      wrong(path, 'not-a-question');
      return;
    }
    for (const join of ['all', 'any'] as const)
      if (join in v) {
        if (!Array.isArray(v[join])) wrong(path, 'group-is-a-list');
        else for (const [at, x] of v[join].entries()) visit(x, below(path, `${join}.${at}`), depth + 1);
        return;
      }
    if ('not' in v) {
      visit(v.not, below(path, 'not'), depth + 1);
      return;
    }
    questions += 1;
    if (questions > segmentLimits.questions) {
      if (questions === segmentLimits.questions + 1)
        wrong(path, 'too-many-questions', { questions: segmentLimits.questions });
      return;
    }
    checkQuestion(v, path, wrong);
    if (v.ask === 'in the household of') visit(v.who, below(path, 'who'), depth + 1);
  };
  visit(value, '', 0);
  return problems.length ? { problems } : { segment: value as Segment };
}

const below = (path: string, step: string): string => (path ? `${path}.${step}` : step);
const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

const isDay = (v: unknown): boolean => typeof v === 'string' && isCalendarDate(v);

type Refuse = (path: string, code: ProblemCode, params?: Params) => unknown;

function checkQuestion(q: Record<string, unknown>, path: string, wrong: Refuse): void {
  const at = (step: string) => below(path, step);
  const text = (key: string, needed = true) => {
    const v = q[key];
    if (v === undefined && !needed) return;
    if (typeof v !== 'string' || (needed && !v.trim()) || v.length > 200) wrong(at(key), 'say-which');
  };
  const number = (key: string, v: unknown, most: number) => {
    if (typeof v !== 'number' || !Number.isFinite(v) || v < 0 || v > most)
      wrong(at(key), 'number-up-to', { most });
  };
  const bound = (key: string, most: number) => {
    const v = q[key];
    if (!isRecord(v) || !['at least', 'at most', 'exactly'].includes(v.is as string))
      wrong(at(key), 'say-how-many');
    else number(`${key}.n`, v.n, most);
  };
  const oneOf = (key: string, values: readonly string[]) => {
    if (!values.includes(q[key] as string)) wrong(at(key), 'one-of', { values: values.join(', ') });
  };
  const window = () => {
    const v = q.within;
    if (!isRecord(v) || !['ever', 'this year', 'last year', 'days', 'between'].includes(v.when as string)) {
      wrong(at('within'), 'say-in-which-time');
      return;
    }
    if (v.when === 'days') number('within.days', v.days, 36_500);
    if (v.when === 'between') {
      if (!isDay(v.from) || !isDay(v.to)) wrong(at('within'), 'say-from-to');
      else if ((v.from as string) > (v.to as string)) wrong(at('within.to'), 'ends-before-it-begins');
    }
  };
  const id = (key: string, needed = false) => {
    if (q[key] === undefined ? needed : !isId(q[key])) wrong(at(key), 'one-of-the-list');
  };
  const events = () => {
    if (!isRecord(q.of)) {
      wrong(at('of'), 'say-which-events');
      return;
    }
    for (const key of ['unitId', 'seriesId'])
      if (q.of[key] !== undefined && !isId(q.of[key])) wrong(at(`of.${key}`), 'one-of-the-list');
    for (const key of ['category', 'title'])
      if (q.of[key] !== undefined && (typeof q.of[key] !== 'string' || q.of[key].length > 200))
        wrong(at(`of.${key}`), 'say-which');
  };
  const onDay = () => {
    if (q.on !== 'today' && !isDay(q.on)) wrong(at('on'), 'say-which-day');
  };
  switch (q.ask) {
    case 'tag':
      text('tag');
      return;
    case 'reach':
      oneOf('by', ['email', 'phone', 'address']);
      return;
    case 'age':
      if (q.from === undefined && q.to === undefined) wrong(at('from'), 'say-which-age');
      if (q.from !== undefined) number('from', q.from, 130);
      if (q.to !== undefined) number('to', q.to, 130);
      return;
    case 'postal code':
      text('begins');
      return;
    case 'language':
      text('language');
      return;
    case 'consent':
      oneOf('topic', consentTopics);
      oneOf('channel', consentChannels);
      oneOf('said', ['yes', 'no', 'nothing']);
      return;
    case 'not to be contacted':
    case 'moved away':
    case 'organization':
      return;
    case 'custom field':
      id('fieldId', true);
      oneOf('is', fieldTests);
      if (q.is !== 'filled') text('value');
      return;
    case 'detail':
      oneOf('detail', textKeys);
      oneOf('is', textTests);
      if (q.is !== 'filled') text('value');
      return;
    case 'member':
      text('level', false);
      onDay();
      return;
    case 'in a unit':
      id('unitId', true);
      text('role', false);
      onDay();
      return;
    case 'works for':
      id('organizationId');
      onDay();
      return;
    case 'registered':
    case 'attended':
    case 'missed':
      bound('times', 100_000);
      window();
      events();
      return;
    case 'donated':
      bound('amount', 1_000_000_000);
      id('fundId');
      window();
      return;
    case 'served':
      bound('hours', 1_000_000);
      text('role', false);
      window();
      return;
    case 'signed':
      id('waiverId');
      window();
      return;
    case 'last seen':
      window();
      return;
    case 'answered a survey':
      events();
      window();
      text('question', false);
      text('said', false);
      return;
    case 'in the household of':
      return;
    default:
      wrong(at('ask'), 'no-such-question', { question: String(q.ask).slice(0, 40) });
  }
}
