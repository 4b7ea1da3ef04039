/** What speaks against putting somebody on a shift, in English. */
export const againstEn = {
  overlap: 'at the same time as {{label}}',
  'short rest': 'only {{hours:hour|hours}} of rest beside {{label}}',
  'too far': 'has {{minutes:minute|minutes}} from {{label}}; the way takes about {{needed}}',
  'own seat': 'has a seat at {{event}} at that time',
  declined: 'was declined for this crew',
  resting: 'rests',
  'not available': 'said they cannot be there then',
  'over shifts': 'wants {{most:shift|shifts}} at most, and has {{has}}',
  'over hours': 'wants {{most:hour|hours}} at most; it would be {{hours}}',
  'days in a row': 'wants {{most:day|days}} in a row at most; it would be {{days}}',
  'too late': 'wants to be done by {{latest}}',
  age: 'is {{age}} on that day; {{role}} is from {{from}}',
  'age unknown': 'no birth date on record; {{role}} is from {{from}}',
  skill: 'has no {{skill}} on record',
  expired: '{{skill}} runs out on {{day}}, before the shift ends',
  unseen: 'says they have {{skill}}; nobody has seen it',
} as const;
