import { attributes } from '#core/contacts/attributes.ts';
import { shiftDate } from '#core/time/dates.ts';
import { isNumber } from './evaluate.ts';
import type { Known } from './pieces.ts';
import {
  type Bound,
  type FieldTest,
  isQuestion,
  type OfEvents,
  type OnDay,
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
 * all contacts, rather than a look for each of them. Segments that are `known` are not asked again.
 */
export function compileSegment(segment: Segment, asked: Asked, known: Known = new Map()): Compiled {
  const params: unknown[] = [];
  const put = (value: unknown, type = ''): string => {
    params.push(value);
    return `$${params.length}${type && `::${type}`}`;
  };
  const visit = (s: Segment): string => {
    const found = known.get(s);
    if (found) return `c.id = any(${put(found, 'uuid[]')})`;
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
    of.seriesId ? ` and e.first_of = ${put(of.seriesId, 'uuid')}` : '',
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

/** That a span of a table holds on a day. */
function onDay(from: string, until: string, on: OnDay, asked: Asked, put: Put): string {
  const day = on === 'today' ? asked.today : on;
  return ` and coalesce(${from} <= ${put(day, 'date')}, true) and coalesce(${until} >= ${put(day, 'date')}, true)`;
}

/** A bound on one of the totals kept of each contact; who has no totals has none of it. */
function boundedTotal(total: 'registered' | 'attended' | 'missed', bound: Bound, put: Put): string {
  if (bound.is === 'at least' && bound.n <= 0) return 'true';
  const those = (operator: string) =>
    `c.id in (select contact_id from contact_totals where ${total} ${operator} ${put(bound.n, 'numeric')})`;
  if (bound.is === 'at least') return those('>=');
  return bound.is === 'at most' || bound.n === 0 ? `not ${those('>')}` : those('=');
}

const eventsNeeded = (q: { of: OfEvents; within: Window }): boolean =>
  q.within.when !== 'ever' || Object.values(q.of).some(Boolean);

function question(q: Question, asked: Asked, put: Put, visit: (s: Segment) => string): string {
  switch (q.ask) {
    case 'tag':
      return `c.id in (select contact_id from contact_tags where tag = ${put(q.tag.trim().toLowerCase())})`;
    case 'reach':
      if (q.by === 'address') return "(coalesce(c.street, '') <> '' and c.moved_on is null)";
      return q.by === 'email'
        ? 'c.id in (select contact_id from contact_emails where ended_on is null and bounced_at is null)'
        : 'c.id in (select contact_id from contact_phones where ended_on is null)';
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
      return `(c.language = ${put(q.language)} or ${put(q.language)} = any(c.languages))`;
    case 'consent': {
      const about = `topic = ${put(q.topic)} and channel = ${put(q.channel)}`;
      if (q.said === 'nothing') return `c.id not in (select contact_id from consents where ${about})`;
      return `c.id in (select contact_id from (select distinct on (contact_id) contact_id, granted from consents where ${about}
        order by contact_id, at desc, id desc) last where granted = ${put(q.said === 'yes', 'boolean')})`;
    }
    case 'not to be contacted':
      return 'c.do_not_contact';
    case 'moved away':
      return `coalesce(c.moved_on <= ${put(asked.today, 'date')}, false)`;
    case 'organization':
      return "c.kind = 'organization'";
    case 'custom field':
      return `c.id in (select t.contact_id from custom_values t join custom_fields f on f.id = t.field_id where f.id = ${put(q.fieldId, 'uuid')}${fieldTest(q.is, (q.value ?? '').trim().toLowerCase(), put)})`;
    case 'detail': {
      const column = `lower(c.${attributes[q.detail].column})`;
      const wanted = (q.value ?? '').trim().toLowerCase();
      if (q.is === 'filled') return `c.${attributes[q.detail].column} is not null`;
      return q.is === 'is'
        ? `coalesce(${column} = ${put(wanted)}, false)`
        : `coalesce(${column} like ${put(contains(wanted))}, false)`;
    }
    case 'member':
      return `c.id in (select contact_id from memberships where true${q.level ? ` and lower(level) = ${put(q.level.trim().toLowerCase())}` : ''}${onDay('starts_on', 'ends_on', q.on, asked, put)})`;
    case 'in a unit':
      return `c.id in (select contact_id from unit_people where unit_id = ${put(q.unitId, 'uuid')}${q.role ? ` and lower(role) = ${put(q.role.trim().toLowerCase())}` : ''}${onDay('since', 'until', q.on, asked, put)})`;
    case 'works for':
      return `c.id in (select contact_id from affiliations where true${q.organizationId ? ` and organization_id = ${put(q.organizationId, 'uuid')}` : ''}${onDay('since', 'until', q.on, asked, put)})`;
    case 'registered':
    case 'attended':
    case 'missed':
      // One row a person and event, so that rows are counted and nothing has to be told apart.
      if (!eventsNeeded(q)) return boundedTotal(q.ask, q.times, put);
      return bounded(
        {
          contact: 't.contact_id',
          figure: 'count(*)',
          from: () =>
            `participation t join events e on e.id = t.event_id where t.${q.ask}${ofEvents(q.of, put)}${during('e.starts_at', q.within, asked, put)}`,
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
            `donations t where t.currency = (select currency from organization)${q.fundId ? ` and t.fund_id = ${put(q.fundId, 'uuid')}` : ''}${during('t.at', q.within, asked, put)}`,
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
    case 'last seen':
      return `c.id in (select t.contact_id from contact_totals t where t.last_seen is not null${during('t.last_seen', q.within, asked, put)})`;
    case 'answered a survey':
      return `c.id in (select t.contact_id from survey_responses t join surveys v on v.id = t.survey_id join events e on e.id = v.event_id
        where t.contact_id is not null${ofEvents(q.of, put)}${during('t.answered_on::timestamptz', q.within, asked, put)}${saidIn(q, put)})`;
    case 'in the household of':
      return `coalesce(c.household_id in (select c.household_id from contacts c where c.household_id is not null and c.merged_into is null and c.erased_at is null and ${visit(q.who)}), false)`;
  }
}

/** The test of a custom value `t.value` of the field `f`; `to` is folded already. */
function fieldTest(test: FieldTest, to: string, put: Put): string {
  const text = 'lower(t.value)';
  // A number is compared as one; the case keeps other kinds from being read as numbers.
  const asNumber = (operator: string) =>
    isNumber(to)
      ? `case when f.kind = 'number' then t.value::numeric ${operator} ${put(to, 'numeric')} else `
      : '';
  switch (test) {
    case 'filled':
      return '';
    case 'is': {
      const number = asNumber('=');
      return ` and ${number}${text} = ${put(to)}${number && ' end'}`;
    }
    case 'contains':
      return ` and ${text} like ${put(contains(to))}`;
    case 'at least':
    case 'at most': {
      const operator = test === 'at least' ? '>=' : '<=';
      const number = asNumber(operator);
      // By bytes, as dates written year first come in order.
      return ` and ${number}f.kind = 'date' and ${text} collate "C" ${operator} ${put(to)}${number && ' end'}`;
    }
  }
}

/** That a response `t` says something to a question. */
function saidIn(q: { question?: string; said?: string }, put: Put): string {
  const said = q.said?.trim().toLowerCase() ?? '';
  if (!q.question && !said) return '';
  return ` and exists (select 1 from jsonb_array_elements(t.said) k where true${
    q.question ? ` and k->>'question' ilike ${put(contains(q.question.trim()))}` : ''
  }${!said ? '' : isNumber(said) ? ` and k->>'said' = ${put(said)}` : ` and k->>'said' ilike ${put(contains(said))}`})`;
}

/** The same day so many years before; 29 February becomes the last of the month where there is none. */
export function yearsBefore(day: string, years: number): string {
  const year = String(Number(day.slice(0, 4)) - years).padStart(4, '0');
  const same = `${year}${day.slice(4)}`;
  return Number.isNaN(Date.parse(same)) || !new Date(`${same}T00:00Z`).toISOString().startsWith(same)
    ? shiftDate(`${year}-03-01`, -1)
    : same;
}
