import { fold } from '#core/contacts/names.ts';
import { type Instant, millisecondsBetween } from '#core/time/clock.ts';
import type { Entrants, Measure } from './measure.ts';

export const tallyStates = ['waiting', 'counted', 'set aside'] as const;
export type TallyState = (typeof tallyStates)[number];

/** Why a tally waits to be looked at. */
export const doubts = ['looked at', 'nobody', 'not there', 'not theirs', 'much', 'twice'] as const;
export type Doubt = (typeof doubts)[number];

/** One entry towards a measure. */
export interface Tally {
  measureId: string;
  /** The figure; null where things are named. */
  value: number | null;
  /** What was named, where different things are counted. */
  thing: string;
  countedAt: Instant;
  enteredAt: Instant;
}

/** A tally with whose it is. */
export interface SignedTally extends Tally {
  contactId: string | null;
  byName: string;
}

/** What is known of whoever enters something: nobody found, a seat with whether they came, or one of the crew. */
export type Entrant = { known: 'team' } | { known: 'nobody' } | { known: 'crew' | 'people'; there: boolean };

const rank: Readonly<Record<Entrants, number>> = { team: 0, crew: 1, people: 2, anyone: 3 };

/**
 * Why a tally is looked at before it counts; nothing, and it counts at once. What somebody enters is never refused for who they are: the
 * answer would tell who was there.
 */
export function doubtsAbout(
  tally: SignedTally,
  measure: Pick<Measure, 'most' | 'enteredBy' | 'lookedAt' | 'kind'>,
  entrant: Entrant,
  others: readonly SignedTally[],
): Doubt[] {
  const found: Doubt[] = [];
  if (entrant.known !== 'team') {
    if (measure.lookedAt) found.push('looked at');
    if (measure.enteredBy !== 'anyone') {
      if (entrant.known === 'nobody') found.push('nobody');
      else if (rank[entrant.known] > rank[measure.enteredBy]) found.push('not theirs');
      else if (!entrant.there) found.push('not there');
    }
    if (isMuch(tally, measure, others)) found.push('much');
  }
  if (others.some((other) => isTwice(tally, other))) found.push('twice');
  return found;
}

/** From how many tallies on one is held against the others, and how many times the middle one is much. */
const usual = { from: 5, times: 10 } as const;

/** More than the measure says is looked at, or ten times what is usual at this event. */
function isMuch(
  tally: Tally,
  { most, kind }: Pick<Measure, 'most' | 'kind'>,
  others: readonly Tally[],
): boolean {
  if (tally.value === null) return false;
  if (most !== null && tally.value > most) return true;
  if (kind === 'latest' || others.length < usual.from) return false;
  const sorted = others.flatMap((o) => o.value ?? []).sort((a, b) => a - b);
  const middle = sorted[Math.floor(sorted.length / 2)];
  return middle !== undefined && middle > 0 && tally.value >= usual.times * middle;
}

/** Minutes within which the same figure by the same person is the same thing entered again. */
const againMinutes = 10;

function isTwice(a: SignedTally, b: SignedTally): boolean {
  const sameHand = a.contactId
    ? a.contactId === b.contactId
    : fold(a.byName) !== '' && fold(a.byName) === fold(b.byName);
  return (
    sameHand &&
    a.value === b.value &&
    fold(a.thing) === fold(b.thing) &&
    Math.abs(millisecondsBetween(a.countedAt, b.countedAt)) <= againMinutes * 60_000
  );
}

/** What tallies come to by the kind of their measure. Null where the newest one holds and there is none. */
export function totalOf(kind: Measure['kind'], tallies: readonly Tally[]): number | null {
  if (kind === 'distinct') return new Set(tallies.map((t) => fold(t.thing))).size;
  if (kind === 'latest')
    return (
      tallies.reduce<Tally | null>(
        (newest, t) =>
          !newest || [t.countedAt, t.enteredAt].join() > [newest.countedAt, newest.enteredAt].join()
            ? t
            : newest,
        null,
      )?.value ?? null
    );
  // Added up in whole thousandths: tenths of a kilogram do not add up to themselves otherwise.
  return tallies.reduce((sum, t) => sum + Math.round((t.value ?? 0) * 1000), 0) / 1000;
}

/** What an event came to by what it took: by head, by hour of the crew, by unit of money spent. */
export interface PerEach {
  head: number | null;
  hour: number | null;
  /** By whole unit of the currency. */
  spent: number | null;
}

/** A total beside what it took; null where nothing was, and where it does not add up. */
export function perEach(
  kind: Measure['kind'],
  total: number | null,
  took: { heads: number; hours: number; spent: number },
): PerEach {
  const by = (n: number) => (total === null || n <= 0 ? null : total / n);
  if (kind === 'latest' || kind === 'distinct') return { head: null, hour: null, spent: null };
  return { head: by(took.heads), hour: by(took.hours), spent: by(took.spent / 100) };
}
