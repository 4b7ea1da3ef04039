import type { ContactPart } from '#core/access/parts.ts';

/**
 * How two contacts become one: `first` the kept one's where it has any, else the other's; `chosen` the kept one's unless
 * somebody chose; `together` goes with others of the same group; `either` where one of them says so; `all` of both.
 */
type Merge = 'first' | 'chosen' | 'either' | 'all' | { together: 'name' | 'address' };

/** One value that a contact has of itself. */
interface Attribute {
  /** The column of the table of contacts. */
  column: string;
  /** To which part of a record it belongs: who sees it. */
  part: ContactPart;
  /** What is left of it when the person is erased. */
  erased: string | boolean | null | readonly never[];
  merge: Merge;
}

/** One that is a line of text which the contact, or whoever keeps the record, may write freely. */
interface TextAttribute extends Attribute {
  text: {
    /** Above its column in an export. */
    heading: string;
    /** Headings of files that mean it. */
    headings: RegExp;
    /** Characters at most. */
    most: number;
  };
}

/**
 * Everything a contact has in one value, described once. A new line of text is an entry here, its column in a migration,
 * and its name in the words of staff (core/words/attributes.en.ts) and of the public pages: forms, records, imports, exports, merging, erasing, undoing, the
 * person's own page and segments follow from the entry.
 */
export const attributes = {
  given: {
    column: 'given_name',
    part: 'name',
    erased: 'Erased',
    merge: { together: 'name' },
  },
  family: {
    column: 'family_name',
    part: 'name',
    erased: 'person',
    merge: { together: 'name' },
  },
  pronouns: {
    column: 'pronouns',
    part: 'name',
    erased: null,
    merge: 'first',
    text: {
      heading: 'Pronouns',
      headings: /^(?:preferred )?pronouns?$|^pronoms?$/iu,
      most: 60,
    },
  },
  birthDate: { column: 'birth_date', part: 'birth', erased: null, merge: 'first' },
  street: {
    column: 'street',
    part: 'address',
    erased: null,
    merge: { together: 'address' },
  },
  postalCode: {
    column: 'postal_code',
    part: 'address',
    erased: null,
    merge: { together: 'address' },
  },
  movedOn: {
    column: 'moved_on',
    part: 'address',
    erased: null,
    merge: { together: 'address' },
  },
  language: { column: 'language', part: 'reach', erased: 'en', merge: 'chosen' },
  languages: { column: 'languages', part: 'reach', erased: [], merge: 'all' },
  /** The time zone they live in, where it is known to be another than here. */
  zone: { column: 'zone', part: 'reach', erased: null, merge: 'first' },
  dietary: {
    column: 'dietary',
    part: 'health',
    erased: null,
    merge: 'first',
    text: {
      heading: 'Diet',
      headings: /diet|allerg|régime|intoléran/iu,
      most: 500,
    },
  },
  doNotContact: {
    column: 'do_not_contact',
    part: 'name',
    erased: true,
    merge: 'either',
  },
  deceasedOn: { column: 'deceased_on', part: 'name', erased: null, merge: 'first' },
  householdId: { column: 'household_id', part: 'family', erased: null, merge: 'first' },
} as const satisfies Record<string, Attribute | TextAttribute>;

export type AttributeKey = keyof typeof attributes;
export const attributeKeys = Object.keys(attributes) as AttributeKey[];
export const isAttribute = (key: string): key is AttributeKey => Object.hasOwn(attributes, key);

/** Those that are lines of text. */
export type TextKey = {
  [K in AttributeKey]: (typeof attributes)[K] extends { text: object } ? K : never;
}[AttributeKey];
export const textKeys = attributeKeys.filter((key): key is TextKey => 'text' in attributes[key]);
export const isText = (key: string): key is TextKey => (textKeys as readonly string[]).includes(key);
export type Texts = Record<TextKey, string | null>;

/** One thing for every line of text. */
export const textsOf = <T>(of: (key: TextKey) => T): Record<TextKey, T> =>
  Object.fromEntries(textKeys.map((key) => [key, of(key)])) as Record<TextKey, T>;

/** No line of text is filled in. */
export const noTexts: Texts = textsOf(() => null);
