import type { bankContract } from '#contract/bank.ts';
import { record } from '../app/record.ts';
import type { Handlers } from '../http/handle.ts';
import { demandBooks } from '../money/access.ts';
import { bringBankFile, matchLine, openLines, reopenLine, sayLine } from './bank.ts';
import { countLines, readCodes, readSettled, saveCodes } from './store.ts';

export const bankHandlers: Handlers<typeof bankContract> = {
  'GET /api/bank': async (c) => {
    await demandBooks(c);
    return { open: await openLines(c.tx), settled: await readSettled(c.tx), ...(await countLines(c.tx)) };
  },

  'POST /api/bank/files': async (c) => {
    await demandBooks(c);
    return bringBankFile(c, c.body);
  },

  'POST /api/bank/lines/:id/settle': async (c) => {
    await demandBooks(c);
    if ('ids' in c.body) await matchLine(c, c.params.id, c.body.how, c.body.ids);
    else await sayLine(c, c.params.id, c.body.how, c.body.said);
    return { done: true };
  },

  'POST /api/bank/lines/:id/undo': async (c) => {
    await demandBooks(c);
    await reopenLine(c, c.params.id);
    return { done: true };
  },

  'GET /api/account-codes': async (c) => {
    await demandBooks(c);
    return readCodes(c.tx);
  },

  'PUT /api/account-codes': async (c) => {
    await demandBooks(c);
    await saveCodes(c.tx, c.body.codes);
    await record(c, 'account codes changed', {});
    return { done: true };
  },
};
