/** What speaks against putting somebody on a shift, in English. */
export const againstEn = {
  overlap: 'at the same time as {{label}}',
  'short rest': 'only {{hours:hour|hours}} of rest beside {{label}}',
  'own seat': 'has a seat at {{event}} at that time',
} as const;
