import type { QuietReason } from '#core/contacts/quiet.ts';

const said = (why: QuietReason): string => `'${why}'`;

/**
 * Why nothing is sent to a contact (QuietReason), as SQL over its row, or null. The one rule for every place that sends
 * or lists.
 */
export const whyQuiet = (c: string): string =>
  `case when ${c}.erased_at is not null then ${said('erased')} when ${c}.deceased_on is not null then ${said('died')}
    when ${c}.do_not_contact then ${said('asked')} end`;

/** What somebody said last about a topic by email, as SQL over a contact's id and an expression for the topic; or null. */
export const lastWord = (contactId: string, topic: string): string =>
  `(select granted from consents word where word.contact_id = ${contactId} and word.topic = ${topic} and word.channel = 'email'
    order by at desc, id desc limit 1)`;

/** The email somebody is written to, as SQL over a contact's id: the first that is theirs by now and did not bounce. */
export const emailOf = (contactId: string): string =>
  `(select email from contact_emails own where own.contact_id = ${contactId} and bounced_at is null and ended_on is null
    order by position, id limit 1)`;

/** Whether the email somebody had bounced, where they have no other: SQL over a contact's id. */
export const bouncedOf = (contactId: string): string =>
  `exists (select 1 from contact_emails own where own.contact_id = ${contactId} and bounced_at is not null and ended_on is null)`;

/** The number text messages go to: a mobile one, or one of which nobody said what it is. */
export const mobileOf = (contactId: string): string =>
  `(select phone from contact_phones own where own.contact_id = ${contactId} and ended_on is null and kind in ('mobile', '')
    order by kind <> 'mobile', position, id limit 1)`;

/** The telephone somebody is called at: the first that is theirs by now. */
export const phoneOf = (contactId: string): string =>
  `(select phone from contact_phones own where own.contact_id = ${contactId} and ended_on is null order by position, id limit 1)`;

/**
 * The address that somebody gave along with something, unless by now it bounced or is no longer theirs; then the one they are
 * written to. SQL over their contact's id and the address.
 */
export const givenEmail = (contactId: string, email: string): string =>
  `case when exists (select 1 from contact_emails gone where gone.contact_id = ${contactId}
      and gone.email_key = lower(trim(${email})) and (gone.bounced_at is not null or gone.ended_on is not null))
    then ${emailOf(contactId)} else ${email} end`;

/** The address an order was placed with, by that rule. */
export const orderEmail = (o: string): string => givenEmail(`${o}.buyer_contact_id`, `${o}.buyer_email`);
