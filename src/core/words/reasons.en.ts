/** Why two records are taken for one person, or are not, in English. */
const linkingEn = {
  'given same': 'same given name, {{name}}',
  'given nickname': 'given names that are short for each other, {{a}} and {{b}}',
  'given part': 'one given name is part of the other, {{a}} and {{b}}',
  'given spelling': 'given names alike but for the spelling, {{a}} and {{b}}',
  'given alike': 'given names that look alike, {{a}} and {{b}}',
  'given initial': 'an initial that fits, {{a}} and {{b}}',
  'given different': 'different given names, {{a}} and {{b}}',
  'names swapped': 'given and family name the other way round',
  'family same': 'same family name, {{name}}',
  'family variant': 'same family name, written differently, {{a}} and {{b}}',
  'family spelling': 'family names alike but for the spelling, {{a}} and {{b}}',
  'family part': 'one family name is part of the other, {{a}} and {{b}}',
  'family different': 'different family names, {{a}} and {{b}}',
  'email same': 'same email, {{email}}',
  'email mistyped': 'emails alike but for a slip',
  'email different': 'different emails',
  'phone same': 'same telephone',
  'phone different': 'different telephones',
  'birth same': 'same birth date, {{date}}',
  'birth mistyped': 'birth dates alike but for a slip',
  'birth different': 'different birth dates',
  'address same': 'same address',
  'address postal code': 'same postal code',
  'address different': 'different addresses',
  'held: birth differs': 'the birth dates differ',
  'held: name incomplete': 'part of the name is missing',
  'held: given differs': 'the given names differ',
  'held: family differs': 'the family names differ',
  'held: given alike': 'the given names are alike, but may be two people’s',
  'held: initial': 'there is only an initial to go by',
  'held: unconfirmed': 'no email, telephone or birth date confirms the name',
  'held: address only': 'only the address confirms a name that is written differently',
  'held: email differs': 'the emails differ, and no birth date says they are one person',
  'held: phone differs': 'the telephones differ at one address: they may be parent and child of one name',
  'held: confirmed once': 'one agreement is not enough for a name that is written differently',
  'several fit': '{{count}} contacts fit equally well',
  'made new': 'made a new contact; {{name}} may be one already known',
  'made new, unnamed': 'made a new contact; may be one already known',
  'booked for themselves': 'booked for themselves',
  'picked from the household': 'picked by somebody of their household who was signed in',
  'new person': 'new person',
  'named by the buyer': 'named by the buyer, no address of their own',
  'known organization': 'an organization of this name is known',
  'household known': 'new person, of a household that is known',
  'nobody like this': 'nobody like this is known',
} as const;

/** What is said of a row of an import, in English. */
const rowsEn = {
  'by hand': 'said by hand',
  'new by hand': 'a new person, said by hand',
  'left out by hand': 'left out by hand',
  'brought before': 'this very row was brought in before',
  'email alone': 'known by the email alone',
  'same as line': 'the same person as in line {{line}}',
  'nobody has email': 'There is no name in this row, and nobody has this email.',
  'several have email': 'There is no name in this row, and {{count}} contacts have this email.',
  'no name': 'There is no name in this row.',
  'sums up': 'This row sums the others up.',
  'no person': '“{{text}}” is no person.',
  'not a name': '“{{text}}” is not a name.',
  'name too long': 'The name is longer than 200 characters.',
  'several in a cell': '{{count}} people are named in one cell; give each a row.',
  'nobody else': 'Nobody else is named in this row any more.',
  'beside the name': '“{{text}}” beside the name was left out',
  'guardian unnamed': 'the guardian has no name in this row; left out',
  'other guardian unnamed': 'the other guardian has no name in this row; left out',
  'named together': 'named together with {{name}}',
  'guardian of': 'guardian of {{name}}',
  'two ways': '“{{text}}” could be read two ways; say whether the day or the month comes first',
  'no date': '“{{text}}” is not a date; left out',
  'born ahead': 'Born on {{date}} is in the future; left out',
  'died ahead': 'Died on {{date}} is in the future; left out',
  'no yes or no': '“{{text}}” is neither yes nor no; left out',
  'no phone': '“{{text}}” is not a telephone number; left out',
  'no email': '“{{text}}” is not an email address; left out',
  'no email or phone': '“{{text}}” is neither an email nor a telephone; left out',
  'not in field': '“{{text}}” in {{field}}: {{why}}',
  'ours kept': 'ours is kept',
  'blanks only': 'only blanks are filled',
  'consent not widened': 'an import does not widen consent unless you say so',
} as const;

/** Why a value does not go into a field of the organization's own, in English. */
const fieldsEn = {
  'field too long': 'At most 500 characters.',
  'field no number': 'This is not a number.',
  'field no date': 'There is no such date.',
  'field no yes or no': 'Yes or no.',
  'field no choice': 'One of: {{choices}}.',
  'field gone': 'This field is no longer there.',
} as const;

/** Why somebody does not get a message, in English. */
const silenceEn = {
  erased: 'the person was erased',
  died: 'died',
  asked: 'asked not to be contacted',
  'no address': 'no email address',
  'no event date': 'the event has no date yet',
  'registered after': 'registered after the moment had passed',
  'signed up after': 'signed up after the moment had passed',
  'written often': {
    one: 'was written to {{count}} time already',
    other: 'was written to {{count}} times already',
  },
  'same address': 'one copy to this address is enough; it goes to {{name}}',
  'same address, another': 'somebody else at the same address gets the copy',
  'same address before': 'one copy to this address is enough; it went to {{name}}',
  'covered by copy': 'covered by the copy to {{name}}',
  'nobody to send to': 'nobody to send to: {{name}}, who booked, gets none ({{why}})',
  'no waiver asked': 'no waiver is asked at this event',
  'nothing to sign': 'nothing is left to sign',
  'nothing to pay': 'nothing is left to pay',
  'did not come': 'did not come',
  'not taking part': 'no longer taking part',
  'to another address': 'it goes to another address now',
  'step removed': 'the step was removed from the plan',
  'moment passed': 'its moment has passed since the date moved',
  'event ended': 'the event was {{state}}',
  'said no since': 'said no to this since it was written',
  'said no to newsletter': 'said no to the newsletter',
  'said no to invitations': 'said no to invitations',
  'said no to appeals': 'said no to appeals',
  'no yes to newsletter': 'never said yes to the newsletter',
  'no yes to appeals': 'never said yes to appeals',
  'invitation withdrawn': 'the invitation was taken back',
  'failed, goes on': '{{failure}}; tried again later',
  'failed for good': '{{failure}}; given up after {{count:try|tries}}',
} as const;

/** Why a waiting party does not get the seats that are free, in English. */
const waitingEn = {
  fits: 'fits',
  'needs, none free': 'needs {{seats:seat|seats}}, none is free',
  'needs, some free': {
    one: 'needs {{seats:seat|seats}}, 1 is free',
    other: 'needs {{seats:seat|seats}}, {{count}} are free',
  },
  'sold out': '{{offer}} is full',
} as const;

/** Why a day is the last one to send a plan, in English. */
const clearanceEn = {
  'time for clearance':
    'cleared {{notice:day|days}} before the event, and the steps take {{working:working day|working days}}',
} as const;

/** What a copy of an event does not take along, in English. */
const copyingEn = {
  'left: registrations': 'registrations, payments and attendance: they belong to that date',
  'left: notes': 'notes for the team: they were written for those of another unit',
  'left: clearance': 'clearance: the new plan needs its own',
  'left: crew': 'who was on the {{count:shift|shifts}}: everybody is asked anew',
  'left: helpers': '{{count:helper|helpers}} at single stages: their access was for that event alone',
} as const;

/** Why an event cannot be deleted, in English. */
const deletingEn = {
  'deleting: not a draft': 'Only a draft can be deleted; this event is {{state}}. It can be shelved.',
  'deleting: series': 'A series makes its dates from it.',
  'deleting: people': 'People are registered or on shifts. It can be shelved.',
  'deleting: money': 'Money was taken for it. It can be shelved.',
  'deleting: signed': 'Waivers were signed for it. It can be shelved.',
  'deleting: messages': 'Messages were written to people about it. It can be shelved.',
  'deleting: clearance': 'It was sent for clearance, and what was decided is kept. It can be shelved.',
} as const;

/** Every reason that is kept with what it explains, in English. */
export const reasonsEn = {
  ...deletingEn,
  ...linkingEn,
  ...rowsEn,
  ...fieldsEn,
  ...silenceEn,
  ...waitingEn,
  ...clearanceEn,
  ...copyingEn,
  /** From before reasons had codes. */
  'as written': '{{words}}',
} as const;
