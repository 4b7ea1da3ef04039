import {
  type Aside,
  asideOf,
  entriesOf,
  type Known,
  type Move,
  postingOf,
  unexplainedOf,
} from '#core/money/processor.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { isId } from '#core/words/ids.ts';
import { type Actor, type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import type { NoticeHeaders } from '../app/cards.ts';
import { record } from '../app/record.ts';
import { first } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { post } from './account.ts';
import { answered, recordAnswer } from './charging.ts';
import { refundFailed, takenBack } from './paying.ts';
import { lostOf } from './store.ts';

/** Minutes between two readings of the statement, and after one that was not answered. */
const readEvery = 24 * 60;
const readAgain = 60;
/** How far back it is read again: until then a payout may still be told for what moved, in minutes. */
const overlap = 14 * 24 * 60;
/** As many moves are taken in at a time, all or none. */
const lot = 50;

/** What of ours a move is about. */
interface About extends Known {
  chargeId: string;
  refundId: string | null;
  eventId: string | null;
}

const of =
  'coalesce(o.currency, g.currency, t.currency) as currency, coalesce(o.event_id, g.event_id, t.event_id) as event_id';
const whose =
  'left join orders o on o.id = a.order_id left join gifts g on g.id = a.gift_id left join deposits t on t.id = a.deposit_id';

/** A posting of a move stands on the day it moved. */
const ofMove = ({ id, currency }: Pick<Move, 'id' | 'currency'>, eventId: string | null) => ({
  moveId: id,
  eventId,
  currency,
});

const aboutOf = (w: Work, { about, kind }: Move): Promise<About | null> =>
  isId(about)
    ? first<About>(
        w.tx,
        kind === 'refund' || kind === 'refund failed'
          ? `select r.charge_id, r.id as refund_id, r.amount, ${of} from card_refunds r join payment_attempts a on a.id = r.charge_id
             ${whose} where r.id = $1`
          : `select a.id as charge_id, null::uuid as refund_id, a.amount, ${of} from payment_attempts a ${whose} where a.id = $1`,
        [about],
      )
    : Promise.resolve(null);

/**
 * Takes in something that moved on the account with the processor, once however often it is told and in whatever order: what it says of a
 * charge or refund is believed, and what it cost is posted. What nothing of ours explains is put aside.
 */
async function takeMove(
  w: Work,
  move: Move,
  heardBy: 'notification' | 'statement',
): Promise<'taken' | 'put aside' | 'known already'> {
  const { tx } = w;
  const known = await aboutOf(w, move);
  const aside: Aside | null = asideOf(move, known);
  const isNew = await first(
    tx,
    `insert into card_moves (id, at, kind, charge_id, refund_id, about, payout, amount, fee, currency, heard_at, heard_by, aside)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) on conflict do nothing returning id`,
    [
      move.id,
      move.at,
      move.kind,
      known?.chargeId ?? null,
      known?.refundId ?? null,
      move.about,
      move.payout,
      move.amount,
      move.fee,
      move.currency,
      w.now,
      heardBy,
      aside,
    ],
  );
  if (!isNew) {
    // With which payout it was paid out is known only later.
    if (move.payout)
      await tx.query('update card_moves set payout = $2 where id = $1 and payout is distinct from $2', [
        move.id,
        move.payout,
      ]);
    return 'known already';
  }
  if (aside) {
    await record(w, 'card move put aside', { moveId: move.id, kind: move.kind, why: aside });
    return 'put aside';
  }
  const lost = known ? await believed(w, move, known) : 0;
  await post(w, ofMove(move, known?.eventId ?? null), entriesOf(move, lost), {
    at: move.at,
    kind: postingOf(move),
  });
  return 'taken';
}

/** What a move says of what is ours. Answers what of a dispute that was lost no order stands for. */
async function believed(w: Work, move: Move, { chargeId, refundId, eventId }: About): Promise<number> {
  switch (move.kind) {
    case 'charge':
      await answered(w, { key: chargeId, ref: move.id, outcome: 'succeeded', words: '' });
      return 0;
    case 'refund':
      await w.tx.query(
        "update card_refunds set state = 'returned', ask_at = null, answered_at = coalesce(answered_at, $2) where id = $1 and state = 'asked'",
        [refundId, w.now],
      );
      return 0;
    case 'refund failed':
      await refundFailed(w, refundId!, 'The card did not take it.');
      return regained(w, chargeId);
    case 'disputed':
      await record(w, 'payment contested', { eventId, chargeId, amount: move.amount });
      return 0;
    case 'dispute lost':
      return takenBack(w, chargeId, move.amount);
    default:
      return 0;
  }
}

/** What had been lost of a charge to a dispute, and a refund that came back stands for again: below nought. */
async function regained(w: Work, chargeId: string): Promise<number> {
  const lost = await lostOf(w.tx, chargeId);
  return lost > 0 ? (await takenBack(w, chargeId, lost)) - lost : 0;
}

/** Takes in a notification; null where it is not to be believed. */
export async function takeNotice(app: App, headers: NoticeHeaders, body: string): Promise<'taken' | null> {
  const notice = app.cards.read(headers, body);
  if (!notice) return null;
  if (notice.about === 'answer') await recordAnswer(app, notice.answer);
  else await inTransaction(app, systemActor, (w) => takeMove(w, notice.move, 'notification'));
  return 'taken';
}

/** Asks for when the statement is read next. */
export const nextStatementSql =
  'select next_at as at, id::text as id from card_statement where next_at is not null';

/** Reads the statement and takes in what is not known yet. Answers how many that were; null where the processor did not answer. */
export async function readStatement(app: App): Promise<number | null> {
  const before = await first<{ readUntil: string | null }>(app.db, 'select read_until from card_statement');
  const since = before?.readUntil ? plusMinutes(before.readUntil, -overlap) : '2000-01-01T00:00:00.000Z';
  const now = app.clock.now();
  const moves = await app.cards.statement(since);
  if (!moves) {
    await app.db.query('update card_statement set next_at = $1', [plusMinutes(now, readAgain)]);
    return null;
  }
  let taken = 0;
  for (let at = 0; at < moves.length; at += lot)
    taken += await inTransaction(app, systemActor, async (w) => {
      let fresh = 0;
      for (const move of moves.slice(at, at + lot))
        if ((await takeMove(w, move, 'statement')) !== 'known already') fresh += 1;
      return fresh;
    });
  await app.db.query(
    'update card_statement set read_until = coalesce($1, read_until), read_at = $2, next_at = $3',
    [moves.at(-1)?.at ?? null, now, plusMinutes(now, readEvery)],
  );
  return taken;
}

/** Says what a move is that was put aside: from then on it stands in the books, on the account of what is not explained. */
export async function settleMove(w: Work, id: string, words: string, actor: Actor): Promise<void> {
  const move = await first<
    Pick<Move, 'id' | 'at' | 'kind' | 'amount' | 'fee' | 'currency'> & { settledAt: string | null }
  >(
    w.tx,
    'select id, at, kind, amount, fee, currency, settled_at from card_moves where id = $1 and aside is not null for update',
    [id],
  );
  if (!move) throw notFound('This move');
  if (move.settledAt) throw refused('settled-already');
  await w.tx.query('update card_moves set settled_at = $2, settled_by = $3, words = $4 where id = $1', [
    id,
    w.now,
    actor.name,
    words,
  ]);
  await post(w, ofMove(move, null), unexplainedOf(move), { at: move.at, kind: 'set aside' });
  await record(w, 'card move settled', { moveId: id, words });
}

/** Asks for refunds that the processor has not answered. */
export const nextRefundSql =
  'select ask_at as at, id from card_refunds where ask_at is not null order by ask_at, id limit 1';

/** Asks the processor to pay a refund back, under its own key: asked again, it is the same refund. */
export async function askRefund(app: App, id: string): Promise<void> {
  const asked = await first<{ chargeId: string; amount: number; state: string }>(
    app.db,
    'select charge_id, amount, state from card_refunds where id = $1',
    [id],
  );
  if (asked?.state !== 'asked') return;
  const answer = await app.cards.refund({ key: id, charge: asked.chargeId, amount: asked.amount });
  await inTransaction(app, systemActor, async (w) => {
    if (!answer)
      await w.tx.query('update card_refunds set ask_at = $2 where id = $1 and ask_at is not null', [
        id,
        plusMinutes(w.now, 3),
      ]);
    else if (answer.outcome === 'failed') await refundFailed(w, id, answer.words);
    else
      await w.tx.query(
        "update card_refunds set state = 'returned', ask_at = null, answered_at = $2 where id = $1 and state = 'asked'",
        [id, w.now],
      );
  });
}
