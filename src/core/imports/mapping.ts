import { textKeys } from '#core/contacts/attributes.ts';
import type { ReachKind } from '#core/contacts/reach.ts';

export type DateOrder = 'day first' | 'month first';

/** What the row of a child tells of its guardians. */
const ofGuardians = [
  'guardian name',
  'guardian email',
  'guardian phone',
  'other guardian name',
  'other guardian email',
  'other guardian phone',
] as const;

/** What a column can mean. `leave` is not imported. */
export const columnMeanings = [
  'leave',
  'contact id',
  'kind',
  'given name',
  'family name',
  'whole name',
  'email',
  'phone',
  'email or phone',
  'street',
  'town',
  'postal code',
  'birth date',
  'language',
  ...textKeys,
  'tags',
  'note',
  'newsletter',
  'newsletter refused',
  'newsletter date',
  'do not contact',
  'member number',
  'member since',
  'member level',
  'member until',
  'organization',
  'died on',
  'emergency name',
  'emergency phone',
  ...ofGuardians,
] as const;
/** A field of the organization's own, by its id. */
export type FieldMeaning = `field ${string}`;
export type ColumnMeaning = (typeof columnMeanings)[number] | FieldMeaning;

/** The id of the field of one's own that a column means, or null. */
export const fieldIdOf = (meaning: ColumnMeaning): string | null =>
  meaning.startsWith('field ') ? meaning.slice('field '.length) : null;

/** Meanings that several columns may have. */
export const repeatable: ReadonlySet<ColumnMeaning> = new Set([
  'leave',
  'email',
  'phone',
  'email or phone',
  'street',
  'town',
  'tags',
  'note',
  ...ofGuardians,
]);
/** Meanings whose cells are dates. */
export const dated: ReadonlySet<ColumnMeaning> = new Set([
  'birth date',
  'newsletter date',
  'member until',
  'died on',
]);

/** How a file's columns are read. */
export interface Mapping {
  columns: ColumnMeaning[];
  /** The order of day and month by column; `ask` where a column is dated, ambiguous and tells nothing itself. */
  dateOrders: (DateOrder | 'ask' | null)[];
  /** What the emails and telephones of a column are for, as its heading says. */
  reach?: ReachKind[];
}
