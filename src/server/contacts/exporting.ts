import { attributes, type Texts, textKeys } from '#core/contacts/attributes.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { type Card, writeVCards } from '#core/exchange/writeVCard.ts';
import type { Queries } from '../db/database.ts';
import { textColumns } from './columns.ts';
import { readFields } from './fields.ts';
import { lastWord, whyQuiet } from './quiet.ts';

interface Exported extends Card, Texts {
  newsletter: boolean | null;
  doNotContact: boolean;
  deceasedOn: string | null;
  number: string | null;
  since: string | null;
  level: string | null;
  endsOn: string | null;
  organization: string | null;
  emergencyName: string | null;
  emergencyPhone: string | null;
  /** Fields of the organization's own, by id. */
  fields: Record<string, string>;
}

/**
 * Contacts with what an import can read again: all of them, or those named. Of those named, whoever nothing may be sent to
 * is left out, because such a list is made for reaching people.
 */
const readExported = (tx: Queries, ids: readonly string[] | null): Promise<Exported[]> =>
  tx.query<Exported>(
    `select c.id as uid, c.kind, given_name as given, family_name as family, case when moved_on is null then street end as street,
       case when moved_on is null then postal_code end as postal_code, birth_date, language, ${textColumns('c')},
       do_not_contact, deceased_on, m.ends_on, w.name as organization, m.number, m.since, m.level, e.other_name as emergency_name, e.other_phone as emergency_phone,
       coalesce((select jsonb_object_agg(field_id, value) from custom_values where contact_id = c.id), '{}') as fields,
       coalesce((select array_agg(email order by position, id) from contact_emails where contact_id = c.id and ended_on is null), '{}') as emails,
       coalesce((select array_agg(phone order by position, id) from contact_phones where contact_id = c.id and ended_on is null), '{}') as phones,
       coalesce((select jsonb_object_agg(value, kind) from (select email as value, kind from contact_emails where contact_id = c.id
         union all select phone, kind from contact_phones where contact_id = c.id) k where kind <> ''), '{}') as kinds,
       coalesce((select array_agg(tag order by tag) from contact_tags where contact_id = c.id), '{}') as tags,
       coalesce((select array_agg(text order by at, id) from contact_notes where contact_id = c.id and due_on is null), '{}') as notes,
       ${lastWord('c.id', "'newsletter'")} as newsletter
     from contacts c
     left join lateral (select number, coalesce(since, starts_on::text) as since, level, ends_on from memberships where contact_id = c.id
       order by ends_on desc nulls first, created_at, id limit 1) m on true
     left join lateral (select o.family_name as name from affiliations a join contacts o on o.id = a.organization_id
       where a.contact_id = c.id and a.until is null order by a.id limit 1) w on true
     left join lateral (select other_name, other_phone from relationships
       where to_contact = c.id and kind = 'emergency' and other_name is not null order by created_at, id limit 1) e on true
     where c.merged_into is null and c.erased_at is null and ($1::uuid[] is null or c.id = any($1) and ${whyQuiet('c')} is null) order by family_name, given_name, c.id`,
    [ids],
  );

const yesNo = (value: boolean | null): string => (value === null ? '' : value ? 'yes' : 'no');

/** A table of contacts; brought in again it changes nothing. */
export async function contactsCsv(tx: Queries, ids: readonly string[] | null): Promise<string> {
  const rows = await readExported(tx, ids);
  const fields = await readFields(tx);
  return writeCsv(
    [
      'Contact id',
      'Kind',
      'First name',
      'Last name',
      'Email',
      'Telephone',
      'Street',
      'Postal code',
      'Birth date',
      'Language',
      ...textKeys.map((key) => attributes[key].text.heading),
      'Tags',
      'Notes',
      'Newsletter',
      'Do not contact',
      'Died on',
      'Member number',
      'Member since',
      'Member level',
      'Member until',
      'Organization',
      'Emergency contact',
      'Emergency phone',
      ...fields.map((f) => f.name),
    ],
    rows.map((c) => [
      c.uid,
      c.kind,
      c.given,
      c.family,
      c.emails.join('; '),
      c.phones.join('; '),
      c.street,
      c.postalCode,
      c.birthDate,
      c.language,
      ...textKeys.map((key) => c[key]),
      c.tags.join('; '),
      c.notes.join('\n'),
      yesNo(c.newsletter),
      c.doNotContact ? 'yes' : '',
      c.deceasedOn,
      c.number,
      c.since,
      c.level,
      c.endsOn,
      c.organization,
      c.emergencyName,
      c.emergencyPhone,
      ...fields.map((f) => c.fields[f.id] ?? null),
    ]),
  );
}

/** An address book of contacts (vCard 4.0). */
export const contactsVCard = async (
  tx: Queries,
  ids: readonly string[] | null,
  now: string,
): Promise<string> => writeVCards(await readExported(tx, ids), now);
