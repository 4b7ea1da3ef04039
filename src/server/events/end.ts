/** When an event is over, as SQL over its row: what `endOf` in core says. */
export const endSql = (event = ''): string => {
  const of = event && `${event}.`;
  return `coalesce(${of}ends_at, ${of}starts_at)`;
};
