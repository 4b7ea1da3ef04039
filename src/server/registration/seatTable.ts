import type { AskedColumn, RegistrationRow } from '#contract/seats.ts';
import type { EventFact } from '#core/access/stages.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { inLine } from '#core/registration/waitlist.ts';
import type { NarrowedSeat } from '#core/seats/narrowing.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type Reason, sayReason } from '#core/words/reasons.ts';
import { emailOf, orderEmail, phoneOf } from '../contacts/quiet.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readOffers } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { signingAt } from '../waivers/store.ts';
import { hasCareSql } from './care.ts';
import { readWaiting } from './store.ts';

type Answered = { questionId: string; value: AnswerValue; fileId: string | null; fileName: string | null };

/** Every seat of an event, or of one order in it, with its order and what was answered; answers about health only where they are wanted. */
const readSeatRows = (tx: Queries, eventId: string, withCare: boolean, orderId: string | null = null) =>
  tx.query<
    Omit<RegistrationRow, 'waiver' | 'queuePlace' | 'answers' | 'linkReasons'> & {
      linkReasons: Reason[];
      answers: Answered[];
    }
  >(
    `select r.id, r.order_id, o.number as order_number, r.contact_id, r.given_name as given, r.family_name as family,
       coalesce(r.guest_email, ${emailOf('r.contact_id')}, case when r.contact_id = o.buyer_contact_id then ${orderEmail('o')} end) as email,
       coalesce(${phoneOf('r.contact_id')}, case when r.contact_id = o.buyer_contact_id then o.buyer_phone end) as phone,
       o.buyer_given || ' ' || o.buyer_family as buyer, ${orderEmail('o')} as buyer_email, f.name as offer, f.id as offer_id, r.state,
       a.state as attendance, a.arrived_at, o.due, o.received, o.balance, u.name as source,
       array(select x.name || coalesce((select ', ' || (p->>'name') from jsonb_array_elements(x.options) p where p->>'id' = l.option_id::text), '')
         from order_lines l join extras x on x.id = l.extra_id where l.order_id = o.id and l.kind = 'extra' order by l.position) as extras,
       array(select x.title->>'en' from session_seats t join agenda_sessions x on x.id = t.session_id
         where t.registration_id = r.id and x.removed_at is null order by x.day, x.begins) as sessions,
       ${hasCareSql('r', 'o', true)} as care, r.link_reasons, r.walk_in, r.pays_own, o.placed_at as since, o.offered_until,
       coalesce((select jsonb_agg(jsonb_build_object('questionId', q.id, 'value', x.value, 'fileId', af.id, 'fileName', af.name) order by q.position)
         from answers x join questions q on q.id = x.question_id left join answer_files af on q.kind = 'file' and af.order_id = o.id and to_jsonb(af.id::text) = x.value
         where ($2 or not q.sensitive) and x.order_id = o.id and (x.registration_id = r.id or x.registration_id is null)), '[]') as answers
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id
       left join attendance a on a.registration_id = r.id left join sources u on u.id = o.source_id
     where r.event_id = $1 and ($3::uuid is null or r.order_id = $3) order by o.placed_at, o.id, r.seat_number`,
    [eventId, withCare, orderId],
  );

/** Every seat of an event with what belongs to it, as far as somebody sees the facts of the event. */
export async function seatTable(
  tx: Queries,
  event: EventRow,
  now: string,
  facts: ReadonlySet<EventFact>,
  /** With the answers that are about health, which are otherwise only said to be there. */
  withCare = false,
): Promise<RegistrationRow[]> {
  const { ageOfMajority, zone } = await theOrganization(tx);
  const signing = await signingAt(tx, event, ageOfMajority, dateOf(now, zone));
  const waiting = inLine(await readWaiting(tx, event.id, await readOffers(tx, event.id)), event.waitRule).map(
    (p) => p.orderId,
  );
  const rows = await readSeatRows(tx, event.id, withCare);
  const answers = facts.has('answers');
  return rows.map((r) => ({
    ...r,
    // Whoever sees what was paid, and no more, has no use for how people are reached.
    email: answers ? r.email : null,
    phone: answers ? r.phone : null,
    buyerEmail: answers ? r.buyerEmail : null,
    linkReasons: facts.has('linking') ? r.linkReasons.map(sayReason) : [],
    care: facts.has('health') && r.care,
    waiver: signing.of(r).waiver,
    answers: answers ? answersShown(r.answers) : {},
    queuePlace: r.state === 'waitlisted' ? waiting.indexOf(r.orderId) + 1 : null,
  }));
}

/** Seats as messages are narrowed by them: of a whole event, or of one order. What is about health narrows nothing here. */
export async function seatsToNarrow(
  tx: Queries,
  event: EventRow,
  orderId: string | null,
): Promise<(NarrowedSeat & { id: string })[]> {
  const rows = await readSeatRows(tx, event.id, false, orderId);
  return rows.map((r) => ({ ...r, waiver: '', answers: answersShown(r.answers) }));
}

const answersShown = (answers: readonly Answered[]): RegistrationRow['answers'] =>
  Object.fromEntries(
    answers.map(({ questionId, value, fileId, fileName }) => [
      questionId,
      { value, file: fileId && fileName ? { id: fileId, name: fileName } : null },
    ]),
  );

/**
 * What is asked at an event, or was and has been answered, as columns of its table; what is about health only where that is wanted. The
 * telephone and the birth date stand with the person.
 */
export const askedColumns = async (
  tx: Queries,
  eventId: string,
  facts: ReadonlySet<EventFact>,
  withCare = false,
): Promise<AskedColumn[]> =>
  facts.has('answers')
    ? tx.query<AskedColumn>(
        `select id, prompt->>'en' as prompt, kind, scope, choices, seen_by = 'name tag' as on_name_tag from questions q
         where event_id = $1 and ($2 or not sensitive) and coalesce(keeps, '') not in ('phone', 'birthDate')
           and (removed_at is null or exists (select 1 from answers a where a.question_id = q.id))
         order by removed_at is not null, position, id`,
        [eventId, withCare],
      )
    : [];
