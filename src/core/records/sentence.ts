import { attributes } from '#core/contacts/attributes.ts';
import { sayShortDate } from '#core/time/say.ts';
import {
  type Bound,
  isQuestion,
  type OfEvents,
  type Question,
  type Segment,
  type Window,
} from './segment.ts';

/** What ids stand for, and how money is said. */
export interface Names {
  of: Readonly<Record<string, string>>;
  money: (amount: number) => string;
}

/** Reads a segment back as one plain sentence: "People who came at least twice this year and never gave." */
export function saySegment(segment: Segment, names: Names): string {
  const words = clause(segment, names, true);
  return words ? `People ${words}.` : 'Everybody.';
}

/** One part of a segment in words, for saying why somebody is in it. */
export function sayPart(s: Segment, names: Names): string {
  if (isQuestion(s)) return sayQuestion(s, names);
  if ('not' in s) return isQuestion(s.not) ? sayQuestion(s.not, names, true) : 'not the following';
  return 'all' in s ? 'all of these' : 'any of these';
}

function clause(s: Segment, names: Names, top = false): string {
  if (isQuestion(s)) return `who ${sayQuestion(s, names)}`;
  if ('not' in s) {
    if (isQuestion(s.not)) return `who ${sayQuestion(s.not, names, true)}`;
    const inner = clause(s.not, names);
    return inner ? `who are not among those ${inner}` : 'of whom there are none';
  }
  const [list, join] = 'all' in s ? [s.all, 'and'] : [s.any, 'or'];
  const parts = list.map((x) => clause(x, names)).filter(Boolean);
  if (parts.length === 0) return 'all' in s ? '' : 'of whom there are none';
  const joined = parts.map((p, at) => (at && p.startsWith('who ') ? p.slice(4) : p)).join(` ${join} `);
  const said =
    parts.length > 1 ? (parts[0]!.split(' ')[0] === 'who' ? joined : parts.join(` ${join} `)) : parts[0]!;
  return top || parts.length < 2 ? said : `(${said})`;
}

const counts = ['never', 'once', 'twice'];
const often = (n: number): string => counts[n] ?? `${n} times`;

function bounded(b: Bound, say: (n: number) => string, none: string): string {
  if (b.n === 0 && b.is !== 'at least') return none;
  return b.is === 'exactly' ? `exactly ${say(b.n)}` : `${b.is} ${say(b.n)}`;
}

const sayDay = (d: string | undefined): string => (d ? `${sayShortDate(d)} ${d.slice(0, 4)}` : '');

function sayWindow(w: Window): string {
  switch (w.when) {
    case 'ever':
      return '';
    case 'this year':
    case 'last year':
      return ` ${w.when}`;
    case 'days':
      return w.days === 365 ? ' in the last year' : ` in the last ${w.days} days`;
    case 'between':
      return ` from ${sayDay(w.from)} to ${sayDay(w.to)}`;
  }
}

function sayEvents(of: OfEvents, names: Names): string {
  return [
    of.title ? ` to “${of.title}”` : '',
    of.category ? ` to something of “${of.category}”` : '',
    of.unitId ? ` with ${names.of[of.unitId] ?? 'a unit no longer there'}` : '',
    of.seriesId ? ` in the series of “${names.of[of.seriesId] ?? 'an event no longer there'}”` : '',
  ].join('');
}

function sayQuestion(q: Question, names: Names, not = false): string {
  const be = (words: string) => (not ? `are not ${words}` : `are ${words}`);
  const have = (words: string) => (not ? `have no ${words}` : `have ${words}`);
  const turn = (words: string) => (not ? `it is not true that they ${words}` : words);
  switch (q.ask) {
    case 'tag':
      return `${not ? 'do not have' : 'have'} the tag “${q.tag}”`;
    case 'reach':
      return have(
        {
          email: not ? 'email' : 'an email',
          phone: not ? 'telephone' : 'a telephone',
          address: not ? 'address' : 'an address',
        }[q.by],
      );
    case 'age':
      return be(
        q.from !== undefined && q.to !== undefined
          ? `${q.from} to ${q.to} years old`
          : q.from !== undefined
            ? `${q.from} or older`
            : `${q.to} or younger`,
      );
    case 'postal code':
      return `${not ? 'do not live' : 'live'} where the postal code begins with ${q.begins.toUpperCase()}`;
    case 'language':
      return `${not ? 'do not read' : 'read'} ${q.language === 'fr' ? 'French' : q.language === 'en' ? 'English' : q.language}`;
    case 'consent': {
      const about = `${q.topic === 'newsletter' ? 'the newsletter' : q.topic}${q.channel === 'email' ? '' : ` by ${q.channel}`}`;
      if (q.said === 'nothing') return `were ${not ? '' : 'never '}asked about ${about}`;
      return `${not ? 'did not say' : 'said'} ${q.said} to ${about}`;
    }
    case 'not to be contacted':
      return not ? 'may be contacted' : 'asked not to be contacted';
    case 'moved away':
      return not ? 'have not moved away' : 'have moved away';
    case 'organization':
      return be(not ? 'an organization' : 'organizations');
    case 'custom field': {
      const field = names.of[q.fieldId] ?? 'a field no longer there';
      if (q.is === 'filled') return have(not ? `“${field}”` : `“${field}” filled in`);
      const is = { is: 'is', contains: 'contains', 'at least': 'is at least', 'at most': 'is at most' }[q.is];
      return `${not ? 'are not among those' : 'are those'} whose “${field}” ${is} “${q.value ?? ''}”`;
    }
    case 'detail': {
      const { many } = attributes[q.detail].text;
      if (q.is === 'filled') return have(`${many} on record`);
      return `${not ? 'do not have' : 'have'} “${q.value ?? ''}” ${q.is === 'is' ? 'as' : 'in'} their ${many}`;
    }
    case 'member': {
      const words = q.level ? `members (${q.level})` : 'members';
      return q.on === 'today' ? be(words) : `${not ? 'were no' : 'were'} ${words} on ${sayDay(q.on)}`;
    }
    case 'in a unit': {
      const unit = names.of[q.unitId] ?? 'a unit no longer there';
      const words = `${q.role ? `${q.role} ` : ''}in ${unit}`;
      return q.on === 'today' ? be(words) : `${not ? 'were not' : 'were'} ${words} on ${sayDay(q.on)}`;
    }
    case 'works for': {
      const where = q.organizationId
        ? (names.of[q.organizationId] ?? 'an organization no longer there')
        : 'an organization';
      return q.on === 'today'
        ? `${not ? 'are not with' : 'are with'} ${where}`
        : `${not ? 'were not with' : 'were with'} ${where} on ${sayDay(q.on)}`;
    }
    case 'registered':
      return turn(
        `registered ${bounded(q.times, often, 'for nothing')}${sayEvents(q.of, names)}${sayWindow(q.within)}`,
      );
    case 'attended':
      return q.times.n === 0 && q.times.is !== 'at least'
        ? turn(`never came${sayEvents(q.of, names)}${sayWindow(q.within)}`)
        : turn(`came ${bounded(q.times, often, 'never')}${sayEvents(q.of, names)}${sayWindow(q.within)}`);
    case 'missed':
      return turn(
        q.times.n === 0 && q.times.is !== 'at least'
          ? `missed nothing${sayEvents(q.of, names)}${sayWindow(q.within)}`
          : `registered and did not come ${bounded(q.times, often, 'never')}${sayEvents(q.of, names)}${sayWindow(q.within)}`,
      );
    case 'donated': {
      const to = q.fundId ? ` to ${names.of[q.fundId] ?? 'a fund no longer there'}` : '';
      return q.amount.n === 0 && q.amount.is !== 'at least'
        ? turn(`never gave${to}${sayWindow(q.within)}`)
        : turn(`gave ${bounded(q.amount, names.money, 'nothing')}${to}${sayWindow(q.within)}`);
    }
    case 'served':
      return turn(
        `served ${bounded(q.hours, (n) => (n === 1 ? 'an hour' : `${n} hours`), 'no hour')}${q.role ? ` as “${q.role}”` : ''}${sayWindow(q.within)}`,
      );
    case 'signed':
      return `${not ? 'have not signed' : 'have signed'} ${q.waiverId ? (names.of[q.waiverId] ?? 'a waiver no longer there') : 'a waiver that is valid'}${sayWindow(q.within)}`;
    case 'last seen':
      return `${not ? 'were not seen' : 'were last seen'}${sayWindow(q.within) || ' at any time'}`;
    case 'answered a survey':
      return `${not ? 'answered no survey' : 'answered a survey'}${sayEvents(q.of, names).replace(/^ to /u, ' of ')}${
        q.question || q.said
          ? ` and said ${q.said ? `“${q.said}”` : 'something'}${q.question ? ` to “${q.question}”` : ''}`
          : ''
      }${sayWindow(q.within)}`;
    case 'in the household of':
      return `${not ? 'do not live' : 'live'} in the household of ${clause(q.who, names) ? `people ${clause(q.who, names)}` : 'somebody'}`;
  }
}
