import { sizeOf, twoShares } from '#core/statistics/tests.ts';
import type { SeatFigures } from './figures.ts';

/** Everything an event came to. Money in minor units. */
export interface EventFigures extends SeatFigures {
  id: string;
  title: string;
  /** Of those registered, how many were members on the day; null where it is not told. */
  members: number | null;
  /** Null where money is not told. */
  money: { seats: number; extras: number; gifts: number; costs: number } | null;
  hours: number;
  /** The recommend score as its parts; null where nobody was asked. */
  recommend: { would: number; not: number; n: number } | null;
}

/** What is looked at as a share of some, tested, and as an amount by head, only measured. */
const shares = {
  'turn-up': (f: EventFigures) => ({ count: f.registered - f.missed, n: f.registered }),
  'first-timers': (f: EventFigures) => ({ count: f.firstTimers, n: f.people }),
  members: (f: EventFigures) => ({ count: f.members ?? 0, n: f.members === null ? 0 : f.registered }),
  withdrawn: (f: EventFigures) => ({ count: f.withdrawn, n: f.registered + f.withdrawn }),
  'walked in': (f: EventFigures) => ({ count: f.walkedIn, n: f.came }),
  recommend: (f: EventFigures) => ({ count: f.recommend?.would ?? 0, n: f.recommend?.n ?? 0 }),
} as const;
const perHead = {
  income: (f: EventFigures) => (f.money ? f.money.seats + f.money.extras : null),
  gifts: (f: EventFigures) => f.money?.gifts ?? null,
  costs: (f: EventFigures) => f.money?.costs ?? null,
  hours: (f: EventFigures) => f.hours,
} as const;
export type Share = keyof typeof shares;
export type PerHead = keyof typeof perHead;

/** What one event differs by from all the others together. */
export type Differs = { eventId: string; title: string } & (
  | {
      kind: 'share';
      what: Share;
      here: number;
      others: number;
      n: number;
      p: number;
      test: 'two shares' | 'fisher';
      size: ReturnType<typeof sizeOf>;
    }
  /** How many times as much by head; hours in hours, money in minor units. */
  | { kind: 'by head'; what: PerHead; here: number; others: number; times: number }
);

/** An amount by head is worth a word from here on. */
const worthTimes = 1.5;
const level = 0.05;

/**
 * What differs most among some events, the largest first: shares by the tests of two shares, their likelihoods raised for as many as are
 * looked at (S. Holm, Scandinavian Journal of Statistics 6, 1979); amounts by head where they are half as much again.
 */
export function differsMost(events: readonly EventFigures[], most = 5): Differs[] {
  if (events.length < 2) return [];
  const tested: { found: Differs & { kind: 'share' }; weight: number }[] = [];
  const measured: { found: Differs; weight: number }[] = [];
  for (const event of events) {
    const others = events.filter((e) => e !== event);
    const about = { eventId: event.id, title: event.title };
    for (const what of Object.keys(shares) as Share[]) {
      const here = shares[what](event);
      const there = others.map(shares[what]).reduce((a, b) => ({ count: a.count + b.count, n: a.n + b.n }));
      const difference = twoShares(there, here);
      if (!difference || difference.test === 'welch') continue;
      tested.push({
        found: {
          ...about,
          kind: 'share',
          what,
          here: here.count / here.n,
          others: there.count / there.n,
          n: here.n,
          p: difference.p,
          test: difference.test,
          size: sizeOf(difference),
        },
        weight: Math.abs(difference.size),
      });
    }
    for (const what of Object.keys(perHead) as PerHead[]) {
      const of = (f: EventFigures) => perHead[what](f);
      const known = others.filter((o) => of(o) !== null && o.came > 0);
      const heads = known.reduce((n, o) => n + o.came, 0);
      const amount = of(event);
      if (amount === null || !event.came || !heads) continue;
      const here = amount / event.came;
      const there = known.reduce((n, o) => n + of(o)!, 0) / heads;
      if (here <= 0 || there <= 0) continue;
      const times = here / there;
      if (times >= worthTimes || times <= 1 / worthTimes)
        measured.push({
          found: { ...about, kind: 'by head', what, here, others: there, times },
          // As far apart as shares: a share twice as large is about as worth saying as twice the money.
          weight: Math.abs(Math.log2(times)) / 2,
        });
    }
  }
  tested.sort((a, b) => a.found.p - b.found.p);
  let raised = 0;
  for (const [at, one] of tested.entries()) {
    raised = Math.max(raised, Math.min(1, one.found.p * (tested.length - at)));
    one.found.p = raised;
  }
  return (
    [...tested.filter((t) => t.found.p < level && t.found.size !== 'hardly any'), ...measured]
      .sort((a, b) => b.weight - a.weight)
      .map((one) => one.found)
      // The same thing is said once, of the one it is truest of.
      .filter((found, at, all) => all.findIndex((other) => other.what === found.what) === at)
      .slice(0, most)
  );
}
