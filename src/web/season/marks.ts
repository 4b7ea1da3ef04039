import type { SeasonEvent } from '#contract/events.ts';
import type { Clash } from '#core/season/clashes.ts';
import { dayOf } from '#core/season/ribbon.ts';
import { sayRange } from '#core/time/say.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { saySeats, stageFor } from './seasonAddress.ts';

/** Roughly how wide a letter of a label is, in pixels. */
const letter = 6.4;

/** An event as it stands on the ribbon, worked out once however the ribbon is moved. */
export interface Mark {
  id: string;
  /** When it begins, in days since 1970, and how many it lasts. */
  day: number;
  lasts: number;
  label: Label;
  /** How wide its label is, in pixels. */
  width: number;
  said: string;
  className: string;
  to: string | null;
  atOdds: boolean;
}

/** Events that have a date, as marks, soonest first. */
export const marksOf = (
  events: readonly SeasonEvent[],
  clashes: ReadonlyMap<string, readonly Clash[]>,
  now: string,
): (Mark & { e: SeasonEvent })[] =>
  events
    .flatMap((e) => {
      if (!e.startsLocal) return [];
      const day = dayOf(e.startsLocal);
      const label = labelOf(e, now);
      return {
        e,
        id: e.id,
        day,
        lasts: e.endsLocal ? dayOf(e.endsLocal) - day : 0,
        label,
        width: label.text.length * letter + 10,
        said: `${label.text}, ${sayWhen(e)}`,
        className: `mark ${standingOf(e, now)}`,
        to: stageFor(e, now),
        atOdds: clashes.has(e.id),
      };
    })
    .sort((a, b) => a.day - b.day);

export const sayWhen = (e: SeasonEvent): string =>
  e.startsLocal ? sayRange(e.startsLocal, e.endsLocal) : '';

interface Label {
  title: string;
  seats: string;
  missing: string;
  text: string;
}

/** What an event is called on the ribbon, with its seats, and how much it lacks. */
function labelOf(e: SeasonEvent, now: string): Label {
  const coming = !e.startsAt || e.startsAt >= now;
  const seats = e.state === 'open' || (e.state === 'closed' && coming) ? saySeats(e) : '';
  const missing = e.missing.length ? phrase('season.lacks', { n: e.missing.length }) : '';
  const state = ['draft', 'in clearance', 'cleared'].includes(e.state) ? term(e.state) : '';
  return {
    title: state ? `${e.title}, ${state}` : e.title,
    seats,
    missing,
    text: [state ? `${e.title}, ${state}` : e.title, seats, missing].filter(Boolean).join(' '),
  };
}

function standingOf(e: SeasonEvent, now: string): string {
  if (e.state === 'called off') return 'off';
  if (['draft', 'in clearance', 'cleared'].includes(e.state)) return 'planned';
  return e.state === 'wrapped' || (e.startsAt !== null && e.startsAt < now) ? 'over' : '';
}
