/** What speaks against putting somebody on a shift, in English. */
export const againstEn = {
  overlap: 'at the same time as {{label}}',
  'short rest': 'only {{hours:hour|hours}} of rest beside {{label}}',
  'own seat': 'has a seat at {{event}} at that time',
  age: 'is {{age}} on that day; {{role}} is from {{from}}',
  'age unknown': 'no birth date on record; {{role}} is from {{from}}',
  skill: 'has no {{skill}} on record',
  expired: '{{skill}} runs out on {{day}}, before the shift ends',
  unseen: 'says they have {{skill}}; nobody has seen it',
} as const;
