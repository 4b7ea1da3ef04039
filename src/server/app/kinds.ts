import type { EventPlan } from '#contract/plan.ts';
import type { EventState } from '#core/events/states.ts';
import { type CrewFacts, crewTellings } from './crewKinds.ts';
import { type MessageFacts, messageTellings } from './messageKinds.ts';
import { type MoneyFacts, moneyTellings } from './moneyKinds.ts';
import { type Changed, changed, event, nobody, ofEvent, order, type Telling } from './telling.ts';

/** What a plan said before and says now. */
export interface PlanChange {
  eventId: string;
  fields: readonly (keyof EventPlan)[];
  before: EventPlan;
  after: EventPlan;
  /** It came from the series the event is a date of, and not from a hand. */
  carried: boolean;
}

/**
 * What can happen to an event and to whoever has to do with it, each with what it concerns. A command records the fact;
 * what follows from it is declared by each word in its own facts.ts.
 */
export interface Facts extends MoneyFacts, MessageFacts, CrewFacts {
  'event begun': { eventId: string; from: string | null };
  'event deleted': {
    eventId: string;
    title: string;
    /** Where it was a date of a series. */
    ofSeries: { seriesId: string; slot: string } | null;
  };
  /** A series was begun, changed, or made dates by itself. */
  'series changed': Changed & { seriesId: string };
  /** A date of a series was made ahead, with all that it begins with. */
  'date made': { eventId: string; seriesId: string };
  'preview link made': { eventId: string };
  'preview link stopped': { eventId: string };
  'picture kept': { pictureId: string };
  'picture described': { pictureId: string };
  /** `unitId`: null for the organization; `pictureId`: null where it has none any more. */
  'logo given': { unitId: string | null; name: string; pictureId: string | null };
  'file kept': { fileId: string; name: string };
  'organizer asked': { eventId: string; name: string; email: string; words: string };
  'plan saved': PlanChange;
  /** Something that weighs was changed, or the event called off: who is told, and who is not. */
  'change made': {
    eventId: string;
    told: readonly { to: string; count: number }[];
    untold: readonly string[];
  };
  /** A change was taken back, with all that followed. `orders`: those whose seats or money it had touched. */
  'change taken back': { eventId: string; orders: readonly string[] };
  /** A request for seats was decided, or something was asked back. `until`: how long seats are held for paying. */
  'request decided': {
    eventId: string;
    orderId: string;
    decision: 'confirmed' | 'held' | 'waitlisted' | 'declined' | 'asked';
    until: string | null;
    words: string;
  };
  'question answered': { eventId: string; orderId: string };
  /** Several events were changed as one. `told`: whether anybody is written to. */
  'changed together': { eventId: string; events: number; told: boolean };
  'letters let go': { eventId: string; letters: number };
  'event moved on': { eventId: string; from: EventState; to: EventState; words: string };
  'plan sent': { eventId: string; steps: readonly string[] };
  'step decided': { eventId: string; step: string; decision: string; words: string };
  /** Something was answered, met or let be in a clearance. */
  'clearance spoken of': Changed & { eventId: string };
  /** Something was written there, to some by name. */
  'clearance written about': { eventId: string; words: string; mentions: readonly string[] };
  /** Steps reached those who decide them. */
  'steps handed over': { eventId: string; stepIds: readonly string[] };
  /** Who has a step was reminded of it; `escalated`: coordinators too. */
  'step reminded of': { eventId: string; stepId: string; step: string; escalated: boolean };
  /** A plan was sent late, and waits for a coordinator. */
  'plan sent late': { eventId: string; days: number; reason: string };
  'absences found': { eventId: string };
  /** Somebody from outside proposed an event. */
  'event proposed': { eventId: string; contactId: string };
  'event proposal decided': { eventId: string; taken: boolean };
  'order placed': { eventId: string; orderId: string; channel: string; state: string; seats: number };
  'order confirmed': { eventId: string; orderId: string };
  'seats offered': { eventId: string; orderId: string; until: string; reason: string };
  'offer taken': { eventId: string; orderId: string };
  /** `offered`: they had been offered to somebody who waited, and were not only held while paying. */
  'seats lapsed': { eventId: string; orderId: string; reason: string; offered: boolean };
  /** `kept`: what of what was paid does not go back. */
  'offer changed': {
    eventId: string;
    orderId: string;
    seats: number;
    from: string;
    to: string;
    kept: number;
  };
  /** Somebody else sits on a seat from now on. */
  'seat handed on': {
    eventId: string;
    orderId: string;
    registrationId: string;
    /** Who had it, and who has it now, by name. */
    from: string;
    to: string;
    /** How whoever had it is reached. */
    fromContactId: string | null;
    fromEmail: string | null;
  };
  /** A booking went to another date: the new one stands there, under its own number. */
  'order moved': { eventId: string; orderId: string; toEventId: string; toOrderId: string };
  'seats withdrawn': {
    eventId: string;
    orderId: string;
    seats: number;
    reason: string;
    kept: number;
    /** Whether whoever booked is told of it by this alone. */
    tell: boolean;
  };
  'letter written': { eventId: string; subject: string; planned: number };
  'invitation answered': { eventId: string; contactId: string; answer: string };
  'source changed': { eventId: string; name: string; stopped: boolean };
  /** Confirmed seats went back to the waitlist. */
  'seats put back': { eventId: string; orderId: string; seats: number };
  'guest named': { eventId: string; orderId: string; registrationId: string };
  /** Whoever sits on a seat was written to, to fill it in themselves. */
  'guest asked': { eventId: string; orderId: string; registrationId: string; email: string };
  'answers changed': { eventId: string; orderId: string };
  /** Sensitive answers were deleted some days after the event. */
  'answers forgotten': { eventId: string; answers: number };
  'question set kept': { setId: string; name: string; gone: boolean };
  'survey template kept': { templateId: string; name: string; gone: boolean };
  'measure changed': { measureId: string; how: string; name: string };
  'report changed': { reportId: string; how: string; title: string };
  'initiative changed': { initiativeId: string; how: string; name: string };
  /** `how`: as what whoever entered them is known. */
  'tallies entered': { eventId: string; tallies: number; how: string };
  'tallies decided': { eventId: string; tallies: number; state: 'counted' | 'set aside'; why: string };
  'tally corrected': { eventId: string; tallyId: string; why: string };
  'counting set': { eventId: string; on: boolean };
  'lesson changed': { eventId: string; lessonId: string; how: string; text?: string };
  /** `device`: the one at the door it was signed on; null when from a link. */
  'waiver signed': {
    signatureId: string;
    /** None of these where it was signed on a page of its own. */
    eventId: string | null;
    orderId: string | null;
    registrationId: string | null;
    contactId: string | null;
    title: string;
    sha256: string;
    device: string | null;
  };
  /** Whoever booked, or one of the crew, is asked by hand to sign. */
  'signature asked': { eventId: string; orderId: string | null; contactId: string | null; titles: string };
  /** What was signed in one go is sent to whoever signed. */
  'copy asked': { act: string; email: string; title: string };
  'signature revoked': { signatureId: string; eventId: string | null; orderId: string | null; why: string };
  'health forgotten': { signatureId: string };
  'self check-in set': { eventId: string; on: boolean };
  'attendance marked': { eventId: string; registrationId: string; state: string; despite: string };
  'doors closed': { eventId: string; closed: boolean };
  'attendance opened again': { eventId: string; why: string };
  'attendance corrected': { eventId: string; registrationId: string; why: string };
  'attendance list taken': { eventId: string; importId: string; fileName: string; people: number };
  'attendance list undone': { eventId: string; importId: string; fileName: string };
  'attendance disputed': { eventId: string; registrationId: string; disputeId: string };
  'dispute answered': {
    eventId: string;
    registrationId: string;
    disputeId: string;
    by: 'buyer' | 'guest';
    outcome: 'corrected' | 'kept';
    answer: string;
    language: 'en' | 'fr';
  };
  'joined the team': { staffId: string; name: string; email: string };
  invited: { invitationId: string; name: string; email: string; roles: readonly string[]; by: string };
  'new password asked': { resetId: string; staffId: string; name: string; email: string };
  'own link asked': { contactId: string; by: string };
  /** A code to sign in with was asked for, for an address that is on record. */
  'code asked': { codeId: string; email: string; language: 'en' | 'fr' };
  'contact changed': Changed & { contactId: string };
  'account changed': Changed & { staffId: string };
  'organization changed': Changed;
  'segment changed': Changed & { segmentId: string };
  'field changed': Changed & { fieldId: string };
  'import changed': Changed & { importId: string };
  /** A unit, a place, a fund or a waiver was added to what plans choose from. */
  'register grew': Changed & { kind: string; id: string };
  'place changed': Changed & { id: string };
  'team changed': Changed & { eventId: string };
  'sessions chosen': { eventId: string; registrationId: string };
  'session proposed': { eventId: string };
  'session proposal decided': { eventId: string; proposalId: string; accepted: boolean; title: string };
  'survey answered': { eventId: string };
}
export type FactKind = keyof Facts;

/** What every kind of fact leaves behind by itself. */
export const tellings: { readonly [K in FactKind]: Telling<Facts[K]> } = {
  ...moneyTellings,
  ...crewTellings,
  ...messageTellings,
  'event begun': {
    entry: (f) => ({
      action: f.from ? 'copied' : 'begun',
      subject: event(f.eventId),
      detail: { from: f.from },
    }),
    topics: ofEvent,
  },
  // That dates were made is said once for all of them.
  'date made': { topics: nobody },
  'preview link made': {
    entry: (f) => ({ action: 'made a preview link', subject: event(f.eventId) }),
    topics: () => [],
  },
  'preview link stopped': {
    entry: (f) => ({ action: 'stopped the preview link', subject: event(f.eventId) }),
    topics: () => [],
  },
  'picture kept': {
    entry: (f) => ({ action: 'brought in a picture', subject: { kind: 'picture', id: f.pictureId } }),
    topics: () => [],
  },
  'logo given': {
    entry: (f) => ({
      action: f.pictureId ? 'gave a logo' : 'took a logo away',
      subject: { kind: f.unitId ? 'unit' : 'organization', id: f.unitId },
      detail: { name: f.name },
    }),
    topics: () => ['registers', 'events'],
  },
  'picture described': {
    entry: (f) => ({ action: 'described a picture', subject: { kind: 'picture', id: f.pictureId } }),
    topics: () => [],
  },
  'file kept': {
    entry: (f) => ({
      action: 'brought in a file',
      subject: { kind: 'file', id: f.fileId },
      detail: { name: f.name },
    }),
    topics: nobody,
  },
  'organizer asked': { topics: nobody },
  'event deleted': {
    entry: (f) => ({ action: 'deleted the draft', subject: event(f.eventId), detail: { title: f.title } }),
    topics: ofEvent,
  },
  'series changed': { entry: (f) => changed('series', f.seriesId, f), topics: () => ['events'] },
  'plan saved': {
    entry: (f) => ({ action: 'saved the plan', subject: event(f.eventId), detail: { fields: f.fields } }),
    topics: ofEvent,
  },
  'change made': {
    entry: (f) => ({
      action: 'told of a change',
      subject: event(f.eventId),
      detail: { told: f.told, untold: f.untold },
    }),
    topics: ofEvent,
  },
  'change taken back': {
    entry: (f) => ({ action: 'took a change back', subject: event(f.eventId) }),
    topics: ofEvent,
  },
  'request decided': {
    entry: (f) => ({
      action:
        f.decision === 'asked'
          ? 'asked somebody back'
          : f.decision === 'declined'
            ? 'declined a request'
            : 'accepted a request',
      subject: event(f.eventId),
      detail: { orderId: f.orderId, decision: f.decision },
    }),
    topics: ofEvent,
  },
  'question answered': { topics: ofEvent },
  // Each of them is in the trail by itself.
  'changed together': { topics: ofEvent },
  'letters let go': {
    entry: (f) => ({
      action: 'let the letters of a change go',
      subject: event(f.eventId),
      detail: { letters: f.letters },
    }),
    topics: ofEvent,
  },
  'event moved on': {
    entry: (f) => ({
      action: f.from === 'shelved' ? 'brought back' : `made ${f.to}`,
      subject: event(f.eventId),
      detail: { from: f.from, to: f.to, words: f.words },
    }),
    topics: ofEvent,
  },
  'plan sent': {
    entry: (f) => ({ action: 'sent for clearance', subject: event(f.eventId), detail: { steps: f.steps } }),
    topics: ofEvent,
  },
  'clearance spoken of': { entry: (f) => changed('event', f.eventId, f), topics: ofEvent },
  'clearance written about': {
    entry: (f) => ({ action: 'wrote about the clearance', subject: event(f.eventId) }),
    topics: ofEvent,
  },
  // That a step is with its approver is said by what was decided or sent before.
  'steps handed over': { topics: ofEvent },
  'step reminded of': {
    entry: (f) => ({ action: 'reminded of a step', subject: event(f.eventId), detail: { step: f.step } }),
    topics: ofEvent,
  },
  'plan sent late': {
    entry: (f) => ({ action: 'asked to be late', subject: event(f.eventId), detail: { days: f.days } }),
    topics: ofEvent,
  },
  'step decided': {
    entry: (f) => ({
      action: f.decision,
      subject: event(f.eventId),
      detail: { step: f.step, words: f.words },
    }),
    topics: ofEvent,
  },
  'absences found': { topics: ofEvent },
  'event proposed': {
    entry: (f) => ({ action: 'proposed an event', subject: event(f.eventId) }),
    topics: () => ['events'],
  },
  'event proposal decided': {
    entry: (f) => ({
      action: f.taken ? 'took a proposed event up' : 'declined a proposed event',
      subject: event(f.eventId),
    }),
    topics: ofEvent,
  },
  'order placed': {
    entry: (f) => ({
      action: 'placed an order',
      subject: order(f.orderId),
      detail: { channel: f.channel, state: f.state, seats: f.seats },
    }),
    topics: ofEvent,
  },
  'order confirmed': { topics: ofEvent },
  'seats offered': { topics: ofEvent },
  'offer taken': {
    entry: (f) => ({ action: 'took the offered seats', subject: order(f.orderId) }),
    topics: ofEvent,
  },
  'seats lapsed': { topics: ofEvent },
  'offer changed': {
    entry: (f) => ({
      action: 'changed the ticket of seats',
      subject: order(f.orderId),
      detail: { seats: f.seats, from: f.from, to: f.to },
    }),
    topics: ofEvent,
  },
  'seat handed on': {
    entry: (f) => ({
      action: 'handed a seat on',
      subject: { kind: 'registration', id: f.registrationId },
    }),
    topics: ofEvent,
  },
  'order moved': {
    entry: (f) => ({
      action: 'moved a booking to another date',
      subject: order(f.orderId),
      detail: { toEventId: f.toEventId, toOrderId: f.toOrderId },
    }),
    topics: (f) => [`event ${f.eventId}`, `event ${f.toEventId}`],
  },
  'invitation answered': {
    entry: (f) => ({
      action: 'answered an invitation',
      subject: { kind: 'contact', id: f.contactId },
      detail: { eventId: f.eventId, answer: f.answer },
    }),
    topics: ofEvent,
  },
  'letter written': {
    entry: (f) => ({
      action: 'wrote to people with seats',
      subject: event(f.eventId),
      detail: { subject: f.subject, planned: f.planned },
    }),
    topics: ofEvent,
  },
  'source changed': {
    entry: (f) => ({
      action: f.stopped ? 'stopped counting a link' : 'made a link to give out',
      subject: event(f.eventId),
      detail: { name: f.name },
    }),
    topics: ofEvent,
  },
  'seats withdrawn': {
    entry: (f) => ({
      action: 'withdrew seats',
      subject: order(f.orderId),
      detail: { seats: f.seats, reason: f.reason, ...(f.kept ? { kept: f.kept } : {}) },
    }),
    topics: ofEvent,
  },
  /** Confirmed seats went back to the waitlist. */
  'seats put back': {
    entry: (f) => ({
      action: 'put seats back on the waitlist',
      subject: order(f.orderId),
      detail: { seats: f.seats },
    }),
    topics: ofEvent,
  },
  'guest named': {
    entry: (f) => ({ action: 'named a guest', subject: { kind: 'registration', id: f.registrationId } }),
    topics: ofEvent,
  },
  'guest asked': {
    entry: (f) => ({
      action: 'wrote to a guest',
      subject: { kind: 'registration', id: f.registrationId },
    }),
    topics: ofEvent,
  },
  'answers changed': {
    entry: (f) => ({ action: 'changed answers', subject: { kind: 'order', id: f.orderId } }),
    topics: ofEvent,
  },
  'answers forgotten': {
    entry: (f) => ({
      action: 'deleted sensitive answers',
      subject: { kind: 'event', id: f.eventId },
      detail: { answers: f.answers },
    }),
    topics: ofEvent,
  },
  'lesson changed': {
    entry: (f) => ({
      action: f.how,
      subject: { kind: 'event', id: f.eventId },
      detail: { lesson: f.lessonId, ...(f.text === undefined ? {} : { text: f.text }) },
    }),
    topics: () => ['lessons'],
  },
  'survey template kept': {
    entry: (f) => ({
      action: f.gone ? 'took a kept survey away' : 'kept a survey',
      subject: { kind: 'survey template', id: f.templateId },
      detail: { name: f.name },
    }),
    topics: nobody,
  },
  'report changed': {
    entry: (f) => ({
      action: f.how,
      subject: { kind: 'report', id: f.reportId },
      detail: { title: f.title },
    }),
    topics: nobody,
  },
  'measure changed': {
    entry: (f) => ({
      action: f.how,
      subject: { kind: 'measure', id: f.measureId },
      detail: { name: f.name },
    }),
    topics: nobody,
  },
  'initiative changed': {
    entry: (f) => ({
      action: f.how,
      subject: { kind: 'initiative', id: f.initiativeId },
      detail: { name: f.name },
    }),
    topics: nobody,
  },
  'tallies entered': {
    entry: (f) => ({
      action: 'entered tallies',
      subject: event(f.eventId),
      detail: { tallies: f.tallies, how: f.how },
    }),
    topics: ofEvent,
  },
  'tallies decided': {
    entry: (f) => ({
      action: f.state === 'counted' ? 'counted tallies' : 'set tallies aside',
      subject: event(f.eventId),
      detail: { tallies: f.tallies, why: f.why },
    }),
    topics: ofEvent,
  },
  'tally corrected': {
    entry: (f) => ({
      action: 'corrected a tally',
      subject: event(f.eventId),
      detail: { tally: f.tallyId, why: f.why },
    }),
    topics: ofEvent,
  },
  'counting set': {
    entry: (f) => ({
      action: f.on ? 'let people count' : 'stopped people counting',
      subject: event(f.eventId),
    }),
    topics: ofEvent,
  },
  'question set kept': {
    entry: (f) => ({
      action: f.gone ? 'took a set of questions away' : 'kept a set of questions',
      subject: { kind: 'question set', id: f.setId },
      detail: { name: f.name },
    }),
    topics: nobody,
  },
  'waiver signed': {
    entry: (f) => ({
      action: f.device ? 'signed at the door' : 'signed a waiver',
      subject: f.registrationId
        ? { kind: 'registration', id: f.registrationId }
        : { kind: 'signature', id: f.signatureId },
      detail: { title: f.title, sha256: f.sha256, ...(f.device ? { device: f.device } : {}) },
    }),
    topics: ofEvent,
  },
  'copy asked': { topics: nobody },
  'signature asked': {
    entry: (f) => ({
      action: 'asked for a signature',
      subject: f.orderId ? order(f.orderId) : { kind: 'contact', id: f.contactId },
      detail: { titles: f.titles },
    }),
    topics: ofEvent,
  },
  'signature revoked': {
    entry: (f) => ({
      action: 'revoked a signature',
      subject: { kind: 'signature', id: f.signatureId },
      detail: { why: f.why },
    }),
    topics: ofEvent,
  },
  'self check-in set': {
    entry: (f) => ({
      action: f.on ? 'let people check themselves in' : 'stopped self check-in',
      subject: event(f.eventId),
    }),
    topics: ofEvent,
  },
  'health forgotten': {
    entry: (f) => ({
      action: 'deleted what a signature said about health',
      subject: { kind: 'signature', id: f.signatureId },
    }),
    topics: nobody,
  },
  'attendance marked': {
    entry: (f) =>
      f.despite
        ? {
            action: 'let in despite',
            subject: { kind: 'registration', id: f.registrationId },
            detail: { despite: f.despite, eventId: f.eventId },
          }
        : null,
    topics: ofEvent,
  },
  'doors closed': {
    entry: (f) => ({
      action: f.closed ? 'closed the doors' : 'opened the doors again',
      subject: event(f.eventId),
    }),
    topics: ofEvent,
  },
  'attendance opened again': {
    entry: (f) => ({
      action: 'opened attendance once more',
      subject: event(f.eventId),
      detail: { why: f.why },
    }),
    topics: ofEvent,
  },
  'attendance corrected': {
    entry: (f) => ({
      action: 'corrected attendance',
      subject: { kind: 'registration', id: f.registrationId },
      detail: { why: f.why, eventId: f.eventId },
    }),
    topics: ofEvent,
  },
  'attendance list taken': {
    entry: (f) => ({
      action: 'took a list of who was there',
      subject: event(f.eventId),
      detail: { fileName: f.fileName, people: f.people },
    }),
    topics: ofEvent,
  },
  'attendance list undone': {
    entry: (f) => ({
      action: 'took back a list of who was there',
      subject: event(f.eventId),
      detail: { fileName: f.fileName },
    }),
    topics: ofEvent,
  },
  'attendance disputed': { topics: ofEvent },
  'dispute answered': {
    entry: (f) => ({
      action: 'answered what somebody said of their attendance',
      subject: { kind: 'registration', id: f.registrationId },
      detail: { outcome: f.outcome, eventId: f.eventId },
    }),
    topics: ofEvent,
  },
  'joined the team': { topics: nobody },
  invited: {
    entry: (f) => ({
      action: 'invited',
      subject: { kind: 'staff', id: f.invitationId },
      detail: { name: f.name, roles: f.roles },
    }),
    topics: nobody,
  },
  'new password asked': {
    entry: (f) => ({ action: 'asked for a new password', subject: { kind: 'staff', id: f.staffId } }),
    topics: nobody,
  },
  'code asked': { topics: nobody },
  'own link asked': {
    entry: (f) => ({ action: 'sent their own link', subject: { kind: 'contact', id: f.contactId } }),
    topics: nobody,
  },
  'contact changed': { entry: (f) => changed('contact', f.contactId, f), topics: nobody },
  'account changed': { entry: (f) => changed('staff', f.staffId, f), topics: nobody },
  'organization changed': { entry: (f) => changed('organization', null, f), topics: nobody },
  'segment changed': { entry: (f) => changed('segment', f.segmentId, f), topics: nobody },
  'field changed': { entry: (f) => changed('field', f.fieldId, f), topics: nobody },
  'import changed': { entry: (f) => changed('import', f.importId, f), topics: nobody },
  'place changed': { entry: (f) => changed('place', f.id, f), topics: nobody },
  'register grew': { entry: (f) => changed(f.kind, f.id, f), topics: nobody },
  'team changed': { entry: (f) => changed('event', f.eventId, f), topics: ofEvent },
  // The seat's own rows say it.
  'sessions chosen': { topics: ofEvent },
  'session proposed': { topics: ofEvent },
  'session proposal decided': {
    entry: (f) => ({
      action: f.accepted ? 'took in a proposed session' : 'declined a proposed session',
      subject: event(f.eventId),
      detail: { title: f.title },
    }),
    topics: ofEvent,
  },
  'survey answered': { topics: ofEvent },
};
