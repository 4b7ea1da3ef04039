import { sayShortDate } from '#core/time/say.ts';
import {
  type Agreement,
  agreementOf,
  type Candidate,
  type Described,
  type Field,
  fields,
  type Prepared,
  prepare,
  worthComparing,
} from './comparing.ts';
import { commonIn, firstModel, type MatchingModel, type Weighed, weigh } from './weights.ts';

export { asDescribed, type Candidate, type Described } from './comparing.ts';

/**
 * What a comparison came to. `same`: linked without asking. `look`: a person decides. `household`: another person at
 * the same address, email or telephone. `different`: nothing to say.
 */
export type Outcome = 'same' | 'look' | 'household' | 'different';

/** From which probability two records are the same, and from which somebody has a look. */
export interface Thresholds {
  same: number;
  look: number;
}
export const usualThresholds: Thresholds = { same: 0.95, look: 0.1 };
/** Where nobody reviews what was linked, as at registration: a wrong link is worse than a duplicate. */
export const carefulThresholds: Thresholds = { same: 0.97, look: 0.1 };

/** What one field said, in words. */
export interface Finding {
  field: Field;
  words: string;
  /** Bits for or against; 0 where a side is missing. */
  bits: number;
}

export interface Verdict {
  candidateId: string;
  outcome: Outcome;
  /** How likely they are the same, 0 to 1. */
  probability: number;
  findings: Finding[];
  /** Why it was not linked although it is likely. */
  held: string | null;
  /** The findings in words, strongest first, and what held it back. */
  reasons: string[];
}

/** Compares one person with one contact. */
export function compare(
  person: Described,
  candidate: Candidate,
  model: MatchingModel = firstModel,
  thresholds: Thresholds = usualThresholds,
): Verdict {
  return compareReady(prepare(person), prepare(candidate), model, thresholds);
}

/** The same for people made ready, where many are compared. */
export function compareReady(
  person: Prepared,
  candidate: Prepared<Candidate>,
  model: MatchingModel,
  thresholds: Thresholds,
): Verdict {
  const agreement = agreementOf(person, candidate, commonIn(model));
  const weighed = weigh(agreement, person, candidate, model);
  const probability = weighed.probability.same;
  const held = heldBack(agreement);
  const outcome = outcomeOf(agreement, weighed, held, thresholds);
  let found: Finding[] | null = null;
  return {
    candidateId: candidate.of.id,
    outcome,
    probability,
    held: outcome === 'look' || outcome === 'household' ? held : null,
    // Said of few of the many that are compared.
    get findings() {
      found ??= findingsOf(agreement, weighed, person, candidate);
      return found;
    },
    get reasons() {
      const said = [...this.findings]
        .filter((f) => f.bits !== 0)
        .sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits))
        .map((f) => f.words);
      return held && outcome === 'look' ? [...said, held] : said;
    },
  };
}

function outcomeOf(
  agreement: Agreement,
  weighed: Weighed,
  held: string | null,
  thresholds: Thresholds,
): Outcome {
  const { same, household, unrelated } = weighed.probability;
  if (!held && same >= thresholds.same) return 'same';
  // Other given name and other birth date: no slip explains both.
  const twoPeople = agreement.given === 'different' && agreement.birth !== 'same';
  if (same >= thresholds.look && !twoPeople) return 'look';
  const shares = agreement.email === 'same' || agreement.phone === 'same' || agreement.address === 'same';
  return shares && household > unrelated * 0.2 ? 'household' : 'different';
}

/**
 * What keeps two records from being linked unasked however likely they are. Weights add up as if fields agreed by
 * chance only; in a family they do not, so these cases are decided by a person.
 */
function heldBack(a: Agreement): string | null {
  const confirmed = a.email === 'same' || a.phone === 'same' || a.birth === 'same';
  if (a.birth === 'different') return 'the birth dates differ';
  if (a.given === 'missing' || a.family === 'missing') return 'part of the name is missing';
  if (a.given === 'different') return 'the given names differ';
  if (a.family === 'different' && !(a.email === 'same' && a.birth === 'same'))
    return 'the family names differ';
  if (a.given === 'alike') return 'the given names are alike, but may be two people’s';
  if (a.given === 'initial' && !(a.email === 'same' && (a.phone === 'same' || a.birth === 'same')))
    return 'there is only an initial to go by';
  if (!confirmed && a.address !== 'same') return 'no email, telephone or birth date confirms the name';
  if (!confirmed && a.given !== 'same') return 'only the address confirms a name that is written differently';
  if (a.email === 'different' && a.birth !== 'same')
    return 'the emails differ, and no birth date says they are one person';
  if (a.phone === 'different' && a.birth !== 'same' && a.address === 'same')
    return 'the telephones differ at one address: they may be parent and child of one name';
  if (!confirmedTwice(a) && (a.given !== 'same' || a.family === 'spelling') && a.email !== 'same')
    return 'one agreement is not enough for a name that is written differently';
  return null;
}

/** More than one of telephone, birth date and address agrees. */
const confirmedTwice = (a: Agreement): boolean =>
  [a.phone, a.birth, a.address].filter((level) => level === 'same').length > 1;

const alike: { [F in Field]: Partial<Record<string, string>> } = {
  given: {
    same: 'same given name',
    nickname: 'given names that are short for each other',
    part: 'one given name is part of the other',
    spelling: 'given names alike but for the spelling',
    alike: 'given names that look alike',
    initial: 'an initial that fits',
    different: 'different given names',
  },
  family: {
    same: 'same family name',
    variant: 'same family name, written differently',
    spelling: 'family names alike but for the spelling',
    part: 'one family name is part of the other',
    different: 'different family names',
  },
  email: { same: 'same email', mistyped: 'emails alike but for a slip', different: 'different emails' },
  phone: { same: 'same telephone', different: 'different telephones' },
  birth: {
    same: 'same birth date',
    mistyped: 'birth dates alike but for a slip',
    different: 'different birth dates',
  },
  address: {
    same: 'same address',
    'postal code': 'same postal code',
    different: 'different addresses',
  },
};

function findingsOf(a: Agreement, weighed: Weighed, person: Prepared, candidate: Prepared): Finding[] {
  const found = fields
    .filter((f) => a[f] !== 'missing')
    .map((field): Finding => {
      const level = a[field];
      const detail = detailOf(field, level, person.of, candidate.of);
      return {
        field,
        // A difference never speaks for two records being one, even where the likelier rival differs there more often.
        bits: Math.min(Math.round(weighed.bits[field] * 10) / 10, level === 'different' ? -0.1 : Infinity),
        words: `${alike[field][level]}${detail ? `, ${detail}` : ''}`,
      };
    });
  if (a.swapped) found[0] = { ...found[0]!, words: 'given and family name the other way round' };
  return found;
}

function detailOf(field: Field, level: string, a: Described, b: Described): string {
  if (field === 'email')
    return level === 'same'
      ? (a.emails.find((e) => b.emails.some((x) => x.toLowerCase() === e.toLowerCase())) ?? '').toLowerCase()
      : '';
  if (field === 'birth')
    return level === 'same' ? `${sayShortDate(a.birthDate!)} ${a.birthDate!.slice(0, 4)}` : '';
  if (field === 'given' && level !== 'same') return `${a.given} and ${b.given}`;
  if (field === 'family' && level !== 'same') return `${a.family} and ${b.family}`;
  if (field === 'given' || field === 'family') return a[field];
  return '';
}

export interface Decision {
  outcome: 'same' | 'look' | 'new';
  /** The contact linked to (`same`) or most likely meant (`look`). */
  contactId: string | null;
  /** Somebody of the same household, when the person is new or unsure. */
  householdOf: string | null;
  reasons: string[];
  /** The comparison that decided. */
  verdict: Verdict | null;
}

/**
 * Decides who a person is among the candidates. Linked only when exactly one contact is the same: two that fit are
 * put up for a look, or two people would be chained together through a third.
 */
export function decide(
  person: Described,
  candidates: readonly Candidate[],
  model: MatchingModel = firstModel,
  thresholds: Thresholds = usualThresholds,
): Decision {
  const ready = prepare(person);
  return decideReady(
    ready,
    candidates.map((c) => prepare(c)),
    model,
    thresholds,
  );
}

/** The same for people made ready. */
export function decideReady(
  person: Prepared,
  candidates: readonly Prepared<Candidate>[],
  model: MatchingModel,
  thresholds: Thresholds,
): Decision {
  const isCommon = commonIn(model);
  const verdicts = candidates
    .filter((c) => worthComparing(person, c, isCommon))
    .map((c) => compareReady(person, c, model, thresholds))
    .sort((a, b) => b.probability - a.probability);
  const same = verdicts.filter((v) => v.outcome === 'same');
  const look = verdicts.find((v) => v.outcome === 'look');
  const household = verdicts.find((v) => v.outcome === 'household');
  const householdOf = household?.candidateId ?? null;
  const of = (outcome: Decision['outcome'], verdict: Verdict | null, ...before: string[]): Decision => ({
    outcome,
    contactId: outcome === 'new' ? null : verdict!.candidateId,
    householdOf,
    reasons: [...before, ...(verdict?.reasons ?? [])],
    verdict,
  });
  if (same.length === 1) return of('same', same[0]!);
  if (same.length > 1) return of('look', same[0]!, `${same.length} contacts fit equally well`);
  if (look) return of('look', look);
  return household
    ? of('new', household, 'new person, of a household that is known')
    : of('new', null, 'nobody like this is known');
}
