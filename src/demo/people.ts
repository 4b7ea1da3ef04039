import { asDescribed } from '#core/contacts/match.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { shiftDate } from '#core/time/dates.ts';
import { derived, ensureKeys } from '#server/contacts/keys.ts';
import { insert, type Queries } from '#server/db/database.ts';
import type { Ids } from '#server/db/ids.ts';
import { spoil } from './labelled.ts';
import { areas, domains, familyNames, givenNames, plain, streets } from './names.ts';
import type { Random } from './random.ts';

const levels = ['Individual', 'Household', 'Student', 'Life'];

/** Somebody of the demonstration, with what drives how they behave over the years. */
export interface Person {
  id: string;
  given: string;
  family: string;
  email: string | null;
  phone: string | null;
  birthDate: string | null;
  child: boolean;
  /** Children in this person's care. */
  children: Person[];
  /** How readily they come, 0 to 1. */
  zeal: number;
  /** The units they lean to. */
  leans: string[];
  volunteers: boolean;
  since: string;
}

/** The birth date somebody says where it is asked: that on record, else one of their own that stays the same. */
export function bornOf(p: Pick<Person, 'id' | 'birthDate'>): string {
  if (p.birthDate) return p.birthDate;
  const n = Number.parseInt(p.id.slice(-6), 16);
  return `${1948 + (n % 55)}-${String((n % 12) + 1).padStart(2, '0')}-${String((n % 28) + 1).padStart(2, '0')}`;
}

/** Makes the people: adults, households with children, and those the scenario names. The first contacts are the oldest. */
export function makePeople(
  random: Random,
  id: (at: string) => string,
  count: number,
  unitNames: readonly string[],
  from: string,
  until: string,
): Person[] {
  const people: Person[] = [];
  const taken = new Set<string>();
  const spanDays = Math.round((Date.parse(until) - Date.parse(from)) / 86_400_000);
  const since = () => shiftDate(from, Math.floor(random.next() ** 1.6 * spanDays));
  const emailOf = (g: string, f: string): string => {
    const domain = random.pick(domains);
    let email = `${plain(g)}.${plain(f)}@${domain}`;
    while (taken.has(email)) email = `${plain(g)}.${plain(f)}${random.whole(2, 9999)}@${domain}`;
    taken.add(email);
    return email;
  };
  const add = (p: Partial<Person> & { given: string; family: string }): Person => {
    const joined = p.since ?? since();
    const person: Person = {
      email: random.chance(0.9) ? emailOf(p.given, p.family) : null,
      phone: random.chance(0.7)
        ? `+1${random.pick(areas)}55501${String(random.whole(0, 99)).padStart(2, '0')}`
        : null,
      birthDate: random.chance(0.4)
        ? `${random.whole(1945, 2003)}-${String(random.whole(1, 12)).padStart(2, '0')}-${String(random.whole(1, 28)).padStart(2, '0')}`
        : null,
      child: false,
      children: [],
      zeal: random.next() ** 2.2,
      leans: random.some(unitNames, random.whole(1, 2)),
      volunteers: random.chance(0.16),
      ...p,
      since: joined,
      id: id(joined),
    };
    people.push(person);
    return person;
  };
  const child = (parent: Person, g: string, birthDate: string): void => {
    parent.children.push(
      add({
        given: g,
        family: parent.family,
        email: null,
        phone: null,
        birthDate,
        child: true,
        since: parent.since,
        leans: ['Mudlarks'],
        zeal: 0,
        volunteers: false,
      }),
    );
  };
  const mai = add({
    given: 'Mai',
    family: 'Delacroix-Nguyen',
    email: 'delacroix-nguyen@harbourpost.example',
    birthDate: '1984-03-09',
    zeal: 0.85,
    leans: ['Mudlarks', 'Small Boats'],
    since: '2023-07-20',
  });
  taken.add(mai.email!);
  add({
    given: 'Étienne',
    family: 'Delacroix-Nguyen',
    email: mai.email,
    birthDate: '1982-11-30',
    zeal: 0.3,
    since: '2023-09-02',
  });
  child(mai, 'Théo', '2015-05-02');
  child(mai, 'Linh', '2017-09-30');
  child(mai, 'Odette', '2019-01-14');
  add({
    given: 'Jun',
    family: 'Baptiste',
    birthDate: '1998-06-21',
    zeal: 0.7,
    leans: ['Small Boats'],
    since: '2024-02-11',
    volunteers: true,
  });
  add({
    given: 'Juno',
    family: 'Baptiste',
    birthDate: '1998-06-21',
    zeal: 0.6,
    leans: ['Small Boats'],
    since: '2024-02-11',
  });
  while (people.length < count) {
    const person = add({ given: random.pick(givenNames), family: random.pick(familyNames) });
    if (!random.chance(0.13)) continue;
    if (person.leans[0] !== 'Mudlarks') person.leans.unshift('Mudlarks');
    for (let n = random.whole(1, 3); n > 0 && people.length < count; n -= 1)
      child(
        person,
        random.pick(givenNames),
        `${random.whole(2012, 2019)}-${String(random.whole(1, 12)).padStart(2, '0')}-${String(random.whole(1, 28)).padStart(2, '0')}`,
      );
  }
  return people;
}

/** Stores the people with emails, telephones, households, guardians, memberships and consents. */
export async function storePeople(
  tx: Queries,
  people: readonly Person[],
  random: Random,
  ids: Ids,
): Promise<void> {
  const at = (p: Person) => `${p.since}T14:00:00.000Z`;
  const parents = people.filter((p) => p.children.length);
  const households = parents.map((p) => ({ id: ids.id(), name: p.family, createdAt: at(p) }));
  const householdOf = new Map<string, string>();
  parents.forEach((p, n) => {
    for (const member of [p, ...p.children]) householdOf.set(member.id, households[n]!.id);
  });
  await insert(tx, 'households', households);
  const parentOf = new Map(parents.flatMap((p) => p.children.map((c) => [c.id, p] as const)));
  const homes = new Map<string, { street: string | null; postalCode: string }>();
  /** Where somebody lives: children with their parent. */
  const homeOf = (p: Person): { street: string | null; postalCode: string } => {
    const head = parentOf.get(p.id) ?? p;
    const before = homes.get(head.id);
    if (before) return before;
    const home = {
      street: random.chance(0.7) ? `${random.whole(1, 240)} ${random.pick(streets)}` : null,
      postalCode: `B${random.whole(0, 9)}${random.pick(['A', 'C', 'G', 'K', 'L'])} ${random.whole(1, 9)}${random.pick(['R', 'S', 'T', 'X'])}${random.whole(0, 9)}`,
    };
    homes.set(head.id, home);
    return home;
  };
  await insert(
    tx,
    'contacts',
    people.map((p) => ({
      id: p.id,
      givenName: p.given,
      familyName: p.family,
      birthDate: p.birthDate,
      language: random.chance(0.12) ? 'fr' : 'en',
      street: homeOf(p).street,
      postalCode: homeOf(p).postalCode,
      doNotContact: !p.child && random.chance(0.015),
      dietary:
        p.child && random.chance(0.18)
          ? random.pick(['no nuts', 'no gluten', 'carries an inhaler', 'no milk'])
          : null,
      householdId: householdOf.get(p.id) ?? null,
      ...derived(asDescribed(p)),
      source: random.pick([
        'registered for an event',
        'membership list',
        'newsletter',
        'met at the plant stall',
      ]),
      createdAt: at(p),
      updatedAt: at(p),
    })),
  );
  await insert(
    tx,
    'contact_emails',
    people
      .filter((p) => p.email)
      .map((p) => ({
        id: ids.id(),
        contactId: p.id,
        email: p.email,
        emailKey: emailKey(p.email!),
        position: 0,
      })),
  );
  await insert(
    tx,
    'contact_phones',
    people
      .filter((p) => p.phone)
      .map((p) => ({ id: ids.id(), contactId: p.id, phone: p.phone, position: 0 })),
  );
  await insert(
    tx,
    'relationships',
    parents.flatMap((p) =>
      p.children.map((c) => ({
        id: ids.id(),
        kind: 'guardian',
        fromContact: p.id,
        toContact: c.id,
        createdAt: at(p),
      })),
    ),
  );
  const members = people.filter((p) => !p.child && random.chance(0.34));
  await insert(
    tx,
    'memberships',
    members.map((p, n) => ({
      id: ids.id(),
      contactId: p.id,
      number: String(1000 + n),
      level: random.pick(levels),
      since: p.since.slice(0, 4),
      createdAt: at(p),
    })),
  );
  await insert(
    tx,
    'consents',
    people
      .filter((p) => p.email && random.chance(0.6))
      .map((p) => ({
        id: ids.id(),
        contactId: p.id,
        topic: 'newsletter',
        granted: random.chance(0.85),
        source: 'newsletter tool',
        at: at(p),
      })),
  );
  await storeStrays(tx, people, random, ids);
  await ensureKeys(tx);
}

/** Lists kept beside the records: some people are in them again, written a little differently. */
async function storeStrays(tx: Queries, people: readonly Person[], random: Random, ids: Ids): Promise<void> {
  const from = people.filter((p) => !p.child && p.email && p.family !== 'Baptiste');
  const strays = random.some(from, Math.round(people.length * 0.03)).map((person) => {
    const { given, family, emails, phones, birthDate } = spoil(random, asDescribed(person));
    return { id: ids.id(), given, family, emails, phones, birthDate, at: `${person.since}T15:00:00.000Z` };
  });
  await insert(
    tx,
    'contacts',
    strays.map((s) => ({
      id: s.id,
      givenName: s.given,
      familyName: s.family,
      birthDate: s.birthDate,
      language: 'en',
      ...derived(s),
      source: random.pick(['the old supper list', 'crew sheet', 'a telephone']),
      createdAt: s.at,
      updatedAt: s.at,
      doNotContact: false,
    })),
  );
  await insert(
    tx,
    'contact_emails',
    strays.flatMap((s) =>
      s.emails.map((email, position) => ({
        id: ids.id(),
        contactId: s.id,
        email,
        emailKey: emailKey(email),
        position,
      })),
    ),
  );
  await insert(
    tx,
    'contact_phones',
    strays.flatMap((s) =>
      s.phones.map((phone, position) => ({ id: ids.id(), contactId: s.id, phone, position })),
    ),
  );
}
