import type { pairsContract } from '#contract/pairs.ts';
import { sayIfAny, sayReason } from '#core/words/reasons.ts';
import { record } from '../app/record.ts';
import type { Handlers } from '../http/handle.ts';
import { mergeContacts, unmerge } from './merging.ts';
import { readMatching, setThresholds } from './model.ts';
import { decidePair, mergeSure, reopenPair } from './pairCommands.ts';
import { countByHundredth, countPairs, readOpenPairs, readSides, sureProbabilities } from './pairStore.ts';
import { findPairsAnew, lookingOf } from './pairs.ts';

export const pairsHandlers: Handlers<typeof pairsContract> = {
  'GET /api/pairs': async ({ app, tx, query }) => {
    const { thresholds } = await readMatching({ app, tx });
    const rows = await readOpenPairs(tx, thresholds.look, query);
    const both = [...new Set(rows.flatMap((r) => [r.contactA, r.contactB]))];
    const sides = new Map((await readSides(tx, both)).map((s) => [s.id, s]));
    const histogram = Array<number>(100).fill(0);
    for (const { at, n } of await countByHundredth(tx)) histogram[at] = n;
    return {
      pairs: rows.map(({ contactA, contactB, state: _, ...row }) => ({
        ...row,
        held: sayIfAny(row.held),
        findings: row.findings.map(({ reason, ...finding }) => ({ ...finding, words: sayReason(reason) })),
        a: sides.get(contactA)!,
        b: sides.get(contactB)!,
      })),
      ...(await countPairs(tx, thresholds.look)),
      thresholds,
      histogram,
      sure: await sureProbabilities(tx),
      looking: lookingOf(app),
    };
  },

  'POST /api/pairs/look': async ({ app }) => {
    findPairsAnew(app).catch((error) =>
      app.log.error({ error: String(error) }, 'comparing all contacts failed'),
    );
    return { done: true };
  },

  'PUT /api/pairs/thresholds': async (c) => {
    await setThresholds(c, c.body);
    await record(c, 'organization changed', { how: 'moved the lines of matching', detail: c.body });
    return c.body;
  },

  'POST /api/pairs/:id/decide': async (c) => ({ mergeId: await decidePair(c, c.params.id, c.body) }),

  'POST /api/pairs/:id/reopen': async (c) => {
    await reopenPair(c, c.params.id);
    return { done: true };
  },

  'POST /api/pairs/merge-sure': async (c) => {
    const mergeIds = await mergeSure(c, c.body.from);
    return { merged: mergeIds.length, mergeIds };
  },

  'POST /api/contacts/:id/merge': async (c) => ({
    mergeId: await mergeContacts(c, c.params.id, c.body.other, c.body.chosen),
  }),

  'POST /api/merges/:id/undo': async (c) => unmerge(c, c.params.id),
};
