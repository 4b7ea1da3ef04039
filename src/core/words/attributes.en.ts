/** What the values of a contact are called, in English: in a sentence, “the dietary note was changed since”. */
export const attributesEn = {
  given: 'given name',
  family: 'family name',
  pronouns: 'pronouns',
  birthDate: 'birth date',
  street: 'street',
  postalCode: 'postal code',
  movedOn: 'day of moving',
  language: 'language',
  languages: 'languages',
  zone: 'time zone',
  dietary: 'dietary note',
  doNotContact: 'do not contact',
  deceasedOn: 'date of death',
  householdId: 'household',
} as const;

/** Those that are lines of text: beside the field in a form, before the value on a record, in a sentence about many (“have no …”). */
export const textsEn = {
  pronouns: { label: 'Pronouns', short: 'Pronouns', many: 'pronouns' },
  dietary: { label: 'Allergies and needs', short: 'Needs', many: 'allergies or needs' },
} as const;
