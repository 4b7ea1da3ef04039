import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { everyEvent, type Listable, listingOf, priceRange, shiftMonth, weeksOf } from './listing.ts';
import { sayPrices } from './prices.ts';

const now = '2026-07-09T12:20:00.000Z';
const event = (title: string, more: Partial<Listable> = {}): Listable => ({
  title,
  summary: '',
  french: null,
  category: 'walk',
  draws: [],
  unit: null,
  venue: null,
  place: null,
  startsLocal: '2026-08-08T09:00',
  endsLocal: '2026-08-08T16:30',
  startsAt: '2026-08-08T12:00:00.000Z',
  endsAt: '2026-08-08T19:30:00.000Z',
  lowest: null,
  highest: null,
  ...more,
});
const titles = (events: readonly Listable[], filter: object = {}) =>
  listingOf(events, { ...everyEvent, ...filter }, now).map((e) => e.title);

describe('what the public’s calendar is narrowed to', () => {
  const past = event('Past', {
    startsLocal: '2026-07-01T09:00',
    endsLocal: '2026-07-01T12:00',
    startsAt: '2026-07-01T12:00:00.000Z',
    endsAt: '2026-07-01T15:00:00.000Z',
  });
  const running = event('Running', {
    startsLocal: '2026-07-08T09:00',
    endsLocal: '2026-07-10T12:00',
    startsAt: '2026-07-08T12:00:00.000Z',
    endsAt: '2026-07-10T15:00:00.000Z',
  });
  const coming = event('Coming');
  const undated = event('Undated', { startsLocal: null, endsLocal: null, startsAt: null, endsAt: null });

  test('hidden once over, once begun, or never; without a date they come last', () => {
    const all = [undated, coming, past, running];
    expect(titles(all)).toEqual(['Running', 'Coming', 'Undated']);
    expect(titles(all, { hide: 'begun' })).toEqual(['Coming', 'Undated']);
    expect(titles(all, { hide: 'none' })).toEqual(['Past', 'Running', 'Coming', 'Undated']);
  });

  test('an event of several days is in each of them; one without a date is in none', () => {
    const on = (from: string, to: string) => titles([running, undated], { from, to });
    expect(on('2026-07-09', '2026-07-09')).toEqual(['Running']);
    expect(on('2026-07-10', '2026-07-31')).toEqual(['Running']);
    expect(on('2026-07-11', '')).toEqual([]);
    expect(on('', '2026-07-07')).toEqual([]);
  });

  test('by kind or what attracts people, by host and by place', () => {
    const talk = event('Talk', {
      category: 'talk',
      draws: ['free food'],
      unit: 'College',
      venue: 'Hall',
      place: 'Hall, Room 12',
    });
    expect(titles([talk, coming], { with: 'talk' })).toEqual(['Talk']);
    expect(titles([talk, coming], { with: 'free food' })).toEqual(['Talk']);
    expect(titles([talk, coming], { unit: 'College' })).toEqual(['Talk']);
    expect(titles([talk, coming], { place: 'Hall' })).toEqual(['Talk']);
    expect(titles([talk, coming], { place: 'Hall, Room 12' })).toEqual([]);
  });

  test('an event with something for nothing is free and has a price; one with nothing on offer is neither', () => {
    const both = event('Both', { lowest: 0, highest: 6000 });
    const free = event('Free', { lowest: 0, highest: 0 });
    const paid = event('Paid', { lowest: 800, highest: 800 });
    const all = [both, free, paid, coming];
    expect(titles(all, { price: 'free' })).toEqual(['Both', 'Free']);
    expect(titles(all, { price: 'paid' })).toEqual(['Both', 'Paid']);
  });

  test('every word is looked for, in any case, without accents, in French too', () => {
    const swap = event('Plant Swap', {
      french: { title: 'Échange de plantes', summary: '' },
      place: 'Room 12',
    });
    for (const q of ['plant', 'SWAP plant', 'echange', 'Échange room'])
      expect(titles([swap, coming], { q })).toEqual(['Plant Swap']);
    expect(titles([swap], { q: 'plant otter' })).toEqual([]);
  });

  test('by title or by date', () => {
    const later = event('Apple day', { startsAt: '2026-10-01T12:00:00.000Z' });
    expect(titles([coming, later])).toEqual(['Coming', 'Apple day']);
    expect(titles([coming, later], { sort: 'title' })).toEqual(['Apple day', 'Coming']);
  });
});

test('the price that is shown is the range: free is only said where all of it is', () => {
  const say = (lowest: number | null, highest: number | null, language: 'en' | 'fr' = 'en') =>
    sayPrices({ lowest, highest }, 'CAD', language);
  expect([say(null, null), say(0, 0), say(2500, 2500), say(1200, 9000), say(0, 6000)]).toEqual([
    '',
    'free',
    '$25',
    '$12 to $90',
    'free to $60',
  ]);
  expect(say(0, 6000, 'fr')).toContain('gratuit à');
  expect(priceRange(0, 6000)).toEqual({ kind: 'range', from: 0, to: 6000 });
});

describe('a month in weeks', () => {
  test('from the day a week begins with, with the days of its neighbours', () => {
    // 1 July 2026 is a Wednesday; February 2027 begins on a Monday and has four weeks.
    expect(weeksOf('2026-07', 7)[0]).toEqual([
      '2026-06-28',
      '2026-06-29',
      '2026-06-30',
      '2026-07-01',
      '2026-07-02',
      '2026-07-03',
      '2026-07-04',
    ]);
    expect(weeksOf('2027-02', 1)).toHaveLength(4);
    expect(weeksOf('2026-08', 7)).toHaveLength(6);
  });

  test('whatever the month, all of its days are there once, in whole weeks', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2400 }), fc.constantFrom(1, 7), (n, firstDay) => {
        const month = shiftMonth('1900-01', n);
        const days = weeksOf(month, firstDay).flat();
        const [year, m] = month.split('-').map(Number) as [number, number];
        expect(days.length % 7).toBe(0);
        expect(days.filter((d) => d.startsWith(month))).toHaveLength(
          new Date(Date.UTC(year, m, 0)).getUTCDate(),
        );
        expect(new Set(days).size).toBe(days.length);
      }),
    );
  });

  test('months go on over the year', () => {
    expect([shiftMonth('2026-12', 1), shiftMonth('2026-01', -1)]).toEqual(['2027-01', '2025-12']);
  });
});
