import { type CalendarDate, type Instant, plusMinutes, type Zone } from '#core/time/clock.ts';
import { momentFrom } from '#core/time/moment.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { audiences } from './audiences.ts';
import { type Channel, channelRule } from './channels.ts';
import { notBefore, type QuietHours } from './hours.ts';
import type { Line } from './lines.ts';
import { type EventMoments, momentRule, type Standing, sayMoment } from './moments.ts';

/** Somebody a line could go to. */
export interface Recipient {
  /** Unique within a line, by what it is about: `keyOf` of an order, a seat, a shift. */
  key: string;
  contactId: string | null;
  name: string;
  /** Where they are reached, by each way. */
  reach: Readonly<Record<Channel, string | null>>;
  /** They have no email because the one they had bounced. */
  bounced: boolean;
  /** The instant the moment anchors to, for moments that differ by person (registration made, shift start). */
  anchor: Instant | null;
  /** When they came to be a recipient. */
  since: Instant;
  /** Somebody else whose copy covers this person, by the key they are a recipient under. */
  coveredBy: { key: string; name: string } | null;
  /** They are only among the recipients for those without an address of their own. */
  forOthers: boolean;
  /** They want no more reminders of it. */
  left: boolean;
  /** A reason known now for sending nothing at all. */
  quiet: Reason | null;
  standing: Standing;
  /** The household they belong to; null of none. */
  household: string | null;
  /** Where they live by the clock; null where that is not known. */
  zone: Zone | null;
}

/** What the organization wants of every line. */
export interface PlanningRules {
  quiet: QuietHours | null;
  holidays: readonly CalendarDate[];
}

export interface PlannedMessage<R extends Recipient = Recipient> {
  lineId: string;
  recipient: R;
  /** Where it goes. */
  address: string;
  at: Instant;
  /** From then on it is of no use; null as long as anybody likes. */
  until: Instant | null;
  reason: string;
}

export interface LeftOut<R extends Recipient = Recipient> {
  lineId: string;
  recipient: R;
  why: Reason;
  /** Somebody else gets the copy at the same address. */
  sameAddress?: boolean;
}

export interface Plan<R extends Recipient = Recipient> {
  planned: PlannedMessage<R>[];
  leftOut: LeftOut<R>[];
}

/** When a line would go to somebody, and what is known of that; where they are late for it, the time it had. */
type Timed = { at: Instant; until: Instant | null; missed: Instant | null } | { why: Reason };

/** The earlier of two instants, where there are two. */
const sooner = (a: Instant | null, b: Instant | null): Instant | null =>
  a === null ? b : b === null ? a : a < b ? a : b;

/** Works out the time of a line for one recipient after the other: thousands hang on the same moment. */
function makeTiming(line: Line, event: EventMoments, rules: PlanningRules): (to: Recipient) => Timed {
  const moment = momentRule(line.moment);
  const { late } = line;
  const momentsAt = new Map<Instant, Instant>();
  const momentAt = (anchor: Instant): Instant => {
    const known = momentsAt.get(anchor) ?? momentFrom(anchor, line.offset, event.zone);
    momentsAt.set(anchor, known);
    return known;
  };
  const waits = { quiet: rules.quiet, workingDays: line.workingDays, holidays: rules.holidays };
  const waited = new Map<string, Instant>();
  const afterWaiting = (at: Instant, zone: Zone): Instant => {
    const name = `${at} ${zone}`;
    const known = waited.get(name) ?? notBefore(at, waits, zone);
    waited.set(name, known);
    return known;
  };
  const before = line.offset.days < 0 || line.offset.minutes < 0;
  return ({ anchor: own, since, zone }) => {
    const anchor = moment.at(event, own);
    if (!anchor) return { why: because(event.startsAt ? 'no such moment' : 'no event date') };
    const time = momentAt(anchor);
    const until = sooner(
      moment.ahead && before ? anchor : null,
      line.usefulMinutes === null ? null : plusMinutes(time, line.usefulMinutes),
    );
    let at = time;
    let missed: Instant | null = null;
    let byHand = false;
    if (line.sentByHandAt && since <= line.sentByHandAt) {
      // What had gone by then went at its own time.
      if (time > line.sentByHandAt || time < since || (line.addedAt && time < line.addedAt)) {
        at = line.sentByHandAt;
        byHand = true;
      }
    } else if (!moment.answers || line.addedAt) {
      const came = line.addedAt && line.addedAt > since ? line.addedAt : since;
      if (time < came && (!moment.answers || since < came)) {
        if (late === 'skip')
          return { why: because(came === since ? audiences[line.audience].after : 'line added after') };
        at = came;
        missed = time;
      }
    }
    // What somebody did is answered at once, but not on a telephone by their bed; what is sent by hand is meant now.
    const atOnce = byHand || (moment.answers && line.channel === 'email' && !line.workingDays);
    const goes = atOnce ? at : afterWaiting(at, zone ?? event.zone);
    if (until && at > until) return { why: because('too late') };
    if (until && goes > until) return { why: because('quiet past use') };
    return { at: goes, until, missed };
  };
}

/**
 * Plans one line: for everybody exactly one of when it goes and why, or why not. One address gets one copy, except where every copy
 * is about a different order or shift. `late` are those who came after its time, with that time, by their keys: what is left to a
 * later line is settled by `planLines`.
 */
export function planLine<R extends Recipient>(
  line: Line,
  event: EventMoments,
  recipients: readonly R[],
  rules: PlanningRules,
  among: ReadonlySet<string> | null = null,
): Plan<R> & { late: ReadonlyMap<string, Instant> } {
  const moment = momentRule(line.moment);
  const audience = audiences[line.audience];
  const channel = channelRule(line.channel);
  const timing = makeTiming(line, event, rules);
  const planned: PlannedMessage<R>[] = [];
  const leftOut: LeftOut<R>[] = [];
  const late = new Map<string, Instant>();
  const copies = new Map<string, string>();
  const households = new Map<string, string>();
  const householdOf = (r: R) => (line.household ? r.household : null);
  /** Without an address of their own: whether somebody of their household gets it is known at the end. */
  const unreached: { recipient: R; why: Reason }[] = [];
  const reason = sayMoment(line);
  const concerned = moment.alone ? recipients.filter((r) => !r.forOthers) : recipients;
  const coveredBy = (r: R) => (moment.alone ? null : r.coveredBy);
  for (const recipient of concerned) {
    const out = (why: Reason, sameAddress = false) =>
      leftOut.push({ lineId: line.id, recipient, why, ...(sameAddress ? { sameAddress } : {}) });
    const whyNot = line.off
      ? because('line off')
      : among && !among.has(recipient.key)
        ? because('narrowed out')
        : (recipient.quiet ??
          (recipient.left && moment.optional ? because('wants no more') : null) ??
          moment.whyNot?.(recipient.standing, event) ??
          null);
    if (whyNot) {
      out(whyNot);
      continue;
    }
    if (coveredBy(recipient)) continue;
    const address = recipient.reach[line.channel];
    const key = address && channel.keyOf(address);
    if (!address || !key) {
      const why = because(line.channel === 'email' && recipient.bounced ? 'address bounced' : channel.none);
      if (householdOf(recipient)) unreached.push({ recipient, why });
      else out(why);
      continue;
    }
    const time = timing(recipient);
    if ('why' in time) {
      out(time.why);
      continue;
    }
    const copy = audience.copies === 'address' || moment.asks ? key : recipient.key;
    const first = copies.get(copy);
    if (first) {
      out(because('same address', { name: first }), true);
      continue;
    }
    const household = householdOf(recipient);
    const before = household && households.get(household);
    if (before) {
      out(because('one for the household', { name: before }));
      continue;
    }
    if (household) households.set(household, recipient.name);
    copies.set(copy, recipient.name);
    if (time.missed) late.set(recipient.key, time.missed);
    planned.push({ lineId: line.id, recipient, address, at: time.at, until: time.until, reason });
  }
  for (const { recipient, why } of unreached) {
    const name = households.get(recipient.household!);
    leftOut.push({
      lineId: line.id,
      recipient,
      why: name ? because('one for the household', { name }) : why,
    });
  }
  // Whether a copy covers somebody is known once it is known who gets one.
  const outBy = new Map(leftOut.filter((l) => !l.sameAddress).map((l) => [l.recipient.key, l.why]));
  for (const recipient of concerned) {
    const cover = coveredBy(recipient);
    if (!cover || outBy.has(recipient.key)) continue;
    const none = outBy.get(cover.key);
    leftOut.push({
      lineId: line.id,
      recipient,
      why: none
        ? because('nobody to send to', { name: cover.name, why: none })
        : because('covered by copy', { name: cover.name }),
    });
  }
  return { planned, leftOut, late };
}

/** A line with those it could go to. */
export interface LineOf<R extends Recipient> {
  line: Line;
  recipients: readonly R[];
  /** Who of them it is narrowed to, by their keys; null for all of them. */
  among?: ReadonlySet<string> | null;
}

/**
 * Plans all lines of an event. Of several that somebody is late for, and that go by the rule “last”, only the one goes whose time
 * came last; the others say which.
 */
export function planLines<R extends Recipient>(
  lines: readonly LineOf<R>[],
  event: EventMoments,
  rules: PlanningRules,
): ReadonlyMap<string, Plan<R>> {
  const plans = new Map<string, Plan<R>>();
  const late: { line: Line; message: PlannedMessage<R>; missed: Instant }[] = [];
  for (const { line, recipients, among } of lines) {
    const { late: those, ...plan } = planLine(line, event, recipients, rules, among);
    plans.set(line.id, plan);
    if (line.late === 'last')
      for (const message of plan.planned) {
        const missed = those.get(message.recipient.key);
        if (missed) late.push({ line, message, missed });
      }
  }
  // By the time each would have had: all of them go at the same one now.
  const last = new Map<string, (typeof late)[number]>();
  const about = ({ line, message }: (typeof late)[number]) =>
    `${line.channel} ${message.address} ${line.audience === 'attendees' ? '' : message.recipient.key}`;
  for (const one of late) {
    const known = last.get(about(one));
    if (!known || one.missed > known.missed) last.set(about(one), one);
  }
  const given = new Map<string, Map<PlannedMessage<R>, Line>>();
  for (const one of late) {
    const { line } = last.get(about(one))!;
    if (line.id === one.line.id) continue;
    given.set(one.line.id, (given.get(one.line.id) ?? new Map()).set(one.message, line));
  }
  for (const [lineId, messages] of given) {
    const plan = plans.get(lineId)!;
    plan.planned = plan.planned.filter((message) => !messages.has(message));
    for (const [{ recipient }, { name }] of messages)
      plan.leftOut.push({ lineId, recipient, why: because('said by later line', { line: name }) });
  }
  return plans;
}
