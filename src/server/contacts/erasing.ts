import { textKeys } from '#core/contacts/attributes.ts';
import { sayAttribute } from '#core/words/attributes.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, type Queries } from '../db/database.ts';
import { reasonSql } from '../db/reasons.ts';
import { erasedSet } from './columns.ts';
import { belongings } from './merging.ts';

/** Every row that belongs to a person, table by table, as it stands in the database. */
export async function everythingOf(tx: Queries, contactId: string): Promise<Record<string, unknown[]>> {
  const all: Record<string, unknown[]> = {};
  for (const { table, column } of [
    ...belongings,
    { table: 'contact_tags', column: 'contact_id' },
    { table: 'custom_values', column: 'contact_id' },
    { table: 'held_skills', column: 'contact_id' },
    { table: 'contact_photos', column: 'contact_id' },
    { table: 'segment_members', column: 'contact_id' },
  ]) {
    const rows = await tx.query<{ row: unknown }>(
      `select ${table === 'contact_photos' ? "to_jsonb(t) || jsonb_build_object('content', encode(content, 'base64'))" : "to_jsonb(t) - 'password_hash'"} as row from ${table} t where ${column} = $1`,
      [contactId],
    );
    const key = table === 'relationships' ? `${table} (${column.replace('_contact', '')})` : table;
    if (rows.length) all[key] = [...(all[key] ?? []), ...rows.map((r) => r.row)];
  }
  const answers = await tx.query<{ row: unknown }>(
    `select to_jsonb(a) as row from answers a join orders o on o.id = a.order_id
       left join registrations r on r.id = a.registration_id
     where r.contact_id = $1 or (a.registration_id is null and o.buyer_contact_id = $1)`,
    [contactId],
  );
  if (answers.length) all.answers = answers.map((r) => r.row);
  return all;
}

/** What erasing a person takes away, and what is kept and why. */
export async function whatErasingDoes(
  tx: Queries,
  contactId: string,
): Promise<{ goes: string[]; kept: string[] }> {
  const n = (await first<Record<string, number>>(
    tx,
    `select
       (select count(*)::int from contact_emails where contact_id = $1) as emails,
       (select count(*)::int from contact_phones where contact_id = $1) as phones,
       (select count(*)::int from contact_notes where contact_id = $1) as notes,
       (select count(*)::int from relationships where from_contact = $1 or to_contact = $1) as relations,
       (select count(*)::int from memberships where contact_id = $1) as memberships,
       (select count(*)::int from unit_people where contact_id = $1) as units,
       (select count(*)::int from affiliations where contact_id = $1 or organization_id = $1) as organizations,
       (select count(*)::int from custom_values where contact_id = $1) as fields,
       (select count(*)::int from held_skills where contact_id = $1) as skills,
       (select count(*)::int from applications where contact_id = $1) as applications,
       (select count(*)::int from contact_photos where contact_id = $1) as photos,
       (select count(*)::int from relationships e join contacts n on n.id = $1 where e.kind = 'emergency' and e.other_name is not null
         and e.to_contact <> $1 and lower(e.other_name) = lower(trim(n.given_name || ' ' || n.family_name))) as named,
       (select count(*)::int from speakers where contact_id = $1) as speaking,
       (select count(*)::int from messages where contact_id = $1) as messages,
       (select count(*)::int from answers a join registrations r on r.id = a.registration_id where r.contact_id = $1) as answers,
       (select count(*)::int from payments where contact_id = $1) as payments,
       (select count(*)::int from donations where contact_id = $1) as donations,
       (select count(*)::int from receipts where contact_id = $1) as receipts,
       (select count(*)::int from pledges where contact_id = $1 and state <> 'ended') as pledges,
       (select count(*)::int from registrations where contact_id = $1) as seats,
       (select count(*)::int from assignments where contact_id = $1) as shifts,
       (select count(*)::int from signatures where contact_id = $1) as signatures`,
    [contactId],
  ))!;
  const of = (count: number, one: string, many: string) =>
    count ? [`${count} ${count === 1 ? one : many}`] : [];
  const because = (parts: string[], why: string) => (parts.length ? [`${parts.join(' and ')}: ${why}`] : []);
  return {
    goes: [
      `name, address, birth date, languages, ${textKeys.map(sayAttribute).join(', ')}`,
      ...of(n.emails!, 'email', 'emails'),
      ...of(n.phones!, 'telephone', 'telephones'),
      ...of(n.relations!, 'relation to another person', 'relations to other people'),
      ...of(n.memberships!, 'membership', 'memberships'),
      ...of(n.units!, 'role in a unit', 'roles in units'),
      ...of(n.organizations!, 'tie to an organization', 'ties to organizations'),
      ...of(n.fields!, 'field of our own', 'fields of our own'),
      ...of(n.skills!, 'skill or certificate', 'skills and certificates'),
      ...of(n.applications!, 'application to help', 'applications to help'),
      ...of(n.photos!, 'photo', 'photos'),
      ...of(n.notes!, 'note', 'notes'),
      ...of(n.answers!, 'answer to a question', 'answers to questions'),
      ...of(n.speaking!, 'mention as a speaker', 'mentions as a speaker'),
      ...of(n.messages!, 'message: its text and address', 'messages: their text and addresses'),
      ...of(n.pledges!, 'monthly gift, which ends', 'monthly gifts, which end'),
    ],
    kept: [
      ...because(
        of(n.named!, 'mention as an emergency contact', 'mentions as an emergency contact'),
        'kept with the people who named them, because it is their record; ask those people, or change it there',
      ),
      ...because(
        [...of(n.payments!, 'payment', 'payments'), ...of(n.donations!, 'donation', 'donations')],
        'kept without the person, because accounts have to be kept',
      ),
      ...because(
        of(n.receipts!, 'receipt', 'receipts'),
        'kept as written, with the name and address in it, because the tax office may ask for it',
      ),
      ...because(
        of(n.signatures!, 'signed waiver', 'signed waivers'),
        'kept as signed, with the name in it, because they prove what was agreed',
      ),
      ...because(
        [...of(n.seats!, 'seat', 'seats'), ...of(n.shifts!, 'shift', 'shifts')],
        'kept without a name, so that counts and hours stay true',
      ),
    ],
  };
}

/**
 * Erases a person for good, in the caller's transaction. What is left is a contact without anything personal, so that
 * money, seats and hours still belong to somebody and every sum stays the same.
 */
export async function erase(w: Work, contactId: string): Promise<void> {
  const { tx, now } = w;
  const shells = (
    await tx.query<{ id: string }>(
      `with recursive into_it as (select id from contacts where id = $1
         union select c.id from contacts c join into_it i on c.merged_into = i.id) select id from into_it`,
      [contactId],
    )
  ).map((r) => r.id);
  const run = (sql: string) => tx.query(sql, [shells]);
  await run(
    'delete from board_questions where lower(trim(email)) in (select email_key from contact_emails where contact_id = any($1))',
  );
  await run(
    'delete from incoming where contact_id is null and lower(trim(address)) in (select email_key from contact_emails where contact_id = any($1))',
  );
  for (const table of [
    'contact_emails',
    'contact_phones',
    'contact_keys',
    'contact_tags',
    'contact_notes',
    'memberships',
    'unit_people',
    'affiliations',
    'custom_values',
    'held_skills',
    'applications',
    'shift_waits',
    'step_in_asks',
    'crew_pairs',
    'contact_photos',
    'consents',
    'segment_members',
    'proposals',
    'survey_asks',
    'followers',
    'notices',
    'incoming',
  ])
    await run(`delete from ${table} where contact_id = any($1)`);
  await run('delete from crew_pairs where other_id = any($1)');
  await run('delete from affiliations where organization_id = any($1)');
  await run('delete from relationships where from_contact = any($1) or to_contact = any($1)');
  await run('delete from pairs where contact_a = any($1) or contact_b = any($1)');
  await run('delete from merges where kept = any($1) or merged = any($1)');
  await run('update shifts set lead_id = null where lead_id = any($1)');
  // Nobody comes any more: the places are open again.
  await tx.query(
    "update assignments a set state = 'dropped', dropped_at = $2 from shifts s where s.id = a.shift_id and s.starts_at > $2 and a.state in ('proposed', 'agreed') and a.contact_id = any($1)",
    [shells, now],
  );
  await run('update staff set contact_id = null where contact_id = any($1)');
  // What was signed proves what was agreed; what was answered beside it does not.
  await run(
    "update signatures set answers = '[]', answers_salt = '', forget_on = null, drawn = null where contact_id = any($1)",
  );
  await run('update signatures set copy_to = null where signer_id = any($1) or contact_id = any($1)');
  await run(
    'delete from answers where registration_id in (select id from registrations where contact_id = any($1))',
  );
  await run(
    'delete from answers where registration_id is null and order_id in (select id from orders where buyer_contact_id = any($1))',
  );
  // What was said of whether they came, and to whom they were handed over; that they came stays.
  const theirSeats = 'registration_id in (select id from registrations where contact_id = any($1))';
  await run(`delete from attendance_disputes where ${theirSeats}`);
  await run(
    `update attendance_marks set why = case when why = '' then '' else 'erased' end, handed_to = case when handed_to in ('', 'code') then handed_to else 'erased' end,
       latitude = null, longitude = null where ${theirSeats}`,
  );
  await run(
    "update registrations set given_name = 'Erased', family_name = '', birth_date = null, guest_email = null, link_reasons = '[]' where contact_id = any($1)",
  );
  await run(
    "update orders set buyer_given = 'Erased', buyer_family = '', buyer_email = null, buyer_phone = null, zone = null where buyer_contact_id = any($1)",
  );
  // A gift stays one of the accounts; who is remembered by it, and what was said with it, goes with whoever gave.
  await run(
    "update gifts set given = 'Erased', family = '', email = null, phone = null, street = '', town = '', postal_code = '', tribute = null, tribute_to = '', tell_name = '', tell_email = null, words = '', anonymous = true where contact_id = any($1)",
  );
  await run(
    "update pledges set given = 'Erased', family = '', email = '', card_token = null, card_ending = '', state = 'ended', next_at = null, ended_at = coalesce(ended_at, now()) where contact_id = any($1)",
  );
  await run(
    "delete from standin_mail where split_part(key, '.', 1) in (select id::text from messages where contact_id = any($1))",
  );
  await run(
    "delete from standin_texts where split_part(key, '.', 1) in (select id::text from messages where contact_id = any($1))",
  );
  await tx.query(
    `update messages set name = 'Erased', address = null, subject = null, body = null, formatted = null, preview = '', closing = '', headers = null,
       state = case when state in ('planned', 'due', 'failed') then 'held back' else state end,
       why_not = case when state in ('planned', 'due', 'failed') then ${reasonSql('erased')} else why_not end,
       next_try_at = null where contact_id = any($1)`,
    [shells],
  );
  await run(
    "update audit set action = 'merged another contact into this one', detail = '{}' where subject_kind = 'contact' and subject_id = any($1) and action like 'merged %'",
  );
  // Nobody is on a page any more who asked to be forgotten.
  await run(
    `delete from plan_changes p where p.field in ('speakers', 'sponsors') and exists (select 1 from unnest($1::uuid[]) c
       where p.before @> jsonb_build_array(jsonb_build_object('contactId', c)) or p.after @> jsonb_build_array(jsonb_build_object('contactId', c)))`,
  );
  await run(
    "delete from change_rows where of in ('speakers', 'sponsors') and (before ->> 'contact_id')::uuid = any($1)",
  );
  await run('delete from speakers where contact_id = any($1)');
  await run('delete from sponsors where contact_id = any($1)');
  await run('delete from session_proposals where contact_id = any($1)');
  await run('delete from event_proposals where contact_id = any($1)');
  await run('delete from guest_list_people where contact_id = any($1)');
  await run('delete from event_invited where contact_id = any($1)');
  await run('delete from visitor_sessions where contact_id = any($1)');
  await run('update survey_responses set contact_id = null where contact_id = any($1)');
  // What was counted stays counted; who counted it, where, and what they wrote and showed with it does not.
  await run(
    'delete from tally_pictures where tally_id in (select id from tallies where contact_id = any($1))',
  );
  await run(
    "update tallies set contact_id = null, by_name = 'Erased', note = '', place = '' where contact_id = any($1)",
  );
  await run(
    `update import_rows set cells = '[]', person = null, changes = '[]', reasons = jsonb_build_array(${reasonSql('erased')}), fingerprint = null where contact_id = any($1)`,
  );
  // Whoever has a link of theirs finds nothing any more: of their pages, their bookings, their seats.
  await tx.query(
    `update links set revoked_at = $2 where revoked_at is null and (subject_id = any($1)
       or (kind = 'manage' and subject_id in (select id from orders where buyer_contact_id = any($1)))
       or (kind = 'gift' and subject_id in (select id from gifts where contact_id = any($1)))
       or (kind = 'pledge' and subject_id in (select id from pledges where contact_id = any($1)))
       or (kind = 'seat' and subject_id in (select id from registrations where contact_id = any($1))))`,
    [shells, now],
  );
  await tx.query(
    `update contacts set ${erasedSet()}, name_key = '', search_text = '',
       source = 'erased', erased_at = $2, updated_at = $2 where id = any($1)`,
    [shells, now],
  );
  await record(w, 'contact changed', { contactId, how: 'erased' });
}
