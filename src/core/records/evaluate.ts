import type { Texts } from '#core/contacts/attributes.ts';
import { holdsOn, type Span, statusOn } from '#core/contacts/membership.ts';
import { sayAmount } from '#core/money/amount.ts';
import { ageOn } from '#core/time/dates.ts';
import { instantOf } from '#core/time/wallTime.ts';
import {
  type Bound,
  type FieldTest,
  isQuestion,
  type OfEvents,
  type OnDay,
  type Question,
  type Segment,
} from './segment.ts';
import { type Asked, inWindow } from './window.ts';

interface AtEvent {
  eventId: string;
  unitId: string | null;
  category: string;
  title: string;
  seriesId: string | null;
  startsAt: string | null;
}

/** Everything about one person that a segment may ask, as plain values. */
export interface Facts {
  contactId: string;
  kind: 'person' | 'organization';
  tags: readonly string[];
  /** Those that are theirs by now; an email that bounced is none. */
  emails: number;
  phones: number;
  street: string | null;
  movedOn: string | null;
  postalCode: string | null;
  birthDate: string | null;
  language: string;
  languages: readonly string[];
  /** The last word on every topic and channel. */
  consents: readonly { topic: string; channel: string; granted: boolean }[];
  doNotContact: boolean;
  /** Lines of text of the record, by attribute. */
  texts: Texts;
  fields: readonly { fieldId: string; kind: string; value: string }[];
  memberships: readonly ({ level: string | null } & Span)[];
  units: readonly ({ unitId: string; role: string } & Span)[];
  organizations: readonly ({ organizationId: string; name: string } & Span)[];
  registered: readonly AtEvent[];
  attended: readonly (AtEvent & { arrivedAt: string | null })[];
  missed: readonly AtEvent[];
  donations: readonly { fundId: string; amount: number; at: string }[];
  served: readonly { role: string; hours: number; startsAt: string }[];
  signed: readonly { waiverId: string; at: string }[];
  surveys: readonly (AtEvent & {
    answeredOn: string;
    answers: readonly { question: string; said: string }[];
  })[];
  /** Everybody of the household, this person among them; empty without one. */
  household: readonly Facts[];
}

/** Why somebody is in a segment or not: the same tree, with what was found at every question. */
export interface Reasoned {
  holds: boolean;
  /** What was found, for a question: "3 times". */
  found: string | null;
  of: readonly Reasoned[];
  segment: Segment;
}

/** Works a segment out for one person, in memory, and keeps the reasons. The meaning the SQL has to have. */
export function evaluate(segment: Segment, facts: Facts, asked: Asked): Reasoned {
  if (isQuestion(segment)) {
    const { holds, found } = answer(segment, facts, asked);
    return { holds, found, of: [], segment };
  }
  if ('not' in segment) {
    const of = evaluate(segment.not, facts, asked);
    return { holds: !of.holds, found: null, of: [of], segment };
  }
  const of = ('all' in segment ? segment.all : segment.any).map((s) => evaluate(s, facts, asked));
  return {
    holds: 'all' in segment ? of.every((r) => r.holds) : of.some((r) => r.holds),
    found: null,
    of,
    segment,
  };
}

const meets = (n: number, bound: Bound): boolean =>
  bound.is === 'at least' ? n >= bound.n : bound.is === 'at most' ? n <= bound.n : n === bound.n;

const fits = (e: AtEvent, of: OfEvents): boolean =>
  (!of.unitId || e.unitId === of.unitId) &&
  (!of.category || e.category === of.category) &&
  (!of.title || e.title.toLowerCase().includes(of.title.toLowerCase())) &&
  (!of.seriesId || e.seriesId === of.seriesId);

const dayOf = (on: OnDay, asked: Asked): string => (on === 'today' ? asked.today : on);

/** Compares a custom value: numbers by their size, everything else as text. Dates as text come in their order. */
function meetsTest(kind: string, value: string, test: FieldTest, wanted: string): boolean {
  const [is, to] = [value.toLowerCase(), wanted.trim().toLowerCase()];
  switch (test) {
    case 'filled':
      return true;
    case 'is':
      return kind === 'number' && isNumber(to) ? Number(is) === Number(to) : is === to;
    case 'contains':
      return is.includes(to);
    case 'at least':
    case 'at most': {
      const sign = test === 'at least' ? 1 : -1;
      if (kind === 'number') return isNumber(to) && sign * (Number(is) - Number(to)) >= 0;
      return kind === 'date' && (test === 'at least' ? is >= to : is <= to);
    }
  }
}
/** True of a number as a field keeps it. */
export const isNumber = (text: string): boolean => /^-?\d+(?:\.\d+)?$/u.test(text);

const times = (n: number): string => (n === 1 ? 'once' : n === 0 ? 'never' : `${n} times`);

function answer(q: Question, f: Facts, asked: Asked): { holds: boolean; found: string | null } {
  const plain = (holds: boolean, found: string | null = null) => ({ holds, found });
  switch (q.ask) {
    case 'tag':
      return plain(f.tags.includes(q.tag.trim().toLowerCase()), f.tags.join(', ') || 'no tags');
    case 'reach':
      return plain(
        q.by === 'address' ? Boolean(f.street) && !f.movedOn : (q.by === 'email' ? f.emails : f.phones) > 0,
      );
    case 'age': {
      if (!f.birthDate) return plain(false, 'birth date not known');
      const age = ageOn(f.birthDate, asked.today);
      return plain((q.from === undefined || age >= q.from) && (q.to === undefined || age <= q.to), `${age}`);
    }
    case 'postal code':
      return plain(flat(f.postalCode ?? '').startsWith(flat(q.begins)), f.postalCode ?? 'no postal code');
    case 'language':
      return plain(
        f.language === q.language || f.languages.includes(q.language),
        [f.language, ...f.languages.filter((l) => l !== f.language)].join(', '),
      );
    case 'consent': {
      const last = f.consents.find((c) => c.topic === q.topic && c.channel === q.channel);
      const said = !last ? 'nothing' : last.granted ? 'yes' : 'no';
      return plain(said === q.said, `said ${said}`);
    }
    case 'not to be contacted':
      return plain(f.doNotContact);
    case 'moved away':
      return plain(f.movedOn !== null && f.movedOn <= asked.today, f.movedOn);
    case 'organization':
      return plain(f.kind === 'organization', f.kind);
    case 'custom field': {
      const own = f.fields.find((v) => v.fieldId === q.fieldId);
      return plain(
        own !== undefined && meetsTest(own.kind, own.value, q.is, q.value ?? ''),
        own?.value ?? 'not filled in',
      );
    }
    case 'detail': {
      const value = f.texts[q.detail];
      return plain(value !== null && meetsTest('text', value, q.is, q.value ?? ''), value ?? 'not filled in');
    }
    case 'member': {
      const level = q.level?.trim().toLowerCase();
      const of = f.memberships.filter((m) => !level || m.level?.toLowerCase() === level);
      const day = dayOf(q.on, asked);
      const status = statusOn(f.memberships, day);
      const levels = f.memberships.map((m) => m.level).filter(Boolean);
      return plain(
        statusOn(of, day) === 'member',
        levels.length ? `${status} (${levels.join(', ')})` : status,
      );
    }
    case 'in a unit': {
      const role = q.role?.trim().toLowerCase();
      const there = f.units.filter((u) => u.unitId === q.unitId && holdsOn(u, dayOf(q.on, asked)));
      return plain(
        there.some((u) => !role || u.role.toLowerCase() === role),
        there.map((u) => u.role).join(', ') || 'not in this unit',
      );
    }
    case 'works for': {
      const there = f.organizations.filter((o) => holdsOn(o, dayOf(q.on, asked)));
      return plain(
        there.some((o) => !q.organizationId || o.organizationId === q.organizationId),
        there.map((o) => o.name).join(', ') || 'no organization',
      );
    }
    case 'registered':
    case 'attended':
    case 'missed': {
      const events = f[q.ask].filter(
        (e) =>
          fits(e, q.of) &&
          (q.within.when === 'ever' || (e.startsAt !== null && inWindow(e.startsAt, q.within, asked))),
      );
      const n = new Set(events.map((e) => e.eventId)).size;
      return plain(meets(n, q.times), times(n));
    }
    case 'donated': {
      const sum = f.donations
        .filter((d) => (!q.fundId || d.fundId === q.fundId) && inWindow(d.at, q.within, asked))
        .reduce((s, d) => s + d.amount, 0);
      return plain(meets(sum, q.amount), sum === 0 ? 'nothing' : sayAmount(sum, asked.currency));
    }
    case 'served': {
      const hours = f.served
        .filter(
          (s) =>
            (!q.role || s.role.toLowerCase().includes(q.role.toLowerCase())) &&
            inWindow(s.startsAt, q.within, asked),
        )
        .reduce((sum, s) => sum + s.hours, 0);
      return plain(meets(hours, q.hours), `${hours} hours`);
    }
    case 'signed':
      return plain(
        f.signed.some((s) => (!q.waiverId || s.waiverId === q.waiverId) && inWindow(s.at, q.within, asked)),
      );
    case 'last seen': {
      const last = f.attended.reduce<string | null>(
        (max, a) => (a.arrivedAt && (!max || a.arrivedAt > max) ? a.arrivedAt : max),
        null,
      );
      return plain(Boolean(last && inWindow(last, q.within, asked)), last ? last.slice(0, 10) : 'never seen');
    }
    case 'answered a survey':
      return plain(
        f.surveys.some(
          (s) =>
            fits(s, q.of) &&
            inWindow(instantOf(`${s.answeredOn}T00:00`, 'UTC'), q.within, asked) &&
            (!(q.question || q.said) || s.answers.some((a) => saidIn(a, q))),
        ),
      );
    case 'in the household of':
      return plain(
        f.household.some((other) => evaluate(q.who, { ...other, household: f.household }, asked).holds),
      );
  }
}

/** An answer fits when its question has the words asked for, and it says them: a number exactly, text in part. */
function saidIn(a: { question: string; said: string }, q: { question?: string; said?: string }): boolean {
  const said = q.said?.trim().toLowerCase() ?? '';
  return (
    (!q.question || a.question.toLowerCase().includes(q.question.trim().toLowerCase())) &&
    (!said || (isNumber(said) ? a.said === said : a.said.toLowerCase().includes(said)))
  );
}

const flat = (text: string): string => text.toUpperCase().replaceAll(' ', '');
