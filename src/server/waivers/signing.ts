import type { z } from 'zod';
import type { Hand as Handed, signing as signingBody } from '#contract/waivers.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { endOf } from '#core/events/end.ts';
import { lives } from '#core/events/states.ts';
import { shiftDate } from '#core/time/dates.ts';
import { sayLongDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { firstBefore, linkText } from '#core/waivers/chain.ts';
import type { WaiverShown } from '#core/waivers/form.ts';
import { type Holds, holdsFrom, holdsUntil } from '#core/waivers/holding.ts';
import { ageStanding, type WaiverNeed } from '#core/waivers/needs.ts';
import {
  answersKept,
  type Participant,
  problemsWithSigning,
  type SignedFrom,
  signedText,
} from '#core/waivers/signing.ts';
import { canonical } from '#core/words/canonical.ts';
import type { Language } from '#core/words/language.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { sayWhen } from '../events/saying.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { type OrganizationRow, theOrganization } from '../staff/store.ts';
import { endOfChain, supersede, whoSignedFor } from './signatureStore.ts';
import {
  asRead,
  countedFrom,
  crewNeeds,
  type MayKnow,
  type Signer,
  signingAt,
  type WaiverAt,
  waiversAt,
} from './store.ts';

/** By whose hand and from where something is signed. */
export interface SignedBy extends SignedFrom {
  way: 'link' | 'page' | 'door' | 'paper';
  /** Of whom it is certain that they, or who looks after them, sign: what is signed for them counts elsewhere, too. */
  mayKnow: MayKnow;
  /** Who signs, where they are on record. */
  signer: { contactId: string; birthDate: string | null } | null;
  /** Where the copy goes; nowhere from a device of the team. */
  copyTo: string | null;
  language: Language;
}

/** Somebody signed for, and what is kept of it. */
export interface Signed extends Participant {
  contactId: string | null;
  registrationId: string | null;
  orderId: string | null;
}

/** What is signed: which version of which waiver, for how long. */
export interface WaiverSigned extends WaiverShown {
  id: string;
  version: number;
  versionId: string;
  holds: Holds;
  forgetDays: number;
}

/** What whoever signs did and typed, without whom it is for. */
type Marked = Pick<Handed, 'typedName' | 'ticked' | 'initials' | 'chosen' | 'declared' | 'drawn'>;

/**
 * Keeps what was signed in one go: of each participant the text as signed with its SHA-256, what was answered apart from it, each in the
 * chain behind what was signed before. Answers the hash of each.
 */
export async function keepSigned(
  w: Work,
  waiver: WaiverSigned,
  event: EventRow | null,
  people: readonly Signed[],
  marked: Marked,
  by: SignedBy,
  organization: Pick<OrganizationRow, 'zone'>,
  /** The day it was signed on, where that was another one. */
  signedOn: string | null = null,
): Promise<{ act: string; hashes: string[] }> {
  const { tx, app, now } = w;
  const today = dateOf(now, organization.zone);
  const begun = signedOn ?? today;
  const day = event?.startsLocal?.slice(0, 10) ?? begun;
  const until = holdsUntil(waiver.holds, day);
  const end = event && endOf(event);
  const act = app.ids.id();
  const hashes: string[] = [];
  let chain = await endOfChain(tx);
  for (const person of people) {
    const id = app.ids.id();
    const text = signedText(
      waiver,
      { ...marked, participant: person },
      {
        event: event && { title: event.publicTitle, when: sayWhen(event, by.language) },
        until: until && sayLongDate(until, by.language),
      },
      now,
      by,
      by.language,
    );
    const answers = answersKept(waiver.questions, person.answers);
    // With something nobody can guess, so that what was deleted cannot be found again by trying.
    const salt = answers.length ? Buffer.from(app.ids.bytes(16)).toString('hex') : '';
    const link = {
      number: (chain?.number ?? 0) + 1,
      signatureId: id,
      sha256: sha256(text),
      answersSha256: answers.length ? sha256(`${salt}${canonical(answers)}`) : '',
      before: chain?.hash ?? firstBefore,
    };
    const health = answers.some((a) => a.health);
    await insert(tx, 'signatures', {
      id,
      act,
      waiverId: waiver.id,
      versionId: waiver.versionId,
      eventId: event?.id ?? null,
      registrationId: person.registrationId,
      contactId: person.contactId,
      signerId: by.signer?.contactId ?? null,
      relation: person.relation,
      typedName: marked.typedName.trim(),
      signedText: text,
      sha256: link.sha256,
      state: 'valid',
      at: now,
      holdsFrom: until && holdsFrom(waiver.holds, begun, day),
      holdsUntil: until,
      knownAt: by.mayKnow(person.contactId) ? now : null,
      language: by.language,
      chosen: marked.chosen,
      answers,
      answersSalt: salt,
      forgetOn: health ? shiftDate(until ?? (end ? dateOf(end, event.zone) : day), waiver.forgetDays) : null,
      drawn: marked.drawn,
      way: by.way,
      copyTo: by.copyTo,
    });
    chain = { number: link.number, hash: sha256(linkText(link)) };
    await insert(tx, 'signature_chain', { ...link, hash: chain.hash });
    hashes.push(link.sha256);
    await record(w, 'waiver signed', {
      signatureId: id,
      eventId: event?.id ?? null,
      orderId: person.orderId,
      registrationId: person.registrationId,
      contactId: person.contactId,
      title: waiver.title,
      sha256: link.sha256,
      device: by.way === 'door' ? by.device : null,
    });
  }
  if (by.copyTo) await record(w, 'copy asked', { act, email: by.copyTo, title: waiver.title });
  return { act, hashes };
}

/** What is wrong with whoever signs for a child: they are of age themselves, as far as that is known. */
const problemsWithGuardian = (
  signer: { birthDate: string | null } | null,
  people: readonly Participant[],
  today: string,
  ageOfMajority: number,
): Wrong[] =>
  people.some((p) => p.relation === 'guardian') &&
  signer?.birthDate &&
  ageStanding({ birthDate: signer.birthDate, saidMinor: false }, today, ageOfMajority) === 'minor'
    ? [wrongAt('typedName', 'guardian-of-age')]
    : [];

/**
 * Signs a waiver for some seats of one booking, from its link or at the door: all of them or none. Throws what is wrong with the
 * signature, by field.
 */
export async function signForSeats(
  w: Work,
  seats: readonly (Signer & Pick<z.output<typeof signingBody>, 'relation' | 'answers'>)[],
  hand: Handed,
  by: SignedBy,
): Promise<{ act: string; hashes: string[] }> {
  const { tx, now } = w;
  const event = await readEvent(tx, seats[0]!.eventId);
  if (!lives(event.state)) throw refused('event-not-running');
  const organization = await theOrganization(tx);
  const { ageOfMajority, zone } = organization;
  const today = dateOf(now, zone);
  const at = await signingAt(tx, event, ageOfMajority, today, seats[0]!.orderId, by.mayKnow);
  const waiver = waiverSigned(at.waivers, hand);
  const needs: WaiverNeed[] = [];
  const people: Signed[] = [];
  const problems: Wrong[] = [];
  for (const seat of seats) {
    const { standing, toSign, signed, partly } = at.need(seat.id);
    if (!toSign.includes(waiver.id) || standing === 'signed' || standing === 'not asked')
      throw refused(signed.includes(waiver.id) ? 'waiver-signed' : 'waiver-not-asked');
    const name = fullName({ given: seat.givenName, family: seat.familyName });
    if (!name) throw invalid([{ path: 'registrationId', code: 'guest-not-named' }]);
    if (
      partly.includes(waiver.id) &&
      (await whoSignedFor(tx, seat.id, waiver.id)).some((who) => fold(who) === fold(hand.typedName))
    )
      problems.push(wrongAt('typedName', 'other-guardian', { name }));
    needs.push(standing);
    people.push({
      name,
      relation: seat.relation,
      answers: seat.answers,
      contactId: seat.contactId,
      registrationId: seat.id,
      orderId: seat.orderId,
    });
  }
  return signFor(w, { event, organization, waiver }, people, needs, hand, by, problems, async () => {
    for (const seat of seats) await supersede(tx, seat.id, waiver.id, countedFrom(waiver));
  });
}

/** Checks what somebody signs for some people, and keeps it. Throws everything that is wrong at once. */
async function signFor(
  w: Work,
  of: { event: EventRow; organization: OrganizationRow; waiver: WaiverAt },
  people: readonly Signed[],
  needs: readonly WaiverNeed[],
  hand: Handed,
  by: SignedBy,
  before: readonly Wrong[] = [],
  beforehand: () => Promise<void> = async () => undefined,
): Promise<{ act: string; hashes: string[] }> {
  const { event, organization, waiver } = of;
  const { ageOfMajority, zone, country } = organization;
  const today = dateOf(w.now, zone);
  const shown = asRead(waiver, by.language);
  const problems = [
    ...before,
    ...problemsWithSigning(shown, { ...hand, participants: people }, needs, { country, today }),
    ...problemsWithGuardian(by.signer, people, today, ageOfMajority),
  ];
  if (problems.length) throw invalid(problems);
  await beforehand();
  return keepSigned(w, { ...shown, ...waiver, title: shown.title }, event, people, hand, by, organization);
}

/** The waiver that is signed at an event, as it was read. Throws where it is another by now, or nobody signs it any more. */
function waiverSigned(waivers: readonly WaiverAt[], hand: Handed): WaiverAt {
  if (!waivers.length) throw refused('no-waiver');
  const waiver = waivers.find((x) => x.id === hand.waiverId);
  // It says something else by now, or another one is asked.
  if (!waiver || waiver.version !== hand.version) throw refused('waiver-changed');
  if (waiver.closedAt) throw refused('waiver-closed');
  return waiver;
}

/** Signs a waiver for somebody of the crew of an event. */
export async function signForCrew(
  w: Work,
  eventId: string,
  contactId: string,
  { relation, answers, ...hand }: z.output<typeof signingBody>,
  by: SignedBy,
): Promise<{ act: string; hashes: string[] }> {
  const event = await readEvent(w.tx, eventId);
  if (!lives(event.state)) throw refused('event-not-running');
  const organization = await theOrganization(w.tx);
  const today = dateOf(w.now, organization.zone);
  const waiver = waiverSigned(await waiversAt(w.tx, eventId), hand);
  const [need] = await crewNeeds(w.tx, event, organization.ageOfMajority, today, contactId);
  if (!need?.toSign.includes(waiver.id))
    throw refused(need?.signed.includes(waiver.id) ? 'waiver-signed' : 'waiver-not-asked');
  const standing = need.standing === 'guardian' ? 'guardian' : 'self';
  const person: Signed = {
    name: need.name,
    relation,
    answers,
    contactId,
    registrationId: null,
    orderId: null,
  };
  return signFor(w, { event, organization, waiver }, [person], [standing], hand, by);
}
