import type { BankOpen } from '#contract/bank.ts';
import { propose } from '#core/bank/proposing.ts';
import { TableProblem } from '#core/exchange/table.ts';
import type { Account } from '#core/money/accounts.ts';
import { digitsOf } from '#core/money/amount.ts';
import type { Entry } from '#core/money/posting.ts';
import { toPost } from '#core/money/posting.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries } from '../db/database.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { post } from '../money/account.ts';
import { receive } from '../money/paying.ts';
import { readOrder } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { inThread } from '../threads/threads.ts';
import {
  dropMatches,
  keepLines,
  type LineRow,
  lastPayment,
  lockCost,
  lockPayments,
  payoutAmount,
  postedFor,
  readCandidates,
  readLine,
  readOpenLines,
  settleLine,
} from './store.ts';

/** Reads a file in a thread of its own, so that a long one holds nobody up; refused at `content` where it is no table. */
async function readFile(
  { content, dates }: { content: string; dates: 'day first' | 'month first' | null },
  digits: number,
) {
  try {
    return await inThread('read a bank file', { bytes: Buffer.from(content, 'base64'), digits, dates });
  } catch (error) {
    if (error instanceof TableProblem) throw invalid([{ path: 'content', ...error.said }]);
    throw error;
  }
}

/** Brings a file of the bank in; lines that came before stay as they are. Throws what cannot be read of it, and where. */
export async function bringBankFile(
  w: Work,
  file: { fileName: string; content: string; dates: 'day first' | 'month first' | null },
) {
  const { currency } = await theOrganization(w.tx);
  const read = await readFile(file, digitsOf(currency));
  if ('why' in read)
    throw invalid([
      wrongAt(
        read.why === 'dates either way' ? 'dates' : 'content',
        read.why === 'no date column'
          ? 'bank-no-date'
          : read.why === 'no amount column'
            ? 'bank-no-amount'
            : 'bank-dates',
      ),
    ]);
  const brought = await keepLines(
    w.tx,
    read.lines.map(({ on, ...l }) => ({
      id: w.app.ids.id(),
      ...l,
      onDay: on,
      currency,
      fileName: file.fileName,
      broughtAt: w.now,
      broughtBy: w.actor.name,
    })),
  );
  await record(w, 'bank file brought in', { name: file.fileName, lines: brought });
  const { unread, dates, decimals, lines } = read;
  return { brought, known: lines.length - brought, unread: unread.slice(0, 50), dates, decimals };
}

/** Lines that are open, each with what it may be. */
export async function openLines(tx: Queries): Promise<BankOpen[]> {
  const { currency } = await theOrganization(tx);
  const lines = await readOpenLines(tx);
  const candidates = await readCandidates(tx, currency);
  const by = new Map(candidates.map((c) => [`${c.kind} ${c.id}`, c]));
  const proposals = propose(lines, candidates);
  return lines.map(({ id, on, amount, words, key, currency: of }) => ({
    id,
    on,
    amount,
    currency: of,
    words,
    twice: !key.endsWith(' 1'),
    proposals: proposals.get(key)!.map((p) => ({
      kind: p.kind,
      ids: [...p.ids],
      weight: p.weight,
      reasons: [...p.reasons],
      of: p.ids.map((ref) => {
        const c = by.get(`${p.kind} ${ref}`)!;
        return { name: c.name, number: c.numbers[0] ?? '', on: c.on, amount: c.amount };
      }),
    })),
  }));
}

const entry = (account: Account, amount: number): Entry => ({ account, fundId: null, amount });

async function openLine(w: Work, id: string): Promise<LineRow> {
  const line = await readLine(w.tx, id);
  if (!line) throw notFound('Line');
  if (line.state !== 'open') throw refused('line-settled');
  return line;
}

/** Posts what a line is on its day, at noon. */
async function postLine(w: Work, line: LineRow, entries: readonly Entry[]): Promise<void> {
  const { zone } = await theOrganization(w.tx);
  const { id: bankLineId, currency } = line;
  const at = instantOf(`${line.on}T12:00`, zone);
  await post(w, { bankLineId, eventId: null, currency }, entries, { at, kind: 'banked' });
}

/** What of ours a line is: it comes to just as much, and nothing of it is spoken for. */
export async function matchLine(
  w: Work,
  id: string,
  how: 'payout' | 'transfer' | 'hand' | 'owed' | 'cost',
  ids: readonly string[],
): Promise<void> {
  const line = await openLine(w, id);
  const { tx } = w;
  if (how === 'payout') {
    const amount = ids.length === 1 ? await payoutAmount(tx, ids[0]!, line.currency) : null;
    if (amount !== line.amount) throw refused('line-other-amount');
    await insert(tx, 'bank_matches', { lineId: id, payout: ids[0] });
  } else if (how === 'cost') {
    const cost = ids.length === 1 ? await lockCost(tx, ids[0]!, line.currency) : null;
    if (!cost || -cost.amount !== line.amount) throw refused('line-other-amount');
    await insert(tx, 'bank_matches', { lineId: id, costId: cost.id });
  } else if (how === 'owed') {
    const order = await readOrder(tx, ids[0]!, true);
    if (ids.length > 1 || order.balance !== line.amount || order.currency !== line.currency)
      throw refused('line-other-amount');
    await receive(w, order, line.amount, 'transfer', line.words.slice(0, 200) || 'transfer');
    await insert(
      tx,
      'bank_matches',
      (await lastPayment(tx, order.id)).map((paymentId) => ({ lineId: id, paymentId })),
    );
  } else {
    const payments = await lockPayments(tx, ids, line.currency);
    const fits = payments.every((p) => (how === 'transfer') === (p.method === 'transfer'));
    if (
      payments.length < ids.length ||
      !fits ||
      payments.reduce((sum, p) => sum + p.amount, 0) !== line.amount
    )
      throw refused('line-other-amount');
    await insert(
      tx,
      'bank_matches',
      payments.map((p) => ({ lineId: id, paymentId: p.id })),
    );
    // What was in hand is at the bank from then on.
    if (how === 'hand') await postLine(w, line, [entry('bank', line.amount), entry('cash', -line.amount)]);
  }
  await settleLine(tx, id, { how, said: '', at: w.now, by: w.actor.name });
  await record(w, 'bank line settled', { lineId: id, how });
}

/** What nothing of ours is: a fee of the bank, something nobody explains yet, or what is kept in other books. */
export async function sayLine(
  w: Work,
  id: string,
  how: 'fee' | 'unexplained' | 'elsewhere',
  said: string,
): Promise<void> {
  const line = await openLine(w, id);
  if (how === 'fee' && line.amount > 0) throw refused('fee-came-in');
  if (how !== 'elsewhere')
    await postLine(w, line, [
      entry('bank', line.amount),
      entry(how === 'fee' ? 'fees' : 'unexplained', -line.amount),
    ]);
  await settleLine(w.tx, id, { how, said, at: w.now, by: w.actor.name });
  await record(w, 'bank line settled', { lineId: id, how });
}

/** Takes back what a line was said to be. What was recorded as received with it stays, and can be paid back where it is. */
export async function reopenLine(w: Work, id: string): Promise<void> {
  const line = await readLine(w.tx, id);
  if (!line) throw notFound('Line');
  if (line.state === 'open') throw refused('line-open');
  await dropMatches(w.tx, id);
  await postLine(w, line, toPost([], await postedFor(w.tx, id)));
  await settleLine(w.tx, id, { how: null, said: '', at: null, by: null });
  await record(w, 'bank line settled', { lineId: id, how: 'taken back' });
}
