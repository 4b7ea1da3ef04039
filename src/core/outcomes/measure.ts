import { spokenIn } from '#core/words/language.ts';
import { readTexts, type Texts } from '#core/words/texts.ts';

/**
 * How the tallies of a measure come to one figure: they add up; each counts so many things; the newest one holds; or it is counted how
 * many different things were named.
 */
export const measureKinds = ['sum', 'count', 'latest', 'distinct'] as const;
export type MeasureKind = (typeof measureKinds)[number];

/** Whether more of it is better, or less. */
export const directions = ['more', 'less'] as const;
export type Direction = (typeof directions)[number];

/** Who may enter tallies: the team alone; the crew of the event, too; whoever was there, too; or anybody who has the code. */
export const entrants = ['team', 'crew', 'people', 'anyone'] as const;
export type Entrants = (typeof entrants)[number];

/** Something an organization counts, to know what its events change. */
export interface Measure {
  id: string;
  name: Texts;
  /** What it is counted in: kg, m, birds. Empty where its name says it. */
  unit: Texts;
  kind: MeasureKind;
  direction: Direction;
  /** Digits behind the point, 0 to 3. */
  decimals: number;
  /** More than this in one tally is looked at first; null where nothing is too much. */
  most: number | null;
  enteredBy: Entrants;
  /** Whether what others than the team enter is looked at before it counts. */
  lookedAt: boolean;
}

/** Whether tallies of events and years can be added: the newest of two does not grow with them. */
export const addsUp = ({ kind }: Pick<Measure, 'kind'>): boolean => kind === 'sum' || kind === 'count';

/** What of a measure cannot change any more once something was counted by it. */
export const settledOf = ({ kind, unit, decimals }: Pick<Measure, 'kind' | 'unit' | 'decimals'>) => ({
  kind,
  unit: unit.en.trim().toLowerCase(),
  decimals,
});

/** A figure of a measure with its unit, as it is read: "1,240.5 kg". A unit of money is said as money. */
export function sayFigure(
  value: number,
  { decimals, unit }: Pick<Measure, 'decimals' | 'unit'>,
  language: string = spokenIn(),
): string {
  const shown = readTexts(unit, language).trim();
  if (/^[A-Z]{3}$/u.test(shown))
    return new Intl.NumberFormat(`${language.slice(0, 2)}-CA`, {
      style: 'currency',
      currency: shown,
      maximumFractionDigits: 0,
    }).format(value);
  const figure = new Intl.NumberFormat(language, {
    minimumFractionDigits: Number.isInteger(value) ? 0 : decimals,
    maximumFractionDigits: decimals,
  }).format(value);
  return shown ? `${figure}\u00a0${shown}` : figure;
}
