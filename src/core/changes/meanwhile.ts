import type { Instant } from '#core/time/clock.ts';

/** Somebody has to be somewhere for a time. */
export interface Engagement {
  contactId: string;
  name: string;
  of: 'seat' | 'shift' | 'session';
  startsAt: Instant;
  endsAt: Instant;
  /** What puts them on a shift; null for anything else. */
  assignmentId: string | null;
}

export interface Elsewhere {
  contactId: string;
  of: Engagement['of'];
  eventId: string;
  title: string;
  startsAt: Instant;
  endsAt: Instant;
}

const overlap = (
  a: { startsAt: Instant; endsAt: Instant },
  b: { startsAt: Instant; endsAt: Instant },
): boolean => a.startsAt < b.endsAt && b.startsAt < a.endsAt;

/**
 * Who is at two things at once by a change and was not before: each thing here with the first one elsewhere that has a moment in
 * common with it. What touches (one ends as the other begins) does not overlap.
 */
export function atTwoThings<H extends Engagement, E extends Elsewhere>(
  before: readonly Engagement[],
  after: readonly H[],
  elsewhere: readonly E[],
): { here: H; there: E }[] {
  const by = new Map<string, E[]>();
  for (const e of elsewhere) by.set(e.contactId, [...(by.get(e.contactId) ?? []), e]);
  const was = new Map<string, Engagement[]>();
  for (const e of before) was.set(e.contactId, [...(was.get(e.contactId) ?? []), e]);
  return after.flatMap((here) => {
    const there = by
      .get(here.contactId)
      ?.find(
        (e) => overlap(here, e) && !was.get(here.contactId)?.some((b) => b.of === here.of && overlap(b, e)),
      );
    return there ? [{ here, there }] : [];
  });
}
