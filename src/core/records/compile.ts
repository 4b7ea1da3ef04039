import { shiftDate } from '#core/time/wallTime.ts';
import {
  type Bound,
  isQuestion,
  type OfEvents,
  type Question,
  type Segment,
  type Window,
} from './segment.ts';
import { type Asked, instantsOf } from './window.ts';

/** A condition on a contact `c`, with its parameters; nothing a person typed is ever part of the text. */
export interface Compiled {
  sql: string;
  params: unknown[];
}

/**
 * Compiles a segment to a condition in SQL. Every question about history becomes a set of contact ids, found once for
 * all contacts, rather than a look for each of them.
 */
export function compileSegment(segment: Segment, asked: Asked): Compiled {
  const params: unknown[] = [];
  const put = (value: unknown, type = ''): string => {
    params.push(value);
    return `$${params.length}${type && `::${type}`}`;
  };
  const visit = (s: Segment): string => {
    if (isQuestion(s)) return question(s, asked, put, visit);
    if ('not' in s) return `not (${visit(s.not)})`;
    const [list, join, empty] = 'all' in s ? [s.all, ' and ', 'true'] : [s.any, ' or ', 'false'];
    return list.length ? `(${list.map(visit).join(join)})` : empty;
  };
  return { sql: visit(segment), params };
}

type Put = (value: unknown, type?: string) => string;

function during(column: string, window: Window, asked: Asked, put: Put): string {
  const { from, before } = instantsOf(window, asked);
  return [
    from ? ` and ${column} >= ${put(from, 'timestamptz')}` : '',
    before ? ` and ${column} < ${put(before, 'timestamptz')}` : '',
  ].join('');
}

const contains = (text: string): string => `%${text.replace(/[\\%_]/gu, '\\$&')}%`;

function ofEvents(of: OfEvents, put: Put): string {
  return [
    of.unitId ? ` and e.unit_id = ${put(of.unitId, 'uuid')}` : '',
    of.category ? ` and e.category = ${put(of.category)}` : '',
    of.title ? ` and e.public_title ilike ${put(contains(of.title))}` : '',
  ].join('');
}

/** A bound on a figure of each contact, where those without rows have none of it. */
function bounded(
  of: { from: () => string; figure: string; contact: string },
  bound: Bound,
  put: Put,
): string {
  // Asked for only when it is needed: a parameter that stands nowhere is an error.
  if (bound.is === 'at least' && bound.n <= 0) return 'true';
  const having = (operator: string, n: number) =>
    `c.id in (select ${of.contact} from ${of.from()} and ${of.contact} is not null group by ${of.contact} having ${of.figure} ${operator} ${put(n, 'numeric')})`;
  // Once at least: whoever has a row at all, without counting.
  if (of.figure === 'count(*)' && bound.is === 'at least' && bound.n === 1)
    return `c.id in (select ${of.contact} from ${of.from()})`;
  if (bound.is === 'at least') return having('>=', bound.n);
  if (bound.is === 'at most') return `not ${having('>', bound.n)}`;
  return bound.n === 0 ? `not ${having('>', 0)}` : having('=', bound.n);
}

const eventsNeeded = (q: { of: OfEvents; within: Window }): boolean =>
  q.within.when !== 'ever' || Object.values(q.of).some(Boolean);

function question(q: Question, asked: Asked, put: Put, visit: (s: Segment) => string): string {
  switch (q.ask) {
    case 'tag':
      return `c.id in (select contact_id from contact_tags where tag = ${put(q.tag.trim().toLowerCase())})`;
    case 'reach':
      if (q.by === 'address') return "coalesce(c.street, '') <> ''";
      return q.by === 'email'
        ? 'c.id in (select contact_id from contact_emails)'
        : 'c.id in (select contact_id from contact_phones)';
    case 'age': {
      // Whoever turns the age today is of it: born on or before this day so many years ago.
      const born = [
        q.from === undefined ? '' : `c.birth_date <= ${put(yearsBefore(asked.today, q.from), 'date')}`,
        q.to === undefined ? '' : `c.birth_date > ${put(yearsBefore(asked.today, q.to + 1), 'date')}`,
      ].filter(Boolean);
      return `coalesce(${born.join(' and ')}, false)`;
    }
    case 'postal code':
      return `upper(replace(coalesce(c.postal_code, ''), ' ', '')) like ${put(
        `${q.begins
          .toUpperCase()
          .replaceAll(' ', '')
          .replace(/[\\%_]/gu, '\\$&')}%`,
      )}`;
    case 'language':
      return `c.language = ${put(q.language)}`;
    case 'newsletter': {
      const last =
        "select distinct on (contact_id) contact_id, granted from consents where topic = 'newsletter' and channel = 'email' order by contact_id, at desc, id desc";
      if (q.said === 'nothing')
        return "c.id not in (select contact_id from consents where topic = 'newsletter' and channel = 'email')";
      return `c.id in (select contact_id from (${last}) l where ${q.said === 'yes' ? '' : 'not '}granted)`;
    }
    case 'not to be contacted':
      return 'c.do_not_contact';
    case 'member':
      return `c.id in (select contact_id from memberships where true${q.level ? ` and lower(level) = ${put(q.level.trim().toLowerCase())}` : ''})`;
    case 'registered':
    case 'attended':
    case 'missed':
      // One row a person and event, so that rows are counted and nothing has to be told apart.
      return bounded(
        {
          contact: 't.contact_id',
          figure: 'count(*)',
          from: () =>
            `participation t${eventsNeeded(q) ? ' join events e on e.id = t.event_id' : ''} where t.${q.ask}${ofEvents(q.of, put)}${during('e.starts_at', q.within, asked, put)}`,
        },
        q.times,
        put,
      );
    case 'donated':
      return bounded(
        {
          contact: 't.contact_id',
          figure: 'sum(t.amount)',
          from: () =>
            `donations t where true${q.fundId ? ` and t.fund_id = ${put(q.fundId, 'uuid')}` : ''}${during('t.at', q.within, asked, put)}`,
        },
        q.amount,
        put,
      );
    case 'served':
      return bounded(
        {
          contact: 't.contact_id',
          figure: 'sum(coalesce(t.hours, 0))',
          from: () =>
            `assignments t join shifts s on s.id = t.shift_id where t.state = 'served'${q.role ? ` and s.role ilike ${put(contains(q.role))}` : ''}${during('s.starts_at', q.within, asked, put)}`,
        },
        q.hours,
        put,
      );
    case 'signed':
      return `c.id in (select contact_id from signatures t where t.state = 'valid' and t.contact_id is not null${q.waiverId ? ` and t.waiver_id = ${put(q.waiverId, 'uuid')}` : ''}${during('t.at', q.within, asked, put)})`;
    case 'last seen': {
      const { from, before } = instantsOf(q.within, asked);
      const seen = `select t.contact_id from participation t where t.last_seen is not null`;
      // Seen last before a day means: not seen on it or after.
      return [
        `(c.id in (${seen}${from ? ` and t.last_seen >= ${put(from, 'timestamptz')}` : ''}${before ? ` and t.last_seen < ${put(before, 'timestamptz')}` : ''})`,
        ...(before ? [`c.id not in (${seen} and t.last_seen >= ${put(before, 'timestamptz')})`] : []),
      ]
        .join(' and ')
        .concat(')');
    }
    case 'answered a survey':
      return `c.id in (select t.contact_id from survey_responses t where t.contact_id is not null${during('t.answered_on::timestamptz', q.within, asked, put)})`;
    case 'in the household of':
      return `coalesce(c.household_id in (select c.household_id from contacts c where c.household_id is not null and c.merged_into is null and c.erased_at is null and ${visit(q.who)}), false)`;
  }
}

/** The same day so many years before; 29 February becomes the last of the month where there is none. */
export function yearsBefore(day: string, years: number): string {
  const year = String(Number(day.slice(0, 4)) - years).padStart(4, '0');
  const same = `${year}${day.slice(4)}`;
  return Number.isNaN(Date.parse(same)) || !new Date(`${same}T00:00Z`).toISOString().startsWith(same)
    ? shiftDate(`${year}-03-01`, -1)
    : same;
}
