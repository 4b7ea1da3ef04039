import { sayDay } from '#core/contacts/membership.ts';
import { sayText } from '#core/words/attributes.ts';
import type { Params } from '#core/words/filling.ts';
import { spokenIn } from '#core/words/language.ts';
import type { segmentsEn } from '#core/words/segments.en.ts';
import { say, words } from '#core/words/spoken.ts';
import {
  type Bound,
  isQuestion,
  type OfEvents,
  type Question,
  type Segment,
  type Window,
} from './segment.ts';

type Key = keyof typeof segmentsEn;
const text = (key: Key, params?: Params): string => say(words().segments[key], params);
const known = (key: string): key is Key => key in words().segments;

/** What ids stand for, and how money is said. */
export interface Names {
  of: Readonly<Record<string, string>>;
  money: (amount: number) => string;
}

/** Reads a segment back as one plain sentence: "People who came at least twice this year and never gave." */
export function saySegment(segment: Segment, names: Names): string {
  const who = clause(segment, names, true);
  return who ? text('people', { who }) : text('everybody');
}

/** One part of a segment in words, for saying why somebody is in it. */
export function sayPart(s: Segment, names: Names): string {
  if (isQuestion(s)) return sayQuestion(s, names);
  if ('not' in s) return isQuestion(s.not) ? sayQuestion(s.not, names, true) : text('not the following');
  return text('all' in s ? 'all of these' : 'any of these');
}

/** A part as a clause that says who; several share one “who”. */
function clause(s: Segment, names: Names, top = false): string {
  const does = doesOf(s, names);
  if (does !== null) return text('who', { does });
  if ('not' in s) return text('nobody at all');
  if (isQuestion(s)) return '';
  const [list, join] = 'all' in s ? ([s.all, 'and'] as const) : ([s.any, 'or'] as const);
  const parts = list
    .map((part) => ({ does: doesOf(part, names), whole: clause(part, names) }))
    .filter(({ whole }) => whole);
  if (parts.length === 0) return 'all' in s ? '' : text('nobody at all');
  if (parts.length === 1) return parts[0]!.whole;
  const together = (said: string[]) => said.reduce((first, next) => text(join, { first, next }));
  const said =
    parts[0]!.does === null
      ? together(parts.map(({ whole }) => whole))
      : text('who', { does: together(parts.map(({ does: alone, whole }) => alone ?? whole)) });
  return top ? said : `(${said})`;
}

/** What people of a part do, as it stands behind “who”; null of a group, and of nobody. */
function doesOf(s: Segment, names: Names): string | null {
  if (isQuestion(s)) return sayQuestion(s, names);
  if (!('not' in s)) return null;
  if (isQuestion(s.not)) return sayQuestion(s.not, names, true);
  const who = clause(s.not, names);
  return who ? text('not among', { who }) : null;
}

const often = (n: number): string =>
  n < 3 ? text((['never', 'once', 'twice'] as const)[n]!) : text('times', { n });
const none = (b: Bound): boolean => b.n === 0 && b.is !== 'at least';
const bounded = (b: Bound, number: (n: number) => string): string => text(b.is, { n: number(b.n) });

function sayWindow(w: Window): string {
  switch (w.when) {
    case 'ever':
      return '';
    case 'this year':
    case 'last year':
      return text(w.when);
    case 'days':
      return w.days === 365 ? text('in the last year') : text('in the last days', { days: w.days ?? 0 });
    case 'between':
      return text('between', { from: w.from ? sayDay(w.from) : '', to: w.to ? sayDay(w.to) : '' });
  }
}

/** Which events are meant, behind what people did there: “to” it, or a survey “of” it. */
function sayEvents(of: OfEvents, names: Names, by: 'to' | 'of' = 'to'): string {
  return [
    of.title ? text(`${by} event`, { title: of.title }) : '',
    of.category ? text(`${by} category`, { category: of.category }) : '',
    of.unitId ? text('with unit', { unit: names.of[of.unitId] ?? text('unit gone') }) : '',
    of.seriesId ? text('in series', { series: names.of[of.seriesId] ?? text('event gone') }) : '',
  ].join('');
}

const sayLanguage = (code: string): string =>
  new Intl.DisplayNames([spokenIn()], { type: 'language', fallback: 'code' }).of(code) ?? code;

function sayQuestion(q: Question, names: Names, not = false): string {
  /** The question under its key, or the same turned round where it has words for that. */
  const asked = (key: string, params?: Params): string => {
    const turned = `not ${key}`;
    return text((not && known(turned) ? turned : key) as Key, params);
  };
  /** One that has no words for being turned round. */
  const turn = (key: Key, params: Params): string => {
    const does = text(key, params);
    return not ? text('turned', { does }) : does;
  };
  /** One that holds today, or held on a day. */
  const on = (day: string, key: string, params: Params): string =>
    day === 'today'
      ? asked(key, params)
      : asked(`${key} then`, { ...params, day: text('on day', { day: sayDay(day) }) });
  switch (q.ask) {
    case 'tag':
      return asked('tag', { tag: q.tag });
    case 'reach':
      return asked(`reach ${q.by}`);
    case 'age':
      return asked(q.from === undefined ? 'age to' : q.to === undefined ? 'age from' : 'age between', {
        from: q.from ?? 0,
        to: q.to ?? 0,
      });
    case 'postal code':
      return asked('postal code', { begins: q.begins.toUpperCase() });
    case 'language':
      return asked('language', { language: sayLanguage(q.language) });
    case 'consent': {
      const word = (value: string) => (known(value) ? text(value) : value);
      const by = q.channel === 'email' ? '' : ' by';
      return asked(`${q.said === 'nothing' ? 'asked about' : 'said to'}${by}`, {
        said: word(q.said),
        topic: word(q.topic),
        channel: word(q.channel),
      });
    }
    case 'not to be contacted':
    case 'moved away':
    case 'organization':
      return asked(q.ask);
    case 'custom field':
      return asked(`field ${q.is}`, {
        field: names.of[q.fieldId] ?? text('field gone'),
        value: q.value ?? '',
      });
    case 'detail':
      return asked(`detail ${q.is}`, { detail: sayText(q.detail, 'many'), value: q.value ?? '' });
    case 'member':
      return on(q.on, q.level ? 'member of level' : 'member', { level: q.level ?? '' });
    case 'in a unit':
      return on(q.on, q.role ? 'role in a unit' : 'in a unit', {
        role: q.role ?? '',
        unit: names.of[q.unitId] ?? text('unit gone'),
      });
    case 'works for':
      return on(q.on, 'works for', {
        organization: q.organizationId
          ? (names.of[q.organizationId] ?? text('organization gone'))
          : text('an organization'),
      });
    case 'registered':
    case 'attended':
    case 'missed': {
      const nothing = (
        {
          registered: 'registered for nothing',
          attended: 'never attended',
          missed: 'missed nothing',
        } as const
      )[q.ask];
      return turn(none(q.times) ? nothing : q.ask, {
        times: bounded(q.times, often),
        events: sayEvents(q.of, names),
        time: sayWindow(q.within),
      });
    }
    case 'donated':
      return turn(none(q.amount) ? 'never donated' : 'donated', {
        amount: bounded(q.amount, names.money),
        fund: q.fundId ? text('to fund', { fund: names.of[q.fundId] ?? text('fund gone') }) : '',
        time: sayWindow(q.within),
      });
    case 'served':
      return turn('served', {
        hours: none(q.hours) ? text('no hour') : bounded(q.hours, (count) => text('hours', { count })),
        role: q.role ? text('as role', { role: q.role }) : '',
        time: sayWindow(q.within),
      });
    case 'signed':
      return asked('signed', {
        waiver: q.waiverId ? (names.of[q.waiverId] ?? text('waiver gone')) : text('a valid waiver'),
        time: sayWindow(q.within),
      });
    case 'last seen':
      return asked('last seen', { time: sayWindow(q.within) || text('at any time') });
    case 'answered a survey':
      return asked('answered', {
        events: sayEvents(q.of, names, 'of'),
        said: sayAnswered(q.said, q.question),
        time: sayWindow(q.within),
      });
    case 'in the household of': {
      const who = clause(q.who, names);
      return asked('in the household of', { whom: who ? text('people who', { who }) : text('somebody') });
    }
  }
}

function sayAnswered(said: string | undefined, question: string | undefined): string {
  if (said) return question ? text('and said to', { said, question }) : text('and said', { said });
  return question ? text('and said something', { question }) : '';
}
