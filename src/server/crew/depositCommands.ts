import { dueBack } from '#core/crew/deposit.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { sayDepositRule, sayDepositWhy } from '#core/words/deposits.ts';
import type { Language } from '#core/words/language.ts';
import { type Actor, type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { chargeFor, type PayOutcome } from '../money/charging.ts';
import { letDepositOff, readDeposit, settleDeposit } from '../money/deposits.ts';
import { type CallRow, theCall } from './applyingStore.ts';
import {
  depositNumbered,
  depositOf,
  depositsOf,
  type KeptDeposit,
  notAskedYet,
  openDepositsOf,
  readDuties,
} from './depositStore.ts';

/** Asks somebody who was accepted for the deposit of a call, once; nothing where it asks for none. */
export async function askForDeposit(
  w: Work,
  call: CallRow,
  { id: applicationId, contactId }: { id: string; contactId: string },
): Promise<boolean> {
  if (!call.deposit || (await depositOf(w.tx, applicationId))) return false;
  const id = w.app.ids.id();
  const { amount, back, noticeHours } = call.deposit;
  const eventId = call.eventId;
  await insert(w.tx, 'deposits', {
    id,
    callId: call.id,
    applicationId,
    contactId,
    eventId,
    amount,
    currency: call.currency,
    back,
    noticeHours,
    state: 'asked',
    askedAt: w.now,
  });
  await record(w, 'deposit asked for', { depositId: id, applicationId, contactId, eventId, amount });
  return true;
}

/** Asks everybody who was accepted before the call asked for a deposit; answers how many. */
export async function askAllForDeposit(w: Work, call: CallRow, trying: boolean): Promise<number> {
  if (!call.deposit) throw refused('no-deposit');
  const those = await notAskedYet(w.tx, call.id);
  if (!trying) for (const one of those) await askForDeposit(w, call, one);
  return those.length;
}

/** What would go back of some deposits now, each with why. */
async function dueNow(tx: Queries, call: CallRow, deposits: readonly KeptDeposit[], now: string) {
  const duties = await readDuties(
    tx,
    call,
    deposits.map((d) => d.contactId),
    now,
  );
  const calledOff = call.eventId !== null && (await readEvent(tx, call.eventId)).state === 'called off';
  return (d: KeptDeposit) =>
    dueBack(
      d,
      d.received - d.kept,
      duties.filter((x) => x.contactId === d.contactId),
      calledOff,
    );
}

/** The deposits of a call as whoever leads its crew sees them, by application. */
export async function shownDeposits(tx: Queries, call: CallRow, now: string) {
  const deposits = await depositsOf(tx, call.id);
  const due = await dueNow(tx, call, deposits, now);
  return new Map(
    deposits.map((d) => {
      const { id, amount, currency, state, received, kept, settledAt, settledBy } = d;
      const would = due(d);
      return [
        d.applicationId,
        {
          id,
          amount,
          currency,
          state,
          received,
          kept,
          settledAt,
          settledBy,
          why: sayDepositWhy(d.why ?? would.why, 'en'),
          wouldGoBack: state === 'held' ? would.amount : state === 'owed' ? received - kept : 0,
        },
      ] as const;
    }),
  );
}

/** A deposit as whoever leaves it sees it; null where none was asked for. */
export async function ownDeposit(tx: Queries, applicationId: string, language: Language) {
  const d = await depositOf(tx, applicationId);
  if (!d) return null;
  const { amount, currency, state, received, kept, attempt } = d;
  return {
    amount,
    currency,
    state,
    received,
    kept,
    rule: sayDepositRule(d, language),
    why: d.why ? sayDepositWhy(d.why, language) : '',
    payment: state === 'asked' ? paymentOf(attempt) : null,
  };
}

/** How the payment of a deposit stands that is waited for. */
const paymentOf = (attempt: string | null): 'needed' | 'unknown' | 'step' | 'declined' =>
  attempt === 'step' || attempt === 'declined'
    ? attempt
    : openAttempts.some((s) => s === attempt)
      ? 'unknown'
      : 'needed';

/** Pays a deposit by card. */
export const payDeposit = (app: App, actor: Actor, depositId: string, card: string): Promise<PayOutcome> =>
  chargeFor(app, actor, { depositId }, { card }, async (w) => {
    const { state, amount, currency } = await readDeposit(w.tx, depositId, true);
    if (state !== 'asked') throw refused('nothing-due');
    return { amount, currency };
  });

/** Settles a deposit by its rule; one that nobody paid is asked for no more. */
async function settleByRule(w: Work, d: KeptDeposit, tell = true): Promise<void> {
  if (d.state === 'asked') await letDepositOff(w, d.id);
  if (d.state !== 'held') return;
  const call = await theCall(w.tx, d.callId);
  const { amount, why } = (await dueNow(w.tx, call, [d], w.now))(d);
  await settleDeposit(w, d.id, { amount, why, by: null, words: sayDepositWhy(why, 'en'), tell });
}

/** Settles what is due by the end of what a call was about. */
export const settleDue = (app: App, depositId: string): Promise<void> =>
  inTransaction(app, systemActor, async (w) => {
    const deposit = await depositNumbered(w.tx, depositId);
    if (deposit) await settleByRule(w, deposit);
  });

/** Settles what somebody left with an application that was declined. */
export async function settleDeclined(w: Work, applicationId: string, tell: boolean): Promise<void> {
  const deposit = await depositOf(w.tx, applicationId);
  if (deposit) await settleByRule(w, deposit, tell);
}

/** Settles everything that somebody left who is erased; nobody writes to them any more. */
export async function settleErased(w: Work, contactId: string): Promise<void> {
  for (const deposit of await openDepositsOf(w.tx, contactId)) await settleByRule(w, deposit, false);
}
