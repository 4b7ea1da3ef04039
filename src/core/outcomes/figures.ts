import { type RegistrationState, registrationStates } from '#core/registration/states.ts';

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
}

export interface Figures {
  seatsByState: Record<RegistrationState, number>;
  seats: number;
  arrived: number;
  walkIns: number;
  missed: number;
  expected: number;
  money: { seats: number; donations: number; refunds: number; net: number };
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
  const arrived = confirmed.filter((s) => s.attendance === 'arrived' || s.attendance === 'left').length;
  const missed = confirmed.filter((s) => s.attendance === 'missed').length;
  const expected = confirmed.length - arrived - missed;
  const sum = (of: readonly { amount: number }[]) => of.reduce((total, m) => total + m.amount, 0);
  const incoming = facts.movements.filter((m) => m.amount > 0);
  const money = {
    seats: sum(incoming.filter((m) => m.kind === 'seats')),
    donations: sum(incoming.filter((m) => m.kind === 'donation')),
    refunds: -sum(facts.movements.filter((m) => m.amount < 0)),
    net: sum(facts.movements),
  };
  const hoursServed = facts.stints
    .filter((s) => s.state === 'served')
    .reduce((total, s) => total + s.hours, 0);
  const strays = facts.seats.filter(
    (s) => s.state !== 'confirmed' && (s.attendance === 'arrived' || s.attendance === 'left'),
  ).length;
  return {
    seatsByState,
    seats: facts.seats.length,
    arrived,
    walkIns: facts.seats.filter((s) => s.walkIn && (s.attendance === 'arrived' || s.attendance === 'left'))
      .length,
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
        text: 'confirmed seats = arrived + missed + expected',
        holds: seatsByState.confirmed === arrived + missed + expected,
      },
      { text: 'nobody arrived without a confirmed seat', holds: strays === 0 },
      {
        text: 'money for seats + donations − refunds = net',
        holds: money.seats + money.donations - money.refunds === money.net,
      },
      {
        text: 'survey answers are at most those asked',
        holds: !facts.survey || facts.survey.answered <= facts.survey.asked,
      },
    ],
  };
}
