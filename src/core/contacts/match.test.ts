import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { because, sayReason } from '#core/words/reasons.ts';
import { makeLabelled } from '#demo/labelled.ts';
import { makeRandom } from '#demo/random.ts';
import { agreementOf, keysOf, levels, prepare, worthComparing } from './comparing.ts';
import { blockedPairs, estimate } from './estimating.ts';
import {
  asDescribed,
  type Candidate,
  carefulThresholds,
  compare,
  compareReady,
  decide,
  usualThresholds,
} from './match.ts';
import { assumed, commonIn, firstModel, weigh } from './weights.ts';

const mai: Candidate = {
  id: 'mai',
  given: 'Mai',
  family: 'Delacroix-Nguyen',
  emails: ['dn@harbourpost.example'],
  phones: ['+19025550111'],
  birthDate: null,
  postalCode: null,
  street: null,
};
const candidate = (part: Partial<Candidate> & { id: string }): Candidate => ({ ...mai, ...part });
const email = 'dn@harbourpost.example';
const person = (given: string, family = 'Delacroix-Nguyen', more: object = {}) =>
  asDescribed({ given, family, email, ...more });

describe('who is who', () => {
  test('same email and name is the same person, also with other case and accents', () => {
    const verdict = compare(person('mai', 'DELACROIX NGUYEN', { email: 'DN@harbourpost.example' }), mai);
    expect(verdict).toMatchObject({ outcome: 'same', held: null });
    expect(verdict.reasons.map(sayReason)).toContain('same email, dn@harbourpost.example');
  });
  test.each([
    [
      'a nickname',
      person('Peggy', 'McAllister'),
      candidate({ id: 'a', given: 'Margaret', family: 'MacAllister' }),
    ],
    [
      'a family name without its particles',
      person('Imani', 'delaCruz'),
      candidate({ id: 'a', given: 'Imani', family: 'de la Cruz' }),
    ],
    [
      'an umlaut written out',
      person('Ulrike', 'Mueller'),
      candidate({ id: 'a', given: 'Ulrike', family: 'Müller' }),
    ],
    [
      'a slip in the given name and the same telephone',
      person('Gwenndolyn', 'Wren', { phone: '+19025550111' }),
      candidate({ id: 'a', given: 'Gwendolyn', family: 'Wren' }),
    ],
    [
      'names the other way round',
      person('Quistgaard', 'Björk'),
      candidate({ id: 'a', given: 'Björk', family: 'Quistgaard' }),
    ],
  ])('%s with the same email is the same person', (_, someone, contact) => {
    expect(compare(someone, contact).outcome).toBe('same');
  });

  test('a shared family email does not merge a family', () => {
    expect(compare(person('Théo'), mai).outcome).toBe('household');
    expect(decide(person('Théo'), [mai])).toMatchObject({ outcome: 'new', householdOf: 'mai' });
  });
  test('twins with one birthday and one address are two people', () => {
    const jun = candidate({ id: 'jun', given: 'Jun', family: 'Baptiste', birthDate: '1998-06-21' });
    const verdict = compare(person('Juno', 'Baptiste', { birthDate: '1998-06-21' }), jun);
    expect(verdict.outcome).not.toBe('same');
    expect(verdict.held).toEqual(because('held: given alike'));
  });
  test.each([
    ['Daniel', 'Daniela'],
    ['Maria', 'Marie'],
    ['Catherine', 'Katherine'],
  ])('%s and %s of one address are never linked unasked', (a, b) => {
    const contact = candidate({ id: 'a', given: b, birthDate: '1990-01-01' });
    expect(compare(person(a, undefined, { birthDate: '1990-01-01' }), contact).outcome).not.toBe('same');
  });
  test('two birth dates are two people, whatever else agrees', () => {
    const senior = candidate({ id: 'a', birthDate: '1960-01-01' });
    const verdict = compare(person('Mai', undefined, { birthDate: '1990-06-30' }), senior);
    expect(verdict.outcome).not.toBe('same');
    expect(verdict.findings.find((f) => f.field === 'birth')!.bits).toBeLessThan(0);
  });
  test.each([
    ['Jean Paul', 'Jean Claude', 'different'],
    ['Jean Paul', 'Jean Pual', 'spelling'],
    ['Jean Paul', 'Jean', 'part'],
    ['Jean Paul', 'Paul', 'part'],
    ['Jean Paul', 'Jean P', 'part'],
    ['Jean Paul', 'Jeanpaul', 'same'],
    ['Jean Paul', 'Jean Claude Marie', 'part'],
    ['Jean Paul', 'Marie Claude Anne', 'different'],
  ])('two given names: %s and %s', (one, other, level) => {
    const given = (name: string) => prepare(asDescribed({ given: name, family: 'Alder' }));
    expect(agreementOf(given(one), given(other)).given).toBe(level);
    expect(agreementOf(given(other), given(one)).given).toBe(level);
  });

  test('a name alone is put up for a look, never linked', () => {
    const decision = decide(asDescribed({ given: 'Mai', family: 'Delacroix-Nguyen' }), [mai]);
    expect(decision.outcome).toBe('look');
    expect(decision.reasons.at(-1)).toEqual(because('held: unconfirmed'));
  });
  test('a difference never speaks for two records being one, and what is the same never against', () => {
    const records = makeLabelled(makeRandom(6), 200).map((r) => prepare(r));
    for (const [a, b] of blockedPairs(records))
      for (const f of compareReady(a, b, firstModel, usualThresholds).findings) {
        if (f.reason.code.endsWith(' different')) expect(f.bits).toBeLessThan(0);
        if (f.reason.code.endsWith(' same')) expect(f.bits).toBeGreaterThanOrEqual(0);
      }
  });
  test('who is not worth comparing would have come to “different” all the same', () => {
    let skipped = 0;
    for (const seed of [3, 8]) {
      const records = makeLabelled(makeRandom(seed), 300).map((r) => prepare(r));
      const some = records.slice(0, 50);
      const pairs = [...blockedPairs(records), ...some.flatMap((a) => some.map((b) => [a, b] as const))];
      for (const [a, b] of pairs) {
        if (worthComparing(a, b, commonIn(firstModel))) continue;
        skipped += 1;
        expect(compareReady(a, b, firstModel, usualThresholds).outcome).toBe('different');
      }
    }
    expect(skipped).toBeGreaterThan(2000);
  });
  test('what was found is said of the same comparison every time, also in a copy', () => {
    const verdict = compare(person('Mai'), mai);
    expect(verdict.findings).toBe(verdict.findings);
    expect({ ...verdict }.reasons).toEqual(verdict.reasons);
    expect(verdict.reasons.length).toBeGreaterThan(1);
  });
  test('an initial and a shared email is put up for a look', () => {
    expect(compare(person('M.'), mai).outcome).toBe('look');
  });
  test('two contacts that fit equally well are put up for a look: nobody is chained through a third', () => {
    const decision = decide(person('Mai'), [candidate({ id: 'a' }), candidate({ id: 'b' })]);
    expect(decision.outcome).toBe('look');
    expect(sayReason(decision.reasons[0]!)).toBe('2 contacts fit equally well');
  });
  test('numbers in an address tell people apart, a slip in it does not', () => {
    const at = (a: string, b: string) =>
      agreementOf(prepare(person('Jo', 'Xu', { email: a })), prepare(person('Jo', 'Xu', { email: b }))).email;
    expect(at('hao.xu12@fenmail.example', 'hao.xu13@fenmail.example')).toBe('different');
    expect(at('isidore.xu@fenmail.example', 'isidroe.xu@fenmail.example')).toBe('mistyped');
    expect(at('isidore.xu@fenmail.example', 'isidore.xu@fenmail.exmaple')).toBe('mistyped');
  });
  test('agreement on a rare name counts for more than on a common one', () => {
    const model = { ...firstModel, given: { hao: 0.03 }, family: { xu: 0.04 } };
    const [a, b] = [
      prepare(asDescribed({ given: 'Hao', family: 'Xu' })),
      prepare(asDescribed({ given: 'Zeno', family: 'Quill' })),
    ];
    const bits = (p: typeof a) => weigh(agreementOf(p, p), p, p, model).bits;
    expect(bits(b).given).toBeGreaterThan(bits(a).given);
    expect(bits(b).family).toBeGreaterThan(bits(a).family);
  });
  test('the order of comparison does not matter', () => {
    const records = makeLabelled(makeRandom(3), 120).map((r) => prepare(r));
    for (const [a, b] of blockedPairs(records)) {
      const one = compareReady(a, b, firstModel, usualThresholds);
      const other = compareReady(b, a, firstModel, usualThresholds);
      expect(other.outcome).toBe(one.outcome);
      expect(other.probability).toBeCloseTo(one.probability, 9);
    }
  });
  test('everybody shares a key with themself, mistyped', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('Gwendolyn', 'Katherine', 'Isidore', 'Theodore'),
        fc.integer({ min: 2, max: 5 }),
        (given, at) => {
          const spoilt = given.slice(0, at) + given[at] + given.slice(at);
          const keys = new Set(keysOf(prepare(asDescribed({ given, family: 'Nakashima' }))));
          expect(
            keysOf(prepare(asDescribed({ given: spoilt, family: 'Nakaashima' }))).some((k) => keys.has(k)),
          ).toBe(true);
        },
      ),
    );
  });
});

describe('weights', () => {
  test('the likelihoods of every field add up to one', () => {
    for (const likelihoods of Object.values(assumed.likelihoods))
      for (const field of Object.keys(levels) as (keyof typeof levels)[]) {
        const sum = Object.values(likelihoods[field]).reduce((s, x) => s + x, 0);
        expect(sum).toBeCloseTo(1, 6);
      }
  });
  test('by hand: one field, three kinships', () => {
    const a = prepare(asDescribed({ given: '', family: '', email: 'x@fenmail.example' }));
    const { probability, bits } = weigh(agreementOf(a, a), a, a, { ...firstModel, people: 1000 });
    // Priors 0.3, 0.8 and 1 in 1000 contacts; likelihoods 0.72, 0.4 and 0.0002.
    const [same, household, unrelated] = [0.0003 * 0.72, 0.0008 * 0.4, 1 * 0.0002];
    expect(probability.same).toBeCloseTo(same / (same + household + unrelated), 6);
    expect(bits.email).toBeCloseTo(Math.log2(0.72 / 0.4), 6);
  });
  test('what is estimated from records comes near the truth behind them', () => {
    const random = makeRandom(8);
    const records = makeLabelled(random, 1500).map((r) => prepare(r));
    const model = estimate(records, () => random.next());
    const truly = [...blockedPairs(records)].filter(([a, b]) => a.of.personId === b.of.personId);
    const share = (of: (pair: (typeof truly)[number]) => boolean | null) => {
      const told = truly.map(of).filter((x) => x !== null);
      return told.filter(Boolean).length / told.length;
    };
    const sameFamily = share(([a, b]) => agreementOf(a, b).family === 'same');
    expect(model.likelihoods.same.family.same).toBeGreaterThan(sameFamily - 0.12);
    expect(model.likelihoods.same.family.same).toBeLessThan(sameFamily + 0.12);
    // Households share an address, unrelated people hardly ever do.
    expect(model.likelihoods.household.address.same).toBeGreaterThan(0.5);
    expect(model.likelihoods.unrelated.address.same).toBeLessThan(0.01);
    expect(model.people).toBe(records.length);
  });
  test('in a list without duplicates somebody who comes again with name and email is still known', () => {
    const random = makeRandom(9);
    const clean = makeLabelled(random, 400, 0);
    const model = estimate(
      clean.map((r) => prepare(r)),
      () => random.next(),
    );
    const known = clean.find((r) => r.emails.length === 1 && r.phones.length === 1 && r.birthDate)!;
    const again = asDescribed({ given: known.given, family: known.family, email: known.emails[0]! });
    expect(compare(again, known, model, carefulThresholds).outcome).toBe('same');
  });
  test('few records change nothing that is assumed', () => {
    const model = estimate([prepare(mai)], Math.random);
    expect(model.likelihoods).toEqual(assumed.likelihoods);
  });
});

describe('quality on labelled records', () => {
  test('hardly a link is wrong, and hardly a duplicate is missed', () => {
    const random = makeRandom(4242);
    const records = makeLabelled(random, 1200).map((r) => prepare(r));
    const model = estimate(records, () => random.next());
    let linked = 0;
    let wrong = 0;
    let found = 0;
    let truePairs = 0;
    const all = new Map<string, number>();
    for (const r of records) all.set(r.of.personId, (all.get(r.of.personId) ?? 0) + 1);
    for (const n of all.values()) truePairs += (n * (n - 1)) / 2;
    for (const [a, b] of blockedPairs(records)) {
      const { outcome } = compareReady(a, b, model, usualThresholds);
      const same = a.of.personId === b.of.personId;
      if (outcome === 'same') linked += 1;
      if (outcome === 'same' && !same) {
        wrong += 1;
        // Whoever is linked wrongly at least has one given name: no two people of different names ever are.
        expect(agreementOf(a, b).given).toBe('same');
      }
      if (same && (outcome === 'same' || outcome === 'look')) found += 1;
    }
    expect(wrong / linked).toBeLessThan(0.01);
    expect(found / truePairs).toBeGreaterThan(0.95);
  });
});
