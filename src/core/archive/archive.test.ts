import fc from 'fast-check';
import { expect, test } from 'vitest';
import { shiftDate } from '#core/time/dates.ts';
import { dayNumber } from '#core/time/dayRuns.ts';
import { type Archive, type ArchiveEvent, type SeatState, seatState, visitsOf } from './archive.ts';
import { differsMost, type EventFigures } from './comparing.ts';
import { aheadBy, conversionsOf } from './conversions.ts';
import { driftingAway } from './drifting.ts';
import { differentPeople, seatFigures } from './figures.ts';
import { overlapOf } from './overlap.ts';
import { middle, pathsOf } from './paths.ts';
import { returnsOf } from './returns.ts';
import {
  sayConversion,
  sayDateKey,
  sayDates,
  sayDiffers,
  sayDrifting,
  sayOverlap,
  sayReturns,
  saySeries,
  saySteps,
  sayStretch,
  sayTiming,
} from './saying.ts';
import { seriesOf } from './series.ts';
import { bestDates, timingOf } from './timing.ts';
import { unitYears } from './units.ts';

interface Held {
  on: string;
  kind?: string;
  unit?: string;
  at?: string;
  capacity?: number;
  over?: boolean;
  /** A person a seat: how it went, and how many days before it was booked. */
  seats: [person: number, state: SeatState, booked?: number, ended?: number][];
}

const eventOf = (
  { on, kind = 'k', unit, at = '18:00', capacity, over = true, seats }: Held,
  n: number,
): ArchiveEvent => ({
  id: `e${n}`,
  title: `Event ${kind}`,
  kind,
  unitId: unit ?? null,
  day: dayNumber(on),
  startsLocal: `${on}T${at}`,
  over,
  capacity: capacity ?? null,
  seats: {
    person: Int32Array.from(seats, ([p]) => p),
    state: Uint8Array.from(seats, ([, s]) => seatState[s]),
    bookedBefore: Int16Array.from(seats, ([, , b]) => b ?? 10),
    endedBefore: Int16Array.from(seats, ([, , , e]) => e ?? 0),
  },
});
type Days = [person: number, on: string][];
const moments = (of: Days) => {
  const sorted = [...of].sort((a, b) => (a[1] < b[1] ? -1 : 1));
  return {
    person: Int32Array.from(sorted, ([p]) => p),
    day: Int32Array.from(sorted, ([, on]) => dayNumber(on)),
  };
};
function archiveOf(
  held: readonly Held[],
  { gifts = [] as Days, served = [] as Days, people = 20 } = {},
): Archive {
  return {
    events: [...held].sort((a, b) => (a.on < b.on ? -1 : 1)).map(eventOf),
    people,
    gifts: moments(gifts),
    served: moments(served),
  };
}
const today = '2026-07-09';

const anySeat = fc.tuple(
  fc.integer({ min: -1, max: 7 }),
  fc.constantFrom<SeatState>('expected', 'came', 'missed', 'withdrawn', 'walked in', 'other'),
);
const anyHeld = fc.record({
  on: fc.integer({ min: 0, max: 1200 }).map((d) => shiftDate('2023-01-01', d)),
  kind: fc.constantFrom('a', 'b', 'c'),
  over: fc.boolean(),
  seats: fc.array(anySeat, { maxLength: 12 }) as fc.Arbitrary<Held['seats']>,
});
const anyArchive = fc.array(anyHeld, { maxLength: 25 }).map((held) =>
  archiveOf(held, {
    people: 8,
    gifts: [
      [1, '2024-05-01'],
      [2, '2025-05-01'],
    ],
    served: [[1, '2025-01-01']],
  }),
);
const came = (state: number) => state === seatState.came || state === seatState['walked in'];
/** What somebody came to, found the plain way. */
const visitsPlain = (archive: Archive, person: number): number[] =>
  archive.events.flatMap((e, at) =>
    e.over && [...e.seats.person].some((p, n) => p === person && came(e.seats.state[n]!)) ? [at] : [],
  );

test('visits are what somebody came to, each event once, in the order of time', () => {
  fc.assert(
    fc.property(anyArchive, (archive) => {
      const visits = visitsOf(archive);
      for (let p = 0; p < archive.people; p++)
        expect([...visits.event.slice(visits.start[p]!, visits.start[p + 1]!)]).toEqual(
          visitsPlain(archive, p),
        );
    }),
  );
});

test('figures of an event, and how many different people came', () => {
  const archive = archiveOf([
    { on: '2025-01-01', seats: [[1, 'came']] },
    {
      on: '2025-02-01',
      capacity: 10,
      seats: [
        [1, 'came'],
        [2, 'came'],
        [2, 'came'],
        [3, 'missed'],
        [4, 'withdrawn'],
        [5, 'walked in'],
        [-1, 'came'],
        [6, 'other'],
      ],
    },
  ]);
  expect(seatFigures(archive, visitsOf(archive), 1)).toEqual({
    registered: 5,
    came: 5,
    missed: 1,
    withdrawn: 1,
    walkedIn: 1,
    people: 3,
    firstTimers: 2,
    fill: 0.5,
  });
  expect(seatFigures(archive, visitsOf(archive), 0).fill).toBeNull();
  expect(differentPeople(archive, archive.events)).toBe(3);
  fc.assert(
    fc.property(anyArchive, (all) => {
      const seen = new Set(
        all.events.flatMap(({ seats }) =>
          [...seats.person].filter((p, n) => p >= 0 && came(seats.state[n]!)),
        ),
      );
      expect(differentPeople(all, all.events)).toBe(seen.size);
    }),
  );
});

test('a series took place twice or more; the longest comes first, and what is yet to come is not one of its times', () => {
  const archive = archiveOf([
    { on: '2024-05-01', kind: 'walk', unit: 'u1', seats: [[0, 'came']] },
    {
      on: '2024-06-01',
      kind: 'fair',
      seats: [
        [1, 'came'],
        [0, 'missed'],
      ],
    },
    { on: '2024-07-01', kind: 'once', seats: [[0, 'came']] },
    {
      on: '2025-05-01',
      kind: 'walk',
      unit: 'u2',
      capacity: 5,
      seats: [
        [0, 'came'],
        [2, 'came'],
      ],
    },
    { on: '2025-06-01', kind: 'fair', seats: [[1, 'came']] },
    { on: '2026-06-01', kind: 'fair', seats: [] },
    { on: '2026-08-01', kind: 'walk', over: false, seats: [] },
  ]);
  expect(
    seriesOf(archive, visitsOf(archive)).map(({ times, ...series }) => ({
      ...series,
      times: times.map((t) => [t.on, t.registered, t.came, t.firstTimers, t.capacity]),
    })),
  ).toEqual([
    {
      kind: 'fair',
      title: 'Event fair',
      unitId: null,
      times: [
        ['2024-06-01', 2, 1, 1, null],
        ['2025-06-01', 1, 1, 0, null],
        ['2026-06-01', 0, 0, 0, null],
      ],
    },
    {
      kind: 'walk',
      title: 'Event walk',
      unitId: 'u2',
      times: [
        ['2024-05-01', 1, 1, 1, null],
        ['2025-05-01', 2, 2, 1, 5],
      ],
    },
  ]);
});

test('who came the first time came again within so many years, counted where that time has passed', () => {
  const archive = archiveOf([
    {
      on: '2023-08-01',
      kind: 'cut',
      seats: [
        [1, 'came'],
        [2, 'came'],
        [3, 'came'],
      ],
    },
    // A year later to the day, and a day too late.
    {
      on: '2024-07-31',
      kind: 'cut',
      seats: [
        [1, 'came'],
        [4, 'came'],
      ],
    },
    { on: '2024-08-01', kind: 'talk', seats: [[2, 'came']] },
    {
      on: '2026-06-01',
      kind: 'talk',
      seats: [
        [5, 'came'],
        [3, 'missed'],
      ],
    },
  ]);
  const { byYear, byKind } = returnsOf(archive, visitsOf(archive), today);
  expect(byYear.map((c) => [c.key, c.people, c.visits])).toEqual([
    ['2023', 3, 5 / 3],
    ['2024', 1, 1],
    ['2026', 1, 1],
  ]);
  // 31 July 2024 is 365 days after 1 August 2023, of a leap year.
  expect(byYear[0]!.within.map((w) => w && [w.value, w.n])).toEqual([[1 / 3, 3], [2 / 3, 3], null]);
  expect(byYear[0]!.within[0]!.low).toBeCloseTo(0.0615, 3);
  expect(byYear[2]!.within).toEqual([null, null, null]);
  expect(byKind.map((c) => [c.key, c.title, c.people, c.within[0]?.n])).toEqual([
    ['cut', 'Event cut', 4, 4],
    ['talk', 'Event talk', 1, undefined],
  ]);
  fc.assert(
    fc.property(anyArchive, (all) => {
      const { byYear: years } = returnsOf(all, visitsOf(all), today);
      for (const cohort of years) {
        const whose = Array.from({ length: all.people }, (_, p) => visitsPlain(all, p)).filter(
          ([first]) => first !== undefined && all.events[first]!.startsLocal.startsWith(cohort.key),
        );
        expect(cohort.people).toBe(whose.length);
        const passed = whose.filter(([first]) => dayNumber(today) - all.events[first!]!.day >= 365);
        const again = passed.filter(
          ([first, second]) =>
            second !== undefined && all.events[second]!.day - all.events[first!]!.day <= 365,
        );
        expect(cohort.within[0]?.n ?? 0).toBe(passed.length);
        if (passed.length) expect(cohort.within[0]!.value).toBe(again.length / passed.length);
      }
    }),
  );
});

test('the ways people go, with gifts and shifts after their first event', () => {
  const archive = archiveOf(
    [
      {
        on: '2024-01-01',
        kind: 'cut',
        seats: [
          [1, 'came'],
          [2, 'came'],
          [3, 'came'],
        ],
      },
      {
        on: '2024-02-01',
        kind: 'talk',
        seats: [
          [1, 'came'],
          [2, 'came'],
        ],
      },
      { on: '2024-03-02', kind: 'talk', seats: [[1, 'came']] },
    ],
    // What somebody gave before they ever came leads from nothing.
    {
      gifts: [
        [1, '2024-05-01'],
        [3, '2023-05-01'],
      ],
      served: [[2, '2024-01-01']],
    },
  );
  const { steps, paths } = pathsOf(archive, visitsOf(archive));
  expect(steps).toMatchObject({
    first: 3,
    second: { count: 2 },
    gave: { count: 1 },
    served: { count: 1 },
    gaveAfterTwo: { count: 1, value: 0.5 },
    servedAfterTwo: { count: 1 },
  });
  expect(paths.map((p) => [p.first.title, p.second?.title ?? null, p.people, p.days])).toEqual([
    ['Event cut', 'Event talk', 2, 31],
    ['Event cut', null, 1, null],
  ]);
  expect(saySteps(steps)).toContain('67% came twice, 33% gave and 33% helped');
  expect(middle([3, 1, 2])).toBe(2);
  expect(middle([1, 2, 3, 10])).toBe(2.5);
  expect(middle([])).toBeNull();
});

test('audiences share people, against what chance would make of it', () => {
  fc.assert(
    fc.property(anyArchive, (archive) => {
      const { audiences, shared } = overlapOf(archive, visitsOf(archive));
      const of = (kind: string) =>
        new Set(
          Array.from({ length: archive.people }, (_, p) => p).filter((p) =>
            visitsPlain(archive, p).some((at) => archive.events[at]!.kind === kind),
          ),
        );
      const all = new Set(audiences.flatMap((a) => [...of(a.kind)]));
      for (const a of audiences) expect(a.people).toBe(of(a.kind).size);
      for (const s of shared) {
        const both = [...of(s.a)].filter((p) => of(s.b).has(p)).length;
        expect(s.people).toBe(both);
        expect(s.times).toBeCloseTo(both / ((of(s.a).size * of(s.b).size) / all.size), 9);
      }
      expect(shared).toHaveLength((audiences.length * (audiences.length - 1)) / 2);
    }),
  );
});

test('a difference of risks over strata is Mantel and Haenszel’s', () => {
  // Of one stratum it is the plain difference.
  expect(aheadBy([{ came: 20, did: 10, missed: 20, missedDid: 5 }]).by).toBeCloseTo(0.25, 12);
  // Two: 0.25 with weight 10, 0.2 with weight 7.5.
  const two = aheadBy([
    { came: 20, did: 10, missed: 20, missedDid: 5 },
    { came: 10, did: 4, missed: 30, missedDid: 6 },
  ]);
  expect(two.by).toBeCloseTo((0.25 * 10 + 0.2 * 7.5) / 17.5, 12);
  // Sato’s variance, by hand: P = 0 − 0 + … of each, Q = (x₁(n₀−x₀) + x₀(n₁−x₁)) / 2N.
  const p = [
    (400 * 5 - 400 * 10 + (20 * 20 * 0) / 2) / 1600,
    (100 * 6 - 900 * 4 + (10 * 30 * 20) / 2) / 1600,
  ];
  const q = [(10 * 15 + 5 * 10) / 80, (4 * 24 + 6 * 6) / 80];
  const error = Math.sqrt((two.by * (p[0]! + p[1]!) + q[0]! + q[1]!) / 17.5 ** 2);
  expect(two.high - two.by).toBeCloseTo(1.959964 * error, 5);
  // Whoever came is twice as likely everywhere, and those who came are mostly where it is unlikely: together it looks level.
  const turned = aheadBy([
    { came: 900, did: 90, missed: 100, missedDid: 5 },
    { came: 100, did: 80, missed: 900, missedDid: 360 },
  ]);
  expect(turned.by).toBeGreaterThan(0.2);
  expect(turned.p).toBeLessThan(0.001);
});

test('what coming leads to is held against those who had a seat for the same event and missed it', () => {
  const archive = archiveOf(
    [
      {
        on: '2024-03-01',
        seats: [
          [1, 'came'],
          [2, 'came'],
          [3, 'missed'],
          [4, 'missed'],
          [5, 'walked in'],
          [6, 'withdrawn'],
        ],
      },
      // Too young: a year has not passed.
      {
        on: '2026-01-01',
        seats: [
          [7, 'came'],
          [8, 'missed'],
        ],
      },
    ],
    {
      gifts: [
        [1, '2024-03-02'],
        [3, '2025-03-01'],
        [4, '2025-03-02'],
        [5, '2024-04-01'],
        [2, '2024-03-01'],
        [7, '2026-01-02'],
      ],
    },
  );
  const gave = conversionsOf(archive, visitsOf(archive), today)[0]!;
  // A gift on the day itself is not after it; a day more than a year is too late; whoever walked in is not compared.
  expect(gave).toMatchObject({ what: 'gave', came: { count: 1, n: 2 }, missed: { count: 1, n: 2 } });
  expect(gave.ahead).toMatchObject({ by: 0, events: 1 });
  const none = conversionsOf(archiveOf([]), visitsOf(archiveOf([])), today)[0]!;
  expect(none.ahead).toBeNull();
  expect(sayConversion(none)).toContain('nobody yet to compare');
  expect(sayConversion(gave)).toContain('no more than chance');
  const more = { ...gave, ahead: { by: 0.2, low: 0.1, high: 0.3, p: 0.001, events: 4 } };
  expect(sayConversion(more)).toContain('20 points ahead (between 10 and 30)');
  expect(sayConversion({ ...more, ahead: { ...more.ahead, by: -0.2 } })).toContain('20 points behind');
});

test('newcomers are compared with newcomers', () => {
  const regulars: Held[] = [{ on: '2023-01-01', seats: Array.from({ length: 10 }, (_, p) => [p, 'came']) }];
  // Ten regulars who all came and all gave, ten newcomers who all missed it and gave nothing: nobody can be compared.
  const archive = archiveOf(
    [
      ...regulars,
      {
        on: '2024-03-01',
        seats: [
          ...Array.from({ length: 10 }, (_, p): Held['seats'][number] => [p, 'came']),
          ...Array.from({ length: 10 }, (_, p): Held['seats'][number] => [p + 10, 'missed']),
        ],
      },
    ],
    { gifts: Array.from({ length: 10 }, (_, p) => [p, '2024-04-01']) },
  );
  expect(conversionsOf(archive, visitsOf(archive), today)[0]!.ahead).toBeNull();
});

test('somebody drifts away by their own rhythm, while what they come to goes on', () => {
  const monthly = (n: number, from = '2025-01-01') =>
    Array.from({ length: n }, (_, at) => shiftDate(from, at * 30));
  const cut = monthly(18).map((on, at): Held => {
    const seats: Held['seats'] = [];
    // Person 1 came eight times and stopped; 2 still comes; 3 came twice; 4 comes once in ten months.
    if (at < 8) seats.push([1, 'came']);
    if (at === 12) seats.push([1, 'missed']);
    seats.push([2, 'came']);
    if (at < 2) seats.push([3, 'came']);
    if (at % 10 === 0) seats.push([4, 'came']);
    return { on, kind: 'cut', seats };
  });
  // Person 5 came to something that is not held any more.
  const talks = monthly(4).map((on): Held => ({ on, kind: 'talk', seats: [[5, 'came']] }));
  const archive = archiveOf([...cut, ...talks]);
  const found = driftingAway(archive, visitsOf(archive), today);
  expect(found.map((d) => d.person)).toEqual([1]);
  expect(found[0]).toMatchObject({
    times: 8,
    usual: 30,
    longest: 30,
    kindTitle: 'Event cut',
    missedDates: 10,
    absent: 1,
  });
  expect(sayDrifting(found[0]!)).toBe(
    'Came 8 times, every 4 weeks or so and never more than 4 weeks apart. Not for 11 months now, and had 1 seat since without coming; Event cut took place 10 times.',
  );
  // A little beyond what they ever let pass is not drifting yet.
  const soon = archiveOf(
    monthly(4, '2026-02-01').map(
      (on): Held => ({
        on,
        seats: [
          [1, 'came'],
          [2, 'came'],
        ],
      }),
    ),
  );
  expect(driftingAway(soon, visitsOf(soon), '2026-06-15')).toEqual([]);
  // Who lets pass ten days mostly, and sixty once, is away for long after ninety.
  const uneven = archiveOf([
    ...[0, 10, 20, 80].map((d): Held => ({ on: shiftDate('2026-01-01', d), seats: [[1, 'came']] })),
    ...[90, 100, 110].map((d): Held => ({ on: shiftDate('2026-01-01', d), seats: [[2, 'came']] })),
  ]);
  const awayFor = (days: number) =>
    driftingAway(uneven, visitsOf(uneven), shiftDate('2026-01-01', 80 + days)).some((d) => d.person === 1);
  expect([75, 90, 91].map(awayFor)).toEqual([false, false, true]);
  expect([5, 20, 200].map(sayStretch)).toEqual(['5 days', '3 weeks', '7 months']);
});

test('seats are booked and given up so many days before', () => {
  const seats: Held['seats'] = [
    [1, 'came', 40],
    [2, 'came', 20],
    [3, 'missed', 10],
    [4, 'withdrawn', 30, 5],
    [5, 'walked in', 0],
    [6, 'other', 50],
  ];
  const archive = archiveOf([
    { on: '2025-01-01', seats },
    { on: '2026-08-01', over: false, seats: [[1, 'expected', 90]] },
  ]);
  const [all, ...kinds] = timingOf(archive, 1);
  expect(all).toMatchObject({ booked: 4, withdrawn: 1, half: 30, nine: 10, kind: null });
  expect(kinds).toHaveLength(1);
  expect(all!.curve.find((c) => c.before === 28)).toEqual({ before: 28, booked: 0.5, withdrawn: 0 });
  expect(all!.curve.find((c) => c.before === 5)).toEqual({ before: 5, booked: 1, withdrawn: 0.25 });
  expect(sayTiming([all!])).toContain('25% of them are given up');
  expect(sayTiming(timingOf(archiveOf([]), 1))).toBe('No seats were booked yet.');
});

test('dates are held against what is usual for their own kind', () => {
  const of = (n: number): Held['seats'] => Array.from({ length: n }, (_, p) => [p, 'came']);
  // A large kind on Saturdays and a small one on Sundays, each as usual; the small one on Fridays twice as large.
  const archive = archiveOf([
    ...['2025-01-04', '2025-01-11', '2025-01-18'].map((on): Held => ({ on, kind: 'large', seats: of(16) })),
    ...['2025-01-05', '2025-01-12', '2025-01-19', '2025-01-26'].map(
      (on): Held => ({ on, kind: 'small', seats: of(4) }),
    ),
    ...['2025-02-07', '2025-02-14', '2025-02-21'].map(
      (on): Held => ({ on, kind: 'small', at: '09:00', seats: of(8) }),
    ),
  ]);
  const dates = bestDates(archive);
  // What was usual is the middle, not what came first.
  const mixed = archiveOf(
    [30, 10, 10, 10].map((n, at): Held => ({ on: shiftDate('2025-03-03', at * 7), kind: 'm', seats: of(n) })),
  );
  expect(bestDates(mixed).find((d) => d.of === 'weekday')?.came).toBe(1.5);
  const ratio = (what: string, key: number) => dates.find((d) => d.of === what && d.key === key)?.came;
  expect([ratio('weekday', 6), ratio('weekday', 0), ratio('weekday', 5)]).toEqual([1, 1, 2]);
  expect([ratio('month', 1), ratio('month', 2), ratio('hour', 0), ratio('hour', 2)]).toEqual([1, 2, 2, 1]);
  expect(sayDates(dates)).toContain('Friday went best: 2 times as many');
  expect(sayDates([])).toContain('too few events');
  expect([
    sayDateKey({ of: 'weekday', key: 3 }),
    sayDateKey({ of: 'month', key: 12 }),
    sayDateKey({ of: 'hour', key: 1 }),
  ]).toEqual(['Wednesday', 'December', 'in the afternoon']);
});

test('units year by year: people once, however often they came', () => {
  const archive = archiveOf([
    {
      on: '2025-01-01',
      unit: 'u',
      seats: [
        [1, 'came'],
        [2, 'came'],
      ],
    },
    {
      on: '2025-02-01',
      unit: 'u',
      seats: [
        [1, 'came'],
        [3, 'missed'],
      ],
    },
    { on: '2026-02-01', unit: 'u', seats: [[1, 'came']] },
    { on: '2026-03-01', seats: [[1, 'came']] },
    { on: '2026-09-01', unit: 'u', over: false, seats: [[1, 'expected']] },
  ]);
  expect(
    unitYears(archive, visitsOf(archive)).map((u) => [
      u.unitId,
      u.year,
      u.events,
      u.came,
      u.missed,
      u.people,
      u.firstTimers,
    ]),
  ).toEqual([
    [null, '2026', 1, 1, 0, 1, 0],
    ['u', '2026', 1, 1, 0, 1, 0],
    ['u', '2025', 2, 3, 1, 2, 2],
  ]);
});

const figures = (id: string, of: Partial<EventFigures> = {}): EventFigures => ({
  id,
  title: `Day ${id}`,
  registered: 100,
  came: 90,
  missed: 10,
  withdrawn: 5,
  walkedIn: 0,
  people: 90,
  firstTimers: 20,
  fill: 1,
  members: 10,
  money: { seats: 10_000, extras: 0, gifts: 1000, costs: 2000 },
  hours: 40,
  recommend: null,
  ...of,
});

test('what differs most is said once, beyond chance or by half', () => {
  expect(differsMost([figures('a')])).toEqual([]);
  expect(differsMost([figures('a'), figures('b'), figures('c')])).toEqual([]);
  const found = differsMost([
    figures('a'),
    figures('b', { firstTimers: 70, money: { seats: 30_000, extras: 0, gifts: 1000, costs: 2000 } }),
    figures('c'),
  ]);
  expect(found.map((d) => [d.eventId, d.what])).toEqual([
    ['b', 'first-timers'],
    ['b', 'income'],
  ]);
  expect(found[0]).toMatchObject({ kind: 'share', size: 'large', n: 90 });
  expect(found[1]).toMatchObject({ kind: 'by head', times: expect.closeTo(3, 9) });
  expect(sayDiffers(found[0]!, 'CAD')).toMatch(
    /^Day b: 78% of those who came .* 22% at the others \(large difference, test of two shares, 90 people, p < 0\.001\)\.$/u,
  );
  expect(sayDiffers(found[1]!, 'CAD')).toBe('Day b took in $3.33 a head, the others $1.11.');
  // A small difference among many comparisons is chance.
  expect(differsMost([figures('a', { missed: 18 }), figures('b'), figures('c'), figures('d')])).toEqual([]);
  // Money that is not told is not compared.
  expect(differsMost([figures('a', { money: null }), figures('b', { money: null })])).toEqual([]);
});

test('series and returns are said in a sentence', () => {
  expect(saySeries([10, 10, 10, 15, 15, 15])).toBe(
    '15 came on average in the last 3, 10 in the 3 before: 50% more.',
  );
  expect(saySeries([15, 15, 10, 10])).toContain('33% fewer');
  expect(saySeries([10, 10, 10, 10])).toContain('as many as before');
  expect(saySeries([10, 12])).toBe('11 came on average.');
  expect(sayReturns({ byYear: [], byKind: [] })).toContain('a year ago yet');
  expect(sayOverlap([], [])).toContain('not two kinds');
  const kinds = [
    { kind: 'a', title: 'A', people: 10 },
    { kind: 'b', title: 'B', people: 10 },
  ];
  expect(sayOverlap(kinds, [{ a: 'a', b: 'b', people: 8, times: 2.5 }])).toBe(
    'A and B share 8 people, 2.5 times as many as chance would make it.',
  );
  expect(sayOverlap(kinds, [{ a: 'a', b: 'b', people: 8, times: 0.5 }])).toContain('hardly the same people');
});
