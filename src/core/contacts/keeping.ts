/** What hangs on a contact. */
export interface Hanging {
  seats: number;
  shifts: number;
  gifts: number;
  emails: readonly string[];
  phones: readonly string[];
}

/** How much hangs on a contact: of two that are merged, the heavier one stays unless somebody says otherwise. */
export const weightOf = (c: Hanging): number =>
  3 * (c.seats + c.shifts + c.gifts) + c.emails.length + c.phones.length;
