/** Thanks after an event. */
export const thanksEn = {
  name: 'Thanks for {{event}}',
  helped: '{{role}}, {{hours}} h',
} as const;
