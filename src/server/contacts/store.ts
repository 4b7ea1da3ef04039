import type {
  Consent,
  ContactLine,
  ContactNote,
  ContactQuery,
  emailKinds,
  phoneKinds,
} from '#contract/contacts.ts';
import type { Money } from '#contract/endpoint.ts';
import type { Texts } from '#core/contacts/attributes.ts';
import { asDescribed, type Candidate, type Described, keysOf, prepare } from '#core/contacts/comparing.ts';
import { largestBlock } from '#core/contacts/estimating.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { searchWords } from '#core/contacts/search.ts';
import { came } from '#core/doors/attendance.ts';
import type { Compiled } from '#core/records/compile.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { ownColumns } from './columns.ts';
import { emailOf, phoneOf, whyQuiet } from './quiet.ts';
import { inUnitSql } from './units.ts';

/** The key contacts are found by when only the name is known. */
export const nameKey = (name: { given: string; family: string }): string => fold(fullName(name));

const candidateColumns = `c.id, c.given_name as given, c.family_name as family, c.birth_date, c.postal_code, c.street,
  coalesce((select array_agg(email_key) from contact_emails e where e.contact_id = c.id), '{}') as emails,
  coalesce((select array_agg(phone) from contact_phones p where p.contact_id = c.id), '{}') as phones`;

/** The contacts each key leads to; keys that lead to too many tell little and are left out. */
export const contactsByKey = (
  tx: Queries,
  keys: readonly string[],
): Promise<{ key: string; ids: string[] }[]> =>
  tx.query<{ key: string; ids: string[] }>(
    `select key, array_agg(contact_id order by contact_id) as ids from contact_keys where key = any($1)
     group by key having count(*) <= ${largestBlock}`,
    [keys],
  );

/** Contacts that share a key with any of these people. */
export async function candidatesFor(tx: Queries, people: readonly Described[]): Promise<Candidate[]> {
  const found = await contactsByKey(tx, [...new Set(people.flatMap((p) => keysOf(prepare(p))))]);
  return readCandidates(tx, [...new Set(found.flatMap((f) => f.ids))]);
}

/** Contacts by id, as far as they are compared. */
export const readCandidates = (tx: Queries, ids: readonly string[]): Promise<Candidate[]> =>
  tx.query<Candidate>(`select ${candidateColumns} from contacts c where c.id = any($1) order by c.id`, [ids]);

/** Goes up with every statement that changes contacts. */
export const contactVersion = async (tx: Queries): Promise<number> =>
  (await first<{ n: number }>(tx, 'select n from contact_version'))?.n ?? 0;

/** The contact that an id stands for by now: itself, or the one it was merged into. Null when it never was. */
export async function resolveContact(tx: Queries, id: string): Promise<string | null> {
  const row = await first<{ id: string }>(
    tx,
    `with recursive way as (
       select id, merged_into, 0 as step from contacts where id = $1
       union all select c.id, c.merged_into, step + 1 from contacts c join way on c.id = way.merged_into where step < 50)
     select id from way where merged_into is null`,
    [id],
  );
  return row?.id ?? null;
}

export interface ContactRow extends Texts {
  id: string;
  kind: 'person' | 'organization';
  givenName: string;
  familyName: string;
  birthDate: string | null;
  language: string;
  languages: string[];
  zone: string | null;
  street: string | null;
  postalCode: string | null;
  movedOn: string | null;
  doNotContact: boolean;
  deceasedOn: string | null;
  erasedAt: string | null;
  householdId: string | null;
  source: string;
  createdAt: string;
  emails: { email: string; kind: (typeof emailKinds)[number]; bounced: boolean; endedOn: string | null }[];
  phones: { phone: string; kind: (typeof phoneKinds)[number]; endedOn: string | null }[];
  photoAt: string | null;
}

export const readContact = (tx: Queries, id: string): Promise<ContactRow | null> =>
  first<ContactRow>(
    tx,
    `select c.id, c.kind, ${ownColumns('c')}, erased_at, source, created_at, (select at from contact_photos where contact_id = c.id) as photo_at,
       coalesce((select jsonb_agg(jsonb_build_object('email', email, 'kind', kind, 'bounced', bounced_at is not null, 'endedOn', ended_on) order by ended_on is not null, position, id)
         from contact_emails where contact_id = c.id), '[]') as emails,
       coalesce((select jsonb_agg(jsonb_build_object('phone', phone, 'kind', kind, 'endedOn', ended_on) order by ended_on is not null, position, id)
         from contact_phones where contact_id = c.id), '[]') as phones
     from contacts c where c.id = $1`,
    [id],
  );

/** Escapes what LIKE would take as a pattern. */
const like = (word: string): string => `%${word.replace(/[\\%_]/gu, '\\$&')}%`;

const lineColumns = `c.id, c.kind, c.given_name as given, c.family_name as family,
  case when c.moved_on is null then c.postal_code end as postal_code, ${emailOf('c.id')} as email, ${phoneOf('c.id')} as phone,
  (select last_seen from contact_totals t where t.contact_id = c.id) as last_seen,
  coalesce((select array_agg(tag order by tag) from contact_tags t where t.contact_id = c.id), '{}') as tags,
  c.created_at as added_at, ${whyQuiet('c')} as quiet, c.moved_on is not null as moved`;

/** Contacts by id as lines of a list, by family name. */
export const readLines = (tx: Queries, ids: readonly string[]): Promise<ContactLine[]> =>
  tx.query<ContactLine>(
    `select ${lineColumns} from contacts c where c.id = any($1) order by c.family_name, c.given_name, c.id`,
    [ids],
  );

/** What each order sorts by first, as usual; blanks come last either way. */
const orders = {
  name: { by: 'lower(c.family_name)', down: false },
  email: { by: `lower(${emailOf('c.id')})`, down: false },
  postal: { by: 'case when c.moved_on is null then c.postal_code end', down: false },
  seen: { by: '(select last_seen from contact_totals t where t.contact_id = c.id)', down: true },
  // Ids are in the order of making, also within one moment.
  added: { by: 'c.id', down: true },
} as const;

/** The condition of a filter on contacts `c`, with its parameters. */
function conditionOf(of: ContactQuery, segment: Compiled | null): Compiled {
  const words = searchWords(of.q);
  const params: unknown[] = words.map(like);
  const conditions = [
    'c.merged_into is null and c.erased_at is null',
    ...words.map((_, at) => `c.search_text like $${at + 1}`),
  ];
  if (of.tag) {
    params.push(of.tag);
    conditions.push(
      `exists (select 1 from contact_tags t where t.contact_id = c.id and t.tag = $${params.length})`,
    );
  }
  if (of.kind) {
    params.push(of.kind);
    conditions.push(`c.kind = $${params.length}`);
  }
  if (segment) {
    // Its parameters come after those there are.
    conditions.push(segment.sql.replace(/\$(\d+)/gu, (_, n: string) => `$${Number(n) + params.length}`));
    params.push(...segment.params);
  }
  return { sql: conditions.join(' and '), params };
}

/** Everybody a filter finds. */
export const idsOfContacts = async (
  tx: Queries,
  of: ContactQuery,
  segment: Compiled | null,
): Promise<string[]> => {
  const { sql, params } = conditionOf(of, segment);
  return (
    await tx.query<{ id: string }>(`select c.id from contacts c where ${sql} order by c.id`, params)
  ).map((r) => r.id);
};

/** A page of the contacts a filter finds, in an order, with how many there are. */
export async function listContacts(
  tx: Queries,
  of: ContactQuery & { sort: keyof typeof orders; reverse: boolean; limit: number; offset: number },
  segment: Compiled | null = null,
): Promise<{ contacts: ContactLine[]; total: number }> {
  const { sql, params } = conditionOf(of, segment);
  const { by, down } = orders[of.sort];
  const way = down === of.reverse ? 'asc' : 'desc';
  // By name it is as an index has it, from its end too: everybody has a name.
  const order =
    of.sort === 'name'
      ? [by, 'c.family_name', 'c.given_name', 'c.id'].map((part) => `${part} ${way}`).join(', ')
      : `${by} ${way} nulls last, c.family_name, c.given_name, c.id`;
  const contacts = await tx.query<ContactLine>(
    `select ${lineColumns} from contacts c where ${sql}
     order by ${order}
     limit ${of.limit} offset ${of.offset}`,
    params,
  );
  const total = await first<{ n: number }>(
    tx,
    `select count(*)::int as n from contacts c where ${sql}`,
    params,
  );
  return { contacts, total: total?.n ?? 0 };
}

/** Lets an id into SQL text only when it is one. */
function uuidOnly(id: string): string {
  if (!/^[\da-f-]{36}$/u.test(id)) throw new Error('not an id');
  return id;
}

/**
 * The best contacts in which every word is found: words that begin a part of the name count before those found inside
 * a word or in an address, so that "mai" finds Mai before somebody at fenmail; then whoever was seen last. Where that
 * finds too few, words that are only alike count too, so that a slip in typing finds nobody the less.
 */
export async function searchContacts(
  tx: Queries,
  search: string,
  limit: number,
  /** Only who has to do with this unit. */
  unitId: string | null = null,
): Promise<ContactLine[]> {
  const words = searchWords(search);
  if (!words.length) return [];
  const reach = unitId ? ` and ${inUnitSql('c.id', `'${uuidOnly(unitId)}'::uuid`)}` : '';
  const live = `c.merged_into is null and c.erased_at is null${reach}`;
  const inside = words.map((_, at) => `c.search_text like $${at + 1}`).join(' and ');
  const begins = words
    .map((_, at) => `((' ' || c.name_key) like $${words.length + at + 1})::int`)
    .join(' + ');
  // Only ids are looked for here: what is shown of the few that are best is read afterwards, which plans much faster.
  const exact = await tx.query<{ id: string }>(
    `select f.id from (
       select c.id, ${begins} as fit, c.name_key from contacts c where ${live} and ${inside}
       order by fit desc, c.name_key, c.id limit ${limit * 4}) f left join contact_totals t on t.contact_id = f.id
     order by f.fit desc, t.last_seen desc nulls last, f.name_key, f.id limit ${limit}`,
    [...words.map(like), ...words.map((w) => `% ${w.replace(/[\\%_]/gu, '\\$&')}%`)],
  );
  const letters = words.filter((w) => w.length > 3 && /\p{L}/u.test(w));
  const ids = exact.map((e) => e.id);
  if (ids.length < 3 && letters.length && !unitId)
    ids.push(...(await alikeContacts(tx, letters, ids, limit - ids.length)));
  const lines = new Map((await readLines(tx, ids)).map((l) => [l.id, l]));
  return ids.map((id) => lines.get(id)!);
}

/** Contacts whose names are like these words, a slip apart, other than those found already. */
async function alikeContacts(
  tx: Queries,
  letters: readonly string[],
  found: readonly string[],
  limit: number,
): Promise<string[]> {
  // Two words that are a name, mistyped, share the skeletons of both names with it (see core/contacts/comparing.ts).
  const [given = '', family = ''] = letters;
  const keys = family
    ? keysOf(prepare(asDescribed({ given, family }))).filter((key) => key.startsWith('w '))
    : [];
  const rows = await tx.query<{ id: string }>(
    `select c.id from contacts c
     where c.merged_into is null and c.erased_at is null and not (c.id = any($1)) and c.id in (
       (select contact_id from contact_keys where key = any($2) limit 200) union
       (select n.id from contacts n where ${letters.map((_, at) => `$${at + 3} <% n.name_key`).join(' and ')} limit 200))
     order by ${letters.map((_, at) => `word_similarity($${at + 3}, c.name_key)`).join(' + ')} desc,
       (select last_seen from contact_totals t where t.contact_id = c.id) desc nulls last, c.id limit ${limit}`,
    [found, keys, ...letters],
  );
  return rows.map((r) => r.id);
}

export const readMemberships = (tx: Queries, contactId: string) =>
  tx.query<{
    id: string;
    number: string | null;
    level: string | null;
    since: string | null;
    from: string | null;
    until: string | null;
  }>(
    'select id, number, level, since, starts_on as "from", ends_on as until from memberships where contact_id = $1 order by created_at, id',
    [contactId],
  );

/** Guardians, wards, household and emergency contacts of somebody. */
export const readRelated = (tx: Queries, contactId: string) =>
  tx.query<{ relation: string; contactId: string | null; name: string; phone: string | null }>(
    `select 'guardian' as relation, c.id as contact_id, concat_ws(' ', nullif(c.given_name, ''), nullif(c.family_name, '')) as name, null as phone
       from relationships r join contacts c on c.id = r.from_contact where r.to_contact = $1 and r.kind = 'guardian'
     union all
     select 'guardian of', c.id, concat_ws(' ', nullif(c.given_name, ''), nullif(c.family_name, '')), null
       from relationships r join contacts c on c.id = r.to_contact where r.from_contact = $1 and r.kind = 'guardian'
     union all
     select 'in an emergency', r.from_contact, coalesce(r.other_name, ''), r.other_phone
       from relationships r where r.to_contact = $1 and r.kind = 'emergency'
     union all
     select 'same household', o.id, concat_ws(' ', nullif(o.given_name, ''), nullif(o.family_name, '')), null
       from contacts c join contacts o on o.household_id = c.household_id and o.id <> c.id
       where c.id = $1 and not exists (select 1 from relationships r where r.kind = 'guardian'
         and ((r.from_contact = c.id and r.to_contact = o.id) or (r.from_contact = o.id and r.to_contact = c.id)))`,
    [contactId],
  );

export interface TotalsRow {
  attended: number;
  missed: number;
  coming: number;
  hours: number;
  givenThisYear: Money[];
  givenEver: Money[];
  firstSeen: string | null;
  lastSeen: string | null;
}

/** What somebody gave, by currency, that of the organization first. */
const givenSql = (since = ''): string =>
  `coalesce((select jsonb_agg(s) from (select sum(amount)::bigint as amount, currency from donations where contact_id = $1 ${since}
     group by currency having sum(amount) <> 0 order by currency <> (select currency from organization), currency) s), '[]')`;

export const readTotals = async (tx: Queries, contactId: string, yearStart: string): Promise<TotalsRow> =>
  (await first<TotalsRow>(
    tx,
    `select
       (select count(*)::int from attendance where contact_id = $1 and state in ${among(came)}) as attended,
       (select count(*)::int from attendance where contact_id = $1 and state = 'missed') as missed,
       (select count(*)::int from attendance where contact_id = $1 and state = 'expected') as coming,
       (select coalesce(sum(hours), 0)::float8 from assignments where contact_id = $1 and state = 'served') as hours,
       ${givenSql('and at >= $2')} as given_this_year, ${givenSql()} as given_ever,
       (select min(arrived_at) from attendance where contact_id = $1) as first_seen,
       (select max(arrived_at) from attendance where contact_id = $1) as last_seen`,
    [contactId, yearStart],
  ))!;

export const readTags = async (tx: Queries, contactId: string): Promise<string[]> =>
  (
    await tx.query<{ tag: string }>('select tag from contact_tags where contact_id = $1 order by tag', [
      contactId,
    ])
  ).map((t) => t.tag);

const noteColumns = 'id, text, author, author_id, at, due_on, done_at';
/** Every tag that is given, with how many contacts have it. */
export const readAllTags = (tx: Queries): Promise<{ tag: string; contacts: number }[]> =>
  tx.query<{ tag: string; contacts: number }>(
    `select tag, count(*)::int as contacts from contact_tags t join contacts c on c.id = t.contact_id
     where c.merged_into is null group by tag order by tag`,
  );

/** Gives contacts a tag; answers those that did not have it. */
export const addTag = async (
  tx: Queries,
  tag: string,
  ids: readonly string[],
  at: string,
): Promise<string[]> =>
  (
    await tx.query<{ contactId: string }>(
      `insert into contact_tags (contact_id, tag, at) select id, $1, $3 from contacts where id = any($2) and merged_into is null
       on conflict do nothing returning contact_id`,
      [tag, ids, at],
    )
  ).map((r) => r.contactId);

/** Takes a tag off contacts; answers those that had it. */
export const removeTag = async (tx: Queries, tag: string, ids: readonly string[]): Promise<string[]> =>
  (
    await tx.query<{ contactId: string }>(
      'delete from contact_tags where tag = $1 and contact_id = any($2) returning contact_id',
      [tag, ids],
    )
  ).map((r) => r.contactId);

export const readNotes = (tx: Queries, contactId: string): Promise<ContactNote[]> =>
  tx.query<ContactNote>(
    `select ${noteColumns} from contact_notes where contact_id = $1
     order by (due_on is not null and done_at is null) desc, due_on, at desc, id`,
    [contactId],
  );
export const readNote = (tx: Queries, id: string): Promise<(ContactNote & { contactId: string }) | null> =>
  first(tx, `select contact_id, ${noteColumns} from contact_notes where id = $1`, [id]);

export const deleteNote = (tx: Queries, id: string) =>
  tx.query('delete from contact_notes where id = $1', [id]);

/** Tasks about people that are due by a day, earliest first: everybody's, or those of one author. */
export const readTasks = (tx: Queries, until: string, authorId: string | null = null) =>
  tx.query<{ contactId: string; given: string; family: string; text: string; dueOn: string }>(
    `select n.contact_id, c.given_name as given, c.family_name as family, n.text, n.due_on
     from contact_notes n join contacts c on c.id = n.contact_id
     where n.due_on <= $1 and n.done_at is null and ($2::uuid is null or n.author_id = $2) order by n.due_on, n.id limit 100`,
    [until, authorId],
  );

/** Who is usually there when somebody is: at least at two of the events they attended, the most frequent first. */
export const readCompanions = (tx: Queries, contactId: string) =>
  tx.query<{ contactId: string; name: string; times: number }>(
    `select o.contact_id, concat_ws(' ', nullif(c.given_name, ''), nullif(c.family_name, '')) as name, count(*)::int as times
     from attendance a
     join registrations mine on mine.id = a.registration_id
     join registrations other on other.order_id = mine.order_id and other.id <> mine.id
     join attendance o on o.registration_id = other.id and o.state in ${among(came)}
     join contacts c on c.id = o.contact_id
     where a.contact_id = $1 and a.state in ${among(came)} and o.contact_id <> $1
     group by o.contact_id, c.given_name, c.family_name having count(*) > 1 order by times desc, name limit 4`,
    [contactId],
  );

export const readMerges = (tx: Queries, contactId: string) =>
  tx.query<{ id: string; at: string; actor: string; name: string }>(
    `select m.id, m.at, m.actor, concat_ws(' ', nullif(c.given_name, ''), nullif(c.family_name, '')) as name
     from merges m join contacts c on c.id = m.merged where m.kept = $1 and m.undone_at is null order by m.id desc`,
    [contactId],
  );

/** The last word of somebody on every topic and channel. */
export const readConsents = (tx: Queries, contactId: string): Promise<Consent[]> =>
  tx.query<Consent>(
    `select distinct on (topic, channel) topic, channel, granted, source, at from consents where contact_id = $1
     order by topic, channel, at desc, id desc`,
    [contactId],
  );

interface Ids {
  id(): string;
}

/** Makes these a contact's emails, in this order: others go, kinds and places are set, bounces of the same are kept. */
export async function setEmails(
  tx: Queries,
  ids: Ids,
  contactId: string,
  emails: readonly { email: string; kind: string; endedOn: string | null }[],
): Promise<void> {
  const keys = emails.map((e) => emailKey(e.email));
  await tx.query('delete from contact_emails where contact_id = $1 and not (email_key = any($2))', [
    contactId,
    keys,
  ]);
  for (const [position, { email, kind, endedOn }] of emails.entries())
    await tx.query(
      `insert into contact_emails (id, contact_id, email, email_key, kind, position, ended_on) values ($1, $2, $3, $4, $5, $6, $7)
       on conflict (contact_id, email_key) do update set email = excluded.email, kind = excluded.kind, position = excluded.position,
         ended_on = excluded.ended_on`,
      [ids.id(), contactId, email, keys[position], kind, position, endedOn],
    );
}

/** The same for telephones. */
export async function setPhones(
  tx: Queries,
  ids: Ids,
  contactId: string,
  phones: readonly { phone: string; kind: string; endedOn: string | null }[],
): Promise<void> {
  await tx.query('delete from contact_phones where contact_id = $1 and not (phone = any($2))', [
    contactId,
    phones.map((p) => p.phone),
  ]);
  for (const [position, { phone, kind, endedOn }] of phones.entries())
    await tx.query(
      `insert into contact_phones (id, contact_id, phone, kind, position, ended_on) values ($1, $2, $3, $4, $5, $6)
       on conflict (contact_id, phone) do update set kind = excluded.kind, position = excluded.position, ended_on = excluded.ended_on`,
      [ids.id(), contactId, phone, kind, position, endedOn],
    );
}

/** The people who may have no address of their own: somebody, those they look after, their household. */
export async function peopleAround(tx: Queries, contactId: string): Promise<ReadonlySet<string>> {
  const rows = await tx.query<{ id: string }>(
    `select to_contact as id from relationships where from_contact = $1 and kind = 'guardian'
     union select o.id from contacts c join contacts o on o.household_id = c.household_id where c.id = $1 union select $1`,
    [contactId],
  );
  return new Set(rows.map((r) => r.id));
}

/** Somebody and the children they look after: of whom they may be told everything. */
export const theirsOf = async (tx: Queries, contactId: string): Promise<ReadonlySet<string>> =>
  new Set(
    (
      await tx.query<{ id: string }>(
        "select to_contact as id from relationships where kind = 'guardian' and from_contact = $1 union select $1",
        [contactId],
      )
    ).map((r) => r.id),
  );
