import { keysOf, type Prepared, prepare } from '#core/contacts/comparing.ts';
import { blockedPairs, estimate } from '#core/contacts/estimating.ts';
import { compareReady, decideReady, usualThresholds } from '#core/contacts/match.ts';
import { sayReason } from '#core/words/reasons.ts';
import { type Labelled, makeLabelled } from '#demo/labelled.ts';
import { makeRandom } from '#demo/random.ts';
import { Report } from './report.ts';

// npm run bench -- matching: how well records are told apart, on labelled records nobody tuned anything on but the first seed.
const people = Number(process.argv[2] ?? 2000);
const seeds = [11, 23, 47, 101, 733];

interface Score {
  seed: number;
  records: number;
  truePairs: number;
  linked: number;
  wrong: number;
  /** Wrong links inside one household, between people of different names. */
  household: number;
  /** The same between people of one name, as a father and his son: where neither list gives both birth dates, nothing tells them apart. */
  namesakes: number;
  found: number;
  look: number;
  lookTrue: number;
}

function pairsOf(seed: number): Score {
  const random = makeRandom(seed);
  const records = makeLabelled(random, people).map(prepare);
  const model = estimate(records, () => random.next());
  const score: Score = {
    seed,
    records: records.length,
    truePairs: 0,
    linked: 0,
    wrong: 0,
    household: 0,
    namesakes: 0,
    found: 0,
    look: 0,
    lookTrue: 0,
  };
  // The first record of everybody is clean.
  const called = new Map<string, string>();
  for (const { of } of records)
    if (!called.has(of.personId)) called.set(of.personId, `${of.given} ${of.family}`);
  const counts = new Map<string, number>();
  for (const r of records) counts.set(r.of.personId, (counts.get(r.of.personId) ?? 0) + 1);
  for (const n of counts.values()) score.truePairs += (n * (n - 1)) / 2;
  for (const [a, b] of blockedPairs(records)) {
    const verdict = compareReady(a, b as Prepared<Labelled>, model, usualThresholds);
    const same = a.of.personId === b.of.personId;
    if (verdict.outcome === 'same') {
      score.linked += 1;
      if (!same) score.wrong += 1;
      if (!same && a.of.householdId === b.of.householdId)
        score[called.get(a.of.personId) === called.get(b.of.personId) ? 'namesakes' : 'household'] += 1;
      if (!same && process.env.SHOW)
        show('WRONG', a.of, b.of, verdict.probability, verdict.reasons.map(sayReason));
    } else if (verdict.outcome === 'look') {
      score.look += 1;
      if (same) score.lookTrue += 1;
    }
    if (same && (verdict.outcome === 'same' || verdict.outcome === 'look')) score.found += 1;
    else if (same && process.env.SHOW)
      show('MISSED', a.of, b.of, verdict.probability, verdict.reasons.map(sayReason));
  }
  return score;
}

function show(what: string, a: Labelled, b: Labelled, p: number, reasons: readonly string[]): void {
  const say = (x: Labelled) =>
    [x.given, x.family, x.emails[0], x.phones[0], x.birthDate, x.street, x.postalCode].join('|');
  console.log(`${what} ${p.toFixed(3)}\n   ${say(a)}\n   ${say(b)}\n   ${reasons.join('; ')}`);
}

/** The clean records are the contacts; everybody who turns up again is decided against them. */
function arrivalsOf(seed: number): {
  asked: number;
  linked: number;
  wrong: number;
  found: number;
  ms: number;
} {
  const random = makeRandom(seed);
  const records = makeLabelled(random, people).map(prepare);
  const known = records.slice(0, people);
  const model = estimate(known, () => random.next());
  const byKey = new Map<string, Prepared<Labelled>[]>();
  for (const k of known) for (const key of keysOf(k)) byKey.set(key, [...(byKey.get(key) ?? []), k]);
  const result = { asked: 0, linked: 0, wrong: 0, found: 0, ms: 0 };
  const began = performance.now();
  for (const r of records.slice(people)) {
    const candidates = [...new Set(keysOf(r).flatMap((k) => byKey.get(k) ?? []))];
    const decision = decideReady(r, candidates, model, usualThresholds);
    result.asked += 1;
    const right = known.find((k) => k.of.id === decision.contactId)?.of.personId === r.of.personId;
    if (decision.outcome === 'same') {
      result.linked += 1;
      if (!right) result.wrong += 1;
    }
    if (decision.outcome !== 'new' && right) result.found += 1;
  }
  result.ms = performance.now() - began;
  return result;
}

const scores = seeds.map(pairsOf);
const sum = (of: (s: Score) => number) => scores.reduce((n, s) => n + of(s), 0);
const arrivals = seeds.map(arrivalsOf);
const total = (of: (a: (typeof arrivals)[number]) => number) => arrivals.reduce((n, a) => n + of(a), 0);
const per = (n: number, of: number, each: number) => (n / Math.max(1, of)) * each;
const report = new Report('matching');
const wrong = { of: 'value', atMost: 5 } as const;
const found = { of: 'value', atLeast: 95 } as const;
const [linked, truePairs, asked] = [sum((s) => s.linked), sum((s) => s.truePairs), total((a) => a.asked)];
report.row(
  'records',
  sum((s) => s.records),
  'records',
);
report.row('true pairs', truePairs, 'pairs');
report.row('linked automatically', linked, 'pairs');
report.row(
  'of these wrong, in 1,000',
  per(
    sum((s) => s.wrong),
    linked,
    1000,
  ),
  '',
  { goal: wrong },
);
report.row(
  'wrong links inside one household, of two names',
  sum((s) => s.household),
  'pairs',
  { goal: { of: 'value', atMost: 0 } },
);
report.row(
  'wrong links inside one household, of one name',
  sum((s) => s.namesakes),
  'pairs',
);
report.row(
  'true pairs linked or put up, in 100',
  per(
    sum((s) => s.found),
    truePairs,
    100,
  ),
  '',
  { goal: found },
);
report.row(
  'pairs put up for review',
  sum((s) => s.look),
  'pairs',
);
report.row(
  'of these truly the same, in 100',
  per(
    sum((s) => s.lookTrue),
    sum((s) => s.look),
    100,
  ),
  '',
);
report.row(
  'arrivals linked, in 100',
  per(
    total((a) => a.linked),
    asked,
    100,
  ),
  '',
);
report.row(
  'of these wrong, in 1,000',
  per(
    total((a) => a.wrong),
    total((a) => a.linked),
    1000,
  ),
  '',
  {
    goal: wrong,
  },
);
report.row(
  'arrivals linked rightly or put up, in 100',
  per(
    total((a) => a.found),
    asked,
    100,
  ),
  '',
  { goal: found },
);
report.row(`an arrival decided against ${people} contacts`, (total((a) => a.ms) / asked) * 1000, 'µs');
report.finish();
