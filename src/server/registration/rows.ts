import type { RegistrationRow } from '#contract/registration.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { inLine } from '#core/registration/waitlist.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type Reason, sayReason } from '#core/words/reasons.ts';
import type { Queries } from '../db/database.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { waiverStandings } from '../waivers/store.ts';
import { hasCareSql } from './care.ts';
import { readWaiting } from './store.ts';

/** Every seat of an event with its order and what was answered; answers about health only where they are wanted. */
const readSeatRows = (tx: Queries, eventId: string, withCare: boolean) =>
  tx.query<
    Omit<RegistrationRow, 'waiver' | 'queuePlace' | 'answers' | 'linkReasons'> & {
      linkReasons: Reason[];
      answers: { question: string; value: never; fileId: string | null; fileName: string | null }[];
    }
  >(
    `select r.id, r.order_id, o.number as order_number, r.contact_id, r.given_name as given, r.family_name as family,
       o.buyer_given || ' ' || o.buyer_family as buyer, f.name as offer, r.state, a.state as attendance, o.due,
       o.received, o.balance,
       ${hasCareSql('r', 'o', true)} as care, r.link_reasons, r.walk_in, o.placed_at as since, o.offered_until,
       coalesce((select jsonb_agg(jsonb_build_object('question', q.prompt->>'en', 'value', x.value, 'fileId', af.id, 'fileName', af.name) order by q.position)
         from answers x join questions q on q.id = x.question_id left join answer_files af on q.kind = 'file' and af.order_id = o.id and to_jsonb(af.id::text) = x.value
         where ($2 or not q.sensitive) and x.order_id = o.id and (x.registration_id = r.id or (x.registration_id is null and r.seat_number = 1))), '[]') as answers
     from registrations r join orders o on o.id = r.order_id join offers f on f.id = r.offer_id
       left join attendance a on a.registration_id = r.id
     where r.event_id = $1 order by o.placed_at, o.id, r.seat_number`,
    [eventId, withCare],
  );

/** The sessions that seats of an event have, in the order they happen, by seat. */
export async function sessionsOfSeats(tx: Queries, eventId: string): Promise<ReadonlyMap<string, string[]>> {
  const rows = await tx.query<{ id: string; titles: string[] }>(
    `select t.registration_id as id, array_agg(x.title->>'en' order by x.day, x.begins) as titles
     from session_seats t join agenda_sessions x on x.id = t.session_id
     where x.event_id = $1 and x.removed_at is null group by t.registration_id`,
    [eventId],
  );
  return new Map(rows.map((row) => [row.id, row.titles]));
}

/** Every seat of an event with what belongs to it. */
export async function registrationRows(
  tx: Queries,
  eventId: string,
  now: string,
  /** With the answers that are about health, which are otherwise only said to be there. */
  withCare = false,
): Promise<RegistrationRow[]> {
  const event = await readEvent(tx, eventId);
  const { ageOfMajority, zone } = await theOrganization(tx);
  const needs = await waiverStandings(tx, event, ageOfMajority, dateOf(now, zone));
  const waiting = inLine(await readWaiting(tx, eventId, await readOffers(tx, eventId)), event.waitRule).map(
    (p) => p.orderId,
  );
  const rows = await readSeatRows(tx, eventId, withCare);
  return rows.map((r) => ({
    ...r,
    linkReasons: r.linkReasons.map(sayReason),
    waiver: r.state === 'confirmed' ? (needs.get(r.id) ?? 'not asked') : 'not asked',
    answers: r.answers.map((a) => ({
      question: a.question,
      value: sayAnswer(a.value, a.fileName),
      fileId: a.fileId,
    })),
    queuePlace: r.state === 'waitlisted' ? waiting.indexOf(r.orderId) + 1 : null,
  }));
}
