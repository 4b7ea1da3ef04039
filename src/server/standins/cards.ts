import { createHmac } from 'node:crypto';
import { z } from 'zod';
import { effectOf, type Move, moveKinds } from '#core/money/processor.ts';
import { type Instant, plusMinutes } from '#core/time/clock.ts';
import type {
  CardAnswer,
  CardGateway,
  CardsAround,
  Notice,
  NoticeHeaders,
  RefundAnswer,
} from '../app/cards.ts';
import { isSigned, signatureOf } from '../app/signing.ts';
import { first, insert, type Queries } from '../db/database.ts';
import type { Ids } from '../db/ids.ts';
import { nextBehaviour } from './mail.ts';

const day = 24 * 60;
/** Minutes until things happen by themselves. */
const after = {
  answer: 2,
  notice: 1,
  late: 3 * day,
  refundFails: day,
  disputed: 2 * day,
  decided: 5 * day,
} as const;
/** Money is paid out once it is as old. */
const paidOutAfter = 2 * day;

/** What it keeps of a charge: 2.4 % and 25 of the smallest unit; and for a dispute, given back where it is won. */
const feeOf = (amount: number): number => Math.round(amount * 0.024) + 25;
const disputeFee = 1500;
/** The code that its bank asks for. */
const stepCode = '2468';
const stepTries = 3;

const number = (ids: Ids, of: string) => `${of}-${Buffer.from(ids.bytes(6)).toString('hex').toUpperCase()}`;
const secretFor = (secret: string): Buffer =>
  createHmac('sha256', secret).update('notifications of cards').digest();

const answerSchema = z.object({
  key: z.string(),
  ref: z.string(),
  outcome: z.enum(['succeeded', 'declined', 'step']),
  words: z.string(),
});
const moveSchema = z.object({
  id: z.string().min(1).max(80),
  at: z.iso.datetime(),
  kind: z.enum(Object.keys(moveKinds) as (keyof typeof moveKinds)[]),
  about: z.string().max(80),
  payout: z.string().max(80).nullable(),
  amount: z.int().min(0),
  fee: z.int(),
  currency: z.string().regex(/^[A-Z]{3}$/u),
});
const noticeSchema = z.union([
  z.object({ id: z.string(), about: z.literal('answer'), answer: answerSchema }),
  z.object({ id: z.string(), about: z.literal('move'), move: moveSchema }),
]);

/**
 * The card processor that ships with the product. The last digit of a card decides: 2 is declined; 3 and 5 time out, and the answer comes
 * two minutes later (3: the money was taken, 5: it was declined); 4 succeeds, and every notification comes twice; 6 wants a code; 7
 * takes a refund on that does not go through a day later; 8 and 9 are contested after two days (8 is decided for us, 9 against); all
 * others succeed. It keeps a fee, pays out on Mondays, and tells of everything by notifications, which it can be told to lose, send late
 * or mix up.
 */
export function makeCardStandin(around: CardsAround): CardGateway {
  const { db, clock, secret } = around;
  const readCharge = (tx: Queries, key: string) =>
    first<CardAnswer & { amount: number; currency: string; ending: string; stepLeft: number }>(
      tx,
      'select key, ref, outcome, words, amount, currency, ending, step_left from standin_charges where key = $1',
      [key],
    );
  const answerOf = ({ key, ref, outcome, words }: CardAnswer): CardAnswer => ({ key, ref, outcome, words });

  /** Money was taken: it moves, and what the card is known for will happen. */
  async function taken(
    tx: Queries,
    charge: { key: string; amount: number; currency: string; ending: string },
  ) {
    const now = clock.now();
    const late = charge.ending === '3' ? after.answer : 0;
    await moves(
      tx,
      around.ids,
      now,
      { kind: 'charge', about: charge.key, fee: feeOf(charge.amount), ...of(charge) },
      { times: charge.ending === '4' ? 2 : 1, late },
    );
    if (charge.ending !== '8' && charge.ending !== '9') return;
    await insert(tx, 'standin_coming', [
      {
        id: around.ids.id(),
        at: plusMinutes(now, after.disputed),
        kind: 'disputed',
        about: charge.key,
        ...of(charge),
      },
      {
        id: around.ids.id(),
        at: plusMinutes(now, after.decided),
        kind: charge.ending === '8' ? 'dispute won' : 'dispute lost',
        about: charge.key,
        ...of(charge),
      },
    ]);
  }
  const of = ({ amount, currency }: { amount: number; currency: string }) => ({ amount, currency });

  return {
    async keep(card, expires) {
      if ((await nextBehaviour(db, 'cards')) !== 'works') return null;
      const digits = card.replace(/\D/gu, '');
      if (digits.length < 12 || expires < clock.now().slice(0, 7))
        return { words: 'The card has run out, or is none.' };
      const token = number(around.ids, 'CK');
      await insert(db, 'standin_cards', { token, digits, expires, keptAt: clock.now() });
      return { token, ending: digits.slice(-4), expires };
    },

    async charge({ key, amount, currency, ...by }) {
      const mode = await nextBehaviour(db, 'cards');
      const kept =
        'token' in by
          ? await first<{ digits: string; expires: string }>(
              db,
              'select digits, expires from standin_cards where token = $1',
              [by.token],
            )
          : null;
      // One that is not kept any more, or has run out, is declined.
      const ranOut = 'token' in by && (!kept || kept.expires < clock.now().slice(0, 7));
      const card = 'card' in by ? by.card : ranOut ? '2' : kept!.digits;
      return db.transaction(async (tx) => {
        const before = await readCharge(tx, key);
        if (before) return before.ending === 'late' ? null : answerOf(before);
        const digits = card.replace(/\D/gu, '');
        const ending = mode === 'fails' ? '2' : mode === 'answer lost' ? '3' : (digits.at(-1) ?? '1');
        const declined = ending === '2' || ending === '5';
        const late = ending === '3' || ending === '5';
        const answer: CardAnswer = {
          key,
          ref: number(around.ids, 'CH'),
          outcome: declined ? 'declined' : ending === '6' ? 'step' : 'succeeded',
          words: declined
            ? ranOut
              ? 'The card has run out.'
              : 'The bank declined the card.'
            : ending === '6'
              ? 'The bank wants a code from whoever pays.'
              : '',
        };
        await insert(tx, 'standin_charges', {
          ...answer,
          amount,
          currency,
          ending: late ? 'late' : ending,
          stepLeft: ending === '6' ? stepTries : 0,
          chargedAt: clock.now(),
        });
        if (late)
          await tell(tx, around.ids, plusMinutes(clock.now(), after.answer), { about: 'answer', answer }, 1);
        if (answer.outcome === 'succeeded') await taken(tx, { key, amount, currency, ending });
        return late ? null : answer;
      });
    },

    async confirm(key, code) {
      if ((await nextBehaviour(db, 'cards')) !== 'works') return null;
      return db.transaction(async (tx) => {
        const charge = await readCharge(tx, key);
        if (!charge) return null;
        if (charge.outcome !== 'step') return answerOf(charge);
        const right = code.replace(/\s/gu, '') === stepCode;
        const left = charge.stepLeft - 1;
        const answer: CardAnswer = {
          key,
          ref: charge.ref,
          outcome: right ? 'succeeded' : left > 0 ? 'step' : 'declined',
          words: right
            ? ''
            : left > 0
              ? 'That is not the code.'
              : 'The bank declined the card: the code was wrong.',
        };
        await tx.query('update standin_charges set outcome = $2, words = $3, step_left = $4 where key = $1', [
          key,
          answer.outcome,
          answer.words,
          left,
        ]);
        if (right) await taken(tx, charge);
        return answer;
      });
    },

    async lookUp(key) {
      if ((await nextBehaviour(db, 'cards')) !== 'works') return null;
      return db.transaction(async (tx) => {
        await tx.query(
          `insert into standin_charges (key, ref, outcome, words, amount, currency, charged_at) values ($1, $2, 'declined', $3, 0, 'XXX', $4)
           on conflict (key) do update set outcome = 'declined', words = excluded.words where standin_charges.outcome = 'step'`,
          [key, number(around.ids, 'CL'), 'The payment did not reach the bank; no money moved.', clock.now()],
        );
        return answerOf((await readCharge(tx, key))!);
      });
    },

    async refund({ key, charge, amount }) {
      const mode = await nextBehaviour(db, 'cards');
      if (mode === 'fails') return null;
      const answer = await db.transaction(async (tx): Promise<RefundAnswer> => {
        const before = await first<RefundAnswer>(
          tx,
          'select key, outcome, words from standin_refunds where key = $1',
          [key],
        );
        if (before) return before;
        const of = await readCharge(tx, charge);
        const gone = await first<{ amount: number }>(
          tx,
          "select coalesce(sum(amount), 0)::bigint as amount from standin_refunds where charge = $1 and outcome = 'returned'",
          [charge],
        );
        const fits = of?.outcome === 'succeeded' && amount <= of.amount - gone!.amount;
        const answered: RefundAnswer = {
          key,
          outcome: fits ? 'returned' : 'failed',
          words: fits ? '' : 'The charge has not as much left that could go back.',
        };
        if (of) await insert(tx, 'standin_refunds', { ...answered, charge, amount, at: clock.now() });
        if (!fits) return answered;
        const { currency } = of;
        await moves(
          tx,
          around.ids,
          clock.now(),
          { kind: 'refund', about: key, amount, fee: 0, currency },
          { times: of.ending === '4' ? 2 : 1 },
        );
        if (of.ending === '7')
          await insert(tx, 'standin_coming', {
            id: around.ids.id(),
            at: plusMinutes(clock.now(), after.refundFails),
            kind: 'refund failed',
            about: key,
            amount,
            currency,
          });
        return answered;
      });
      return mode === 'answer lost' ? null : answer;
    },

    read(headers, body) {
      const sentAt = Number(headers['webhook-timestamp']);
      const id = headers['webhook-id'] ?? '';
      const now = Math.floor(Date.parse(clock.now()) / 1000);
      if (!isSigned(secretFor(secret()), { id, sentAt, body }, headers['webhook-signature'] ?? '', now))
        return null;
      try {
        const notice = noticeSchema.parse(JSON.parse(body));
        return notice.id === id ? notice : null;
      } catch {
        return null;
      }
    },

    async statement(since) {
      if ((await nextBehaviour(db, 'cards')) === 'fails') return null;
      return db.query<Move>(
        'select id, at, kind, about, payout, amount, fee, currency from standin_moves where at >= $1 order by at, id',
        [since],
      );
    },
  };
}

/** Keeps a move, has it told of, and sees to it that it is paid out. */
async function moves(
  tx: Queries,
  ids: Ids,
  now: Instant,
  move: Omit<Move, 'id' | 'at' | 'payout'>,
  { times = 1, late = 0 }: { times?: number; late?: number } = {},
): Promise<Move> {
  const kept: Move = { id: number(ids, 'MV'), at: now, payout: null, ...move };
  await insert(tx, 'standin_moves', kept);
  await tell(tx, ids, plusMinutes(now, after.notice + late), { about: 'move', move: kept }, times);
  if (move.kind !== 'payout')
    await tx.query(
      `insert into standin_coming (id, at, kind, about, amount, currency)
       select $1, $2, 'payout', '', 0, $3::text where not exists (select 1 from standin_coming where kind = 'payout' and currency = $3)`,
      [ids.id(), nextMonday(plusMinutes(now, paidOutAfter)), move.currency],
    );
  return kept;
}

/** The next Monday at five in the morning, UTC. */
function nextMonday(from: Instant): Instant {
  const at = new Date(from);
  at.setUTCDate(at.getUTCDate() + ((8 - at.getUTCDay()) % 7 || 7));
  at.setUTCHours(5, 0, 0, 0);
  return at.toISOString();
}

/** Writes a notification that is to be delivered, as the stand-in was told to: lost, twice, late, or the later one first. */
async function tell(tx: Queries, ids: Ids, at: Instant, about: OfNotice, times: number): Promise<void> {
  const told = await first<{ mode: string }>(
    tx,
    "select mode from standin_behaviour where service = 'notices'",
  );
  const mode = told?.mode ?? 'works';
  if (mode === 'lost') return;
  const id = ids.id();
  // Mixed up: whatever is told first comes last.
  const queued =
    mode === 'mixed up'
      ? await first<{ n: number }>(tx, 'select count(*)::int as n from standin_notices where times > 0')
      : null;
  const late = mode === 'late' ? after.late : queued ? Math.max(0, 60 - queued.n) : 0;
  await insert(tx, 'standin_notices', {
    id,
    deliverAt: plusMinutes(at, late),
    body: JSON.stringify({ id, ...about }),
    times: mode === 'twice' ? 2 : times,
  });
}
type OfNotice = Notice extends infer N ? (N extends Notice ? Omit<N, 'id'> : never) : never;

/** Asks for the next notification that is to be delivered. */
export const nextNoticeSql =
  'select deliver_at as at, id from standin_notices where times > 0 order by deliver_at, id limit 1';

/** Delivers a notification: signed as it is sent, and counted as delivered once it was taken. */
export async function deliverNotice(
  { db, clock, secret }: CardsAround,
  id: string,
  take: (headers: NoticeHeaders, body: string) => Promise<unknown>,
): Promise<void> {
  const notice = await first<{ body: string }>(
    db,
    'select body from standin_notices where id = $1 and times > 0',
    [id],
  );
  if (!notice) return;
  await take(signedHeaders(secret(), { id, body: notice.body, at: clock.now() }), notice.body);
  await db.query('update standin_notices set times = times - 1, deliver_at = $2 where id = $1', [
    id,
    plusMinutes(clock.now(), after.notice),
  ]);
}

/** The headers that a notification of the stand-in is sent with. */
export function signedHeaders(
  secret: string,
  { id, body, at }: { id: string; body: string; at: Instant },
): Record<string, string> {
  const sentAt = Math.floor(Date.parse(at) / 1000);
  return {
    'webhook-id': id,
    'webhook-timestamp': String(sentAt),
    'webhook-signature': signatureOf(secretFor(secret), { id, sentAt, body }),
  };
}

/** Asks for what happens next by itself: a dispute, its end, a refund that does not go through, a payout. */
export const nextComingSql = 'select at, id from standin_coming order by at, id limit 1';

/** Has it happen. A payout takes along what is old enough, where that is more than nothing. */
export async function comeAbout({ db, clock, ids }: CardsAround, id: string): Promise<void> {
  await db.transaction(async (tx) => {
    const coming = await first<Pick<Move, 'kind' | 'about' | 'amount' | 'currency'>>(
      tx,
      'delete from standin_coming where id = $1 returning kind, about, amount, currency',
      [id],
    );
    if (!coming) return;
    const { kind, about, amount, currency } = coming;
    const now = clock.now();
    if (kind !== 'payout') {
      const fee = kind === 'disputed' ? disputeFee : kind === 'dispute won' ? -disputeFee : 0;
      if (kind === 'payout failed')
        await tx.query('update standin_moves set payout = null where payout = $1', [about]);
      await moves(tx, ids, now, { kind, about, amount, fee, currency });
      return;
    }
    const unpaid = await tx.query<Pick<Move, 'id' | 'kind' | 'amount' | 'fee'>>(
      'select id, kind, amount, fee from standin_moves where payout is null and currency = $1 and at <= $2',
      [currency, plusMinutes(now, -paidOutAfter)],
    );
    const sum = unpaid.reduce((total, m) => total + effectOf(m), 0);
    const waits = await first<{ n: number }>(
      tx,
      'select count(*)::int as n from standin_moves where payout is null and currency = $1',
      [currency],
    );
    const due = sum > 0;
    if (due) {
      const payout = number(ids, 'PO');
      await tx.query('update standin_moves set payout = $1 where id = any($2)', [
        payout,
        unpaid.map((m) => m.id),
      ]);
      const { id: moveId } = await moves(tx, ids, now, {
        kind,
        about: payout,
        amount: sum,
        fee: 0,
        currency,
      });
      await tx.query('update standin_moves set payout = $1 where id = $2', [payout, moveId]);
      const behaviour = await first<{ mode: string }>(
        tx,
        "select mode from standin_behaviour where service = 'payouts'",
      );
      if (behaviour?.mode === 'fails')
        await insert(tx, 'standin_coming', {
          id: ids.id(),
          at: plusMinutes(now, day),
          kind: 'payout failed',
          about: payout,
          amount: sum,
          currency,
        });
    }
    if (waits!.n > (due ? unpaid.length : 0))
      await insert(tx, 'standin_coming', {
        id: ids.id(),
        at: nextMonday(now),
        kind: 'payout',
        about: '',
        amount: 0,
        currency,
      });
  });
}
