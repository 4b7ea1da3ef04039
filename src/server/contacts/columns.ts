import {
  type AttributeKey,
  attributeKeys,
  attributes,
  type TextKey,
  textKeys,
} from '#core/contacts/attributes.ts';

/** Every value that a contact has of itself, as columns of `c`. */
export const ownColumns = (c: string): string =>
  attributeKeys.map((key) => `${c}.${attributes[key].column}`).join(', ');

/** Those that are lines of text. */
export const textColumns = (c: string): string =>
  textKeys.map((key) => `${c}.${attributes[key].column}`).join(', ');

/** The key under which a column is written by `insert` and `update`: `given_name` → `givenName`. */
export const columnKey = (key: AttributeKey): string =>
  attributes[key].column.replace(/_([a-z])/gu, (_, letter: string) => letter.toUpperCase());

/** Lines of text as they are written with a contact. */
export const textRow = (of: Partial<Record<TextKey, string | null>>): Record<string, string | null> =>
  Object.fromEntries(textKeys.map((key) => [columnKey(key), of[key] ?? null]));

/** What a contact becomes when the person is erased, for `update … set`. */
export const erasedSet = (): string =>
  attributeKeys.map((key) => `${attributes[key].column} = ${literal(attributes[key].erased)}`).join(', ');

function literal(value: string | boolean | null | readonly never[]): string {
  if (value === null) return 'null';
  if (Array.isArray(value)) return "'{}'";
  return typeof value === 'string' ? `'${value.replaceAll("'", "''")}'` : String(value);
}
