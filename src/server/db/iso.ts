/** SQL: an instant within JSON, as the rest of the product writes it. */
export const isoSql = (column: string): string =>
  `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;
