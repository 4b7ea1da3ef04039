import type { Described } from '#core/contacts/match.ts';
import { shiftDate } from '#core/time/dates.ts';
import { areas, domains, familyNames, givenNames, plain, streets } from './names.ts';
import type { Random } from './random.ts';

/** A record as some list has it, with who it truly is: what matching is measured against. */
export interface Labelled extends Described {
  id: string;
  /** The person behind the record. */
  personId: string;
  householdId: string;
}

interface Truth extends Described {
  personId: string;
  householdId: string;
}

/** What people are called, for the names that occur here; kept apart from the table that matching uses. */
const calledBy: Record<string, readonly string[]> = {
  Alexander: ['Alex', 'Sandy'],
  Christopher: ['Chris', 'Kit'],
  Elizabeth: ['Liz', 'Beth'],
  Frances: ['Fran'],
  Gwendolyn: ['Gwen'],
  Katherine: ['Kate', 'Kathy'],
  Michael: ['Mike', 'Mick'],
  Patricia: ['Pat', 'Trish'],
  Robert: ['Bob', 'Rob'],
  Rosalind: ['Rosie'],
  Samuel: ['Sam'],
  Thaddeus: ['Thad'],
  Theodore: ['Ted', 'Theo'],
  Tobias: ['Toby'],
  Wilhelmina: ['Mina'],
  William: ['Bill', 'Will'],
  Leopold: ['Leo'],
};
const moreFamilies = 'Nkemelu,van der Berg,de la Cruz,St-Pierre,Ó Dálaigh,MacGillivray,Abernathy'.split(',');

/**
 * Makes people with households, twins, namesakes and a father and son of one name, and the records several lists have
 * of them, spoilt the ways lists are. The first record of everybody is clean; `again` is the share that turns up again.
 */
export function makeLabelled(random: Random, count: number, again = 0.4): Labelled[] {
  const truths = makeTruths(random, count);
  const records: Labelled[] = truths.map((t) => ({ ...t, id: '' }));
  for (const truth of truths) {
    if (!random.chance(again)) continue;
    records.push({ ...spoil(random, truth), id: '' });
    if (random.chance(0.25)) records.push({ ...spoil(random, truth), id: '' });
  }
  return records.map((r, n) => ({ ...r, id: `r${n}` }));
}

function makeTruths(random: Random, count: number): Truth[] {
  const truths: Truth[] = [];
  const taken = new Set<string>();
  const email = (given: string, family: string): string => {
    const base = `${plain(given)}.${plain(family)}`;
    let address = `${base}@${random.pick(domains)}`;
    while (taken.has(address)) address = `${base}${random.whole(2, 999)}@${random.pick(domains)}`;
    taken.add(address);
    return address;
  };
  const phone = () =>
    `+1${random.pick(areas)}555${String(random.whole(100, 9999)).padStart(4, '0')}`.slice(0, 12);
  const born = (from: number, to: number) => shiftDate(`${from}-01-01`, random.whole(0, (to - from) * 365));
  while (truths.length < count) {
    const householdId = `h${truths.length}`;
    const family = random.pick(random.chance(0.15) ? moreFamilies : familyNames);
    const home = {
      street: random.chance(0.8) ? `${random.whole(1, 240)} ${random.pick(streets)}` : null,
      postalCode: random.chance(0.85)
        ? `B${random.whole(0, 9)}${random.pick([...'ABCGKL'])} ${random.whole(0, 9)}${random.pick([...'RSTX'])}${random.whole(0, 9)}`
        : null,
    };
    const first = random.pick(givenNames);
    const shared = { email: email(first, family), phone: phone() };
    const members = random.chance(0.3) ? random.whole(2, 5) : 1;
    const used = new Set<string>();
    let twinOf: string | null = null;
    for (let n = 0; n < members && truths.length < count; n += 1) {
      const namesake = n === 1 && random.chance(0.02);
      let given = n === 0 || namesake ? first : random.pick(givenNames);
      if (used.has(given) && !namesake) given = `${given === 'Wyn' ? 'Una' : 'Wyn'}`;
      if (used.has(given) && !namesake) continue;
      used.add(given);
      const child = n > 1;
      const birthDate: string | null = namesake
        ? born(1985, 2000)
        : twinOf && random.chance(0.25)
          ? twinOf
          : random.chance(n === 0 ? 0.5 : 0.7)
            ? born(child ? 2010 : 1940, child ? 2019 : 2000)
            : null;
      if (child) twinOf = birthDate;
      const own = n === 0 || (!child && random.chance(0.6));
      truths.push({
        personId: `p${truths.length}`,
        householdId,
        given,
        family: n > 0 && random.chance(0.12) ? random.pick(familyNames) : family,
        emails:
          n === 0 ? [shared.email] : own ? [email(given, family)] : random.chance(0.6) ? [shared.email] : [],
        phones:
          n === 0
            ? random.chance(0.85)
              ? [shared.phone]
              : []
            : random.chance(0.4)
              ? [phone()]
              : random.chance(0.5)
                ? [shared.phone]
                : [],
        birthDate,
        ...home,
      });
    }
  }
  return truths;
}

/** One to three things go wrong, and some fields are simply not in the other list. */
export function spoil<T extends Described>(random: Random, truth: T): T {
  let t: T = { ...truth };
  // A list leaves out whole columns, but hardly ever everything that tells people apart.
  if (random.chance(0.45)) t.birthDate = null;
  if (random.chance(0.4)) t = { ...t, street: null, postalCode: random.chance(0.5) ? t.postalCode : null };
  if (random.chance(0.3)) t.phones = [];
  if (t.phones.length && random.chance(0.15)) t.emails = [];
  for (let n = random.whole(0, 3); n > 0; n -= 1) t = { ...t, ...random.pick(faults)(random, t) };
  return t;
}

type Fault = (random: Random, t: Described) => Described;

const slip: (random: Random, text: string) => string = (random, text) => {
  if (text.length < 4) return text;
  const at = random.whole(1, text.length - 2);
  const kind = random.whole(0, 2);
  if (kind === 0) return text.slice(0, at) + text[at] + text.slice(at);
  if (kind === 1) return text.slice(0, at) + text.slice(at + 1);
  return text.slice(0, at) + text[at + 1] + text[at] + text.slice(at + 2);
};
const bare = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '');

const faults: readonly Fault[] = [
  (r, t) => ({ ...t, given: calledBy[t.given] ? r.pick(calledBy[t.given]!) : bare(t.given) }),
  (r, t) => ({ ...t, given: calledBy[t.given] ? r.pick(calledBy[t.given]!) : t.given.toUpperCase() }),
  (r, t) => ({ ...t, given: slip(r, t.given) }),
  (r, t) => ({ ...t, family: slip(r, t.family) }),
  (_, t) => ({ ...t, family: bare(t.family).replace(/[ '’-]/gu, '') }),
  (_, t) => ({ ...t, given: bare(t.given), family: bare(t.family).toUpperCase() }),
  (r, t) => (r.chance(0.5) ? { ...t, given: `${t.given[0]}.` } : t),
  (r, t) => (r.chance(0.3) ? { ...t, given: t.family, family: t.given } : t),
  (r, t) => ({ ...t, emails: t.emails.map((e) => e.replace('example', slip(r, 'example'))) }),
  (r, t) => ({
    ...t,
    emails: t.emails.map((e) => `${slip(r, e.split('@')[0]!)}@${e.split('@')[1]}`),
  }),
  (r, t) => ({
    ...t,
    emails: [`${plain(t.given)}.${plain(t.family)}${r.whole(1000, 9999)}@${r.pick(domains)}`],
  }),
  (r, t) => ({ ...t, phones: [`+1${r.pick(areas)}555${r.whole(1000, 9999)}`] }),
  (r, t) => ({
    ...t,
    street: `${r.whole(1, 240)} ${r.pick(streets)}`,
    postalCode: `B${r.whole(0, 9)}N ${r.whole(0, 9)}T${r.whole(0, 9)}`,
  }),
  (r, t) => (r.chance(0.25) ? { ...t, family: r.pick(familyNames) } : t),
  (_, t) =>
    t.birthDate && Number(t.birthDate.slice(8)) <= 12
      ? { ...t, birthDate: `${t.birthDate.slice(0, 4)}-${t.birthDate.slice(8)}-${t.birthDate.slice(5, 7)}` }
      : t,
];
