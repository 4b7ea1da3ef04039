/** A moment as JSON made by the database has it, the same as everywhere else: `2026-07-09T12:00:00.000Z`. */
export const instantSql = (column: string): string =>
  `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;
