import type { Entry } from '#core/money/posting.ts';
import type { Moved } from '#core/money/waysBack.ts';
import type { Queries } from '../db/database.ts';

/** What is paid apart from an order, by the column that names it. */
type Apart = 'gift_id' | 'deposit_id';

/** Money that moved for it, in the order it did; `undoes`: it came back, because what it went back with did not go through. */
export const movedFor = (tx: Queries, of: Apart, id: string): Promise<(Moved & { undoes: boolean })[]> =>
  tx.query<Moved & { undoes: boolean }>(
    `select method, charge_id, amount, amount > 0 and refund_id is not null as undoes from payments where ${of} = $1 order by at, id`,
    [id],
  );

/** How the books stand for it. */
export const postedFor = (tx: Queries, of: Apart, id: string): Promise<Entry[]> =>
  tx.query<Entry>(
    `select e.account, e.fund_id, sum(e.amount)::bigint as amount from postings p join entries e on e.posting_id = p.id where p.${of} = $1
     group by e.account, e.fund_id having sum(e.amount) <> 0`,
    [id],
  );
