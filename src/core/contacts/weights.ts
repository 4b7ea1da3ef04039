import { type Agreement, type Field, fields, type Level, levels, type Prepared } from './comparing.ts';

/** What two records may be to each other. */
export type Kinship = 'same' | 'household' | 'unrelated';
export const kinships: readonly Kinship[] = ['same', 'household', 'unrelated'];

/** How likely each level of agreement is, where neither side is missing; they add up to one for each field. */
export type Likelihoods = { [F in Field]: { [L in Exclude<Level<F>, 'missing'>]: number } };

/**
 * What the comparison of two people is weighed by: the m and u probabilities of I. P. Fellegi and A. B. Sunter, "A
 * Theory for Record Linkage" (1969), with a third class for people who share a household, because shared addresses
 * are evidence against "unrelated" but not for "the same".
 */
export interface MatchingModel {
  /** How many contacts there are: the more, the likelier a chance agreement somewhere. */
  people: number;
  /** For somebody who turns up: how many contacts are the same person, and of the same household, on average. */
  rates: { same: number; household: number };
  likelihoods: Record<Kinship, Likelihoods>;
  /** Share of contacts with a folded given or family name, for names that are common. */
  given: Record<string, number>;
  family: Record<string, number>;
}

/** What is assumed before an organization's own records say otherwise. */
export const assumed: Pick<MatchingModel, 'rates' | 'likelihoods'> = {
  rates: { same: 0.3, household: 0.8 },
  likelihoods: {
    same: {
      given: {
        same: 0.76,
        nickname: 0.08,
        part: 0.03,
        spelling: 0.06,
        alike: 0.02,
        initial: 0.04,
        different: 0.01,
      },
      family: { same: 0.84, variant: 0.04, spelling: 0.06, part: 0.02, different: 0.04 },
      email: { same: 0.72, mistyped: 0.05, different: 0.23 },
      phone: { same: 0.75, different: 0.25 },
      birth: { same: 0.93, mistyped: 0.05, different: 0.02 },
      address: { same: 0.75, 'postal code': 0.05, different: 0.2 },
    },
    household: {
      given: {
        same: 0.002,
        nickname: 0.002,
        part: 0.002,
        spelling: 0.001,
        alike: 0.011,
        initial: 0.03,
        different: 0.952,
      },
      family: { same: 0.8, variant: 0.03, spelling: 0.02, part: 0.03, different: 0.12 },
      email: { same: 0.4, mistyped: 0.01, different: 0.59 },
      phone: { same: 0.35, different: 0.65 },
      birth: { same: 0.02, mistyped: 0.02, different: 0.96 },
      address: { same: 0.85, 'postal code': 0.03, different: 0.12 },
    },
    unrelated: {
      given: {
        same: 0.01,
        nickname: 0.003,
        part: 0.001,
        spelling: 0.0005,
        alike: 0.0045,
        initial: 0.01,
        different: 0.971,
      },
      family: { same: 0.01, variant: 0.0005, spelling: 0.003, part: 0.003, different: 0.9835 },
      email: { same: 0.0002, mistyped: 0.0001, different: 0.9997 },
      phone: { same: 0.0006, different: 0.9994 },
      birth: { same: 0.0001, mistyped: 0.003, different: 0.9969 },
      address: { same: 0.0008, 'postal code': 0.001, different: 0.9982 },
    },
  },
};

/** The model before anything was estimated. */
export const firstModel: MatchingModel = { people: 500, ...assumed, given: {}, family: {} };

/** With fewer people than this a chance agreement is still taken to be as likely as with so many. */
const leastPeople = 400;

/** How likely two people are the same, of one household or unrelated (adding up to one), and what each field said. */
export interface Weighed {
  probability: Record<Kinship, number>;
  /** Bits for (positive) or against being the same, as against the likelier of the two other kinships. */
  bits: { [F in Field]: number };
}

/**
 * Weighs an agreement. Agreement on a rare name counts for more than on a common one (W. E. Winkler, "Frequency-Based
 * Matching in the Fellegi–Sunter Model", 2000): for unrelated people the chance of agreeing on a name is its share.
 */
export function weigh(agreement: Agreement, a: Prepared, b: Prepared, model: MatchingModel): Weighed {
  const people = Math.max(model.people, leastPeople);
  const prior: Record<Kinship, number> = {
    same: model.rates.same / people,
    household: model.rates.household / people,
    unrelated: 1,
  };
  const log = { same: 0, household: 0, unrelated: 0 };
  const each: Record<Kinship, Partial<Record<Field, number>>> = { same: {}, household: {}, unrelated: {} };
  for (const kinship of kinships) {
    log[kinship] = Math.log2(prior[kinship]);
    for (const field of fields) {
      const level = agreement[field];
      if (level === 'missing') continue;
      const likelihood =
        kinship === 'unrelated' && level === 'same' && (field === 'given' || field === 'family')
          ? shareOf(field, a, b, model)
          : (model.likelihoods[kinship][field] as Record<string, number>)[level]!;
      const bits = Math.log2(Math.max(likelihood, 1e-7));
      each[kinship][field] = bits;
      log[kinship] += bits;
    }
  }
  const most = Math.max(log.same, log.household, log.unrelated);
  const shares = kinships.map((k) => 2 ** (log[k] - most));
  const sum = shares.reduce((s, x) => s + x, 0);
  const rival = log.household > log.unrelated ? 'household' : 'unrelated';
  const bits = {} as Weighed['bits'];
  for (const field of fields)
    bits[field] = each.same[field] === undefined ? 0 : each.same[field]! - each[rival][field]!;
  return {
    probability: { same: shares[0]! / sum, household: shares[1]! / sum, unrelated: shares[2]! / sum },
    bits,
  };
}

/** The share of people with the name both have; a name that is not among the common ones is as rare as two in all. */
function shareOf(field: 'given' | 'family', a: Prepared, b: Prepared, model: MatchingModel): number {
  const rare = Math.min(2 / Math.max(model.people, leastPeople), 0.005);
  const shares = model[field];
  const name = a[field] === b[field] || field === 'family' ? a[field] : b[field];
  return Math.max(shares[name] ?? 0, rare);
}

/** Says which folded given names people here really have. */
export const commonIn =
  (model: MatchingModel) =>
  (given: string): boolean =>
    (model.given[given] ?? 0) > 0;

/** Every level of every field at an equal tiny share, to add to counts. */
export const emptyLikelihoods = (value = 0): Likelihoods =>
  Object.fromEntries(
    fields.map((f) => [f, Object.fromEntries(levels[f].map((l) => [l, value]))]),
  ) as unknown as Likelihoods;
