import type { CalendarDate } from '#core/time/clock.ts';
import { compareGiven, fold, fullName, type PersonName } from './names.ts';
import { emailKey } from './reach.ts';

/** What is known of somebody who may already be a contact. */
export interface Described extends PersonName {
  email?: string | null;
  /** E.164. */
  phone?: string | null;
  birthDate?: CalendarDate | null;
  postalCode?: string | null;
}

/** A contact to compare with: all addresses and numbers it has. */
export interface Candidate extends PersonName {
  id: string;
  emails: readonly string[];
  phones: readonly string[];
  birthDate: CalendarDate | null;
  postalCode: string | null;
}

/**
 * What a comparison came to. `same`: linked without asking. `household`: another person at the same address or
 * number. `look`: a person has to decide. `different`: nothing to say.
 */
export type Outcome = 'same' | 'household' | 'look' | 'different';

export interface Verdict {
  candidateId: string;
  outcome: Outcome;
  /** Why, in words, strongest first. */
  reasons: string[];
}

/**
 * Compares one person with one contact.
 * A name alone never links. A shared email or telephone links only together with the given name: families share
 * both. Two different birth dates always mean two people.
 */
export function compare(person: Described, candidate: Candidate): Verdict {
  const given = compareGiven(person.given, candidate.given);
  const family = fold(person.family) === fold(candidate.family);
  const sameName = given === 'same' && family;
  const likeName = (given === 'same' || given === 'initial') && family;
  const email =
    Boolean(person.email) && candidate.emails.some((e) => emailKey(e) === emailKey(person.email!));
  const phone = Boolean(person.phone) && candidate.phones.includes(person.phone!);
  const bothBorn = Boolean(person.birthDate && candidate.birthDate);
  const born = bothBorn && person.birthDate === candidate.birthDate;
  const postal =
    Boolean(person.postalCode && candidate.postalCode) &&
    fold(person.postalCode!).replaceAll(' ', '') === fold(candidate.postalCode!).replaceAll(' ', '');

  const reasons: string[] = [];
  if (sameName) reasons.push(`same name, ${fullName(candidate)}`);
  else if (likeName) reasons.push(`an initial that fits ${fullName(candidate)}`);
  if (email) reasons.push(`same email, ${emailKey(person.email!)}`);
  if (phone) reasons.push('same telephone');
  if (born) reasons.push('same birth date');
  if (postal) reasons.push('same postal code');

  const verdict = (outcome: Outcome, last?: string): Verdict => ({
    candidateId: candidate.id,
    outcome,
    reasons: last ? [...reasons, last] : reasons,
  });
  if (bothBorn && !born) {
    if (email || phone) return verdict('household', 'but a different birth date');
    return verdict('different', 'a different birth date');
  }
  if (sameName && (email || phone || born)) return verdict('same');
  if (likeName && email && (phone || born)) return verdict('same');
  if (likeName && (email || phone)) return verdict('look', 'only an initial to go by');
  if (given === 'same' && (email || phone))
    return verdict('look', `but the family name is ${candidate.family || 'missing'}`);
  if (email || phone) return verdict('household', `but the given name is ${candidate.given || 'missing'}`);
  if (sameName && postal) return verdict('look', 'no email or telephone to confirm it');
  if (sameName) return verdict('look', 'only the name agrees');
  return verdict('different');
}

export interface Decision {
  outcome: 'same' | 'look' | 'new';
  /** The contact linked to (`same`) or most likely meant (`look`). */
  contactId: string | null;
  /** Somebody of the same household, when the person is new or unsure. */
  householdOf: string | null;
  reasons: string[];
}

/**
 * Decides who a person is among the candidates. Linked only when exactly one contact is the same; two that could be
 * are put up for a look, because a wrong link is worse than a duplicate.
 */
export function decide(person: Described, candidates: readonly Candidate[]): Decision {
  const verdicts = candidates.map((c) => compare(person, c));
  const same = verdicts.filter((v) => v.outcome === 'same');
  const look = verdicts.filter((v) => v.outcome === 'look');
  const household = verdicts.find((v) => v.outcome === 'household');
  const householdOf = household?.candidateId ?? null;
  if (same.length === 1)
    return { outcome: 'same', contactId: same[0]!.candidateId, householdOf, reasons: same[0]!.reasons };
  if (same.length > 1)
    return {
      outcome: 'look',
      contactId: same[0]!.candidateId,
      householdOf,
      reasons: [`${same.length} contacts fit equally well`, ...same[0]!.reasons],
    };
  if (look.length)
    return { outcome: 'look', contactId: look[0]!.candidateId, householdOf, reasons: look[0]!.reasons };
  return {
    outcome: 'new',
    contactId: null,
    householdOf,
    reasons: household ? ['new person', ...household.reasons] : ['nobody like this is known'],
  };
}
