import type { RegistrationState } from '#core/registration/states.ts';
import type { CalendarDate } from '#core/time/clock.ts';

/** What the door has to know about one seat. */
export interface DoorFacts {
  seatState: RegistrationState;
  attendance: 'expected' | 'arrived' | 'left' | 'missed';
  waiverMissing: 'self' | 'guardian' | null;
  /** Still to pay, in minor units, of the whole order. */
  balance: number;
  sameEvent: boolean;
  /** Whether the event takes place today, where it takes place. */
  day: EventDay;
  /** Of an event that takes nobody in: called off, wrapped, not open yet. */
  closedDoor: string | null;
}

export type EventDay = 'today' | 'to come' | 'past' | 'no date';

/** What the door sees at arm's length. `stop` may not come in as things are; `settle` first needs something; `go` comes in. */
export interface DoorVerdict {
  light: 'go' | 'settle' | 'stop';
  headline: string;
  details: string[];
}

/** Whether an event takes place on a day: from the day its doors open to the day it ends, both included. */
export function eventDayOf(
  event: { doorsLocal: string | null; startsLocal: string | null; endsLocal: string | null },
  today: CalendarDate,
): EventDay {
  const from = (event.doorsLocal ?? event.startsLocal)?.slice(0, 10);
  const until = (event.endsLocal ?? event.startsLocal)?.slice(0, 10);
  if (!from || !until) return 'no date';
  return today < from ? 'to come' : today > until ? 'past' : 'today';
}

/** Judges one seat at the door. A seat is not an arrival: only a mark at the door makes one. */
export function judge(facts: DoorFacts): DoorVerdict {
  if (!facts.sameEvent)
    return { light: 'stop', headline: 'Another event', details: ['This pass is not for this event.'] };
  if (facts.closedDoor)
    return {
      light: 'stop',
      headline: facts.closedDoor,
      details: ['Nobody arrives at this event.'],
    };
  if (facts.seatState !== 'confirmed') {
    const words: Record<Exclude<RegistrationState, 'confirmed'>, string> = {
      asked: 'Not accepted yet',
      held: 'Not paid: the seat is only held',
      waitlisted: 'On the waitlist',
      offered: 'A seat was offered but not taken',
      withdrawn: 'Withdrawn',
      declined: 'Declined',
      lapsed: 'Lapsed',
    };
    return { light: 'stop', headline: words[facts.seatState], details: ['No confirmed seat.'] };
  }
  if (facts.attendance === 'arrived') return { light: 'stop', headline: 'Already in', details: [] };
  const details: string[] = [];
  if (facts.waiverMissing)
    details.push(
      facts.waiverMissing === 'guardian' ? "A guardian's signature is missing." : 'The waiver is not signed.',
    );
  if (facts.balance > 0) details.push('There is a balance to pay.');
  if (facts.day !== 'today')
    return {
      light: 'stop',
      headline: facts.day === 'past' ? 'The event is over' : 'Another day',
      details: [
        facts.day === 'past' ? 'It took place before today.' : 'The event does not take place today.',
        ...details,
      ],
    };
  if (facts.waiverMissing) return { light: 'stop', headline: 'Waiver missing', details };
  if (facts.balance > 0) return { light: 'settle', headline: 'Balance due', details };
  return { light: 'go', headline: facts.attendance === 'left' ? 'Coming back' : 'Come in', details };
}

/** The shortest reason that lets somebody in whom the door would stop, in characters. */
export const shortestReason = 3;

/** True when somebody may be marked as arrived: nothing is in the way, or a reason to let them in all the same is given. */
export const mayComeIn = (verdict: DoorVerdict, reason: string): boolean =>
  verdict.light === 'go' || reason.trim().length >= shortestReason;
