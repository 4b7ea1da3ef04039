import { emailKey } from '#core/contacts/reach.ts';
import { endOf } from '#core/events/end.ts';
import type { Instant, Zone } from '#core/time/clock.ts';
import { momentFrom, type Offset, sayOffset } from '#core/time/moment.ts';

/** Moments that messages can hang on. */
export const moments = ['registration made', 'start', 'end', 'waiver missing', 'shift start'] as const;
export type Moment = (typeof moments)[number];

/** A step of an event's message plan. */
export interface PlanStep {
  id: string;
  name: string;
  moment: Moment;
  offset: Offset;
  /** Who it is for. */
  audience: 'orders' | 'attendees' | 'crew';
}

/** Somebody a step could go to. */
export interface Recipient {
  /** Unique within a step: what it is about (an order, a registration, an assignment). */
  key: string;
  contactId: string | null;
  name: string;
  email: string | null;
  /** The instant the moment anchors to, for moments that differ by person (registration made, shift start). */
  anchor: Instant | null;
  /** When they came to be a recipient; a reminder whose moment had passed by then is not sent. */
  since: Instant;
  /** Somebody else whose copy covers this person, by the key they are a recipient under. */
  coveredBy: { key: string; name: string } | null;
  /** A reason known now for sending nothing. */
  excludedBecause: string | null;
}

export interface PlannedMessage {
  stepId: string;
  recipient: Recipient;
  at: Instant;
  reason: string;
}

export interface LeftOut {
  stepId: string;
  recipient: Recipient;
  why: string;
  /** Somebody else gets the copy at the same address. */
  sameAddress?: boolean;
}

/** The dates of the event that moments hang on. */
export interface EventMoments {
  startsAt: Instant | null;
  endsAt: Instant | null;
  zone: Zone;
}

/**
 * Plans one step: a row for everybody who gets it with moment and reason, and everybody who does not with why.
 * One address gets one copy per step, except where every copy is about a different order or shift.
 */
export function planStep(
  step: PlanStep,
  event: EventMoments,
  recipients: readonly Recipient[],
): { planned: PlannedMessage[]; leftOut: LeftOut[] } {
  const planned: PlannedMessage[] = [];
  const leftOut: LeftOut[] = [];
  const copies = new Map<string, string>();
  for (const recipient of recipients) {
    const out = (why: string, sameAddress = false) =>
      leftOut.push({ stepId: step.id, recipient, why, ...(sameAddress ? { sameAddress } : {}) });
    if (recipient.excludedBecause) {
      out(recipient.excludedBecause);
      continue;
    }
    if (recipient.coveredBy) continue;
    if (!recipient.email) {
      out('no email address');
      continue;
    }
    const anchor = anchorOf(step.moment, event, recipient);
    if (!anchor) {
      out('the event has no date yet');
      continue;
    }
    const at = momentFrom(anchor, step.offset, event.zone);
    if (step.moment !== 'registration made' && at < recipient.since) {
      out(`${step.audience === 'crew' ? 'signed up' : 'registered'} after the moment had passed`);
      continue;
    }
    const copy = step.audience === 'attendees' ? emailKey(recipient.email) : recipient.key;
    const first = copies.get(copy);
    if (first) {
      out(`one copy to this address is enough; it goes to ${first}`, true);
      continue;
    }
    copies.set(copy, recipient.name);
    planned.push({ stepId: step.id, recipient, at, reason: sayMoment(step) });
  }
  // Whether a copy covers somebody is known once it is known who gets one.
  for (const recipient of recipients) {
    if (recipient.excludedBecause || !recipient.coveredBy) continue;
    const { key, name } = recipient.coveredBy;
    const none = leftOut.find((l) => l.recipient.key === key && !l.sameAddress);
    leftOut.push({
      stepId: step.id,
      recipient,
      why: none
        ? `nobody to send to: ${name}, who booked, gets none (${none.why})`
        : `covered by the copy to ${name}`,
    });
  }
  return { planned, leftOut };
}

export const momentWords: Record<Moment, string> = {
  'registration made': 'the registration',
  start: 'the start',
  end: 'the end',
  'waiver missing': 'the start, while a waiver is missing',
  'shift start': 'the shift',
};

/** "1 day before the start". */
export function sayMoment(step: Pick<PlanStep, 'moment' | 'offset'>): string {
  return `${sayOffset(step.offset)} ${momentWords[step.moment]}`;
}

function anchorOf(moment: Moment, event: EventMoments, recipient: Recipient): Instant | null {
  switch (moment) {
    case 'registration made':
    case 'shift start':
      return recipient.anchor;
    case 'end':
      return endOf(event);
    default:
      return event.startsAt;
  }
}
