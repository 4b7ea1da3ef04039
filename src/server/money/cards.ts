import type { cardsContract } from '#contract/cards.ts';
import { rawBody } from '../http/body.ts';
import type { Handlers } from '../http/handle.ts';
import { refused } from '../http/problem.ts';
import { demandBooks } from './access.ts';
import { readOpen, readPayoutMoves, readPayouts, readReadAt, readStanding } from './cardReads.ts';
import { readStatement, settleMove, takeNotice } from './statement.ts';

const headersOf = (
  headers: Record<string, string | string[] | undefined>,
): Record<string, string | undefined> =>
  Object.fromEntries(
    Object.entries(headers).map(([name, value]) => [name, Array.isArray(value) ? value[0] : value]),
  );

export const cardsHandlers: Handlers<typeof cardsContract> = {
  'POST /api/public/card-notifications': async ({ app, request }) => {
    if (!(await takeNotice(app, headersOf(request.headers), rawBody(request))))
      throw refused('notification-unsigned', {}, 401);
    app.wake();
    return { taken: true };
  },

  'GET /api/cards': async (c) => {
    await demandBooks(c);
    const { tx, now } = c;
    return {
      readAt: (await readReadAt(tx))[0]?.readAt ?? null,
      standing: await readStanding(tx),
      payouts: await readPayouts(tx),
      open: await readOpen(tx, now),
    };
  },

  'GET /api/cards/payouts/:id': async (c) => {
    await demandBooks(c);
    return readPayoutMoves(c.tx, c.params.id);
  },

  'POST /api/cards/statement': async (c) => {
    await demandBooks(c);
    const { app } = c;
    const taken = await readStatement(app);
    if (taken === null) throw refused('processor-silent', {}, 503);
    app.wake();
    return { taken };
  },

  'POST /api/cards/moves/:id/settle': async (c) => {
    await demandBooks(c);
    await settleMove(c, c.params.id, c.body.words, c.actor);
    return { done: true };
  },
};
