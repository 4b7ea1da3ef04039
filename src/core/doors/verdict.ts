import type { RegistrationState } from '#core/registration/states.ts';

/** What the door has to know about one seat. */
export interface DoorFacts {
  seatState: RegistrationState;
  attendance: 'expected' | 'arrived' | 'left' | 'missed';
  waiverMissing: 'self' | 'guardian' | null;
  /** Still to pay, in minor units, of the whole order. */
  balance: number;
  sameEvent: boolean;
}

/** What the door sees at arm's length. `stop` may not come in as things are; `settle` first needs something; `go` comes in. */
export interface DoorVerdict {
  light: 'go' | 'settle' | 'stop';
  headline: string;
  details: string[];
}

/** Judges one seat at the door. A seat is not an arrival: only a mark at the door makes one. */
export function judge(facts: DoorFacts): DoorVerdict {
  if (!facts.sameEvent)
    return { light: 'stop', headline: 'Another event', details: ['This pass is not for this event.'] };
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
  if (facts.waiverMissing) return { light: 'stop', headline: 'Waiver missing', details };
  if (facts.balance > 0) return { light: 'settle', headline: 'Balance due', details };
  return { light: 'go', headline: facts.attendance === 'left' ? 'Coming back' : 'Come in', details };
}
