import type { SeasonEvent } from '#contract/events.ts';
import type { Clash } from '#core/season/clashes.ts';

/** What is shown of Season, as its address says it. `again` is the event that is to be planned again; `begin` asks which. */
export const usualSeason = {
  show: 'coming',
  again: '',
  begin: '',
  form: 'ribbon',
  by: 'unit',
  month: '',
  q: '',
  unit: '',
  venue: '',
  kind: '',
  state: '',
};
export type SeasonAddress = typeof usualSeason;

/** What a picture of Season, the ribbon or the month, is drawn from. */
export interface SeasonPicture {
  events: readonly SeasonEvent[];
  clashes: ReadonlyMap<string, readonly Clash[]>;
  holidays: readonly string[];
  address: SeasonAddress;
  put: (part: Partial<SeasonAddress>) => void;
  today: string;
  now: string;
}

/** Events that stand in all that is shown: of a unit, a place, a kind or a state, with words in their title. */
export function narrowed(events: readonly SeasonEvent[], a: SeasonAddress): SeasonEvent[] {
  const words = a.q.trim().toLowerCase().split(/\s+/u).filter(Boolean);
  return events.filter(
    (e) =>
      (!a.unit || e.unit === a.unit) &&
      (!a.venue || e.venue === a.venue) &&
      (!a.kind || e.category === a.kind) &&
      (!a.state || e.state === a.state) &&
      words.every((word) => e.title.toLowerCase().includes(word)),
  );
}

/** Where an event leads whoever sees something of it; null where they see nothing. */
export function stageFor(e: SeasonEvent, now: string): string | null {
  if (e.see.length === 0) return null;
  const stage =
    e.state === 'draft'
      ? 'plan'
      : e.state === 'in clearance'
        ? 'clearance'
        : e.startsAt && e.startsAt < now
          ? 'wrap-up'
          : 'registration';
  return `/events/${e.id}/${stage}`;
}

/** Seats as they are said in a line: "14/30", "14"; empty for who does not see them. */
export const saySeats = (e: SeasonEvent): string =>
  e.see.length === 0 || e.isTemplate
    ? ''
    : `${e.confirmed + e.held}${e.capacity === null ? '' : `/${e.capacity}`}`;
