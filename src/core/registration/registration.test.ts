import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { sayProblem } from '#core/words/problems.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { plusMinutes } from '../time/clock.ts';
import {
  fits,
  freeSeats,
  freeUnits,
  type Limits,
  limitsOf,
  shortOf,
  shortProblem,
  type Taken,
  unlimited,
} from './capacity.ts';
import { mayBecome, registrationStates } from './states.ts';
import {
  freedSeatsFor,
  inLine,
  offerUntil,
  queueOrder,
  type WaitingParty,
  type WaitRule,
  whyNot,
} from './waitlist.ts';

interface Sold {
  id: string;
  name: string;
  seatsPerUnit: number;
  quantity: number | null;
}
const single: Sold = {
  id: 'single',
  name: 'Guided paddle',
  seatsPerUnit: 1,
  quantity: 40,
};
const table: Sold = {
  id: 'table',
  name: 'Table of eight',
  seatsPerUnit: 8,
  quantity: 10,
};

const orderOf = (units: number, offer = single) => ({
  lines: [{ offer, units }],
  seats: units * offer.seatsPerUnit,
});
const nobody: Taken = { seats: 0, unitsByOffer: new Map() };
const party = (orderId: string, since: string, units: number, offer = single): WaitingParty => ({
  orderId,
  name: orderId,
  since,
  quiet: null,
  ...orderOf(units, offer),
});

describe('capacity', () => {
  test('the event’s seats and the offer’s quantity both hold', () => {
    const taken: Taken = { seats: 85, unitsByOffer: new Map([['single', 39]]) };
    expect(freeSeats({ capacity: 90 }, taken)).toBe(5);
    expect(freeUnits(single, { capacity: 90 }, taken)).toBe(1);
    expect(freeUnits(table, { capacity: 90 }, taken)).toBe(0);
    expect(fits(orderOf(2), { capacity: 90 }, taken)).toBe(false);
    expect(fits(orderOf(1), { capacity: 90 }, taken)).toBe(true);
    expect(freeUnits(single, { capacity: null }, taken)).toBe(1);
  });

  test('what is short is told: the seats, those of the room, those online, or one offer', () => {
    const online = { ...single, id: 'far', quantity: null, online: true };
    const taken: Taken = { seats: 85, online: 9, unitsByOffer: new Map([['single', 39]]) };
    const of = (limits: Limits, order = orderOf(6)) => shortOf(order, limits, taken);
    expect(of({ capacity: 90 })).toEqual({ of: 'seats', needs: 6, left: 5, offerId: null });
    // A room that is fuller than it holds has none left, and not fewer.
    const room = limitsOf({ capacity: null, venueCapacity: 80, onlineCapacity: null });
    expect(of(room)).toEqual({ of: 'room', needs: 6, left: 0, offerId: null });
    expect(of({ capacity: 91 })).toEqual({ of: 'offer', needs: 6, left: 1, offerId: 'single' });
    expect(of({ capacity: 86, onlineCapacity: 10 }, orderOf(2, online))).toMatchObject({
      of: 'online',
      left: 1,
    });
    expect(of({ capacity: 86 }, orderOf(1))).toBeNull();
    expect(of(unlimited, orderOf(1))).toBeNull();
    // A number of its own counts, also where the room holds more.
    expect(limitsOf({ capacity: 20, venueCapacity: 80, onlineCapacity: 3 })).toEqual({
      capacity: 20,
      ofRoom: false,
      onlineCapacity: 3,
    });
    const said = (short: ReturnType<typeof of>) => {
      const { code, params } = shortProblem(short!, 'Single');
      return sayProblem(code, params);
    };
    expect(said(of({ capacity: 90 }))).toBe('5 seats left, and your party needs 6.');
    expect(said(of({ capacity: 91 }))).toBe('Single: 1 left, and you ask for 6.');
  });

  test('whatever arrives in whatever order, nothing is oversold', () => {
    fc.assert(
      fc.property(
        fc.nat(60),
        fc.array(fc.tuple(fc.constantFrom(single, table), fc.integer({ min: 1, max: 8 })), { maxLength: 60 }),
        (capacity, arrivals) => {
          let taken: Taken = nobody;
          for (const [offer, units] of arrivals) {
            const order = orderOf(units, offer);
            if (!fits(order, { capacity }, taken)) continue;
            taken = {
              seats: taken.seats + order.seats,
              unitsByOffer: new Map(taken.unitsByOffer).set(
                offer.id,
                (taken.unitsByOffer.get(offer.id) ?? 0) + units,
              ),
            };
          }
          expect(taken.seats).toBeLessThanOrEqual(capacity);
          for (const offer of [single, table])
            expect(taken.unitsByOffer.get(offer.id) ?? 0).toBeLessThanOrEqual(offer.quantity!);
        },
      ),
    );
  });
});

describe('the waitlist', () => {
  const now = '2026-07-09T12:00:00.000Z';
  const starts = '2026-08-08T12:00:00.000Z';

  test('freed seats go to the first party they fit; larger ones ahead are passed over with the reason', () => {
    const waiting = [
      party('six', '2026-07-01', 6),
      party('four', '2026-07-02', 4),
      party('two', '2026-07-03', 2),
    ];
    const offers = freedSeatsFor(
      waiting,
      { capacity: 90 },
      { seats: 86, unitsByOffer: new Map() },
      now,
      starts,
    );
    expect(offers.map((o) => o.party.orderId)).toEqual(['four']);
    expect(offers[0]!.passedOver.map((p) => [p.party.orderId, sayReason(p.why)])).toEqual([
      ['six', 'needs 6 seats, 4 are free'],
    ]);
    expect(offers[0]!.until).toBe('2026-07-10T12:00:00.000Z');
  });

  test('nobody who cannot be told is offered a seat that would lapse unseen', () => {
    const waiting = [
      { ...party('quiet', '2026-07-01', 2), quiet: 'asked' as const },
      party('next', '2026-07-02', 2),
    ];
    const [offer] = freedSeatsFor(
      waiting,
      { capacity: 9 },
      { seats: 7, unitsByOffer: new Map() },
      now,
      starts,
    );
    expect(offer!.party.orderId).toBe('next');
    expect(offer!.passedOver.map((p) => p.why)).toEqual([because('asked')]);
    expect(whyNot(waiting[0]!, { capacity: 9 }, nobody)).toEqual(because('asked'));
  });

  test('what is left goes on to the next that fits', () => {
    const waiting = [party('a', '2026-07-01', 2), party('b', '2026-07-02', 3), party('c', '2026-07-03', 1)];
    expect(
      freedSeatsFor(waiting, { capacity: 10 }, { seats: 7, unitsByOffer: new Map() }, now, starts).map(
        (o) => o.party.orderId,
      ),
    ).toEqual(['a', 'c']);
  });

  test('the deadline is never later than an hour before the start, and nothing is offered after that', () => {
    const waiting = [party('a', '2026-07-01', 1)];
    const soon = '2026-07-09T20:00:00.000Z';
    expect(freedSeatsFor(waiting, { capacity: 1 }, nobody, '2026-07-09T18:30:00.000Z', soon)[0]!.until).toBe(
      '2026-07-09T19:00:00.000Z',
    );
    expect(freedSeatsFor(waiting, { capacity: 1 }, nobody, '2026-07-09T19:30:00.000Z', soon)).toEqual([]);
  });

  test.each([
    // A sixth of what is left until an hour before: a day at most, an hour at least.
    ['2026-08-08T12:00:00.000Z', 24 * 60],
    ['2026-07-15T13:00:00.000Z', 24 * 60],
    ['2026-07-12T13:00:00.000Z', 12 * 60],
    ['2026-07-10T13:00:00.000Z', 4 * 60],
    ['2026-07-09T15:00:00.000Z', 60],
    ['2026-07-09T13:20:00.000Z', 20],
  ])('an offer for an event at %s is kept for %i minutes', (startsAt, minutes) => {
    expect(offerUntil(now, startsAt)).toBe(plusMinutes(now, minutes));
  });

  test('in strict order nobody comes before the first that does not fit; members come before the others', () => {
    const waiting = [
      party('six', '2026-07-01', 6),
      { ...party('two', '2026-07-02', 2), member: true },
      party('one', '2026-07-03', 1),
    ];
    const given = (free: number, rule: WaitRule) =>
      freedSeatsFor(waiting, { capacity: free }, nobody, now, starts, rule).map((o) => o.party.orderId);
    expect(given(3, 'first that fits')).toEqual(['two', 'one']);
    expect(given(3, 'strict order')).toEqual([]);
    expect(given(8, 'strict order')).toEqual(['six', 'two']);
    expect(given(7, 'members first')).toEqual(['two', 'one']);
    expect(inLine(waiting, 'members first').map((p) => p.orderId)).toEqual(['two', 'six', 'one']);
    // Who cannot be told holds nobody up.
    const quiet = [{ ...waiting[0]!, quiet: 'asked' as const }, ...waiting.slice(1)];
    expect(
      freedSeatsFor(quiet, { capacity: 3 }, nobody, now, starts, 'strict order').map((o) => o.party.orderId),
    ).toEqual(['two', 'one']);
  });

  test('offers never exceed what is free, and nobody is passed over who would have fitted', () => {
    fc.assert(
      fc.property(fc.nat(12), fc.array(fc.integer({ min: 1, max: 6 }), { maxLength: 12 }), (free, sizes) => {
        const waiting = sizes.map((size, at) => party(`p${String(at).padStart(2, '0')}`, '2026-07-01', size));
        const offers = freedSeatsFor(waiting, { capacity: free }, nobody, now, starts);
        let left = free;
        for (const p of [...waiting].sort(queueOrder)) {
          const offered = offers.some((o) => o.party.orderId === p.orderId);
          expect(offered).toBe(p.seats <= left);
          if (offered) left -= p.seats;
        }
        expect(left).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  test('says why a party does not fit', () => {
    const why = (seats: number, capacity: number | null, taken: Taken) =>
      sayReason(whyNot(party('a', now, seats), { capacity }, taken));
    expect(why(2, 1, { seats: 1, unitsByOffer: new Map() })).toBe('needs 2 seats, none is free');
    expect(why(2, 2, { seats: 1, unitsByOffer: new Map() })).toBe('needs 2 seats, 1 is free');
    expect(why(2, null, { seats: 1, unitsByOffer: new Map([['single', 39]]) })).toBe('Guided paddle is full');
    expect(why(1, 5, nobody)).toBe('fits');
  });
});

test('a registration that has ended stays ended, except when money came late', () => {
  for (const to of registrationStates) {
    expect(mayBecome('withdrawn', to)).toBe(false);
    expect(mayBecome('declined', to)).toBe(false);
    expect(mayBecome('lapsed', to)).toBe(to === 'confirmed' || to === 'held');
  }
});
