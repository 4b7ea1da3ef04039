import { hasCome } from '#core/doors/attendance.ts';
import { type RegistrationState, registrationStates } from '#core/registration/states.ts';
import { say, words } from '#core/words/spoken.ts';

/** The raw facts of an event that its figures are computed from. */
export interface EventFacts {
  seats: readonly {
    state: RegistrationState;
    attendance: 'expected' | 'arrived' | 'left' | 'missed' | null;
    walkIn: boolean;
  }[];
  /** Money that moved, refunds negative, in minor units. */
  movements: readonly { kind: 'seats' | 'donation'; amount: number; method: string }[];
  stints: readonly { state: 'proposed' | 'agreed' | 'dropped' | 'served' | 'missed'; hours: number }[];
  survey: { asked: number; answered: number } | null;
  /** Sums of the same money kept elsewhere: what orders show as received, and gifts on the records of givers. */
  kept: { ordersReceived: number; gifts: number };
}

export interface Figures {
  seatsByState: Record<RegistrationState, number>;
  seats: number;
  arrived: number;
  walkIns: number;
  missed: number;
  expected: number;
  /** What came in, went back and stayed; what was let off did not come in. */
  money: { seats: number; donations: number; refunds: number; net: number; waived: number };
  hoursServed: number;
  survey: { asked: number; answered: number; share: number } | null;
  /** Sums that have to agree with one another; each says whether it does. */
  checks: { text: string; holds: boolean }[];
}

/** Computes an event's figures and checks that they reconcile with one another. */
export function figuresOf(facts: EventFacts): Figures {
  const seatsByState = Object.fromEntries(registrationStates.map((s) => [s, 0])) as Record<
    RegistrationState,
    number
  >;
  for (const seat of facts.seats) seatsByState[seat.state] += 1;
  const confirmed = facts.seats.filter((s) => s.state === 'confirmed');
  const arrived = confirmed.filter((s) => hasCome(s.attendance)).length;
  const missed = confirmed.filter((s) => s.attendance === 'missed').length;
  // Counted by itself, not as what is left: a seat without a line at the door would be hidden by subtracting.
  const expected = confirmed.filter((s) => s.attendance === 'expected').length;
  const sum = (of: readonly { amount: number }[]) => of.reduce((total, m) => total + m.amount, 0);
  const moved = facts.movements.filter((m) => m.method !== 'waived');
  const incoming = moved.filter((m) => m.amount > 0);
  const money = {
    seats: sum(incoming.filter((m) => m.kind === 'seats')),
    donations: sum(incoming.filter((m) => m.kind === 'donation')),
    refunds: -sum(moved.filter((m) => m.amount < 0)),
    net: sum(moved),
    waived: sum(facts.movements.filter((m) => m.method === 'waived')),
  };
  const hoursServed = facts.stints
    .filter((s) => s.state === 'served')
    .reduce((total, s) => total + s.hours, 0);
  const strays = facts.seats.filter((s) => s.state !== 'confirmed' && hasCome(s.attendance)).length;
  return {
    seatsByState,
    seats: facts.seats.length,
    arrived,
    walkIns: facts.seats.filter((s) => s.walkIn && hasCome(s.attendance)).length,
    missed,
    expected,
    money,
    hoursServed,
    survey: facts.survey && {
      ...facts.survey,
      share: facts.survey.asked ? facts.survey.answered / facts.survey.asked : 0,
    },
    checks: [
      {
        text: say(words().checks.seats),
        holds: seatsByState.confirmed === arrived + missed + expected,
      },
      { text: say(words().checks.strays), holds: strays === 0 },
      {
        text: say(words().checks.money),
        holds: money.net === facts.kept.ordersReceived,
      },
      {
        text: say(words().checks.gifts),
        holds: sum(moved.filter((m) => m.kind === 'donation')) === facts.kept.gifts,
      },
      {
        text: say(words().checks.survey),
        holds: !facts.survey || facts.survey.answered <= facts.survey.asked,
      },
    ],
  };
}
