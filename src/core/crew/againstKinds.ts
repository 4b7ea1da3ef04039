/** What can speak against putting somebody on a shift. Of `gone` nobody decides otherwise: they died, or were erased. */
export const againstKinds = [
  'gone',
  'overlap',
  'short rest',
  'too far',
  'own seat',
  'declined',
  'resting',
  'no deposit',
  'not available',
  'over shifts',
  'over hours',
  'days in a row',
  'too late',
  'age',
  'age unknown',
  'skill',
  'expired',
  'unseen',
  'quiet',
] as const;
export type AgainstKind = (typeof againstKinds)[number];

/** What an organization can mark as never to be overridden. */
export const markable = [
  'overlap',
  'short rest',
  'own seat',
  'not available',
  'age',
  'skill',
  'expired',
] as const satisfies readonly AgainstKind[];
