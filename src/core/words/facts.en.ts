/** The properties of a plan that clearance rules look at, in English. */
export const factsEn = {
  minors: 'people under age take part',
  food: 'food is served',
  alcohol: 'alcohol is served',
  money: 'money is taken',
  boats: 'boats or vehicles are used',
  tools: 'power tools are used',
  'off-site': 'it is away from our own premises',
  speakers: 'outside speakers',
  headcount: '{{people:person|people}}',
  'headcount reached': '{{people:person|people}}, the rule starts at {{from}}',
} as const;
