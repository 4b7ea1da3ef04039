import type { yearRoundContract } from '#contract/yearRound.ts';
import type { Handlers } from '../http/handle.ts';
import { yearShown } from './showing.ts';
import {
  countYear,
  dropYearLine,
  previewYearDraft,
  previewYearLine,
  saveYearLine,
  testYearLine,
} from './yearLines.ts';
import { readYearLines } from './yearRound.ts';

export const yearRoundHandlers: Handlers<typeof yearRoundContract> = {
  'GET /api/year-round': async ({ tx, now }) => {
    const lines = await readYearLines(tx);
    const shown = await yearShown(tx, lines, now);
    return lines.map(({ version, addedAt: _, audience: __, ...line }, at) => ({
      line,
      version,
      shown: shown[at]!,
    }));
  },
  'PUT /api/year-round/:id': async (c) => ({
    version: await saveYearLine(c, c.params.id, c.body.line, c.body.version),
  }),
  'POST /api/year-round/:id/remove': async (c) => ({
    version: await dropYearLine(c, c.params.id, c.body.version),
  }),
  'GET /api/year-round/:id/preview': (c) => previewYearLine(c, c.params.id, c.query.key),
  'POST /api/year-round/preview': (c) => previewYearDraft(c, c.body.line, c.body.key ?? null),
  'POST /api/year-round/count': (c) => countYear(c, c.body.line),
  'POST /api/year-round/:id/test': async (c) => ({
    address: await testYearLine(c, c.params.id, c.body.key, c.staff),
  }),
};
