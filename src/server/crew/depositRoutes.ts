import type { depositsContract } from '#contract/deposits.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { type Asker, followLink } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { confirmPayment } from '../money/charging.ts';
import { letDepositOff, readDeposit, receiveDeposit, settleDeposit } from '../money/deposits.ts';
import { callFor } from './applyingRoutes.ts';
import { askAllForDeposit, payDeposit } from './depositCommands.ts';
import { depositNumbered, depositOf } from './depositStore.ts';

const done = { done: true } as const;

/** A deposit of a call whose crew whoever asks leads. */
async function depositFor(c: Asker & { tx: Queries; params: { id: string } }) {
  const deposit = await readDeposit(c.tx, c.params.id, true);
  await callFor(c, deposit.callId);
  return deposit;
}

/** The deposit that somebody is asked for by the link to their application. */
async function byLink(tx: Queries, token: string): Promise<string> {
  const applicationId = await followLink(tx, 'application', token);
  const deposit = applicationId && (await depositOf(tx, applicationId));
  if (!deposit) throw notFound('This deposit');
  return deposit.id;
}

export const depositsHandlers: Handlers<typeof depositsContract> = {
  'POST /api/calls/:id/deposits': async (c) => ({
    asked: await askAllForDeposit(c, await callFor(c, c.params.id, true), c.body.trying),
  }),

  'POST /api/deposits/:id/received': async (c) => {
    const { id, state, amount } = await depositFor(c);
    if (state !== 'asked') throw refused('deposit-not-asked');
    // Both would come: first it is known what becomes of the charge.
    const attempt = (await depositNumbered(c.tx, id))?.attempt;
    if (openAttempts.some((open) => open === attempt)) throw refused('payment-unknown');
    await receiveDeposit(c, id, { amount, method: c.body.method, reason: c.actor.name });
    return done;
  },

  'POST /api/deposits/:id/let-off': async (c) => {
    await letDepositOff(c, (await depositFor(c)).id);
    return done;
  },

  'POST /api/deposits/:id/settle': async (c) => {
    const { id } = await depositFor(c);
    const { amount, by, words, tell } = c.body;
    await settleDeposit(c, id, { amount, by, words, tell, why: { words } });
    return done;
  },

  'POST /api/public/applications/:token/deposit': async ({ app, actor, params, body }) => {
    const outcome = await payDeposit(app, actor, await byLink(app.db, params.token), body.card);
    app.wake();
    return outcome;
  },

  'POST /api/public/applications/:token/deposit/code': async ({ app, actor, params, body }) => {
    const depositId = await byLink(app.db, params.token);
    const outcome = await confirmPayment(app, actor, { depositId }, body.code);
    app.wake();
    return outcome;
  },
};
