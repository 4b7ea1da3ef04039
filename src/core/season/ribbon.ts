import type { CalendarDate, WallTime } from '#core/time/clock.ts';

/** What part of the time ribbon is seen: the wall time at its left edge, in days since 1970, and how wide a day is in pixels. */
export interface RibbonView {
  from: number;
  perDay: number;
}

/** From a fortnight to about three years across a thousand pixels. */
export const perDayLimits = { least: 0.9, most: 72 } as const;

/** Days since 1970 of a date or a wall time, by the clock on the wall; a share of a day for its time. */
export const dayOf = (wall: WallTime | CalendarDate): number =>
  Date.parse(`${wall.length === 10 ? `${wall}T00:00` : wall}:00Z`) / 86_400_000;
/** The date of a number of days. */
export const dateOfDay = (day: number): CalendarDate =>
  new Date(Math.floor(day) * 86_400_000).toISOString().slice(0, 10);

/** Where a wall time stands, in pixels from the left edge. */
export const pixelOf = (view: RibbonView, wall: WallTime | CalendarDate): number =>
  (dayOf(wall) - view.from) * view.perDay;

const within = (perDay: number): number => Math.min(perDayLimits.most, Math.max(perDayLimits.least, perDay));

/** Nearer or further: the day under a pixel stays where it is. */
export function zoomed(view: RibbonView, factor: number, at: number): RibbonView {
  const perDay = within(view.perDay * factor);
  return { perDay, from: view.from + at / view.perDay - at / perDay };
}

/** Along by some pixels: to the right goes on in time. */
export const panned = (view: RibbonView, pixels: number): RibbonView => ({
  ...view,
  from: view.from + pixels / view.perDay,
});

/** A view of so many days around a date, a third of it before. */
export const around = (date: CalendarDate, days: number, width: number): RibbonView => {
  const perDay = within(width / days);
  return { perDay, from: dayOf(date) - width / perDay / 3 };
};

/** What a key does to the view: arrows go along, plus and minus nearer and further, t to today; null for any other. */
export function movedBy(
  key: string,
  view: RibbonView,
  width: number,
  today: CalendarDate,
): RibbonView | null {
  switch (key) {
    case 'ArrowLeft':
      return panned(view, -width / 6);
    case 'ArrowRight':
      return panned(view, width / 6);
    case '+':
    case '=':
      return zoomed(view, 1.4, width / 2);
    case '-':
      return zoomed(view, 1 / 1.4, width / 2);
    case 't':
      return around(today, width / view.perDay, width);
    default:
      return null;
  }
}

/** A line of the ribbon's calendar. */
export interface Tick {
  date: CalendarDate;
  at: number;
  unit: 'year' | 'month' | 'week' | 'day';
}

/** The lines that are drawn: years and months always, weeks and days where there is room for them. Soonest first. */
export function ticksOf(view: RibbonView, width: number): Tick[] {
  const ticks: Tick[] = [];
  const last = view.from + width / view.perDay;
  const weeks = view.perDay >= 5;
  const days = view.perDay >= 22;
  for (let day = Math.floor(view.from); day <= last; day += 1) {
    const date = dateOfDay(day);
    const month = date.endsWith('-01');
    const monday = (((day + 3) % 7) + 7) % 7 === 0;
    const unit =
      month && date.slice(5, 7) === '01'
        ? 'year'
        : month
          ? 'month'
          : weeks && monday
            ? 'week'
            : days
              ? 'day'
              : null;
    // Of months that are too narrow only every third is drawn.
    if (unit === 'month' && view.perDay < 1.5 && Number(date.slice(5, 7)) % 3 !== 1) continue;
    if (unit) ticks.push({ date, at: (day - view.from) * view.perDay, unit });
  }
  return ticks;
}

/**
 * The days that are drawn, a good deal more than what is seen: they change only now and then as one moves along or goes nearer, so
 * that most moves draw nothing anew. Steps are powers of two of a day, at least an eighth of what is seen.
 */
export function drawnOf(view: RibbonView, width: number): { first: number; last: number } {
  const step = 2 ** Math.ceil(Math.log2(width / view.perDay / 8));
  return {
    first: (Math.floor(view.from / step) - 1) * step,
    last: (Math.ceil((view.from + width / view.perDay) / step) + 1) * step,
  };
}

/** How much nearer one goes before rows are filled anew. */
const rowStep = 1.15;
/**
 * How wide a day is taken to be where rows are filled: no wider than it is, so that what does not meet then does not meet as it is
 * seen, and the same for a good deal of nearer and further, so that rows stay as they are meanwhile.
 */
export const filledAt = (perDay: number): number =>
  perDayLimits.least *
  rowStep ** Math.floor(Math.log(perDay / perDayLimits.least + 1e-9) / Math.log(rowStep));

/** Something that stands on the ribbon from one pixel to another. */
export interface Stretch {
  left: number;
  right: number;
}

/**
 * Puts stretches into rows so that none in a row meet: each into the first row that is free, in the order given, which has to be
 * that of their left edges. What finds no row of `most` has none.
 */
export function rowsOf(stretches: readonly Stretch[], most: number, gap = 6): (number | null)[] {
  const ends: number[] = [];
  return stretches.map(({ left, right }) => {
    let row = ends.findIndex((end) => end + gap <= left);
    if (row < 0 && ends.length < most) row = ends.length;
    if (row < 0) return null;
    ends[row] = right;
    return row;
  });
}

/**
 * Goes along so far that a stretch of what is seen is in sight, a little from the edge; one that is longer than the ribbon is seen
 * from its beginning. Nothing moves where it is in sight already.
 */
export function broughtIn(view: RibbonView, { left, right }: Stretch, width: number, gap = 8): RibbonView {
  if (left < gap) return panned(view, left - gap);
  return panned(view, Math.max(0, Math.min(left - gap, right + gap - width)));
}

/** What lanes there are, and what stands in each: by a name, in the order of the alphabet, what has none last. */
export function lanesOf<E>(
  events: readonly E[],
  nameOf: (event: E) => string | null,
): { name: string | null; events: E[] }[] {
  const lanes = new Map<string | null, E[]>();
  for (const event of events) {
    const name = nameOf(event);
    const lane = lanes.get(name);
    if (lane) lane.push(event);
    else lanes.set(name, [event]);
  }
  return [...lanes]
    .map(([name, those]) => ({ name, events: those }))
    .sort((a, b) => (a.name === null ? 1 : b.name === null ? -1 : a.name.localeCompare(b.name)));
}
