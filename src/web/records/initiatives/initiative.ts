import type { Answer } from '#web/api.ts';

/** An initiative as its page shows it. */
export type Shown = Answer<'GET /api/initiatives/:id'>;
