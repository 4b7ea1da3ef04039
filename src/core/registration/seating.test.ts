import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seatPeople } from './seating.ts';

const anybody = { fromAge: null, toAge: null };
const child = { fromAge: 7, toAge: 13 };
const adult = { fromAge: 18, toAge: null };
const day = '2026-08-08';
const born = (birthDate: string | null) => ({ birthDate });

describe('who sits where', () => {
  test('children get the seats for children, whatever the order', () => {
    expect(seatPeople([born('1984-02-01'), born('2016-05-05')], [child, adult], day)).toEqual([1, 0]);
    expect(seatPeople([born('2016-05-05'), born('1984-02-01')], [anybody, child], day)).toEqual([1, 0]);
  });

  test('whose age is not known gets a seat for anybody while there is one', () => {
    expect(seatPeople([born(null), born('2016-05-05')], [child, anybody], day)).toEqual([1, 0]);
    expect(seatPeople([born(null)], [child], day)).toEqual([0]);
  });

  test('nobody gets a seat that is not for their age: seven and thirteen on the very day are children', () => {
    expect(seatPeople([born('2019-08-09')], [child], day)).toEqual([null]);
    expect(seatPeople([born('2019-08-08')], [child], day)).toEqual([0]);
    expect(seatPeople([born('2012-08-09')], [child], day)).toEqual([0]);
    expect(seatPeople([born('2012-08-08')], [child], day)).toEqual([null]);
  });

  test('no seat is given twice, and none stays free that somebody without one could have', () => {
    const seat = fc.constantFrom(anybody, child, adult);
    const person = fc.constantFrom(null, '2016-05-05', '1984-02-01', '2010-01-01').map(born);
    fc.assert(
      fc.property(fc.array(person, { maxLength: 8 }), fc.array(seat, { maxLength: 8 }), (people, seats) => {
        const given = seatPeople(people, seats, day);
        const taken = given.filter((at) => at !== null);
        expect(new Set(taken).size).toBe(taken.length);
        for (const [n, at] of given.entries()) {
          if (at !== null) continue;
          // Alone among the seats nobody got, they would get none either.
          const left = seats.filter((_, s) => !taken.includes(s));
          expect(seatPeople([people[n]!], left, day)).toEqual([null]);
        }
      }),
    );
  });
});
