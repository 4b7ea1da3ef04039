import { ageOn, instantOf } from '#core/time/wallTime.ts';
import { type Bound, isQuestion, type OfEvents, type Question, type Segment } from './segment.ts';
import { type Asked, inWindow } from './window.ts';

interface AtEvent {
  eventId: string;
  unitId: string | null;
  category: string;
  title: string;
  startsAt: string | null;
}

/** Everything about one person that a segment may ask, as plain values. */
export interface Facts {
  contactId: string;
  tags: readonly string[];
  emails: number;
  phones: number;
  street: string | null;
  postalCode: string | null;
  birthDate: string | null;
  language: string;
  newsletter: boolean | null;
  doNotContact: boolean;
  memberships: readonly { level: string | null }[];
  registered: readonly AtEvent[];
  attended: readonly (AtEvent & { arrivedAt: string | null })[];
  missed: readonly AtEvent[];
  donations: readonly { fundId: string; amount: number; at: string }[];
  served: readonly { role: string; hours: number; startsAt: string }[];
  signed: readonly { waiverId: string; at: string }[];
  surveys: readonly { answeredOn: string }[];
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
  (!of.title || e.title.toLowerCase().includes(of.title.toLowerCase()));

const times = (n: number): string => (n === 1 ? 'once' : n === 0 ? 'never' : `${n} times`);

function answer(q: Question, f: Facts, asked: Asked): { holds: boolean; found: string | null } {
  const plain = (holds: boolean, found: string | null = null) => ({ holds, found });
  switch (q.ask) {
    case 'tag':
      return plain(f.tags.includes(q.tag.trim().toLowerCase()), f.tags.join(', ') || 'no tags');
    case 'reach':
      return plain(q.by === 'address' ? Boolean(f.street) : (q.by === 'email' ? f.emails : f.phones) > 0);
    case 'age': {
      if (!f.birthDate) return plain(false, 'birth date not known');
      const age = ageOn(f.birthDate, asked.today);
      return plain((q.from === undefined || age >= q.from) && (q.to === undefined || age <= q.to), `${age}`);
    }
    case 'postal code':
      return plain(flat(f.postalCode ?? '').startsWith(flat(q.begins)), f.postalCode ?? 'no postal code');
    case 'language':
      return plain(f.language === q.language, f.language);
    case 'newsletter': {
      const said = f.newsletter === null ? 'nothing' : f.newsletter ? 'yes' : 'no';
      return plain(said === q.said, `said ${said}`);
    }
    case 'not to be contacted':
      return plain(f.doNotContact);
    case 'member':
      return plain(
        f.memberships.some((m) => !q.level || m.level?.toLowerCase() === q.level.trim().toLowerCase()),
        f.memberships.map((m) => m.level ?? 'member').join(', ') || 'not a member',
      );
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
      return plain(meets(sum, q.amount), sum === 0 ? 'nothing' : (sum / 100).toFixed(2));
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
        f.surveys.some((s) => inWindow(instantOf(`${s.answeredOn}T00:00`, 'UTC'), q.within, asked)),
      );
    case 'in the household of':
      return plain(
        f.household.some((other) => evaluate(q.who, { ...other, household: f.household }, asked).holds),
      );
  }
}

const flat = (text: string): string => text.toUpperCase().replaceAll(' ', '');
