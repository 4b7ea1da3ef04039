/** What served hours are added up by. */
export const hourKeys = ['person', 'event', 'role'] as const;
export type HourKey = (typeof hourKeys)[number];

/** Served hours of one person, event or role in one year. */
export interface HoursOfYear {
  key: string;
  label: string;
  year: string;
  shifts: number;
  hours: number;
}

export interface HourTotal {
  key: string;
  label: string;
  shifts: number;
  hours: number;
  /** Hours by year. */
  years: Record<string, number>;
}

const round = (hours: number): number => Math.round(hours * 100) / 100;

/** Adds up hours over the years: the most first, then by name. */
export function totalsOf(rows: readonly HoursOfYear[]): { rows: HourTotal[]; years: string[] } {
  const by = new Map<string, HourTotal>();
  for (const { key, label, year, shifts, hours } of rows) {
    const total = by.get(key) ?? { key, label, shifts: 0, hours: 0, years: {} };
    by.set(key, {
      ...total,
      shifts: total.shifts + shifts,
      hours: round(total.hours + hours),
      years: { ...total.years, [year]: round((total.years[year] ?? 0) + hours) },
    });
  }
  return {
    rows: [...by.values()].sort(
      (a, b) => b.hours - a.hours || (a.label < b.label ? -1 : a.label > b.label ? 1 : 0),
    ),
    years: [...new Set(rows.map((r) => r.year))].sort(),
  };
}

/** What hours are worth at so much an hour, in minor units; null where nobody said how much. */
export const worthOf = (hours: number, hourValue: number | null): number | null =>
  hourValue === null ? null : Math.round(hours * hourValue);
