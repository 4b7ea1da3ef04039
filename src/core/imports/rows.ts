import { type Texts, textsOf } from '#core/contacts/attributes.ts';
import type { Described } from '#core/contacts/comparing.ts';
import { fold } from '#core/contacts/names.ts';
import { emailKey, type ReachKind } from '#core/contacts/reach.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import type { Reason } from '#core/words/reasons.ts';

/** One row of a file, understood. */
export interface PersonRow extends Described, Texts {
  kind: 'person' | 'organization';
  /** The contact the file says it is, as in our own exports. */
  statedId: string | null;
  language: 'en' | 'fr' | null;
  tags: string[];
  notes: string[];
  /** What the file says of the newsletter: yes or no, and since when. */
  newsletter: { granted: boolean; on: CalendarDate | null } | null;
  doNotContact: boolean | null;
  memberships: Membership[];
  emergencies: EmergencyContact[];
  /** Where they work, or whom they stand for. */
  organizations: string[];
  deceasedOn: CalendarDate | null;
  /** What the row says in fields of the organization's own, as they keep it. */
  fields: { id: string; name: string; value: string }[];
  /** What emails and telephones are for, by address or number, where the file says it. */
  kinds: Record<string, ReachKind>;
  /** Children the row names them as guardian of, by name. */
  wards: string[];
}

/**
 * Which of the people that one row names: the one it is about, the second of two who share a cell, or a guardian of a
 * child.
 */
export const rowParts = ['own', 'partner', 'guardian', 'other guardian'] as const;
export type RowPart = (typeof rowParts)[number];
export const isGuardian = (part: RowPart): boolean => part === 'guardian' || part === 'other guardian';

export interface Membership {
  number: string | null;
  since: string | null;
  level: string | null;
  /** The last day. */
  until: CalendarDate | null;
}
export interface EmergencyContact {
  name: string;
  /** E.164. */
  phone: string | null;
}

export type ReadRow = { person: PersonRow; remarks: Reason[] } | { rejected: Reason };

/** A membership in words, without its end: "1042, Life, since 2012". */
export const sayMembership = (m: Omit<Membership, 'until'>): string =>
  [m.number, m.level, m.since && `since ${m.since}`].filter(Boolean).join(', ') || 'member';

function union<T>(a: readonly T[], b: readonly T[], keyOf: (x: T) => string): T[] {
  const keys = new Set(a.map(keyOf));
  return [...a, ...b.filter((x) => !keys.has(keyOf(x)))];
}

/** Adds to one row what a later row of the same person has and it lacks. */
export function absorb(into: PersonRow, other: PersonRow): PersonRow {
  const have = new Set(into.emails.map(emailKey));
  return {
    ...into,
    emails: [...into.emails, ...other.emails.filter((e) => !have.has(emailKey(e)))],
    phones: [...new Set([...into.phones, ...other.phones])],
    tags: [...new Set([...into.tags, ...other.tags])],
    birthDate: into.birthDate ?? other.birthDate,
    postalCode: into.postalCode ?? other.postalCode,
    street: into.street ?? other.street,
    language: into.language ?? other.language,
    ...textsOf((key) => into[key] ?? other[key]),
    notes: union(into.notes, other.notes, (n) => n),
    memberships: union(into.memberships, other.memberships, sayMembership),
    organizations: union(into.organizations, other.organizations, fold),
    deceasedOn: into.deceasedOn ?? other.deceasedOn,
    fields: union(into.fields, other.fields, (f) => f.id),
    kinds: { ...other.kinds, ...into.kinds },
    wards: union(into.wards, other.wards, fold),
    emergencies: union(into.emergencies, other.emergencies, (e) => fold(e.name)),
    // Whoever said no once is not asked again.
    newsletter:
      other.newsletter && !other.newsletter.granted
        ? other.newsletter
        : (into.newsletter ?? other.newsletter),
    doNotContact: into.doNotContact || other.doNotContact,
  };
}
