/** The kinds of entries a lifeline has, and is filtered by. */
export const lifelineKinds = [
  'registration',
  'attendance',
  'money',
  'shift',
  'waiver',
  'message',
  'survey',
  'clearance',
  'note',
  'record',
] as const;
export type LifelineKind = (typeof lifelineKinds)[number];
