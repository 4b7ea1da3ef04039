import type { EventState } from '#core/events/states.ts';
import type { RegistrationState } from '#core/registration/states.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import type { Said } from '#core/words/filling.ts';
import type { VerdictCode } from '#core/words/verdicts.ts';

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
  closedDoor: EventState | null;
  /** Whether they never came to anything before; false where it is not known who they are. */
  firstTime: boolean;
  /** At the door of a session; null at the doors of the event. */
  session: {
    /** Whether it is theirs: they signed up for it, or nobody has to. */
    theirs: boolean;
    /** Where they signed up to be meanwhile, in words; null for nowhere. */
    instead: string | null;
    /** Whether they were let in at the event already. */
    inEvent: boolean;
  } | null;
  /** Whether they came on a day of the event before today. */
  cameBefore: boolean;
  /** When the doors were closed, in words; null while they are open. */
  closedSince: string | null;
  /** Whether a name tag lies ready for them, or is to be made; null where the event has none. */
  tag: 'ready' | 'to make' | null;
  /** What they said no to where a waiver let them choose, as with photographs. */
  saidNo: readonly string[];
}

export type EventDay = 'today' | 'to come' | 'past' | 'no date';

/** What the door sees at arm's length. `stop` may not come in as things are; `settle` first needs something; `go` comes in. */
export interface DoorVerdict {
  light: 'go' | 'settle' | 'stop';
  headline: Said<VerdictCode>;
  details: Said<VerdictCode>[];
  /** What matters of whoever comes in, and keeps nobody out. */
  toKnow: Said<VerdictCode>[];
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

const verdict = (
  light: DoorVerdict['light'],
  headline: VerdictCode,
  details: readonly VerdictCode[] = [],
  toKnow: DoorVerdict['toKnow'] = [],
): DoorVerdict => ({
  light,
  headline: { code: headline },
  details: details.map((code) => ({ code })),
  toKnow,
});

/** Judges one seat at the door. A seat is not an arrival: only a mark at the door makes one. */
export function judge(facts: DoorFacts): DoorVerdict {
  if (!facts.sameEvent) return verdict('stop', 'another-event', ['not-for-this-event']);
  if (facts.closedDoor)
    return {
      light: 'stop',
      headline: { code: 'not-running', params: { state: facts.closedDoor } },
      details: [{ code: 'nobody-arrives' }],
      toKnow: [],
    };
  if (facts.seatState !== 'confirmed') return verdict('stop', facts.seatState, ['no-confirmed-seat']);
  const saidNo = facts.saidNo.map((what) => ({ code: 'said-no' as const, params: { what } }));
  if (facts.attendance === 'arrived') return verdict('stop', 'already-in', [], saidNo);
  const missing: VerdictCode[] = [];
  if (facts.waiverMissing)
    missing.push(facts.waiverMissing === 'guardian' ? 'guardian-unsigned' : 'unsigned');
  if (facts.balance > 0) missing.push('balance-to-pay');
  if (facts.day === 'past') return verdict('stop', 'event-over', ['took-place-before', ...missing]);
  if (facts.day !== 'today') return verdict('stop', 'another-day', ['not-today', ...missing]);
  const back = facts.attendance === 'left';
  const { session, closedSince } = facts;
  const isNew = !back && !facts.cameBefore && !session?.inEvent;
  const toKnow: DoorVerdict['toKnow'] = [
    ...(facts.firstTime && isNew ? [{ code: 'first-time' as const }] : []),
    ...(facts.cameBefore && !back && !session ? [{ code: 'came-before' as const }] : []),
    ...(facts.tag && isNew
      ? [{ code: facts.tag === 'ready' ? ('tag-ready' as const) : ('tag-to-make' as const) }]
      : []),
    ...(closedSince ? [{ code: 'doors-closed' as const, params: { time: closedSince } }] : []),
    ...saidNo,
  ];
  if (session && !session.theirs)
    return {
      light: 'stop',
      headline: { code: 'another-session' },
      details: [
        session.instead
          ? { code: 'session-instead', params: { session: session.instead } }
          : { code: 'not-signed-up' },
      ],
      toKnow,
    };
  // Who was let in at the event has settled what there was, or was let in with a reason.
  if (session?.inEvent) return verdict('go', back ? 'coming-back' : 'come-in', [], toKnow);
  if (facts.waiverMissing) return verdict('stop', 'waiver-missing', missing, toKnow);
  if (facts.balance > 0) return verdict('settle', 'balance-due', missing, toKnow);
  return verdict('go', back ? 'coming-back' : 'come-in', [], toKnow);
}

/** The shortest reason that lets somebody in whom the door would stop, in characters. */
export const shortestReason = 3;

/** True when somebody may be marked as arrived: nothing is in the way, or a reason to let them in all the same is given. */
export const mayComeIn = (verdict: Pick<DoorVerdict, 'light'>, reason: string): boolean =>
  verdict.light === 'go' || reason.trim().length >= shortestReason;
