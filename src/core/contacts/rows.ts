import type { CalendarDate } from '#core/time/clock.ts';
import { sayShortDate } from '#core/time/say.ts';
import { readDate, readReachCell, readYesNo } from './cells.ts';
import { type ColumnMeaning, fieldIdOf, isId, type Mapping } from './columns.ts';
import type { Described } from './comparing.ts';
import { type OwnField, readFieldValue } from './fields.ts';
import { fold, fullName, splitName, tidyName } from './names.ts';
import { emailKey } from './reach.ts';

/** One row of a file, understood. */
export interface PersonRow extends Described {
  kind: 'person' | 'organization';
  /** The contact the file says it is, as in our own exports. */
  statedId: string | null;
  language: 'en' | 'fr' | null;
  dietary: string | null;
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
}

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

export type ReadRow = { person: PersonRow; remarks: string[] } | { rejected: string };

const shown = (text: string, most = 40): string => (text.length > most ? `${text.slice(0, most)}…` : text);

/** True for a row that sums up the others. */
const isTotal = (cells: readonly string[]): boolean => {
  const filled = cells.filter(Boolean);
  return /^(?:grand |sub)?total\b|^sum\b|^count\b|^totaux?\b/iu.test(filled[0] ?? '') && filled.length <= 3;
};

/**
 * Reads one row by the mapping. Returns the person and remarks about cells that could not be read, or the reason the
 * row is rejected. What is known of an emergency contact never becomes the person's own.
 */
export function readRow(
  cells: readonly string[],
  mapping: Mapping,
  country: string,
  today: CalendarDate,
  fields: readonly OwnField[] = [],
): ReadRow {
  const all = (meaning: ColumnMeaning): string[] =>
    mapping.columns.flatMap((c, at) => (c === meaning && cells[at]?.trim() ? [cells[at]!.trim()] : []));
  const one = (meaning: ColumnMeaning): string => all(meaning)[0] ?? '';
  if (isTotal(cells)) return { rejected: 'This row sums the others up.' };
  const whole = one('whole name');
  const kind = /^(?:organi[sz]ation|org)$/iu.test(one('kind')) ? 'organization' : 'person';
  const parts = { given: tidyName(one('given name')), family: tidyName(one('family name')) };
  const name =
    kind === 'organization'
      ? { given: '', family: (fullName(parts) || whole).slice(0, 100) }
      : fullName(parts) || !whole
        ? parts
        : splitName(whole);
  if (!fullName(name)) return { rejected: 'There is no name in this row.' };
  if (!/\p{L}/u.test(fullName(name))) return { rejected: `“${shown(fullName(name))}” is not a name.` };
  if (fullName(name).length > 200) return { rejected: 'The name is longer than 200 characters.' };
  const remarks: string[] = [];
  const reach = readReach(all, country, remarks);
  const dateIn = (meaning: ColumnMeaning): CalendarDate | null => {
    const text = one(meaning);
    if (!text) return null;
    const order = mapping.dateOrders[mapping.columns.indexOf(meaning)] ?? null;
    const date = readDate(text, order === 'ask' ? null : order, today);
    if (!date)
      remarks.push(
        order === 'ask' && /^\d{1,2}\D\d{1,2}\D/u.test(text)
          ? `“${shown(text)}” could be read two ways; say whether the day or the month comes first`
          : `“${shown(text)}” is not a date; left out`,
      );
    return date;
  };
  let birthDate = dateIn('birth date');
  if (birthDate && birthDate > today) {
    remarks.push(`Born on ${sayShortDate(birthDate)} ${birthDate.slice(0, 4)} is in the future; left out`);
    birthDate = null;
  }
  const yesNo = (meaning: ColumnMeaning): boolean | null => {
    const text = one(meaning);
    const read = text ? readYesNo(text) : null;
    if (text && read === null) remarks.push(`“${shown(text)}” is neither yes nor no; left out`);
    return read;
  };
  let deceasedOn = dateIn('died on');
  if (deceasedOn && deceasedOn > today) {
    remarks.push('The day of death is in the future; left out');
    deceasedOn = null;
  }
  const until = dateIn('member until');
  const subscribed = yesNo('newsletter');
  const town = one('town');
  const street = [one('street'), town].filter(Boolean).join(', ') || null;
  const emergencyName = tidyName(one('emergency name'));
  const emergencyPhone = one('emergency phone');
  const number = one('member number') || null;
  const since = one('member since') || null;
  const level = tidyLevel(one('member level'));
  return {
    person: {
      kind,
      statedId: isId(one('contact id')) ? one('contact id').toLowerCase() : null,
      ...name,
      ...reach,
      birthDate,
      postalCode: tidyPostal(one('postal code')),
      street: street && street.length <= 200 ? street : null,
      language: readLanguage(one('language')),
      dietary: one('dietary').slice(0, 500) || null,
      tags: tagsOf(all('tags')),
      notes: [all('note').join('\n').slice(0, 2000)].filter(Boolean),
      newsletter: subscribed === null ? null : { granted: subscribed, on: dateIn('newsletter date') },
      doNotContact: yesNo('do not contact'),
      memberships: number || since || level || until ? [{ number, since, level, until }] : [],
      fields: readOwnFields(cells, mapping, fields, today, remarks),
      organizations: [one('organization').slice(0, 100)].filter(Boolean),
      deceasedOn,
      emergencies: emergencyName
        ? [
            {
              name: emergencyName,
              phone: emergencyPhone ? (readReachCell(emergencyPhone, country).phones[0] ?? null) : null,
            },
          ]
        : [],
    },
    remarks,
  };
}

/** Cells of fields of one's own; dates and yes and no are read in any usual spelling. */
function readOwnFields(
  cells: readonly string[],
  mapping: Mapping,
  fields: readonly OwnField[],
  today: CalendarDate,
  remarks: string[],
): PersonRow['fields'] {
  return mapping.columns.flatMap((meaning, at) => {
    const field = fields.find((f) => f.id === fieldIdOf(meaning));
    const text = cells[at]?.trim() ?? '';
    if (!field || !text) return [];
    const yes = field.kind === 'yes or no' ? readYesNo(text) : null;
    const usual =
      field.kind === 'date'
        ? (readDate(text, null, today) ?? text)
        : yes === null
          ? text
          : yes
            ? 'yes'
            : 'no';
    const read = readFieldValue(field, usual);
    if ('wrong' in read) {
      remarks.push(`“${shown(text)}” in ${field.name}: ${read.wrong}`);
      return [];
    }
    return read.value === null ? [] : [{ id: field.id, name: field.name, value: read.value }];
  });
}

function readReach(
  all: (meaning: ColumnMeaning) => string[],
  country: string,
  remarks: string[],
): { emails: string[]; phones: string[] } {
  const emails: string[] = [];
  const phones: string[] = [];
  for (const meaning of ['email', 'phone', 'email or phone'] as const)
    for (const cell of all(meaning)) {
      const read = readReachCell(cell, country);
      emails.push(...read.emails);
      phones.push(...read.phones);
      for (const rest of read.rest)
        remarks.push(
          meaning === 'phone'
            ? `“${shown(rest)}” is not a telephone number; left out`
            : meaning === 'email'
              ? `“${shown(rest, 60)}” is not an email address; left out`
              : `“${shown(rest, 60)}” is neither an email nor a telephone; left out`,
        );
    }
  const seen = new Set<string>();
  return {
    emails: emails.filter((e) => !seen.has(emailKey(e)) && Boolean(seen.add(emailKey(e)))).slice(0, 10),
    phones: [...new Set(phones)].slice(0, 10),
  };
}

/** Canadian codes get their blank, all get capitals: b3c8v2 is B3C 8V2. */
const tidyPostal = (text: string): string | null => {
  const clean = text.toUpperCase().replace(/\s+/gu, ' ').slice(0, 20);
  return clean.replace(/^([A-Z]\d[A-Z])\s?(\d[A-Z]\d)$/u, '$1 $2') || null;
};

const tidyLevel = (text: string): string | null => {
  const clean = text.trim().toLowerCase();
  return clean ? clean[0]!.toUpperCase() + clean.slice(1) : null;
};

const readLanguage = (text: string): 'en' | 'fr' | null =>
  /^(fr|français|french)/iu.test(text) ? 'fr' : /^(en|anglais|english)/iu.test(text) ? 'en' : null;

const tagsOf = (cells: readonly string[]): string[] => [
  ...new Set(
    cells
      .flatMap((c) => c.split(/\s*[,;|/\n]\s*/u))
      .map((t) => t.trim().toLowerCase().slice(0, 60))
      .filter(Boolean),
  ),
];

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
    dietary: into.dietary ?? other.dietary,
    notes: union(into.notes, other.notes, (n) => n),
    memberships: union(into.memberships, other.memberships, sayMembership),
    organizations: union(into.organizations, other.organizations, fold),
    deceasedOn: into.deceasedOn ?? other.deceasedOn,
    fields: union(into.fields, other.fields, (f) => f.id),
    emergencies: union(into.emergencies, other.emergencies, (e) => fold(e.name)),
    // Whoever said no once is not asked again.
    newsletter:
      other.newsletter && !other.newsletter.granted
        ? other.newsletter
        : (into.newsletter ?? other.newsletter),
    doNotContact: into.doNotContact || other.doNotContact,
  };
}
