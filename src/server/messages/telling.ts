import { fullName, splitName } from '#core/contacts/names.ts';
import { emailKey, writableEmail } from '#core/contacts/reach.ts';
import { sayShift } from '#core/crew/said.ts';
import { titleFor } from '#core/events/french.ts';
import { linkMark } from '#core/messages/links.ts';
import type { DirectKind } from '#core/messages/texts.ts';
import { sayAmount } from '#core/money/amount.ts';
import { sayDepositBack, sayDepositRule, sayDepositWhy } from '#core/words/deposits.ts';
import { readTexts } from '#core/words/texts.ts';
import { readProposal } from '../agenda/store.ts';
import type { Work } from '../app/app.ts';
import type { Facts } from '../app/kinds.ts';
import { readContact } from '../contacts/store.ts';
import { theApplication, theCall } from '../crew/applyingStore.ts';
import { depositOf } from '../crew/depositStore.ts';
import { readShift } from '../crew/store.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import { readEvent } from '../events/store.ts';
import { readProposalOf } from '../proposals/store.ts';
import { addressOf } from '../registration/household.ts';
import { type OrderRow, readOrder, readSeat } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { signerOfAct } from '../waivers/signatureStore.ts';
import { planDirect } from './direct.ts';
import { holdBackGuest } from './store.ts';

/** Writes to the buyer: the party waits, seats are offered, the offer lapsed, a late payment goes back. */
export async function tellBuyer(
  w: Work,
  orderId: string,
  kind: Extract<
    DirectKind,
    | 'asked'
    | 'accepted'
    | 'not accepted'
    | 'asked back'
    | 'waitlisted'
    | 'offered'
    | 'lapsed'
    | 'returned'
    | 'given up'
    | 'ticket changed'
    | 'moved'
    | 'handed on'
    | 'sign please'
  >,
  reason: string,
  until?: string,
  /** What is said in words, where the text has a place for them. */
  words?: string,
  /** Fields of this message alone. */
  own?: Readonly<Record<string, string>>,
): Promise<void> {
  const order: OrderRow = await readOrder(w.tx, orderId);
  const event = await readEvent(w.tx, order.eventId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind,
    key: `${kind}:${orderId}:${until ?? w.now}`,
    to: {
      name: fullName({ given: order.buyerGiven, family: order.buyerFamily }),
      email: order.buyerEmail,
      contactId: order.buyerContactId,
      language: order.language,
    },
    eventId: event.id,
    reason,
    until: until ? { at: until, zone: event.zone } : undefined,
    values: {
      name: order.buyerGiven,
      event: event.publicTitle,
      when: sayWhen(event, order.language),
      place: sayPlace(event, order.language),
      organization,
      manage_link: linkMark('manage', orderId),
    },
    ...(words === undefined && !own ? {} : { own: { ...own, ...(words !== undefined && { words }) } }),
  });
}

/** What becomes of the money of an order, in its buyer's language; nothing where nothing does. */
function moneyWords(order: OrderRow, kept: number): string {
  const money = (amount: number) => sayAmount(amount, order.currency, order.language);
  const french = order.language === 'fr';
  return [
    kept > 0 &&
      (french ? `Selon les conditions, ${money(kept)} est retenu.` : `By the terms, ${money(kept)} is kept.`),
    order.balance < 0 &&
      (french
        ? `Nous vous rembourserons ${money(-order.balance)}.`
        : `We pay ${money(-order.balance)} back to you.`),
    order.balance > 0 &&
      (french ? `Il reste ${money(order.balance)} à payer.` : `${money(order.balance)} is still to pay.`),
  ]
    .filter(Boolean)
    .join(' ');
}

/** A paragraph of its own, where there is something to say. */
const paragraph = (words: string): string => words && `${words}\n\n`;

/** Tells whoever booked that seats were given up, and what becomes of the money. */
export async function tellGivenUp(w: Work, orderId: string, seats: number, kept: number): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  await tellBuyer(w, orderId, 'given up', 'seats were given up', undefined, undefined, {
    count: String(seats),
    words: paragraph(moneyWords(order, kept)),
  });
}

/** The same of another ticket. */
export async function tellTicket(w: Work, orderId: string, ticket: string, kept: number): Promise<void> {
  const order = await readOrder(w.tx, orderId);
  await tellBuyer(w, orderId, 'ticket changed', 'the ticket was changed', undefined, undefined, {
    ticket,
    words: paragraph(moneyWords(order, kept)),
  });
}

/** Tells whoever booked that somebody else has a seat now, and whoever had it, where they are somebody else and can be reached. */
export async function tellHandedOn(w: Work, about: Facts['seat handed on']): Promise<void> {
  const order = await readOrder(w.tx, about.orderId);
  await tellBuyer(w, order.id, 'handed on', 'a seat was handed on', undefined, undefined, {
    from: about.from,
    to: about.to,
  });
  const email = (about.fromContactId && (await addressOf(w.tx, about.fromContactId))) || about.fromEmail;
  if (!email || about.fromContactId === order.buyerContactId) return;
  if (order.buyerEmail && emailKey(order.buyerEmail) === emailKey(email)) return;
  const event = await readEvent(w.tx, about.eventId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: 'no longer yours',
    key: `no longer yours:${about.registrationId}:${w.now}`,
    to: { name: about.from, email, contactId: about.fromContactId, language: order.language },
    eventId: event.id,
    reason: 'their seat was handed on',
    values: {
      name: splitName(about.from).given || about.from,
      event: titleFor(event, order.language),
      when: sayWhen(event, order.language),
      organization,
    },
    own: { by: fullName({ given: order.buyerGiven, family: order.buyerFamily }) },
  });
}

/** Writes to whoever sits on a seat, with the link to fill it in. Their address was given by somebody else: they are nobody's contact by it. */
export async function tellGuest(w: Work, registrationId: string, email: string): Promise<void> {
  const seat = await readSeat(w.tx, registrationId);
  await holdBackGuest(w.tx, registrationId);
  const order = await readOrder(w.tx, seat.orderId);
  const event = await readEvent(w.tx, seat.eventId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: 'your seat',
    key: `your seat:${registrationId}:${seat.guestAsked}`,
    to: {
      name: fullName({ given: seat.givenName, family: seat.familyName }) || email,
      email,
      contactId: null,
      language: order.language,
    },
    eventId: event.id,
    reason: 'is the guest of somebody who booked',
    values: {
      event: titleFor(event, order.language),
      when: sayWhen(event, order.language),
      place: sayPlace(event, order.language),
      organization,
      manage_link: linkMark('seat', registrationId),
    },
    own: { by: fullName({ given: order.buyerGiven, family: order.buyerFamily }) },
  });
}

/** Hands a question from the page of an event on to who organizes it. */
export async function tellOrganizer(
  w: Work,
  eventId: string,
  asked: { name: string; email: string; words: string },
): Promise<void> {
  const event = await readEvent(w.tx, eventId);
  if (!event.organizer) return;
  const { name, email } = event.organizer;
  await planDirect(w, {
    kind: 'question',
    key: `question:${w.app.ids.id()}`,
    to: { name, email, contactId: null, language: 'en' },
    eventId,
    reason: 'asked on the page of the event',
    values: { event: event.publicTitle },
    own: { name: asked.name, email: asked.email, words: asked.words },
  });
}

/** Tells whoever proposed a session what was decided. */
export async function tellProposer(w: Work, proposalId: string): Promise<void> {
  const proposal = await readProposal(w.tx, proposalId);
  const { language, words, speakerName } = proposal;
  const event = await readEvent(w.tx, proposal.eventId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: proposal.state === 'accepted' ? 'proposal taken' : 'proposal declined',
    key: `proposal:${proposalId}`,
    to: { name: speakerName, email: proposal.email, contactId: proposal.contactId, language },
    eventId: event.id,
    reason: 'proposed a session',
    values: {
      name: splitName(speakerName).given || speakerName,
      event: titleFor(event, language),
      organization,
    },
    // A paragraph of its own, where there is one.
    own: { title: proposal.title, words: words && `${words}\n\n` },
  });
}

/** Tells whoever proposed an event what was decided. */
export async function tellEventProposer(w: Work, eventId: string): Promise<void> {
  const proposal = (await readProposalOf(w.tx, eventId))!;
  const { name, email, contactId, language, words, state, id } = proposal;
  const event = await readEvent(w.tx, eventId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: state === 'taken' ? 'event taken' : 'event declined',
    key: `event proposal:${id}`,
    to: { name, email, contactId, language },
    eventId,
    reason: 'proposed an event',
    values: { name: splitName(name).given || name, organization },
    // A paragraph of its own, where there is one.
    own: { title: event.publicTitle, words: words && `${words}\n\n` },
  });
}

/** Writes to somebody about a shift, at the address on record, with the link to their own page. */
export async function tellOfShift(
  w: Work,
  shiftId: string,
  contactId: string,
  kind: Extract<DirectKind, 'crew' | 'overlap' | `shift ${string}` | `step in${string}` | `swap ${string}`>,
  key: string,
  reason: string,
  more: {
    /** As the shift was, where it changed; of a swap, the one it is for. */
    before?: Parameters<typeof sayShift>[0];
    /** Until when an answer is waited for. */
    until?: string;
    /** What the crew lead says with it. */
    words?: string;
    /** When it goes, where it can wait. */
    at?: string;
  } = {},
): Promise<void> {
  const { before, until, words, at } = more;
  const shift = await readShift(w.tx, shiftId);
  const event = await readEvent(w.tx, shift.eventId);
  const contact = (await readContact(w.tx, contactId))!;
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind,
    key,
    to: {
      name: fullName({ given: contact.givenName, family: contact.familyName }),
      email: writableEmail(contact),
      contactId,
      language: contact.language === 'fr' ? 'fr' : 'en',
    },
    eventId: event.id,
    reason,
    until: until ? { at: until, zone: event.zone } : undefined,
    ...(at ? { at } : {}),
    values: {
      name: contact.givenName,
      event: event.publicTitle,
      shift: sayShift(shift, contact.language),
      ...(before && { shift_before: sayShift(before, contact.language) }),
      ...(words !== undefined && { words: paragraph(words) }),
      shifts_link: linkMark('crew', contactId),
      organization,
    },
  });
}

/** Writes to somebody about their application to help, at the address on record, with the link to it. */
export async function tellApplicant(
  w: Work,
  applicationId: string,
  kind: Extract<DirectKind, `application ${string}` | `deposit ${string}`>,
  reason: string,
  words = '',
  /** What makes it another letter of this kind than the one before; the moment, where nothing is said. */
  apart = w.now,
  own: Record<string, string> = {},
): Promise<void> {
  const { contactId, callId, language } = await theApplication(w.tx, applicationId);
  const call = await theCall(w.tx, callId);
  const contact = (await readContact(w.tx, contactId))!;
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind,
    key: `${kind}:${applicationId}:${apart}`,
    to: {
      name: fullName({ given: contact.givenName, family: contact.familyName }),
      email: writableEmail(contact),
      contactId,
      language,
    },
    eventId: call.eventId,
    reason,
    values: { name: contact.givenName || contact.familyName, organization },
    own: {
      title: readTexts(call.title, language),
      // A paragraph of its own, where there is one.
      words: words && (kind === 'application asked' ? words : `${words}\n\n`),
      application_link: linkMark('application', applicationId),
      ...own,
    },
  });
}

/** Writes to somebody that a deposit is asked for and by which rule it goes back, or how much of it went back and why. */
export async function tellOfDeposit(
  w: Work,
  applicationId: string,
  settled: { amount: number; kept: number } | null,
): Promise<void> {
  const { language } = await theApplication(w.tx, applicationId);
  const deposit = (await depositOf(w.tx, applicationId))!;
  const money = (amount: number) => sayAmount(amount, deposit.currency, language);
  if (!settled) {
    const own = { amount: money(deposit.amount), words: sayDepositRule(deposit, language) };
    return tellApplicant(w, applicationId, 'deposit asked', 'is asked for a deposit', '', deposit.id, own);
  }
  const why = deposit.why ? sayDepositWhy(deposit.why, language) : '';
  const words = `${sayDepositBack(money(settled.amount), settled, language)} ${why}`;
  const apart = `${deposit.id} ${w.now}`;
  return tellApplicant(w, applicationId, 'deposit settled', 'left a deposit', '', apart, { words });
}

/** Writes to somebody of the team, or to be: an invitation, a new password. */
export async function tellTeam(
  w: Work,
  kind: 'invitation' | 'reset',
  subjectId: string,
  to: { name: string; email: string },
  reason: string,
): Promise<void> {
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind,
    key: `${kind}:${subjectId}`,
    to: { ...to, contactId: null, language: 'en' },
    eventId: null,
    reason,
    values: { name: to.name, organization, manage_link: linkMark(kind, subjectId) },
  });
}

/** Asks whoever booked, or one of the crew, to sign what is still to be signed. */
export async function tellToSign(w: Work, about: Facts['signature asked']): Promise<void> {
  const { eventId, orderId, contactId, titles } = about;
  if (orderId)
    return tellBuyer(w, orderId, 'sign please', 'has not signed', undefined, undefined, {
      title: titles,
      sign_link: linkMark('manage', orderId, '#waivers'),
    });
  const event = await readEvent(w.tx, eventId);
  const contact = (await readContact(w.tx, contactId!))!;
  const { name: organization } = await theOrganization(w.tx);
  const language = contact.language === 'fr' ? 'fr' : 'en';
  await planDirect(w, {
    kind: 'sign please',
    key: `sign please:${contactId}:${w.now}`,
    to: {
      name: fullName({ given: contact.givenName, family: contact.familyName }),
      email: writableEmail(contact),
      contactId,
      language,
    },
    eventId,
    reason: 'has not signed',
    values: {
      name: contact.givenName || contact.familyName,
      event: event.publicTitle,
      when: sayWhen(event, language),
      organization,
    },
    own: { title: titles, sign_link: linkMark('crew', contactId!, '#waivers') },
  });
}

/** Writes the link to the copy of what was signed in one go to the address whoever signed gave. */
export async function tellSigned(w: Work, { act, email, title }: Facts['copy asked']): Promise<void> {
  const { name: organization } = await theOrganization(w.tx);
  const { name, language, eventId } = await signerOfAct(w.tx, act);
  await planDirect(w, {
    kind: 'signed',
    key: `signed:${act}`,
    // To the address and nobody: whoever signed has a copy, whatever else they want.
    to: { name, email, contactId: null, language },
    eventId,
    reason: 'signed a waiver',
    values: { name: splitName(name).given, organization, manage_link: linkMark('signed', act) },
    own: { title },
  });
}

/** Tells whoever said that what is kept of their attendance is wrong what became of it. */
export async function tellDispute(w: Work, about: Facts['dispute answered']): Promise<void> {
  const { registrationId, disputeId, by, outcome, answer, language } = about;
  const seat = await readSeat(w.tx, registrationId);
  const order = await readOrder(w.tx, seat.orderId);
  const event = await readEvent(w.tx, seat.eventId);
  const { name: organization } = await theOrganization(w.tx);
  const guest = by === 'guest';
  const given = guest ? seat.givenName : order.buyerGiven;
  const said =
    language === 'fr'
      ? outcome === 'corrected'
        ? 'Nous l’avons corrigé.'
        : 'Nous le laissons tel quel.'
      : outcome === 'corrected'
        ? 'We have corrected it.'
        : 'We leave it as it is.';
  await planDirect(w, {
    kind: 'attendance answered',
    key: `attendance answered:${disputeId}`,
    to: {
      name: guest
        ? fullName({ given, family: seat.familyName })
        : fullName({ given, family: order.buyerFamily }),
      email: guest ? seat.guestEmail : order.buyerEmail,
      contactId: guest ? seat.contactId : order.buyerContactId,
      language,
    },
    eventId: event.id,
    reason: 'said something of their attendance',
    values: {
      name: given,
      event: event.publicTitle,
      when: sayWhen(event, language),
      organization,
      manage_link: guest ? linkMark('seat', seat.id) : linkMark('manage', order.id),
    },
    own: { said, words: paragraph(answer) },
  });
}

/** Writes the link to their own page to somebody, at the address on record. */
export async function tellOwnLink(w: Work, contactId: string, reason: string): Promise<void> {
  const contact = (await readContact(w.tx, contactId))!;
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: 'own',
    key: `own:${contactId}:${w.now}`,
    to: {
      name: fullName({ given: contact.givenName, family: contact.familyName }),
      email: writableEmail(contact),
      contactId,
      language: contact.language === 'fr' ? 'fr' : 'en',
    },
    eventId: null,
    reason,
    values: {
      name: contact.givenName || contact.familyName,
      manage_link: linkMark('own', contactId),
      organization,
    },
  });
}

/** Writes a code to sign in with, and a link that does the same, to an address that somebody typed and that is on record. */
export async function tellCode(w: Work, codeId: string, email: string, language: 'en' | 'fr'): Promise<void> {
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: 'sign in',
    key: `sign in:${codeId}`,
    // To the address and nobody: several people may have it, and whoever asks for a code wants it, whatever else they want.
    to: { name: email, email, contactId: null, language },
    eventId: null,
    reason: 'asked for a code',
    values: { organization, manage_link: linkMark('sign in', codeId) },
    own: { code_link: linkMark('code', codeId) },
  });
}
