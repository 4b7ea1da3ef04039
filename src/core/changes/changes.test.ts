import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { aspectsOf, mayWeigh, movesIntoThePast, toldBySelf, weightyFields } from './aspects.ts';
import { concerned, letterTexts, sayWhatIsNew, withoutGaps } from './letters.ts';
import { atTwoThings } from './meanwhile.ts';
import { whoLoses } from './seats.ts';

const offer = (over: object = {}) => ({
  id: 'o1',
  name: 'Seat',
  price: 1500,
  quantity: null,
  seatsPerUnit: 1,
  online: false,
  ...over,
});

describe('what weighs', () => {
  test('is what people arrange their day, their way or their money by, once an event was said yes to', () => {
    const before = { startsLocal: '2026-08-08T09:00', summary: 'A day', capacity: 20, online: null };
    const change = { startsLocal: '2026-08-15T09:00', summary: 'Another day', capacity: 20 };
    for (const state of ['cleared', 'open', 'closed'] as const)
      expect(weightyFields(state, before, change)).toEqual(['startsLocal']);
    for (const state of ['draft', 'in clearance', 'wrapped', 'called off', 'shelved'] as const)
      expect(weightyFields(state, before, change)).toEqual([]);
    expect(mayWeigh('open', 'capacity')).toBe(true);
    expect(mayWeigh('open', 'summary')).toBe(false);
  });

  test('an offer weighs by what was booked of it; a new one, a name or a room online that is new take nothing away', () => {
    const weighs = (after: readonly object[]) =>
      weightyFields('open', { offers: [offer()] }, { offers: after }).length > 0;
    expect(weighs([offer({ price: 1600 })])).toBe(true);
    expect(weighs([offer({ quantity: 3 })])).toBe(true);
    expect(weighs([offer({ seatsPerUnit: 2 })])).toBe(true);
    expect(weighs([offer({ online: true })])).toBe(true);
    expect(weighs([])).toBe(true);
    expect(weighs([offer({ name: 'A seat by the water' })])).toBe(false);
    expect(weighs([offer(), offer({ id: 'o2' })])).toBe(false);
    const room = { link: 'https://room.example/a' };
    expect(weightyFields('open', { online: null }, { online: room })).toEqual([]);
    expect(weightyFields('open', { online: room }, { online: null })).toEqual(['online']);
  });

  test('of time and place people are told by itself, of the rest where somebody wants it', () => {
    expect(aspectsOf(['endsLocal', 'venueId', 'offers'])).toEqual(['time', 'place', 'price']);
    expect(toldBySelf(['time'])).toBe(true);
    expect(toldBySelf(['place', 'price'])).toBe(true);
    expect(toldBySelf(['capacity', 'price', 'visibility'])).toBe(false);
  });

  test('nobody is sent to the past, but what was over can be put right', () => {
    const now = '2026-07-09T12:00:00.000Z';
    const [past, coming] = ['2026-07-01T12:00:00.000Z', '2026-08-01T12:00:00.000Z'];
    expect(movesIntoThePast(coming, past, now)).toBe(true);
    expect(movesIntoThePast(coming, now, now)).toBe(true);
    expect(movesIntoThePast(past, past, now)).toBe(false);
    expect(movesIntoThePast(coming, coming, now)).toBe(false);
    expect(movesIntoThePast(null, past, now)).toBe(false);
  });
});

describe('who loses a seat', () => {
  const party = (orderId: string, seats: number, confirmedAt: string) => ({
    orderId,
    name: orderId,
    seats,
    confirmedAt,
  });

  test('those confirmed last, as whole parties, and no more than it takes', () => {
    const parties = [
      party('first', 2, '2026-07-01T10:00:00.000Z'),
      party('last', 3, '2026-07-03T10:00:00.000Z'),
      party('second', 1, '2026-07-02T10:00:00.000Z'),
    ];
    const names = (over: number) => whoLoses(parties, over).map((p) => p.name);
    expect(names(0)).toEqual([]);
    expect(names(1)).toEqual(['last']);
    expect(names(3)).toEqual(['last']);
    expect(names(4)).toEqual(['last', 'second']);
    expect(names(99)).toEqual(['last', 'second', 'first']);
  });

  test('what is given up is enough, and without its last party it would not be', () => {
    const some = fc.array(
      fc.record({ seats: fc.integer({ min: 1, max: 6 }), day: fc.integer({ min: 1, max: 28 }) }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 30 }), (of, over) => {
        const parties = of.map(({ seats, day }, n) =>
          party(`p${n}`, seats, `2026-06-${String(day).padStart(2, '0')}T10:00:00.000Z`),
        );
        const losing = whoLoses(parties, over);
        const sum = (list: typeof losing) => list.reduce((n, p) => n + p.seats, 0);
        expect(sum(losing)).toBeGreaterThanOrEqual(Math.min(over, sum(parties)));
        expect(sum(losing.slice(0, -1))).toBeLessThan(over);
        const kept = parties.filter((p) => !losing.includes(p));
        for (const k of kept) for (const l of losing) expect(k.confirmedAt <= l.confirmedAt).toBe(true);
      }),
    );
  });
});

describe('two things at once', () => {
  const at = (from: number, to: number) => ({
    startsAt: `2026-08-08T${String(from).padStart(2, '0')}:00:00.000Z`,
    endsAt: `2026-08-08T${String(to).padStart(2, '0')}:00:00.000Z`,
  });
  const here = (of: 'seat' | 'shift', from: number, to: number) => ({
    contactId: 'pia',
    name: 'Pia Reed',
    of,
    assignmentId: null,
    ...at(from, to),
  });
  const there = (from: number, to: number) => ({
    contactId: 'pia',
    of: 'seat' as const,
    eventId: 'e2',
    title: 'Heron Count',
    ...at(from, to),
  });

  test('counts where it is new; what touches does not overlap', () => {
    const found = (before: ReturnType<typeof here>[], after: ReturnType<typeof here>[]) =>
      atTwoThings(before, after, [there(10, 12)]).length;
    expect(found([], [here('seat', 11, 13)])).toBe(1);
    expect(found([], [here('seat', 12, 13)])).toBe(0);
    expect(found([], [here('seat', 8, 10)])).toBe(0);
    expect(found([here('seat', 10, 11)], [here('seat', 11, 13)])).toBe(0);
    // A shift that clashes is not the seat that did already.
    expect(found([here('seat', 10, 11)], [here('seat', 10, 11), here('shift', 11, 12)])).toBe(1);
    expect(atTwoThings([], [{ ...here('seat', 10, 12), contactId: 'rae' }], [there(10, 12)])).toEqual([]);
  });
});

describe('letters', () => {
  test('say what is new with what it was, in both languages', () => {
    const news = [{ of: 'when' as const, was: 'Sat 8 Aug', now: 'Sat 15 Aug' }];
    expect(sayWhatIsNew(news, 'en')).toBe('When: Sat 15 Aug\n  instead of Sat 8 Aug');
    expect(sayWhatIsNew(news, 'fr')).toBe('Quand : Sat 15 Aug\n  au lieu de Sat 8 Aug');
    expect(sayWhatIsNew([{ of: 'where', was: '', now: 'The landing' }], 'en')).toBe(
      'Where: The landing\n  instead of –',
    );
    // What somebody typed is not read as a pattern of a replacement.
    expect(sayWhatIsNew([{ of: 'where', was: '$&', now: '$1' }], 'en')).toBe('Where: $1\n  instead of $&');
  });

  test('paragraphs that nothing stands in fall away; every letter is written for everybody, in both languages', () => {
    expect(withoutGaps('Hello,\n\n\n\nYours\n\n')).toBe('Hello,\n\nYours');
    for (const kind of ['changed', 'called off'] as const)
      for (const to of concerned)
        for (const language of ['en', 'fr'] as const) {
          expect(letterTexts[kind][to].subject[language]).toContain('{{event}}');
          expect(letterTexts[kind][to].body[language]).toContain('{{words}}');
        }
  });
});
