import type { QuietReason } from '#core/contacts/quiet.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import { type MailingPlan, planMailing } from '#core/messages/mailing.ts';
import { merge, problemsAmong, wrongIn } from '#core/messages/merge.ts';
import type { Reason } from '#core/words/reasons.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { emailOf, orderEmail, whyQuiet } from '../contacts/quiet.ts';
import type { Queries } from '../db/database.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import type { EventRow } from '../events/store.ts';
import { type FieldProblem, invalid, refused } from '../http/problem.ts';
import { saidLeftOut } from '../messages/mailed.ts';
import { type Outgoing, putOut } from '../messages/outbox.ts';
import { theOrganization } from '../staff/store.ts';

interface Letter {
  seatIds: string[];
  subject: string;
  body: string;
}

interface SeatRecipient {
  contactId: string | null;
  name: string;
  given: string;
  email: string | null;
  quiet: QuietReason | null;
  said: null;
  language: 'en' | 'fr';
  orderId: string;
  seatId: string;
  /** Whether the seat is theirs as a guest of whoever booked: they have a link of their own. */
  guest: boolean;
}

/** Who is written to about some seats: the guest who fills it in, whoever sits there where we know how to reach them, else whoever booked. */
const readRecipients = (tx: Queries, eventId: string, seatIds: readonly string[]): Promise<SeatRecipient[]> =>
  tx.query<SeatRecipient>(
    `select case when own.email is null then o.buyer_contact_id else r.contact_id end as contact_id,
       trim(case when own.email is null then o.buyer_given || ' ' || o.buyer_family else r.given_name || ' ' || r.family_name end) as name,
       case when own.email is null then o.buyer_given else r.given_name end as given, coalesce(own.email, ${orderEmail('o')}) as email,
       (select ${whyQuiet('c')} from contacts c where c.id = case when own.email is null then o.buyer_contact_id else r.contact_id end) as quiet,
       null as said, o.language, o.id as order_id, r.id as seat_id, r.guest_email is not null as guest
     from registrations r join orders o on o.id = r.order_id
       cross join lateral (select coalesce(r.guest_email, ${emailOf('r.contact_id')}) as email) own
     where r.event_id = $1 and r.id = any($2) order by o.placed_at, o.id, r.seat_number`,
    [eventId, seatIds],
  );

type Plan = MailingPlan<SeatRecipient>;

async function planOf(tx: Queries, event: EventRow, letter: Letter): Promise<Plan> {
  const problems: FieldProblem[] = [];
  for (const path of ['subject', 'body'] as const)
    problems.push(...wrongIn(path, problemsAmong(letter[path], fieldsToSeats)));
  if (problems.length) throw invalid(problems);
  const recipients = await readRecipients(tx, event.id, letter.seatIds);
  if (recipients.length !== new Set(letter.seatIds).size)
    throw invalid([{ path: 'seatIds', code: 'seats-of-another' }]);
  // What concerns their seat is no advertisement: only who wants to hear nothing at all is left out.
  return planMailing('notice', recipients);
}

/** What a letter can say to those on some seats. */
const fieldsToSeats = ['name', 'organization', 'event', 'when', 'place', 'manage_link'] as const;

const textFor = (letter: Letter, event: EventRow, to: SeatRecipient, organization: string) => {
  const values = {
    name: to.given,
    organization,
    event: event.publicTitle,
    when: sayWhen(event, to.language),
    place: sayPlace(event, to.language),
    // A guest reads nothing of the booking of whoever invited them.
    manage_link: to.guest ? linkMark('seat', to.seatId) : linkMark('manage', to.orderId),
  };
  return { subject: merge(letter.subject, values), body: merge(letter.body, values) };
};

/** Who would get a letter, who would not and why, and how the first of them reads it. */
export async function previewLetter(tx: Queries, event: EventRow, letter: Letter) {
  const { planned, leftOut } = await planOf(tx, event, letter);
  const { name: organization } = await theOrganization(tx);
  const [to] = planned;
  const text = to && textFor(letter, event, to, organization);
  return {
    planned: planned.length,
    leftOut: saidLeftOut(leftOut),
    sample:
      to && text ? { name: to.name, subject: hideLinks(text.subject), body: hideLinks(text.body) } : null,
  };
}

/** Writes to those on some seats; who gets no copy is written down with why. */
export async function sendLetter(
  w: Work & { staff: SignedIn },
  event: EventRow,
  letter: Letter & { expect: number },
): Promise<{ planned: number; leftOut: number }> {
  const { tx, app, now } = w;
  const problems: FieldProblem[] = [];
  if (!letter.subject) problems.push({ path: 'subject', code: 'subject-needed' });
  if (!letter.body) problems.push({ path: 'body', code: 'nothing-written' });
  if (problems.length) throw invalid(problems);
  const { planned, leftOut } = await planOf(tx, event, letter);
  if (planned.length !== letter.expect)
    throw refused('mailing-changed', { count: planned.length, expected: letter.expect });
  if (!planned.length) throw refused('mailing-nobody');
  const { name: organization } = await theOrganization(tx);
  const letterId = app.ids.id();
  const put = (to: SeatRecipient, whyNot: Reason | null): Outgoing => ({
    eventId: event.id,
    recipientKey: `letter:${letterId}:${to.seatId}`,
    kind: 'letter',
    contactId: to.contactId,
    name: to.name,
    address: to.email,
    language: to.language,
    reason: `written by ${w.staff.name}`,
    at: now,
    whyNot,
    ...(whyNot ? { subject: letter.subject } : textFor(letter, event, to, organization)),
  });
  await putOut(w, [
    ...planned.map((to) => put(to, null)),
    ...leftOut.map(({ recipient, why }) => put(recipient, why)),
  ]);
  await record(w, 'letter written', {
    eventId: event.id,
    subject: letter.subject,
    planned: planned.length,
  });
  return { planned: planned.length, leftOut: leftOut.length };
}
