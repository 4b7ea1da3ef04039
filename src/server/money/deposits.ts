import { booksOfDeposit, type DepositBack, type DepositState, depositStands } from '#core/crew/deposit.ts';
import { toPost } from '#core/money/posting.ts';
import { type MoneyMethod, type Moved, waysBack } from '#core/money/waysBack.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { post } from './account.ts';
import { movedFor, postedFor } from './moved.ts';
import { askForRefund } from './refunds.ts';

/** A deposit of a volunteer, as far as its money goes. */
export interface DepositRow {
  id: string;
  callId: string;
  /** Null once whoever left it was erased. */
  applicationId: string | null;
  contactId: string;
  eventId: string | null;
  amount: number;
  currency: string;
  back: DepositBack;
  noticeHours: number;
  state: DepositState;
  received: number;
  kept: number;
  settledAt: string | null;
}

const columns =
  'id, call_id, application_id, contact_id, event_id, amount, currency, back, notice_hours, state, received, kept, settled_at';

/** Reads a deposit; locked where it is about to be changed. Throws when there is none. */
export async function readDeposit(tx: Queries, id: string, lock = false): Promise<DepositRow> {
  const row = await first<DepositRow>(
    tx,
    `select ${columns} from deposits where id = $1${lock ? ' for update' : ''}`,
    [id],
  );
  if (!row) throw notFound('This deposit');
  return row;
}

/** Works out what a deposit stands at, keeps that with it, and posts what has changed by it. */
async function refreshDeposit(w: Work, depositId: string): Promise<void> {
  const { eventId, currency, settledAt, kept, state } = await readDeposit(w.tx, depositId, true);
  const moved = await movedFor(w.tx, 'deposit_id', depositId);
  const stands = depositStands(moved, { settled: settledAt !== null, letOff: state === 'let off', kept });
  await update(w.tx, 'deposits', depositId, stands);
  const entries = toPost(booksOfDeposit(moved, stands.kept), await postedFor(w.tx, 'deposit_id', depositId));
  await post(w, { depositId, eventId, currency }, entries);
}

interface DepositMovement {
  amount: number;
  method: MoneyMethod;
  reason: string;
  attemptId?: string | null;
  chargeId?: string | null;
  refundId?: string | null;
}

/** Writes money that moved for a deposit, and what follows for the books. */
export async function moveDeposit(
  w: Work,
  { id, eventId, contactId, currency }: DepositRow,
  { attemptId = null, chargeId = null, refundId = null, ...of }: DepositMovement,
): Promise<void> {
  await insert(w.tx, 'payments', {
    id: w.app.ids.id(),
    depositId: id,
    eventId,
    contactId,
    currency,
    at: w.now,
    ...of,
    attemptId,
    chargeId,
    refundId,
    kind: 'deposit',
  });
  await refreshDeposit(w, id);
}

/** Keeps money that came in for a deposit. What came after it was settled is owed back. */
export async function receiveDeposit(w: Work, depositId: string, movement: DepositMovement): Promise<void> {
  const deposit = await readDeposit(w.tx, depositId, true);
  await moveDeposit(w, deposit, movement);
  const { applicationId, contactId, eventId } = deposit;
  const { amount, method } = movement;
  await record(w, 'deposit received', { depositId, applicationId, contactId, eventId, amount, method });
}

/** Asks for it no more, as long as nothing came in. */
export async function letDepositOff(w: Work, depositId: string): Promise<void> {
  const { state, applicationId, contactId, eventId } = await readDeposit(w.tx, depositId, true);
  if (state !== 'asked') throw refused('deposit-not-asked');
  await update(w.tx, 'deposits', depositId, { state: 'let off' });
  await record(w, 'deposit let off', { depositId, applicationId, contactId, eventId });
}

/**
 * Gives back so much of a deposit, the way it came or another one by hand, and keeps the rest. Of one that was settled already, what did not
 * reach whoever left it.
 */
export async function settleDeposit(
  w: Work,
  depositId: string,
  of: {
    amount: number;
    why: object;
    by: 'cash' | 'cheque' | 'transfer' | null;
    words: string;
    tell: boolean;
  },
): Promise<void> {
  const deposit = await readDeposit(w.tx, depositId, true);
  if (deposit.state !== 'held' && deposit.state !== 'owed') throw refused('deposit-not-held');
  const open = deposit.received - deposit.kept;
  if (of.amount > open) throw refused('too-much');
  await update(w.tx, 'deposits', depositId, {
    kept: deposit.received - of.amount,
    settledAt: w.now,
    settledBy: w.actor.name,
    why: of.why,
  });
  const ways: Moved[] = !of.amount
    ? []
    : of.by
      ? [{ method: of.by, chargeId: null, amount: of.amount }]
      : waysBack(await movedFor(w.tx, 'deposit_id', depositId), of.amount);
  for (const way of ways)
    await moveDeposit(w, await readDeposit(w.tx, depositId), {
      amount: -way.amount,
      method: way.method,
      chargeId: way.chargeId,
      refundId: await askForRefund(w, way),
      reason: of.words,
    });
  if (!ways.length) await refreshDeposit(w, depositId);
  const { applicationId, contactId, eventId } = deposit;
  await record(w, 'deposit settled', {
    depositId,
    applicationId,
    contactId,
    eventId,
    amount: of.amount,
    kept: deposit.received - of.amount,
    words: of.words,
    tell: of.tell,
  });
}
