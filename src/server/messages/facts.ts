import type { EventPlan } from '#contract/plan.ts';
import type { Consequences } from '#core/events/consequences.ts';
import { lives } from '#core/events/states.ts';
import type { Audience } from '#core/messages/audiences.ts';
import type { Reactions, Work } from '../app/app.ts';
import { readOnShift, readShift } from '../crew/store.ts';
import { readEvent } from '../events/store.ts';
import { tellAnswer } from './board.ts';
import { remindDeciders, tellDeciders, tellNamed, tellOfLate, tellSender } from './clearance.ts';
import { keepQuestion } from './incoming.ts';
import { replan } from './planning.ts';
import { eventsPlanned, hasLinesFor, isAskedFor, isNarrowed, orderOfSeat } from './store.ts';
import {
  tellApplicant,
  tellBuyer,
  tellCode,
  tellDispute,
  tellEventProposer,
  tellGivenUp,
  tellGuest,
  tellHandedOn,
  tellOfDeposit,
  tellOfShift,
  tellOrganizer,
  tellOwnLink,
  tellProposer,
  tellSigned,
  tellTeam,
  tellTicket,
  tellToSign,
} from './telling.ts';
import { replanYear } from './yearRound.ts';

/** Parts of a plan that decide what is sent to whom and when. */
const deciding: readonly (keyof EventPlan)[] = [
  'startsLocal',
  'endsLocal',
  'doorsLocal',
  'balanceDays',
  'namesDays',
  'zone',
  'messages',
  'waivers',
  // Whoever follows hears of nothing that is not shown to them.
  'visibility',
  'offers',
  // Who may come from when.
  'admission',
  'sessions',
];

/** Plans the messages of an event anew; while a change is made, once at its end. */
async function replanSoon(
  w: Work,
  eventId: string,
  orderId: string | null = null,
): Promise<Partial<Consequences>> {
  if (!w.change) return replan(w, eventId, orderId);
  w.change.replan = true;
  return {};
}

/** Audiences of people who hold no seat. */
const withoutSeat: readonly Audience[] = ['waiting', 'accepted', 'offered', 'given up'];

const replanOrder = (w: Work, { eventId, orderId }: { eventId: string; orderId: string }) =>
  replanSoon(w, eventId, orderId);

/** What was signed for a seat, or is no longer: its booking is asked for less, or for more. */
const replanSigned = async (
  w: Work,
  { eventId, orderId }: { eventId: string | null; orderId: string | null },
) => (eventId && orderId ? replanOrder(w, { eventId, orderId }) : undefined);

/** Where something of an order is still asked for. */
async function replanAsking(w: Work, of: { eventId: string; orderId: string }) {
  return (await isAskedFor(w.tx, of.eventId, of.orderId)) ? replanOrder(w, of) : undefined;
}

/** Where it is by their seats that some get a line: what changed of an order may be what it goes by. */
async function replanNarrowed(w: Work, of: { eventId: string; orderId: string }) {
  return (await isNarrowed(w.tx, of.eventId)) ? replanOrder(w, of) : undefined;
}
async function replanSeat(w: Work, of: { eventId: string; registrationId: string }) {
  if (!(await isNarrowed(w.tx, of.eventId))) return undefined;
  const orderId = await orderOfSeat(w.tx, of.registrationId);
  return orderId ? replanOrder(w, { eventId: of.eventId, orderId }) : undefined;
}

/** Sessions are what some lines go by, and what others are about. */
async function replanChosen(w: Work, of: { eventId: string; registrationId: string }) {
  if (!(await hasLinesFor(w.tx, of.eventId, ['sessions']))) return replanSeat(w, of);
  const orderId = await orderOfSeat(w.tx, of.registrationId);
  return orderId ? replanOrder(w, { eventId: of.eventId, orderId }) : undefined;
}

/** Where the plan has something for parties that hold no seat yet, or no longer. */
async function replanParty(w: Work, of: { eventId: string; orderId: string }) {
  return (await hasLinesFor(w.tx, of.eventId, withoutSeat)) ? replanOrder(w, of) : undefined;
}

export const messagesReactions: Reactions = {
  'steps handed over': (w, { eventId, stepIds }) => tellDeciders(w, eventId, stepIds),
  'step reminded of': (w, { eventId, stepId, escalated }) => remindDeciders(w, eventId, stepId, escalated),
  'plan sent late': (w, { eventId, days, reason }) => tellOfLate(w, eventId, days, reason),
  'clearance written about': (w, { eventId, words, mentions }) => tellNamed(w, eventId, words, mentions),
  async 'step decided'(w, { eventId, step, decision, words }) {
    if (decision === 'send back' || decision === 'refuse') await tellSender(w, eventId, step, words);
  },
  async 'plan saved'(w, { eventId, fields }) {
    if (fields.some((f) => deciding.includes(f))) return replanSoon(w, eventId);
  },
  'event moved on': (w, { eventId }) => replanSoon(w, eventId),
  'absences found': (w, { eventId }) => replanSoon(w, eventId),
  'line sent by hand': (w, { eventId }) => replan(w, eventId),
  async 'board answered'(w, { questionId, answered }) {
    if (answered) await tellAnswer(w, questionId);
  },
  'recipients changed': (w, { eventId }) => replanSoon(w, eventId),
  async 'quiet hours changed'(w) {
    for (const eventId of await eventsPlanned(w.tx)) await replan(w, eventId);
    await replanYear(w, null);
  },
  async 'order placed'(w, { eventId, orderId, state }) {
    if (state === 'waitlisted') await tellBuyer(w, orderId, 'waitlisted', 'joined the waitlist');
    if (state === 'asked') await tellBuyer(w, orderId, 'asked', 'asked for seats');
    if (state === 'waitlisted') return replanParty(w, { eventId, orderId });
  },
  async 'request decided'(w, { eventId, orderId, decision, until, words }) {
    // Where nothing has to be paid, the confirmation of the event's own plan says it.
    if (decision === 'held') await tellBuyer(w, orderId, 'accepted', 'was accepted', until ?? undefined);
    if (decision === 'waitlisted')
      await tellBuyer(w, orderId, 'waitlisted', 'accepted, and there is no room yet');
    if (decision === 'declined')
      await tellBuyer(w, orderId, 'not accepted', 'was declined', undefined, words);
    if (decision === 'asked')
      await tellBuyer(w, orderId, 'asked back', 'was asked something', undefined, words);
    return replanParty(w, { eventId, orderId });
  },
  invited: (w, { invitationId, name, email, by }) =>
    tellTeam(w, 'invitation', invitationId, { name, email }, `invited by ${by}`),
  'new password asked': (w, { resetId, name, email }) =>
    tellTeam(w, 'reset', resetId, { name, email }, 'asked for a new password'),
  async 'organizer asked'(w, { eventId, ...asked }) {
    await keepQuestion(w, eventId, asked);
    await tellOrganizer(w, eventId, asked);
  },
  'session proposal decided': (w, { proposalId }) => tellProposer(w, proposalId),
  'event proposal decided': (w, { eventId }) => tellEventProposer(w, eventId),
  'code asked': (w, { codeId, email, language }) => tellCode(w, codeId, email, language),
  'own link asked': (w, { contactId, by }) => tellOwnLink(w, contactId, `asked for by ${by}`),
  'order confirmed': replanOrder,
  async 'seats withdrawn'(w, { eventId, orderId, seats, kept, tell }) {
    if (tell) await tellGivenUp(w, orderId, seats, kept);
    return replanSoon(w, eventId, orderId);
  },
  async 'offer changed'(w, { eventId, orderId, to, kept }) {
    await tellTicket(w, orderId, to, kept);
    return replanSoon(w, eventId, orderId);
  },
  'order moved': (w, { toOrderId }) => tellBuyer(w, toOrderId, 'moved', 'comes on another date'),
  'seat handed on': (w, about) => tellHandedOn(w, about),
  'seats put back': replanOrder,
  'change made': async (w, { eventId }) => (w.change?.replan ? replan(w, eventId) : undefined),
  'change taken back': (w, { eventId }) => replan(w, eventId),
  'guest named': replanOrder,
  'answers changed': replanNarrowed,
  'attendance marked': replanSeat,
  'sessions chosen': replanChosen,
  'guest asked': (w, { registrationId, email }) => tellGuest(w, registrationId, email),
  'waiver signed': replanSigned,
  'signature revoked': replanSigned,
  'signature asked': (w, about) => tellToSign(w, about),
  'copy asked': (w, about) => tellSigned(w, about),
  'dispute answered': (w, about) => tellDispute(w, about),
  // What is paid is not asked for; what is owed again is.
  'money received': replanAsking,
  'money let off': replanAsking,
  'refund failed': replanOrder,
  'payment taken back': replanOrder,
  async 'seats offered'(w, { eventId, orderId, until, reason }) {
    await tellBuyer(w, orderId, 'offered', `a seat came free: ${reason}`, until);
    return replanParty(w, { eventId, orderId });
  },
  async 'seats lapsed'(w, { eventId, orderId, reason, offered }) {
    // Of an event that is called off, people are told that, and not that seats went on.
    if (offered && lives((await readEvent(w.tx, eventId)).state))
      await tellBuyer(w, orderId, 'lapsed', reason);
    return replanParty(w, { eventId, orderId });
  },
  'late payment returned': (w, { orderId }) =>
    tellBuyer(w, orderId, 'returned', 'the payment came after the seats were let go'),
  async 'shift taken'(w, { eventId, shiftId, assignmentId, contactId, signedUp, insteadOf, oneOfSeveral }) {
    const reason = signedUp ? 'signed up for a shift' : 'put on a shift';
    if (insteadOf)
      await tellOfShift(w, shiftId, contactId, 'shift changed', `crew:${assignmentId}`, reason, {
        before: await readShift(w.tx, insteadOf),
      });
    else await tellOfShift(w, shiftId, contactId, 'crew', `crew:${assignmentId}`, reason);
    if (!oneOfSeveral) await replan(w, eventId);
  },
  'roster accepted': (w, { eventId }) => replan(w, eventId),
  'people swapped': (w, { eventId }) => replan(w, eventId),
  'waits for shift': (w, { shiftId, contactId }) =>
    tellOfShift(
      w,
      shiftId,
      contactId,
      'shift waits',
      `shift waits:${shiftId}:${contactId}:${w.now}`,
      'waits for a shift',
    ),
  'step-in asked': (w, { shiftId, askId, contactId, at, until }) =>
    tellOfShift(w, shiftId, contactId, 'step in', `step in:${askId}`, 'is asked to step in', { at, until }),
  async 'step-in answered'(w, { shiftId, askId, contactId, to }) {
    if (to === 'not needed')
      await tellOfShift(
        w,
        shiftId,
        contactId,
        'step in not needed',
        `step in not needed:${askId}`,
        'was asked to step in',
      );
  },
  async 'swap wished'(w, { shiftId, assignmentId, contactId, wants }) {
    // Whoever would have to come along hears of it once, however often it is wished for anew.
    for (const wanted of wants)
      for (const one of await readOnShift(w.tx, wanted))
        if (one.state === 'agreed' && one.contactId !== contactId)
          await tellOfShift(
            w,
            shiftId,
            one.contactId,
            'swap wished',
            `swap wished:${assignmentId}:${one.id}`,
            'somebody would swap shifts',
            { before: await readShift(w.tx, wanted) },
          );
  },
  'swap declined': (w, { shiftId, assignmentId, contactId, words }) =>
    tellOfShift(
      w,
      shiftId,
      contactId,
      'swap declined',
      `swap declined:${assignmentId}:${w.now}`,
      'the crew lead declined',
      { words },
    ),
  async 'shift changed'(w, { eventId, shiftId, before, tell }) {
    if (tell)
      for (const { id, contactId } of await readOnShift(w.tx, shiftId))
        await tellOfShift(
          w,
          shiftId,
          contactId,
          'shift changed',
          `shift changed:${id}:${w.now}`,
          'the shift changed',
          { before },
        );
    await replanSoon(w, eventId);
  },
  // However often somebody applies in their name, they hear of it once a day.
  'application came': (w, { applicationId, again }) =>
    tellApplicant(
      w,
      applicationId,
      'application came',
      'offered to help',
      '',
      again ? `again ${w.now.slice(0, 10)}` : undefined,
    ),
  'application asked': (w, { applicationId, words }) =>
    tellApplicant(w, applicationId, 'application asked', 'is asked something', words),
  'application invited': (w, { applicationId }) =>
    tellApplicant(w, applicationId, 'application invited', 'helped before'),
  async 'application decided'(w, { applicationId, to, words, tell }) {
    if (tell && to !== 'resting')
      await tellApplicant(w, applicationId, `application ${to}`, 'offered to help', words);
  },
  async 'deposit asked for'(w, { applicationId }) {
    if (applicationId) await tellOfDeposit(w, applicationId, null);
  },
  async 'deposit settled'(w, { applicationId, amount, kept, tell }) {
    if (tell && applicationId) await tellOfDeposit(w, applicationId, { amount, kept });
  },
  async 'shift asked for'(w, { shiftId, assignmentId, contactId }) {
    await tellOfShift(
      w,
      shiftId,
      contactId,
      'shift asked',
      `shift asked:${assignmentId}`,
      'asked for a shift',
    );
  },
  async 'shift declined'(w, { shiftId, assignmentId, contactId }) {
    await tellOfShift(
      w,
      shiftId,
      contactId,
      'shift declined',
      `shift declined:${assignmentId}`,
      'the crew lead declined',
    );
  },
  async 'shift asked for in vain'(w, { shiftId, contactId, assignmentId }) {
    const day = w.now.slice(0, 10);
    if (assignmentId)
      await tellOfShift(
        w,
        shiftId,
        contactId,
        'crew',
        `crew again:${assignmentId}:${day}`,
        'asked for the shift again',
      );
    else
      await tellOfShift(
        w,
        shiftId,
        contactId,
        'overlap',
        `overlap:${shiftId}:${contactId}:${day}`,
        'asked for a shift at the time of another',
      );
  },
  async 'shift given back'(w, { eventId }) {
    await replan(w, eventId);
  },
  async 'shift marked'(w, { eventId, state }) {
    if (state === 'dropped') return replanSoon(w, eventId);
  },
};
