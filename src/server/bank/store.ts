import type { BankSettled } from '#contract/bank.ts';
import type { Candidate } from '#core/bank/proposing.ts';
import type { BankLine } from '#core/bank/reading.ts';
import type { Account } from '#core/money/accounts.ts';
import { first, insert, type Queries } from '../db/database.ts';

/** A line of the bank as it is kept. */
export interface LineRow extends BankLine {
  id: string;
  currency: string;
  state: 'open' | 'settled';
  how: BankSettled['how'] | null;
}

const columns = 'id, key, on_day as "on", amount, words, currency, line, state, how';

export const readOpenLines = (tx: Queries): Promise<LineRow[]> =>
  tx.query<LineRow>(
    `select ${columns} from bank_lines where state = 'open' order by on_day, line, id limit 1000`,
  );

/** Reads a line; locked, because it is about to be settled. */
export const readLine = (tx: Queries, id: string): Promise<LineRow | null> =>
  first<LineRow>(tx, `select ${columns} from bank_lines where id = $1 for update`, [id]);

export const readSettled = (tx: Queries): Promise<BankSettled[]> =>
  tx.query<BankSettled>(
    `select id, on_day as "on", amount, currency, words, how, said, settled_at, settled_by from bank_lines where state = 'settled'
     order by settled_at desc, id limit 100`,
  );

export const countLines = async (tx: Queries): Promise<{ all: number; done: number }> =>
  (await first<{ all: number; done: number }>(
    tx,
    `select count(*)::int as "all", count(*) filter (where state = 'settled')::int as done from bank_lines`,
  ))!;

/** Keeps lines that are not known yet; answers how many those were. */
export async function keepLines(tx: Queries, rows: readonly object[]): Promise<number> {
  const before = await countLines(tx);
  await insert(tx, 'bank_lines', rows, 'on conflict do nothing');
  return (await countLines(tx)).all - before.all;
}

const nameOf = `coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family), trim(g.given || ' ' || g.family), '')`;
const day = (at: string) => `(${at} at time zone (select zone from organization))::date`;

/** Everything of ours in a currency that a line may be, and that no line stands for yet. */
export const readCandidates = (tx: Queries, currency: string): Promise<Candidate[]> =>
  tx.query<Candidate>(
    `select 'payout' as kind, m.about as id, ${day('m.at')} as "on", m.amount, '' as name, jsonb_build_array(m.about) as numbers
     from card_moves m where m.kind = 'payout' and m.currency = $1 and not exists (select 1 from card_moves f where f.kind = 'payout failed' and f.about = m.about)
       and not exists (select 1 from bank_matches b where b.payout = m.about)
     union all
     select case p.method when 'transfer' then 'transfer' else 'hand' end, p.id::text, ${day('p.at')}, p.amount, ${nameOf},
       to_jsonb(array_remove(array[o.number::text, g.number::text, nullif(substring(p.reason from '[0-9]{3,}'), '')], null))
     from payments p left join orders o on o.id = p.order_id left join gifts g on g.id = p.gift_id left join contacts c on c.id = p.contact_id
     where p.currency = $1 and (p.method = 'transfer' or (p.method in ('cash', 'cheque') and p.amount > 0))
       and not exists (select 1 from bank_matches b where b.payment_id = p.id)
     union all
     select 'cost', k.id::text, k.on_day, -k.amount, k.what, '[]'::jsonb from event_costs k
     where k.currency = $1 and k.paid_from = 'bank' and k.taken_back_at is null and not exists (select 1 from bank_matches b where b.cost_id = k.id)
     union all
     select 'owed', o.id::text, ${day('o.placed_at')}, o.balance, coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(o.buyer_given || ' ' || o.buyer_family)),
       jsonb_build_array(o.number::text)
     from orders o left join contacts c on c.id = o.buyer_contact_id
     where o.currency = $1 and o.balance > 0 and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed')`,
    [currency],
  );

/** Payments that a line may stand for, locked; fewer than asked for where one is spoken for or was never there. */
export const lockPayments = (tx: Queries, ids: readonly string[], currency: string) =>
  tx.query<{ id: string; amount: number; method: string; eventId: string | null }>(
    `select id, amount, method, event_id from payments p where id::text = any($1) and currency = $2 and not exists (select 1 from bank_matches b where b.payment_id = p.id)
     for update`,
    [ids, currency],
  );

/** A cost paid from the bank that a line may stand for, locked; null where one does, it was taken back, or was never there. */
export const lockCost = (tx: Queries, id: string, currency: string) =>
  first<{ id: string; amount: number }>(
    tx,
    `select id, amount from event_costs k where id::text = $1 and currency = $2 and paid_from = 'bank' and taken_back_at is null
       and not exists (select 1 from bank_matches b where b.cost_id = k.id) for update`,
    [id, currency],
  );

export const payoutAmount = async (tx: Queries, payout: string, currency: string): Promise<number | null> =>
  (
    await first<{ amount: number }>(
      tx,
      `select m.amount from card_moves m where m.kind = 'payout' and m.about = $1 and m.currency = $2
         and not exists (select 1 from bank_matches b where b.payout = m.about)`,
      [payout, currency],
    )
  )?.amount ?? null;

/** The payment that came for an order last. */
export const lastPayment = async (tx: Queries, orderId: string): Promise<string[]> =>
  (
    await tx.query<{ id: string }>(
      'select id from payments where order_id = $1 and at = (select max(at) from payments where order_id = $1) and amount > 0',
      [orderId],
    )
  ).map((r) => r.id);

export const settleLine = (
  tx: Queries,
  id: string,
  of: { how: string | null; said: string; at: string | null; by: string | null },
): Promise<unknown> =>
  tx.query(
    "update bank_lines set state = case when $2::text is null then 'open' else 'settled' end, how = $2, said = $3, settled_at = $4, settled_by = $5 where id = $1",
    [id, of.how, of.said, of.at, of.by],
  );

/** What was posted for a line so far. */
export const postedFor = (tx: Queries, lineId: string) =>
  tx.query<{ account: Account; fundId: string | null; amount: number }>(
    `select e.account, e.fund_id, sum(e.amount)::bigint as amount from postings p join entries e on e.posting_id = p.id where p.bank_line_id = $1
     group by e.account, e.fund_id having sum(e.amount) <> 0`,
    [lineId],
  );

export const dropMatches = (tx: Queries, lineId: string): Promise<unknown> =>
  tx.query('delete from bank_matches where line_id = $1', [lineId]);

export const readCodes = (tx: Queries): Promise<{ account: Account; code: string }[]> =>
  tx.query<{ account: Account; code: string }>('select account, code from account_codes order by account');

export async function saveCodes(
  tx: Queries,
  codes: readonly { account: Account; code: string }[],
): Promise<void> {
  await tx.query('delete from account_codes');
  await insert(
    tx,
    'account_codes',
    codes.filter((c) => c.code),
  );
}
