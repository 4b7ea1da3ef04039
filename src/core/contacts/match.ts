import { because, type Reason, type ReasonCode } from '#core/words/reasons.ts';
import {
  type Agreement,
  agreementOf,
  type Candidate,
  type Described,
  type Field,
  fields,
  type Level,
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

/** What one field said. */
export interface Finding {
  field: Field;
  reason: Reason;
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
  held: Reason | null;
  /** The findings, strongest first, and what held it back. */
  reasons: Reason[];
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
        .map((f) => f.reason);
      return held && outcome === 'look' ? [...said, held] : said;
    },
  };
}

function outcomeOf(
  agreement: Agreement,
  weighed: Weighed,
  held: Reason | null,
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
function heldBack(a: Agreement): Reason | null {
  const code = whatHolds(a);
  return code && because(code);
}

function whatHolds(a: Agreement): ReasonCode | null {
  const confirmed = a.email === 'same' || a.phone === 'same' || a.birth === 'same';
  if (a.birth === 'different') return 'held: birth differs';
  if (a.given === 'missing' || a.family === 'missing') return 'held: name incomplete';
  if (a.given === 'different') return 'held: given differs';
  if (a.family === 'different' && !(a.email === 'same' && a.birth === 'same')) return 'held: family differs';
  if (a.given === 'alike') return 'held: given alike';
  if (a.given === 'initial' && !(a.email === 'same' && (a.phone === 'same' || a.birth === 'same')))
    return 'held: initial';
  if (!confirmed && a.address !== 'same') return 'held: unconfirmed';
  if (!confirmed && a.given !== 'same') return 'held: address only';
  if (a.email === 'different' && a.birth !== 'same') return 'held: email differs';
  if (a.phone === 'different' && a.birth !== 'same' && a.address === 'same') return 'held: phone differs';
  if (!confirmedTwice(a) && (a.given !== 'same' || a.family === 'spelling') && a.email !== 'same')
    return 'held: confirmed once';
  return null;
}

/** More than one of telephone, birth date and address agrees. */
const confirmedTwice = (a: Agreement): boolean =>
  [a.phone, a.birth, a.address].filter((level) => level === 'same').length > 1;

function findingsOf(a: Agreement, weighed: Weighed, person: Prepared, candidate: Prepared): Finding[] {
  const found = fields
    .filter((f) => a[f] !== 'missing')
    .map(
      (field): Finding => ({
        field,
        bits: asItSpeaks(a[field], Math.round(weighed.bits[field] * 10) / 10),
        reason: reasonOf(field, a[field], person.of, candidate.of),
      }),
    );
  if (a.swapped) found[0] = { ...found[0]!, reason: because('names swapped') };
  return found;
}

/**
 * A difference never speaks for two records being one, even where the likelier rival differs there more often; what is the same
 * never against, even where a household shares it as often.
 */
const asItSpeaks = (level: string, bits: number): number =>
  level === 'different' ? Math.min(bits, -0.1) : level === 'same' ? Math.max(bits, 0) : bits;

/** A reason for every level of agreement there is. */
type AgreementCode = { [F in Field]: `${F} ${Exclude<Level<F>, 'missing'>}` }[Field];

/** What a level of agreement in a field says, with what agrees or does not. */
function reasonOf(field: Field, level: string, a: Described, b: Described): Reason {
  const code = `${field} ${level}` as AgreementCode;
  if (field === 'given' || field === 'family')
    return because(code, level === 'same' ? { name: a[field] } : { a: a[field], b: b[field] });
  if (level !== 'same') return because(code);
  if (field === 'birth') return because(code, { date: { date: a.birthDate! } });
  if (field !== 'email') return because(code);
  const shared = a.emails.find((e) => b.emails.some((x) => x.toLowerCase() === e.toLowerCase())) ?? '';
  return because(code, { email: shared.toLowerCase() });
}

export interface Decision {
  outcome: 'same' | 'look' | 'new';
  /** The contact linked to (`same`) or most likely meant (`look`). */
  contactId: string | null;
  /** Somebody of the same household, when the person is new or unsure. */
  householdOf: string | null;
  reasons: Reason[];
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
  const of = (outcome: Decision['outcome'], verdict: Verdict | null, ...before: Reason[]): Decision => ({
    outcome,
    contactId: outcome === 'new' ? null : verdict!.candidateId,
    householdOf,
    reasons: [...before, ...(verdict?.reasons ?? [])],
    verdict,
  });
  if (same.length === 1) return of('same', same[0]!);
  if (same.length > 1) return of('look', same[0]!, because('several fit', { count: same.length }));
  if (look) return of('look', look);
  return household
    ? of('new', household, because('household known'))
    : of('new', null, because('nobody like this'));
}
