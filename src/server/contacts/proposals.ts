import type { OutsideField, ProposableField } from '#core/contacts/proposing.ts';
import { emailKey } from '#core/contacts/reach.ts';
import type { Work } from '../app/app.ts';
import type { Queries } from '../db/database.ts';

/** The most changes from outside that wait for one contact: a stranger cannot fill the list. */
const mostWaiting = 12;

export interface Said {
  field: ProposableField | OutsideField;
  before: string;
  after: string;
  otherContactId?: string;
  /** Of a field of one's own. */
  fieldId?: string;
}

/** Puts up what somebody from outside said of a contact. What waits already, or was decided the same way, is not put up again. */
async function propose(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  said: readonly Said[],
  source: string,
): Promise<void> {
  for (const { otherContactId, fieldId, ...wish } of said)
    await w.tx.query(
      `insert into proposals (id, contact_id, field, before, after, other_contact_id, said, at, field_id, state)
       select $1, $2, $3, $4, $5, $6, $7, $8, $9, 'open'
       where (select count(*) from proposals where contact_id = $2 and state = 'open') < ${mostWaiting}
         and not exists (select 1 from proposals where contact_id = $2 and field = $3 and state in ('open', 'left')
           and after = $5 and other_contact_id is not distinct from $6::uuid and field_id is not distinct from $9::uuid)
       on conflict do nothing`,
      [
        w.app.ids.id(),
        contactId,
        wish.field,
        wish.before,
        wish.after,
        otherContactId ?? null,
        source,
        w.now,
        fieldId ?? null,
      ],
    );
}

/** Puts up what a form from outside says of somebody we know beyond what is on record. */
export async function proposeOf(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  person: { email?: string | null; phone?: string | null; birthDate?: string | null },
  source: string,
): Promise<void> {
  const [known] = await w.tx.query<{ birthDate: string | null; emails: string[]; phones: string[] }>(
    `select birth_date, coalesce((select array_agg(email_key) from contact_emails where contact_id = c.id), '{}') as emails,
       coalesce((select array_agg(phone) from contact_phones where contact_id = c.id), '{}') as phones
     from contacts c where id = $1`,
    [contactId],
  );
  if (!known) return;
  const said: Said[] = [];
  if (person.birthDate && person.birthDate !== known.birthDate)
    said.push({ field: 'birthDate', before: known.birthDate ?? '', after: person.birthDate });
  if (person.email && !known.emails.includes(emailKey(person.email)))
    said.push({ field: 'email', before: '', after: person.email.trim() });
  if (person.phone && !known.phones.includes(person.phone))
    said.push({ field: 'phone', before: '', after: person.phone });
  await propose(w, contactId, said, source);
}

/** Puts up what somebody answered, where it differs from what is on record. */
export const proposeAnswers = (
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  said: readonly Said[],
  source: string,
): Promise<void> => propose(w, contactId, said, source);

/** Puts up that somebody looks after a child, unless that is known. */
export async function proposeGuardian(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  guardianId: string,
  childId: string,
  source: string,
): Promise<void> {
  if (guardianId === childId) return;
  const [row] = await w.tx.query<{ known: boolean; name: string }>(
    `select exists (select 1 from relationships where kind = 'guardian' and from_contact = $1 and to_contact = $2) as known,
       trim(given_name || ' ' || family_name) as name from contacts where id = $1`,
    [guardianId, childId],
  );
  if (!row || row.known) return;
  await propose(
    w,
    childId,
    [{ field: 'guardian', before: '', after: row.name, otherContactId: guardianId }],
    source,
  );
}

/** Puts up another spelling of a name that we know somebody by. */
export const proposeName = (
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  before: { given: string; family: string },
  after: { given: string; family: string },
  source: string,
): Promise<void> =>
  propose(
    w,
    contactId,
    (['given', 'family'] as const)
      .filter((f) => before[f] !== after[f] && after[f] !== '')
      .map((field) => ({ field, before: before[field], after: after[field] })),
    source,
  );

/** Adds an email that was decided to be somebody's, after those they have. */
export async function keepEmail(tx: Queries, id: string, contactId: string, email: string): Promise<number> {
  return (
    await tx.query(
      `insert into contact_emails (id, contact_id, email, email_key, position) values ($1, $2, $3, $4, 5)
       on conflict do nothing returning id`,
      [id, contactId, email, emailKey(email)],
    )
  ).length;
}

/** The same for a telephone, E.164. */
export async function keepPhone(tx: Queries, id: string, contactId: string, phone: string): Promise<number> {
  return (
    await tx.query(
      'insert into contact_phones (id, contact_id, phone, position) values ($1, $2, $3, 5) on conflict do nothing returning id',
      [id, contactId, phone],
    )
  ).length;
}

/** The most emails, and the most telephones, that somebody keeps by their own link. */
export const mostOwn = 10;
