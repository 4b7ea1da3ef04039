import type { Instant } from '#core/time/clock.ts';

/** What two events are at odds about: the same place, somebody who leads both, the same people to come. */
export type ClashKind = 'place' | 'lead' | 'audience';

/** As much of an event as tells what it is at odds with. */
export interface Clashing {
  id: string;
  startsAt: Instant | null;
  endsAt: Instant | null;
  /** The room it takes, or the whole place; null for a place that several may be at. */
  space: string | null;
  leads: readonly string[];
  /** The unit whose people it is for. */
  unit: string | null;
}

export interface Clash {
  other: string;
  kind: ClashKind;
}

/**
 * Which events are at odds with which, each seen from both sides. Only those that have a moment in common: events are gone through
 * in the order they begin, against those that are not over by then.
 */
export function clashesOf<E extends Clashing>(events: readonly E[]): ReadonlyMap<string, Clash[]> {
  const found = new Map<string, Clash[]>();
  const add = (id: string, clash: Clash) => {
    const known = found.get(id);
    if (known) known.push(clash);
    else found.set(id, [clash]);
  };
  const dated = events
    .filter((e) => e.startsAt !== null && e.endsAt !== null && e.endsAt > e.startsAt)
    .sort((a, b) => (a.startsAt! < b.startsAt! ? -1 : 1));
  let running: E[] = [];
  for (const event of dated) {
    running = running.filter((e) => e.endsAt! > event.startsAt!);
    for (const other of running) {
      const kinds: ClashKind[] = [];
      if (event.space !== null && event.space === other.space) kinds.push('place');
      if (event.leads.some((l) => other.leads.includes(l))) kinds.push('lead');
      if (event.unit !== null && event.unit === other.unit) kinds.push('audience');
      for (const kind of kinds) {
        add(event.id, { other: other.id, kind });
        add(other.id, { other: event.id, kind });
      }
    }
    running.push(event);
  }
  return found;
}
