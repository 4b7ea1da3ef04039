/** How far ahead the dates of a series are made, in months, and how many at the most. */
export const horizons = { least: 1, most: 36, dates: 120 } as const;
