import type { CalendarDate } from '#core/time/clock.ts';
import { mistyped, skeleton, slips } from './likeness.ts';
import { fold, type PersonName, particles } from './names.ts';
import { initialsOf, isKnownGiven, isNickname, rootsOfGiven } from './nicknames.ts';
import { emailKey } from './reach.ts';

/** What is known of somebody: who they may be is worked out from nothing else. */
export interface Described extends PersonName {
  emails: readonly string[];
  /** E.164. */
  phones: readonly string[];
  birthDate: CalendarDate | null;
  postalCode: string | null;
  street: string | null;
}

/** A contact to compare with. */
export interface Candidate extends Described {
  id: string;
}

/** Says what is known of somebody who gave one email and one telephone. */
export const asDescribed = (
  person: PersonName & {
    email?: string | null;
    phone?: string | null;
    birthDate?: CalendarDate | null;
    postalCode?: string | null;
    street?: string | null;
  },
): Described => ({
  given: person.given,
  family: person.family,
  emails: person.email ? [person.email] : [],
  phones: person.phone ? [person.phone] : [],
  birthDate: person.birthDate ?? null,
  postalCode: person.postalCode ?? null,
  street: person.street ?? null,
});

/** The same, made ready for comparing many times. */
export interface Prepared<P extends Described = Described> {
  of: P;
  given: string;
  /** Family name as one word, without particles' blanks: "van der Berg" is "vanderberg". */
  family: string;
  /** Its parts of three letters and more, without particles. */
  familyParts: string[];
  emails: string[];
  postal: string;
  /** House number and name of the street, without its kind: "49 heronry". Empty when there is none. */
  street: string;
  /** The house number alone. */
  houseNumber: string;
}

// As they come in names that are compared, which are folded: Mac Donald and O Hara too.
const joined: ReadonlySet<string> = new Set([...particles, 'mac', 'mc', 'o', 'y']);
const streetKinds =
  /\b(?:street|st|road|rd|avenue|ave|av|lane|ln|row|close|cl|way|drive|dr|court|ct|crescent|cres|place|pl|square|sq|terrace|hill)\b\.?$/u;
// The German way of writing umlauts, so that Mueller is Müller.
const plainVowels = (text: string): string => text.replace(/([aou])e(?!u)/gu, '$1');

/** Folds and cuts what is known of somebody once. */
export function prepare<P extends Described>(of: P): Prepared<P> {
  const words = fold(of.family).split(' ').filter(Boolean);
  const parts = words.filter((w) => w.length > 2 && !joined.has(w));
  const street = /\d/u.test(of.street ?? '')
    ? fold(of.street ?? '')
        .replace(streetKinds, '')
        .trim()
    : '';
  return {
    of,
    given: fold(of.given).replaceAll('.', ''),
    family: words.join('').replaceAll('.', ''),
    familyParts: parts.length ? parts : words,
    emails: of.emails.map(emailKey),
    postal: fold(of.postalCode ?? '').replaceAll(' ', ''),
    street,
    houseNumber: /\d+\S*/u.exec(street)?.[0] ?? '',
  };
}

/**
 * How two people agree on each field, from most to least. `missing` says nothing. Given names that differ by a slip are
 * `spelling` where one of them is no name, and `alike` where they may well be two people's.
 */
export const levels = {
  given: ['same', 'nickname', 'part', 'spelling', 'alike', 'initial', 'different'],
  family: ['same', 'variant', 'spelling', 'part', 'different'],
  email: ['same', 'mistyped', 'different'],
  phone: ['same', 'different'],
  birth: ['same', 'mistyped', 'different'],
  address: ['same', 'postal code', 'different'],
} as const;
export type Field = keyof typeof levels;
export const fields = Object.keys(levels) as Field[];
export type Level<F extends Field = Field> = (typeof levels)[F][number] | 'missing';
export type Agreement = { [F in Field]: Level<F> } & {
  /** Given and family name stand the other way round. */
  swapped: boolean;
};

/** Compares two people field by field. `isCommon` says which folded given names people here really have. */
export function agreementOf(
  a: Prepared,
  b: Prepared,
  isCommon: (given: string) => boolean = () => false,
): Agreement {
  const straight = {
    given: givenLevel(a.given, b.given, isCommon),
    family: familyLevel(a, b),
    swapped: false,
  };
  const names =
    straight.given === 'different' && straight.family === 'different' && otherWayRound(a, b)
      ? { given: nearly(a.family, b.given), family: nearly(a.given, b.family), swapped: true }
      : straight;
  return {
    ...names,
    email: emailLevel(a.emails, b.emails),
    phone:
      a.of.phones.length && b.of.phones.length
        ? a.of.phones.some((p) => b.of.phones.includes(p))
          ? 'same'
          : 'different'
        : 'missing',
    birth: birthLevel(a.of.birthDate, b.of.birthDate),
    address: addressLevel(a, b),
  };
}

/**
 * False when two people cannot come to anything but `different`: other given names, and no birth date, email, telephone
 * or address that both have. Most of those that share a key by their names alone are told apart by this much sooner.
 */
export function worthComparing(
  a: Prepared,
  b: Prepared,
  isCommon: (given: string) => boolean = () => false,
): boolean {
  return (
    (a.of.birthDate !== null && a.of.birthDate === b.of.birthDate) ||
    a.emails.some((e) => b.emails.includes(e)) ||
    a.of.phones.some((p) => b.of.phones.includes(p)) ||
    (a.street !== '' && b.street !== '' && a.houseNumber === b.houseNumber) ||
    givenLevel(a.given, b.given, isCommon) !== 'different' ||
    otherWayRound(a, b)
  );
}

const nearly = (a: string, b: string) => (a === b ? ('same' as const) : ('spelling' as const));

function otherWayRound(a: Prepared, b: Prepared): boolean {
  if (!a.given || !b.given || !a.family || !b.family) return false;
  const alike = (x: string, y: string) => x === y || mistyped(x, y);
  return alike(a.given, b.family) && alike(a.family, b.given);
}

/** Compares folded given names. */
function givenLevel(
  a: string,
  b: string,
  isCommon: (given: string) => boolean = () => false,
): Level<'given'> {
  if (!a || !b) return 'missing';
  if (a === b) return 'same';
  if (a.length === 1 || b.length === 1)
    return initialsOf(a.length === 1 ? b : a).has(a.length === 1 ? a : b) ? 'initial' : 'different';
  if (isNickname(a, b)) return 'nickname';
  const [x, y] = [a.split(' '), b.split(' ')];
  if (x.length > 1 || y.length > 1) {
    const shorter = x.length < y.length ? x : y;
    const longer = x.length < y.length ? y : x;
    if (a.replaceAll(' ', '') === b.replaceAll(' ', '')) return 'same';
    // Mary Jane is Mary; Jean Paul is not Jean Claude.
    if (shorter.every((word, at) => word === longer[at] || isInitial(word, longer[at]!))) return 'part';
    if (shorter.length === 1 && longer.includes(shorter[0]!)) return 'part';
    if (x.length !== y.length && (x[0] === y[0] || isNickname(x[0]!, y[0]!))) return 'part';
  }
  if (mistypedFullName(a, b) || mistypedFullName(b, a)) return 'spelling';
  if (!mistyped(a, b)) return 'different';
  return mayBeTwoNames(a, b, isCommon) ? 'alike' : 'spelling';
}

/** One of them is the initial of the other. */
const isInitial = (a: string, b: string): boolean =>
  (a.length === 1 && b.startsWith(a)) || (b.length === 1 && a.startsWith(b));

/** The second is the full name of the first, mistyped: Pat and "Patrciia". */
function mistypedFullName(short: string, full: string): boolean {
  for (const root of rootsOfGiven(short)) if (root !== short && mistyped(root, full)) return true;
  return false;
}

/**
 * True when two given names that look like one mistyped may well be two: both are names people really have, they are
 * short, or they differ by the ending that makes Daniel into Daniela.
 */
function mayBeTwoNames(a: string, b: string, isCommon: (given: string) => boolean): boolean {
  if (Math.min(a.length, b.length) < 5) return true;
  const real = (name: string) => isKnownGiven(name) || isCommon(name);
  if (real(a) && real(b)) return true;
  const [shorter, longer] = a.length <= b.length ? [a, b] : [b, a];
  if (longer.startsWith(shorter)) return /^(?:a|e|o|ie|ine|ette|na|la)$/u.test(longer.slice(shorter.length));
  return a.length === b.length && a.slice(0, -1) === b.slice(0, -1) && /[aeo]$/u.test(a) && /[aeo]$/u.test(b);
}

function familyLevel(a: Prepared, b: Prepared): Level<'family'> {
  if (!a.family || !b.family) return 'missing';
  if (a.family === b.family) return 'same';
  const [x, y] = [a.familyParts.join(''), b.familyParts.join('')];
  if (x === y || plainVowels(a.family) === plainVowels(b.family)) return 'variant';
  if (mistyped(a.family, b.family) || mistyped(x, y)) return 'spelling';
  // One of several family names kept, as after a marriage: Delacroix and Delacroix-Nguyen.
  if (a.familyParts.some((p) => p.length > 2 && b.familyParts.includes(p))) return 'part';
  return 'different';
}

function emailLevel(a: readonly string[], b: readonly string[]): Level<'email'> {
  if (!a.length || !b.length) return 'missing';
  if (a.some((e) => b.includes(e))) return 'same';
  for (const x of a) for (const y of b) if (mistypedEmail(x, y)) return 'mistyped';
  return 'different';
}

/** One slip apart, which is not in a number: jo12@ and jo13@ are two people. A slip in the domain may be larger. */
function mistypedEmail(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 2) return false;
  const [localA = '', domainA = ''] = a.split('@');
  const [localB = '', domainB = ''] = b.split('@');
  if (localA.replace(/\D/gu, '') !== localB.replace(/\D/gu, '')) return false;
  if (localA === localB) return localA.length > 4 && slips(domainA, domainB, 2) <= 2;
  return domainA === domainB && Math.min(localA.length, localB.length) > 6 && slips(localA, localB, 1) <= 1;
}

function birthLevel(a: string | null, b: string | null): Level<'birth'> {
  if (!a || !b) return 'missing';
  if (a === b) return 'same';
  const [yearA, monthA, dayA] = a.split('-') as [string, string, string];
  const [yearB, monthB, dayB] = b.split('-') as [string, string, string];
  if (yearA === yearB && monthA === dayB && dayA === monthB) return 'mistyped';
  const differing = [
    [yearA, yearB],
    [monthA, monthB],
    [dayA, dayB],
  ].filter(([x, y]) => x !== y);
  // One part, one slip: 1972 for 1927, the 7th for the 17th.
  return differing.length === 1 && slips(differing[0]![0]!, differing[0]![1]!, 1) <= 1
    ? 'mistyped'
    : 'different';
}

function addressLevel(a: Prepared, b: Prepared): Level<'address'> {
  const postal = a.postal && b.postal ? a.postal === b.postal : null;
  if (a.street && b.street) {
    const near =
      a.street === b.street || (slips(a.street, b.street, 1) <= 1 && a.houseNumber === b.houseNumber);
    if (near && postal !== false) return 'same';
    return postal ? 'postal code' : 'different';
  }
  return postal === null ? 'missing' : postal ? 'postal code' : 'different';
}

/**
 * The keys under which somebody is looked for: two people are compared only when they share one. They are chosen so
 * that a slip in one field leaves another key intact.
 */
export function keysOf(p: Prepared): string[] {
  const keys = new Set<string>();
  for (const email of p.emails) {
    keys.add(`e ${email}`);
    const local = email.split('@')[0]!;
    if (local.length > 4) keys.add(`l ${local}`);
  }
  for (const phone of p.of.phones) keys.add(`p ${phone}`);
  const firsts = [p.given, ...p.given.split(' ')].flatMap((g) =>
    g ? [...rootsOfGiven(g)].map((root) => root[0]!) : [],
  );
  const families = new Set([p.family, ...p.familyParts].map(skeleton).filter(Boolean));
  for (const family of families) {
    for (const first of firsts) keys.add(`n ${family} ${first}`);
    // Names the other way round meet here.
    if (p.given) keys.add(`w ${[family, skeleton(p.given)].sort().join(' ')}`);
  }
  if (!p.family && p.given) keys.add(`g ${p.given}`);
  if (!p.given && p.family) keys.add(`f ${skeleton(p.family)}`);
  if (p.of.birthDate) for (const first of firsts) keys.add(`b ${p.of.birthDate} ${first}`);
  if (p.street && p.postal) keys.add(`a ${p.postal} ${p.houseNumber}`);
  return [...keys];
}
