import { onShift } from '#core/crew/states.ts';
import { standing } from '#core/registration/states.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';
import type { EventRow } from '../events/store.ts';

export interface CodeRow {
  id: string;
  emailKey: string;
  tries: number;
}

/** How many codes were asked for at an address since an instant. */
export const countCodes = async (tx: Queries, emailKey: string, since: string): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    'select count(*)::int as n from visitor_codes where email_key = $1 and created_at > $2',
    [emailKey, since],
  ))!.n;

export const keepCode = (
  tx: Queries,
  row: {
    id: string;
    emailKey: string;
    ticketHash: string;
    linkHash: string;
    createdAt: string;
    expiresAt: string;
  },
): Promise<unknown> => insert(tx, 'visitor_codes', row);

/** The code that a browser asked for, held until the transaction is over; null where it works no more. */
export const codeByTicket = (tx: Queries, ticketHash: string, now: string): Promise<CodeRow | null> =>
  first<CodeRow>(
    tx,
    'select id, email_key, tries from visitor_codes where ticket_hash = $1 and used_at is null and expires_at > $2 for update',
    [ticketHash, now],
  );

/** The same by the link of its message. */
export const codeByLink = (tx: Queries, linkHash: string, now: string): Promise<CodeRow | null> =>
  first<CodeRow>(
    tx,
    'select id, email_key, tries from visitor_codes where link_hash = $1 and used_at is null and expires_at > $2 for update',
    [linkHash, now],
  );

/** Forgets codes that ended before an instant: who asked for one is nobody's business. */
export const forgetCodes = (tx: Queries, before: string): Promise<unknown> =>
  tx.query('delete from visitor_codes where expires_at < $1', [before]);

export const countTry = (tx: Queries, id: string): Promise<unknown> =>
  tx.query('update visitor_codes set tries = tries + 1 where id = $1', [id]);

/** A code that was used, and every other of its address, works no more. */
export const spendCode = (tx: Queries, id: string, now: string): Promise<unknown> =>
  tx.query(
    `update visitor_codes set used_at = $2 where used_at is null
       and email_key = (select email_key from visitor_codes where id = $1)`,
    [id, now],
  );

/** People on record with an address that is still theirs. */
export const peopleAt = (
  tx: Queries,
  emailKey: string,
): Promise<{ id: string; givenName: string; familyName: string }[]> =>
  tx.query<{ id: string; givenName: string; familyName: string }>(
    `select c.id, c.given_name, c.family_name from contacts c where c.merged_into is null and c.erased_at is null and c.kind = 'person'
       and exists (select 1 from contact_emails e where e.contact_id = c.id and e.email_key = $1 and e.ended_on is null)
     order by c.birth_date nulls last, c.created_at, c.id`,
    [emailKey],
  );

const event = `e.id as event_id, e.slug, e.public_title, e.french, e.state, e.starts_local, e.ends_local, e.starts_at, e.ends_at, e.all_day,
  e.show_end, e.zone, v.name as place, (e.starts_at is null or ${endSql('e')} > $2) and e.state not in ('called off', 'wrapped') as coming`;
const place = 'left join venues v on v.id = e.venue_id';

/** What a seat or a shift says of its event. */
export interface OfEvent {
  eventId: string;
  slug: string | null;
  publicTitle: string;
  french: { publicTitle: string };
  state: string;
  startsLocal: string | null;
  endsLocal: string | null;
  startsAt: string | null;
  endsAt: string | null;
  allDay: boolean;
  showEnd: boolean;
  zone: string;
  place: string | null;
  coming: boolean;
}

/** Seats that somebody has, booked, or whose guardian they are; the newest event first. */
export const seatsOf = (tx: Queries, contactId: string, now: string) =>
  tx.query<
    OfEvent & {
      registrationId: string;
      /** They sit there themselves. */
      theirs: boolean | null;
      orderId: string;
      own: boolean;
      given: string;
      family: string;
      offer: string;
      offerFrench: { name: string };
      registration: string;
      attendance: string | null;
    }
  >(
    `select ${event}, r.id as registration_id, r.contact_id = $1 as theirs, o.id as order_id, o.buyer_contact_id = $1 as own, r.given_name as given, r.family_name as family, f.name as offer,
       f.french as offer_french, r.state as registration, a.state as attendance
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id join events e on e.id = r.event_id ${place}
       left join attendance a on a.registration_id = r.id
     where r.state in ${among(standing)} and e.state not in ('draft', 'shelved') and (r.contact_id = $1 or o.buyer_contact_id = $1
       or r.contact_id in (select to_contact from relationships where kind = 'guardian' and from_contact = $1))
     order by e.starts_at desc nulls first, o.placed_at, o.id, r.seat_number limit 400`,
    [contactId, now],
  );

/** Shifts that somebody is on. */
export const shiftsOf = (tx: Queries, contactId: string, now: string) =>
  tx.query<OfEvent & { role: string; from: string; to: string }>(
    `select ${event}, s.role, s.starts_local as "from", s.ends_local as "to"
     from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id ${place}
     where a.contact_id = $1 and s.removed_at is null and a.state in ${among(onShift)}
       and e.state not in ('draft', 'shelved') order by s.starts_at desc limit 200`,
    [contactId, now],
  );

/** Surveys that somebody was asked and has not answered, of events that are over. */
export const surveysOf = (tx: Queries, contactId: string, now: string) =>
  tx.query<{ askId: string; publicTitle: string }>(
    `select k.id as ask_id, e.public_title from survey_asks k join surveys s on s.id = k.survey_id join events e on e.id = s.event_id
     where k.contact_id = $1 and not k.answered and s.removed_at is null and e.state not in ('draft', 'shelved', 'called off')
       and (e.starts_at is null or (coalesce(e.ends_at, e.starts_at) at time zone e.zone + make_interval(days => s.closes_days)) at time zone e.zone > $2)
       and exists (select 1 from links l where l.kind = 'survey' and l.subject_id = k.id and l.revoked_at is null)
     order by e.starts_at desc limit 20`,
    [contactId, now],
  );

/** Events somebody has a seat or a shift at where people count, within a year. */
export const countedOf = (tx: Queries, contactId: string, now: string) =>
  tx.query<Pick<EventRow, 'id' | 'publicTitle' | 'startsAt' | 'endsAt' | 'zone' | 'outcomes'>>(
    `select e.id, e.public_title, e.starts_at, e.ends_at, e.zone, e.outcomes from links l join events e on e.id = l.subject_id
     where l.kind = 'count' and l.revoked_at is null and e.state not in ('draft', 'shelved', 'called off')
       and e.starts_at between $2::timestamptz - interval '1 year' and $2::timestamptz + interval '1 year'
       and (exists (select 1 from registrations r where r.event_id = e.id and r.contact_id = $1 and r.state = 'confirmed')
         or exists (select 1 from assignments a join shifts s on s.id = a.shift_id where s.event_id = e.id and a.contact_id = $1 and a.state in ${among(onShift)}))
     order by e.starts_at desc limit 20`,
    [contactId, now],
  );

/** What somebody gave, the newest first. */
export const giftsOf = (tx: Queries, contactId: string, zone: string) =>
  tx.query<{
    on: string;
    amount: number;
    currency: string;
    fund: string;
    event: string | null;
    anonymous: boolean;
  }>(
    `select to_char(d.at at time zone $2, 'YYYY-MM-DD') as "on", d.amount, d.currency, f.name as fund, e.public_title as event, d.anonymous
     from donations d join funds f on f.id = d.fund_id left join events e on e.id = d.event_id
     where d.contact_id = $1 order by d.at desc, d.id limit 200`,
    [contactId, zone],
  );
