import { describe, expect, test } from 'vitest';
import { answerTo, fits, freeUnits, type WhenFull } from './capacity.ts';
import { mayJoin } from './joining.ts';
import { freedSeatsFor, type WaitingParty } from './waitlist.ts';

describe('a room online beside the place', () => {
  const inPerson = { id: 'p', quantity: null, seatsPerUnit: 1 };
  const online = { id: 'o', quantity: null, seatsPerUnit: 1, online: true };
  const party = (place: number, elsewhere: number) => ({
    lines: [
      { offer: inPerson, units: place },
      { offer: online, units: elsewhere },
    ].filter((l) => l.units),
    seats: place + elsewhere,
  });
  const limits = { capacity: 10, onlineCapacity: 3 };
  const taken = { seats: 8, online: 1, unitsByOffer: new Map<string, number>() };
  test('each has its own seats: one being full keeps nobody out of the other', () => {
    expect(fits(party(2, 2), limits, taken)).toBe(true);
    expect(fits(party(3, 0), limits, taken)).toBe(false);
    expect(fits(party(0, 3), limits, taken)).toBe(false);
    expect(freeUnits(online, limits, taken)).toBe(2);
    expect(freeUnits(inPerson, limits, taken)).toBe(2);
    expect(fits(party(0, 50), { ...limits, onlineCapacity: null }, taken)).toBe(true);
  });
  test('who does not fit waits, is turned away, or is pointed online while there is room for them', () => {
    const answer = (policy: WhenFull, place: number) =>
      answerTo(party(place, 0), policy, [inPerson, online], limits, taken);
    expect(answer('waitlist', 3)).toBe('waitlist');
    expect(answer('turn away', 3)).toBe('turn away');
    expect(answerTo(party(2, 0), 'online', [inPerson, online], { ...limits, capacity: 8 }, taken)).toBe(
      'online',
    );
    // Too many for the room online as well.
    expect(answer('online', 3)).toBe('waitlist');
    expect(answerTo(party(0, 3), 'online', [inPerson, online], limits, taken)).toBe('waitlist');
    expect(answerTo(party(3, 0), 'online', [inPerson], limits, taken)).toBe('waitlist');
  });
  test('a freed seat online goes to whoever waits for one, not to who waits for the place', () => {
    const waiting = (orderId: string, of: ReturnType<typeof party>): WaitingParty => ({
      orderId,
      name: orderId,
      since: `2026-07-0${orderId}T10:00:00.000Z`,
      quiet: null,
      seats: of.seats,
      lines: of.lines.map((l) => ({
        ...l,
        offer: { ...l.offer, name: '' },
      })),
    });
    const offers = freedSeatsFor(
      [waiting('1', party(1, 0)), waiting('2', party(0, 2)), waiting('3', party(0, 1))],
      { capacity: 8, onlineCapacity: 3 },
      taken,
      '2026-07-09T12:00:00.000Z',
      '2026-08-08T12:00:00.000Z',
    );
    expect(offers.map((o) => o.party.orderId)).toEqual(['2']);
  });
  test('the link is read with a confirmed seat there, or with any where there is no offer for it alone', () => {
    const event = { online: {}, state: 'open' as const };
    expect(mayJoin(event, [inPerson, online], ['p'])).toBe(false);
    expect(mayJoin(event, [inPerson, online], ['p', 'o'])).toBe(true);
    expect(mayJoin(event, [inPerson], ['p'])).toBe(true);
    expect(mayJoin(event, [inPerson], [])).toBe(false);
    expect(mayJoin({ ...event, state: 'called off' }, [inPerson], ['p'])).toBe(false);
    expect(mayJoin({ ...event, online: null }, [inPerson], ['p'])).toBe(false);
  });
});
