import { fullName, tidyName } from '#core/contacts/names.ts';
import { passCode } from '#core/doors/passCode.ts';
import { type AnswerValue, problemWith } from '#core/questions/answering.ts';
import type { Question } from '#core/questions/question.ts';
import { askedOfOrder, askedOfSeat } from '#core/questions/showing.ts';
import { answersTo, type Channel, seatProblems } from '#core/registration/checking.ts';
import { namesUntil } from '#core/registration/namesUntil.ts';
import { isCorrection } from '#core/registration/naming.ts';
import { standing } from '#core/registration/states.ts';
import { ageDecides, offerAsksAge } from '#core/waivers/asking.ts';
import { stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { refreshFound } from '../contacts/keys.ts';
import { proposeName, proposeOf } from '../contacts/proposals.ts';
import { first, update } from '../db/database.ts';
import { type EventRow, readEvent, readOffers, readQuestions } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { answeringAt } from '../staff/store.ts';
import { answersOf, replaceAnswers } from './answers.ts';
import { linkOrder } from './orderLinking.ts';
import type { OrderRow, SeatRow } from './store.ts';
import { expectAttendance, readSeats } from './store.ts';

/** What is said of whoever sits on a seat. */
export interface SeatSaid {
  given: string;
  family: string;
  birthDate: string | null;
  /** Undefined leaves what was answered; of somebody else it goes with whoever it was. */
  answers?: Record<string, AnswerValue> | undefined;
}

/**
 * Names the guest of a seat, corrects a name, changes answers. A corrected spelling is the same person: birth date, guardian,
 * signature, answers and contact stay. Another name is another person, linked anew, who is asked anew and whose link is another; not
 * once a waiver is signed for the one there was.
 */
export async function nameSeat(
  w: Work,
  order: OrderRow,
  seat: SeatRow,
  wanted: SeatSaid,
  /** Staff may after the time, and leave out what is asked. */
  by: 'whoever booked' | 'guest' | 'staff',
): Promise<void> {
  const { tx, now } = w;
  const channel: Channel = by === 'staff' ? 'staff' : 'public';
  if (!fullName(wanted)) throw invalid([{ path: 'given', code: 'name-needed' }]);
  if (!standing.includes(seat.state)) throw refused('seat-gone');
  const event = await readEvent(tx, seat.eventId);
  const until = namesUntil(event);
  if (channel === 'public' && until && until <= now)
    throw refused(event.startsAt! <= now ? 'begun' : 'names-closed');
  const before = { given: seat.givenName, family: seat.familyName, birthDate: seat.birthDate };
  const after = { ...wanted, given: tidyName(wanted.given), family: tidyName(wanted.family) };
  const same = isCorrection(before, after);
  const birthDate = wanted.birthDate ?? (same ? seat.birthDate : null);
  const answers = await checkedAnswers(w, event, order, seat, { ...after, birthDate }, same, channel);
  const signed = await first(
    tx,
    "select 1 as x from signatures where registration_id = $1 and state = 'valid'",
    [seat.id],
  );
  if (signed && (!same || birthDate !== seat.birthDate)) throw refused('name-signed');
  // Whoever sat there is not written to any more, and their link leads nowhere.
  const another = !same && fullName({ given: seat.givenName, family: seat.familyName }) !== '';
  if (another && by !== 'guest') {
    await stopLink(w, 'seat', seat.id);
    await update(tx, 'registrations', seat.id, { guestEmail: null, guestAsked: 0, guestFilledAt: null });
  }
  // The pass of whoever had it opens nothing any more.
  if (another && seat.passCode)
    await update(tx, 'registrations', seat.id, { passCode: passCode(w.app.ids.bytes(12)) });
  await update(tx, 'registrations', seat.id, {
    givenName: after.given,
    familyName: after.family,
    birthDate,
    ...(same ? {} : { contactId: null, linkReasons: [], paysOwn: false }),
  });
  if (answers) await replaceAnswers(w, order, seat.id, answers.questions, answers.kept);
  if (same && seat.contactId)
    await correct(w, seat.contactId, before, { ...after, birthDate }, event.publicTitle);
  else if (seat.state === 'confirmed' || seat.state === 'waitlisted') {
    await linkOrder(w, order);
    await expectAttendance(tx, order.id);
  }
  if (another)
    await record(w, 'seat handed on', {
      eventId: event.id,
      orderId: order.id,
      registrationId: seat.id,
      from: fullName(before),
      to: fullName(after),
      // Who hands their own seat on knows it.
      fromContactId: by === 'guest' ? null : seat.contactId,
      fromEmail: by === 'guest' ? null : seat.guestEmail,
    });
}

/** The answers of a seat as they are to be kept, or null where they stay; throws what is wrong with them. */
async function checkedAnswers(
  w: Work,
  event: EventRow,
  order: OrderRow,
  seat: SeatRow,
  wanted: SeatSaid,
  same: boolean,
  channel: Channel,
): Promise<{ questions: Question[]; kept: Record<string, AnswerValue> } | null> {
  const questions = (await readQuestions(w.tx, event.id)).map((q) => ({ ...q, prompt: q.prompt.en }));
  const given = await answersOf(w.tx, order.id);
  const seats = await readSeats(w.tx, order.id);
  const form = {
    offerIds: seats.filter((s) => standing.includes(s.state)).map((s) => s.offerId),
    answers: given.get(null) ?? {},
  };
  const before = same ? (given.get(seat.id) ?? {}) : {};
  // Staff change some of the answers, and do not see all of them: the others stay.
  const answers =
    wanted.answers && channel === 'staff' ? { ...before, ...wanted.answers } : (wanted.answers ?? before);
  const offer = (await readOffers(w.tx, event.id)).find((o) => o.id === seat.offerId);
  const problems = seatProblems(
    { ...wanted, answers },
    {
      questions,
      needsBirthDate: ageDecides(event),
      offerId: seat.offerId,
      order: form,
      ages: new Map(offer ? [[offer.id, { ...offer, asksAge: offerAsksAge(offer, event.waivers) }]] : []),
      eventDate: event.startsLocal?.slice(0, 10) ?? null,
      ...(await answeringAt(w.tx, w.now)),
      channel,
    },
  );
  // Where only a name is given, what else is asked can come later.
  const wrong = wanted.answers ? problems : problems.filter((p) => !p.path.startsWith('answers.'));
  if (wrong.length) throw invalid(wrong);
  if (!wanted.answers && same) return null;
  const shown = askedOfSeat(questions, { offerId: seat.offerId, answers }, form);
  return { questions, kept: answersTo(shown, answers) };
}

/** Changes what was answered for the booking itself. */
export async function changeOrderAnswers(
  w: Work,
  order: OrderRow,
  answers: Record<string, AnswerValue>,
): Promise<void> {
  const event = await readEvent(w.tx, order.eventId);
  const until = namesUntil(event);
  if (until && until <= w.now) throw refused(event.startsAt! <= w.now ? 'begun' : 'names-closed');
  const seats = (await readSeats(w.tx, order.id)).filter((s) => standing.includes(s.state));
  if (!seats.length) throw refused('seat-gone');
  const questions = (await readQuestions(w.tx, event.id)).map((q) => ({ ...q, prompt: q.prompt.en }));
  const at = await answeringAt(w.tx, w.now);
  const shown = askedOfOrder(questions, { offerIds: seats.map((s) => s.offerId), answers }).filter(
    // The telephone stands with the name of whoever booked.
    (q) => q.keeps !== 'phone',
  );
  const problems = shown.flatMap((q) => {
    const wrong = problemWith(q, answers[q.id], at);
    return wrong ? [{ path: `answers.${q.id}`, ...wrong }] : [];
  });
  if (problems.length) throw invalid(problems);
  await replaceAnswers(
    w,
    order,
    null,
    questions.filter((q) => q.scope === 'order'),
    answersTo(shown, answers),
  );
  await record(w, 'answers changed', { eventId: event.id, orderId: order.id });
}

/** Corrects the contact that this order alone made; what we know of somebody otherwise is put up for a decision. */
async function correct(
  w: Work,
  contactId: string,
  before: { given: string; family: string },
  after: { given: string; family: string; birthDate: string | null },
  title: string,
): Promise<void> {
  const source = `corrected on a booking for ${title}`;
  const made = await first<{ alone: boolean }>(
    w.tx,
    `select c.source like 'registered for %' and not exists (select 1 from orders where buyer_contact_id = c.id)
       and (select count(*) from registrations where contact_id = c.id) = 1
       and not exists (select 1 from assignments where contact_id = c.id)
       and not exists (select 1 from audit where subject_kind = 'contact' and subject_id = c.id) as alone
     from contacts c where c.id = $1`,
    [contactId],
  );
  if (made?.alone) {
    await update(w.tx, 'contacts', contactId, {
      givenName: after.given,
      familyName: after.family,
      ...(after.birthDate ? { birthDate: after.birthDate } : {}),
      updatedAt: w.now,
    });
    await refreshFound(w.tx, [contactId]);
    return;
  }
  await proposeName(w, contactId, before, after, source);
  await proposeOf(w, contactId, { birthDate: after.birthDate }, source);
}
