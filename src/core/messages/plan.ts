import { emailKey } from '#core/contacts/reach.ts';
import type { Instant } from '#core/time/clock.ts';
import { momentFrom, type Offset } from '#core/time/moment.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { type Audience, audiences } from './audiences.ts';
import { type EventMoments, type Moment, momentRule, sayMoment } from './moments.ts';

/** A step of an event's message plan. */
export interface PlanStep {
  id: string;
  name: string;
  moment: Moment;
  offset: Offset;
  /** Who it is for. */
  audience: Audience;
}

/** Somebody a step could go to. */
export interface Recipient {
  /** Unique within a step, by what it is about: `keyOf` of an order, a seat, a shift. */
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
  excludedBecause: Reason | null;
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
  why: Reason;
  /** Somebody else gets the copy at the same address. */
  sameAddress?: boolean;
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
  const moment = momentRule(step.moment);
  const audience = audiences[step.audience];
  const planned: PlannedMessage[] = [];
  const leftOut: LeftOut[] = [];
  const copies = new Map<string, string>();
  // Most of thousands hang on the same moment, and working one out goes through the calendar.
  const momentsAt = new Map<Instant, Instant>();
  const momentAt = (anchor: Instant): Instant => {
    const known = momentsAt.get(anchor) ?? momentFrom(anchor, step.offset, event.zone);
    momentsAt.set(anchor, known);
    return known;
  };
  const reason = sayMoment(step);
  for (const recipient of recipients) {
    const out = (why: Reason, sameAddress = false) =>
      leftOut.push({ stepId: step.id, recipient, why, ...(sameAddress ? { sameAddress } : {}) });
    if (recipient.excludedBecause) {
      out(recipient.excludedBecause);
      continue;
    }
    if (recipient.coveredBy) continue;
    if (!recipient.email) {
      out(because('no address'));
      continue;
    }
    const anchor = moment.at(event, recipient.anchor);
    if (!anchor) {
      out(because('no event date'));
      continue;
    }
    const at = momentAt(anchor);
    if (!moment.answers && at < recipient.since) {
      out(because(audience.after));
      continue;
    }
    const copy = audience.copies === 'address' ? emailKey(recipient.email) : recipient.key;
    const first = copies.get(copy);
    if (first) {
      out(because('same address', { name: first }), true);
      continue;
    }
    copies.set(copy, recipient.name);
    planned.push({ stepId: step.id, recipient, at, reason });
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
        ? because('nobody to send to', { name, why: none.why })
        : because('covered by copy', { name }),
    });
  }
  return { planned, leftOut };
}
