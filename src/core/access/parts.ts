/** What is held about somebody, in the parts in which it is shown or not. */
export const contactParts = [
  /** Name, photo, whether nothing is sent. */
  'name',
  /** Emails, telephones, languages. */
  'reach',
  'address',
  'age',
  /** The day of birth. */
  'birth',
  /** Needs and allergies. */
  'health',
  /** Gifts, payments, receipts. */
  'money',
  /** Membership and its dues. */
  'membership',
  /** Roles in units, where they work. */
  'ties',
  /** Fields the organization added. */
  'fields',
  /** Notes of others; one's own are always one's own to see. */
  'notes',
  'consents',
  'tags',
  /** Registrations, attendance, waivers, surveys. */
  'presence',
  /** Shifts and hours. */
  'shifts',
  /** Guardians, household, companions. */
  'family',
  /** Whom to call in an emergency. */
  'emergency',
  /** Messages, clearances, changes and merges of the record. */
  'record',
] as const;
export type ContactPart = (typeof contactParts)[number];
