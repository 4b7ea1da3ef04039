import { asDescribed, type Decision, decide } from '#core/contacts/match.ts';
import { fullName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { insert } from '../db/database.ts';
import { Arrivals, type NewPerson } from './arriving.ts';
import { refreshFound } from './keys.ts';
import { readMatching } from './model.ts';
import { proposeOf } from './proposals.ts';
import { candidatesFor } from './store.ts';

export interface Linked {
  contactId: string;
  created: boolean;
  reasons: Reason[];
}

/**
 * Who says something of a person. What staff say fills blanks of a record; what comes from outside, where anybody can
 * give anybody's name and email, is put up for a decision and changes nothing.
 */
export type Teller = 'staff' | 'outside';

/** The household of a contact, made when there is none. */
export const householdOf = (w: Pick<Work, 'tx' | 'app' | 'now'>, contactId: string): Promise<string> =>
  new Arrivals(w).householdOf(contactId);

/** Decides who somebody is among the contacts, without changing anything. */
export async function identify(w: Pick<Work, 'tx' | 'app'>, person: NewPerson): Promise<Decision> {
  const { model, careful } = await readMatching(w);
  const described = asDescribed(person);
  return decide(described, await candidatesFor(w.tx, [described]), model, careful);
}

/**
 * Links a person to the contact they are, or makes one. Unsure means a new contact, and the pair is put up for a
 * decision: a wrong link is worse than a duplicate.
 */
export async function linkPerson(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  person: NewPerson,
  source: string,
  who: Teller,
): Promise<Linked> {
  const arrivals = new Arrivals(w);
  await arrivals.lookUp([asDescribed(person)]);
  const linked = await linkArrival(w, arrivals, person, source, who);
  await arrivals.write();
  return linked;
}

/** The same for one of several who come in together; whoever is new is written with the others. */
export async function linkArrival(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  arrivals: Arrivals,
  person: NewPerson,
  source: string,
  who: Teller,
): Promise<Linked> {
  const { model, careful } = await readMatching(w);
  const described = asDescribed(person);
  const decision = decide(described, arrivals.candidatesOf(described), model, careful);
  if (decision.outcome === 'same') {
    // Whoever came in just before is filled up where they are kept.
    if (arrivals.waits(decision.contactId!)) await arrivals.write();
    if (who === 'staff') await fillBlanks(w, decision.contactId!, person);
    else await proposeOf(w, decision.contactId!, person, source);
    return { contactId: decision.contactId!, created: false, reasons: decision.reasons };
  }
  const contactId = await arrivals.add(person, source, { householdOf: decision.householdOf });
  if (decision.outcome === 'look' && decision.verdict) arrivals.pair(contactId, decision.verdict, source);
  const reasons =
    decision.outcome === 'look'
      ? [because('made new', { name: fullName(person) }), ...decision.reasons]
      : decision.reasons;
  return { contactId, created: true, reasons };
}

/** Somebody who says who comes with them, and those around them on record. */
export interface Beside {
  contactId: string;
  email: string | null;
  around: ReadonlySet<string>;
}

/**
 * Links somebody whom somebody else named, who may have no address of their own: they are looked for among the people around whoever
 * named them, so that a child is known again next year without taking over the parent's email. Whoever is new is in their household where
 * they are of one family. `mayBe` says who they cannot be.
 */
export async function linkBeside(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  arrivals: Arrivals,
  person: NewPerson,
  { contactId: besideId, email, around }: Beside,
  source: string,
  mayBe: (contactId: string) => boolean = () => true,
): Promise<Linked> {
  const described = asDescribed(person);
  const candidates = arrivals
    .candidatesOf(described)
    .filter((c) => mayBe(c.id))
    .map((c) => (around.has(c.id) && email ? { ...c, emails: [...c.emails, email] } : c));
  const { model, careful } = await readMatching(w);
  const decision = decide(described, candidates, model, careful);
  if (decision.outcome === 'same')
    return { contactId: decision.contactId!, created: false, reasons: decision.reasons };
  const sameFamily =
    decision.householdOf === besideId ||
    candidates.some((c) => c.id === besideId && c.family === person.family);
  const contactId = await arrivals.add({ ...person, email: null }, source, {
    householdOf: sameFamily ? besideId : null,
  });
  if (decision.outcome === 'look' && decision.verdict) arrivals.pair(contactId, decision.verdict, source);
  return {
    contactId,
    created: true,
    reasons:
      decision.outcome === 'look'
        ? [because('made new, unnamed'), ...decision.reasons]
        : [because('new person'), because('named by the buyer')],
  };
}

/** Adds what a contact does not have yet; never changes what is there. */
async function fillBlanks(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  contactId: string,
  person: NewPerson,
): Promise<void> {
  const { tx, app } = w;
  if (person.birthDate)
    await tx.query('update contacts set birth_date = $2 where id = $1 and birth_date is null', [
      contactId,
      person.birthDate,
    ]);
  const before = await tx.query('select 1 from contact_emails where contact_id = $1 limit 1', [contactId]);
  if (person.email && !before.length)
    await insert(tx, 'contact_emails', {
      id: app.ids.id(),
      contactId,
      email: person.email.trim(),
      emailKey: emailKey(person.email),
      position: 0,
    });
  if (person.phone)
    await insert(
      tx,
      'contact_phones',
      { id: app.ids.id(), contactId, phone: person.phone, position: 9 },
      'on conflict do nothing',
    );
  await refreshFound(tx, [contactId]);
}

/** Says that one contact looks after another; said twice it stays one. Both come into one household. */
export async function setGuardian(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  guardianId: string,
  childId: string,
): Promise<void> {
  if (guardianId === childId) return;
  await insert(
    w.tx,
    'relationships',
    { id: w.app.ids.id(), kind: 'guardian', fromContact: guardianId, toContact: childId, createdAt: w.now },
    'on conflict do nothing',
  );
  const householdId = await householdOf(w, guardianId);
  await w.tx.query('update contacts set household_id = $2 where id = $1 and household_id is null', [
    childId,
    householdId,
  ]);
}
