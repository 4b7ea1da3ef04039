import { actsAs, type EventReach } from '#core/access/stages.ts';
import { isCoordinator, type Viewer } from '#core/access/viewer.ts';
import { type Currency, sayAmount } from '#core/money/amount.ts';
import type { Role } from '#core/staff/roles.ts';
import { type Instant, plusMinutes, type Zone } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { say, words } from '#core/words/spoken.ts';

/** What the team can ask to be told of, each with the roles that may see it. */
const rules = {
  registration: ['unit lead'],
  request: ['unit lead'],
  'seats given up': ['unit lead'],
  'waiver signed': ['unit lead'],
  gift: ['unit lead', 'treasurer'],
  'plan back': ['unit lead', 'approver'],
  'application came': ['unit lead', 'crew lead'],
  'shift taken': ['unit lead', 'crew lead'],
  'shift given back': ['unit lead', 'crew lead'],
  'nobody steps in': ['unit lead', 'crew lead'],
  'swap wished': ['unit lead', 'crew lead'],
  question: ['unit lead'],
  'wrote back': ['unit lead'],
} as const satisfies Record<string, readonly Exclude<Role, 'coordinator'>[]>;

export type Noticed = keyof typeof rules;

/** What can belong to no event, with who is told of it then beside coordinators. */
const ofNone: Partial<Record<Noticed, Role>> = { gift: 'treasurer', 'application came': 'crew lead' };

export const noticedKinds = Object.keys(rules) as [Noticed, ...Noticed[]];

export const sayNoticed = (what: Noticed): string => say(words().notices.asked[what]);

/** When somebody is told: not at all, soon after it happened, or with everything else of a day in the morning. */
export const noticeTimes = ['never', 'soon', 'each morning'] as const;
export type NoticeTime = (typeof noticeTimes)[number];

/** Minutes in which what happens comes as one message. */
const gatherMinutes = 5;
/** When the morning begins where the organization has no quiet hours. */
export const usualMorning = '08:00';

/** Whether somebody may ever be told of something, at whatever event. */
export const mayBeTold = (viewer: Viewer, what: Noticed): boolean =>
  isCoordinator(viewer) ||
  viewer.roles.some((role) => (rules[what] as readonly Role[]).includes(role)) ||
  viewer.duties.some(
    (d) =>
      d.part !== 'helper' || (d.stage === 'crew' && (rules[what] as readonly Role[]).includes('crew lead')),
  );

/** Whether somebody may be told of something that happened at an event, or at none. */
export function isTold(viewer: Viewer, what: Noticed, event: EventReach | null, now: Instant): boolean {
  if (event) return rules[what].some((role) => actsAs(viewer, role, event, now));
  // What belongs to no event is of the whole organization.
  const role = ofNone[what];
  return (
    isCoordinator(viewer) || (viewer.unitId === null && role !== undefined && viewer.roles.includes(role))
  );
}

/** When somebody is told of what happens now. `morning` is a time of day, `HH:MM`, by the clock of `zone`. */
export function toldAt(
  when: Exclude<NoticeTime, 'never'>,
  now: Instant,
  morning: string,
  zone: Zone,
): Instant {
  if (when === 'soon') return plusMinutes(now, gatherMinutes);
  const today = wallOf(now, zone).slice(0, 10);
  const at = instantOf(`${today}T${morning}`, zone);
  return at > now ? at : instantOf(`${shiftDate(today, 1)}T${morning}`, zone);
}

/** Something that happened, as the team is told of it. */
export interface Notice {
  what: Noticed;
  /** The title of its event; null of none. */
  event: string | null;
  /** Who did it, or whom it concerns. */
  who: string;
  /** Seats, where there are any. */
  count: number | null;
  amount: number | null;
  currency: Currency | null;
  /** What was said with it. */
  words: string;
}

/** "2 registrations, 1 gift": what a message is about, most first. */
export function sumUp(notices: readonly Notice[]): string {
  const counts = new Map<Noticed, number>();
  for (const { what } of notices) counts.set(what, (counts.get(what) ?? 0) + 1);
  return [...counts]
    .sort(([a, m], [b, n]) => n - m || noticedKinds.indexOf(a) - noticedKinds.indexOf(b))
    .map(([what, count]) => say(words().notices.counted[what], { count }))
    .join(', ');
}

/** One thing that happened, in a line. */
function sayOne({ what, who, count, amount, currency, words: said }: Notice): string {
  const more = [
    count !== null && say(words().notices.seats, { count }),
    amount !== null && currency && sayAmount(amount, currency),
  ].filter(Boolean);
  const line = `${sayNoticed(what)}: ${[who, ...more].filter(Boolean).join(', ')}`;
  return said ? `${line}. “${said}”` : line;
}

/** What happened, event by event in the order it began, as plain text. */
export function tellOf(notices: readonly Notice[]): string {
  const byEvent = new Map<string, Notice[]>();
  for (const notice of notices) {
    const title = notice.event ?? say(words().notices.noEvent);
    byEvent.set(title, [...(byEvent.get(title) ?? []), notice]);
  }
  return [...byEvent]
    .map(([title, of]) => [title, ...of.map((n) => `– ${sayOne(n)}`)].join('\n'))
    .join('\n\n');
}
