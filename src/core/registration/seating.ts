import type { CalendarDate } from '#core/time/clock.ts';
import { ageOn } from '#core/time/dates.ts';

/** A seat as far as it decides who can have it. */
export interface SeatFor {
  fromAge: number | null;
  toAge: number | null;
}

/** True where somebody of that age may have the seat; where no age is known, every seat may be theirs. */
const suits = (seat: SeatFor, age: number | null): boolean =>
  age === null ||
  ((seat.fromAge === null || age >= seat.fromAge) && (seat.toAge === null || age <= seat.toAge));

/** How narrow the ages are that a seat is for: narrow ones are given first, so that the others are left for anybody. */
const width = (seat: SeatFor): number => (seat.toAge ?? 200) - (seat.fromAge ?? 0);

/**
 * Which seat each of some people gets: by their age on the day of the event the narrowest one that suits, the first of those;
 * null where none is left that does. A grown-up of unknown age is not put on a child's seat while there is another.
 */
export function seatPeople(
  people: readonly { birthDate: CalendarDate | null }[],
  seats: readonly SeatFor[],
  eventDate: CalendarDate | null,
): (number | null)[] {
  const free = new Set(seats.keys());
  return people.map(({ birthDate }) => {
    const age = birthDate && eventDate ? ageOn(birthDate, eventDate) : null;
    const possible = [...free].filter((at) => suits(seats[at]!, age));
    const order =
      age === null
        ? (a: number, b: number) => width(seats[b]!) - width(seats[a]!)
        : (a: number, b: number) => width(seats[a]!) - width(seats[b]!);
    const [at] = possible.sort((a, b) => order(a, b) || a - b);
    if (at === undefined) return null;
    free.delete(at);
    return at;
  });
}
