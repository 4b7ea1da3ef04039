import type { FactCode } from '#core/clearance/facts.ts';
import { shiftDate } from '#core/time/dates.ts';

/** One kind of event that recurs, with what its past dates look like. */
export interface Recurring {
  key: string;
  title: string;
  unit: string;
  venue: string;
  category: string;
  summary: string;
  starts: string;
  /** Hours it lasts. */
  hours: number;
  capacity: number;
  /** Seats usually taken. */
  usual: [number, number];
  offers: {
    name: string;
    about: string;
    price: number;
    seatsPerUnit: number;
    quantity: number | null;
    /** What one is worth, for receipts. */
    worth?: number;
  }[];
  /** What is so of it, of what clearance asks. */
  so: FactCode[];
  waiver: 'water' | 'children' | null;
  shifts: { role: string; place: string; from: number; hours: number; wished: number }[];
  giving: number;
  draws: string[];
  /** The rule by which it goes on, where it is a series. */
  series?: { rule: string | null; extra?: string[]; skipped?: string[]; horizon: number };
  /** Dates of the past and, for the first ones to come, of the future. */
  dates: string[];
}

/** The first Wednesday of each month from one month to another, as dates. */
function firstWednesdays(from: string, months: number): string[] {
  const dates: string[] = [];
  for (let n = 0; n < months; n += 1) {
    const first = new Date(Date.UTC(Number(from.slice(0, 4)), Number(from.slice(5, 7)) - 1 + n, 1));
    dates.push(shiftDate(first.toISOString().slice(0, 10), (3 - first.getUTCDay() + 7) % 7));
  }
  return dates;
}

const fortnights = (from: string, count: number): string[] =>
  Array.from({ length: count }, (_, n) => shiftDate(from, n * 14));
const free = (name: string, about = '') => [{ name, about, price: 0, seatsPerUnit: 1, quantity: null }];

const waterShifts = [
  ['Kitchen', 'Reedhouse', -16, 2, 2],
  ['Welcome desk', 'Gate', -1, 3, 2],
  ['Canoe leader', 'Landing A', -0.5, 3, 3],
  ['Canoe leader', 'Landing B', -0.5, 3, 2],
  ['Safety boat', 'Lagoon', -0.5, 4, 2],
  ['Safety boat', 'Sluice', -0.5, 4, 2],
  ['First aid', 'Landing A', -0.5, 4, 1],
  ['First aid', 'Landing B', -0.5, 4, 1],
  ['Shore guide', 'Boardwalk', 0, 3, 2],
  ['Kitchen', 'Reedhouse', 1, 3, 2],
  ['Welcome desk', 'Gate', 2, 3, 2],
  ['Canoe leader', 'Landing A', 2.5, 3, 3],
  ['Canoe leader', 'Landing B', 2.5, 3, 2],
  ['Shore guide', 'Boardwalk', 3, 2.5, 2],
  ['Safety boat', 'Lagoon', 3.5, 4.5, 2],
  ['Safety boat', 'Sluice', 3.5, 4.5, 2],
  ['First aid', 'Landing A', 3.5, 4.5, 1],
  ['First aid', 'Landing B', 3.5, 4.5, 1],
  ['Kitchen', 'Reedhouse', 3.5, 3, 2],
  ['Welcome desk', 'Gate', 5, 3, 2],
  ['Canoe leader', 'Landing A', 5.5, 2.5, 3],
  ['Canoe leader', 'Landing B', 5.5, 2.5, 2],
  ['Shore guide', 'Boardwalk', 5.5, 2, 2],
  ['Kitchen', 'Reedhouse', 6, 2.5, 3],
] as const;

const shifts = (rows: readonly (readonly [string, string, number, number, number])[]) =>
  rows.map(([role, place, from, hours, wished]) => ({ role, place, from, hours, wished }));

/** Everything that recurs at Brackenmere, with its past dates. */
export const recurring: readonly Recurring[] = [
  {
    key: 'reed-cut',
    title: 'First Wednesday Reed Cut',
    unit: 'Boardwalk Gang',
    venue: 'Reedhouse',
    category: 'work party',
    summary: 'A morning with sickle and saw. Tools and soup are ours, boots are yours.',
    starts: '09:30',
    hours: 3,
    capacity: 30,
    usual: [9, 19],
    offers: free('Helper'),
    so: ['tools'],
    waiver: null,
    shifts: shifts([['Tool lead', 'Reedhouse', -0.5, 3.5, 1]]),
    giving: 0.03,
    draws: ['free food'],
    series: { rule: 'FREQ=MONTHLY;BYDAY=1WE', horizon: 6 },
    dates: firstWednesdays('2023-08-01', 35),
  },
  {
    key: 'heron-count',
    title: 'Heron Count',
    unit: 'Night Herons',
    venue: 'Heronry Hide',
    category: 'count',
    summary: 'Counting herons from the hide until after midnight.',
    starts: '20:30',
    hours: 4,
    capacity: 20,
    usual: [7, 14],
    offers: free('Counter'),
    so: [],
    waiver: null,
    shifts: shifts([['Count lead', 'Hide', 0, 4, 1]]),
    giving: 0.02,
    draws: [],
    series: {
      rule: 'FREQ=WEEKLY;INTERVAL=2;BYMONTH=3,4,5;BYDAY=FR',
      skipped: ['2024-05-31T20:30', '2025-05-30T20:30', '2026-05-29T20:30'],
      horizon: 12,
    },
    dates: [...fortnights('2024-03-08', 6), ...fortnights('2025-03-07', 6), ...fortnights('2026-03-06', 6)],
  },
  {
    key: 'open-water',
    title: 'Open Water Day',
    unit: 'Small Boats',
    venue: 'Sluice Landing',
    category: 'on the water',
    summary: 'Paddle the lagoon in our canoes, or walk the shore with a guide. No experience needed.',
    starts: '09:00',
    hours: 7.5,
    capacity: 90,
    usual: [68, 84],
    offers: [
      { name: 'Guided paddle', about: 'one person, 2 hours', price: 2500, seatsPerUnit: 1, quantity: 40 },
      {
        name: 'Family canoe',
        about: 'up to 4, a guardian in each',
        price: 6000,
        seatsPerUnit: 4,
        quantity: 9,
      },
      { name: 'Shore walk', about: 'anyone, no boats', price: 0, seatsPerUnit: 1, quantity: 30 },
    ],
    so: ['boats', 'minors'],
    waiver: 'water',
    shifts: shifts(waterShifts),
    giving: 0.25,
    draws: ['free food', 'step-free access', 'childcare'],
    dates: ['2023-08-12', '2024-08-10', '2025-08-09'],
  },
  {
    key: 'fen-supper',
    title: 'Fen Supper',
    unit: 'Friends of the Fen',
    venue: 'Town Hall, Main Hall',
    category: 'supper',
    summary: 'Supper at long tables, a raffle of quilts, and the year in pictures.',
    starts: '18:30',
    hours: 4,
    capacity: 136,
    usual: [104, 132],
    offers: [
      { name: 'One place', about: '', price: 4500, seatsPerUnit: 1, quantity: null, worth: 2800 },
      {
        name: 'Table of eight',
        about: 'a table of your own',
        price: 32000,
        seatsPerUnit: 8,
        quantity: 10,
        worth: 22400,
      },
    ],
    so: ['food', 'alcohol'],
    waiver: null,
    shifts: shifts([
      ['Kitchen', 'Kitchen', -2, 6, 4],
      ['Serving', 'Hall', 0, 4, 6],
      ['Raffle', 'Hall', 0, 3, 2],
    ]),
    giving: 0.45,
    draws: ['step-free access'],
    dates: ['2023-10-21', '2024-10-19', '2025-10-18'],
  },
  {
    key: 'overnight',
    title: 'Mudlarks Overnight',
    unit: 'Mudlarks',
    venue: 'Reedhouse',
    category: 'children',
    summary: 'One night in the reedhouse for 7–13-year-olds: bats, moths and a midnight snack.',
    starts: '17:00',
    hours: 16,
    capacity: 24,
    usual: [14, 22],
    offers: [{ name: 'Child', about: '7 to 13', price: 3000, seatsPerUnit: 1, quantity: 24 }],
    so: ['minors', 'food'],
    waiver: 'children',
    shifts: shifts([
      ['Night leader', 'Reedhouse', 0, 16, 3],
      ['Breakfast', 'Kitchen', 13, 3, 2],
    ]),
    giving: 0.12,
    draws: [],
    dates: ['2024-06-22', '2025-06-21', '2026-06-27'],
  },
  {
    key: 'plant-swap',
    title: 'Plant Swap',
    unit: 'College Chapter',
    venue: 'Ansley College, Room 12',
    category: 'swap',
    summary: 'Bring a plant, take a plant.',
    starts: '12:00',
    hours: 3,
    capacity: 60,
    usual: [22, 46],
    offers: free('Visitor'),
    so: ['off-site'],
    waiver: null,
    shifts: shifts([['Table', 'Room 12', -0.5, 3.5, 2]]),
    giving: 0.04,
    draws: ['step-free access'],
    series: { rule: null, extra: ['2027-04-24T12:00', '2027-05-08T12:00'], horizon: 12 },
    dates: ['2024-04-20', '2024-05-11', '2025-04-26', '2025-05-10', '2026-04-25', '2026-05-09'],
  },
  {
    key: 'boat-evening',
    title: 'Boat Evening',
    unit: 'Small Boats',
    venue: 'Sluice Landing',
    category: 'on the water',
    summary: 'An easy paddle after work, and mending what needs mending.',
    starts: '18:00',
    hours: 2.5,
    capacity: 16,
    usual: [8, 15],
    offers: [{ name: 'Seat in a boat', about: '', price: 800, seatsPerUnit: 1, quantity: null }],
    so: ['boats'],
    waiver: 'water',
    shifts: shifts([['Canoe leader', 'Landing A', 0, 2.5, 1]]),
    giving: 0.05,
    draws: [],
    dates: [...fortnights('2024-05-16', 7), ...fortnights('2025-05-15', 7), ...fortnights('2026-05-14', 3)],
  },
  {
    key: 'fen-talk',
    title: 'Fen Talk',
    unit: 'College Chapter',
    venue: 'Ansley College, Room 12',
    category: 'talk',
    summary: 'Somebody who knows, half an hour, and questions.',
    starts: '19:00',
    hours: 1.5,
    capacity: 60,
    usual: [14, 34],
    offers: free('Listener'),
    so: ['speakers'],
    waiver: null,
    shifts: [],
    giving: 0.06,
    draws: ['step-free access'],
    dates: [
      '2023-10-05',
      '2023-11-09',
      '2024-01-18',
      '2024-02-15',
      '2024-10-03',
      '2024-11-07',
      '2025-01-16',
      '2025-02-13',
      '2025-10-02',
      '2025-11-06',
      '2026-01-15',
      '2026-02-12',
    ],
  },
  {
    key: 'symposium',
    title: 'Reedbed Symposium',
    unit: 'College Chapter',
    venue: 'Town Hall, Main Hall',
    category: 'conference',
    summary: 'Two days on reed, water and the birds in between.',
    starts: '09:00',
    hours: 32,
    capacity: 120,
    usual: [80, 96],
    offers: [
      { name: 'Both days', about: '', price: 9000, seatsPerUnit: 1, quantity: null },
      { name: 'Student', about: 'with a card', price: 2500, seatsPerUnit: 1, quantity: 40 },
    ],
    so: ['speakers', 'food'],
    waiver: null,
    shifts: shifts([
      ['Welcome desk', 'Foyer', -1, 4, 3],
      ['Room host', 'Main Hall', 0, 8, 2],
    ]),
    giving: 0.1,
    draws: ['step-free access'],
    dates: ['2024-09-20'],
  },
];
