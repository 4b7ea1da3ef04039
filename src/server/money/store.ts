import type { Allocation, OrderLine } from '#core/money/lines.ts';
import { standing } from '#core/registration/states.ts';
import type { Queries } from '../db/database.ts';

/** The lines of an order as they were agreed, with whether somebody still stands behind each. */
export async function readLines(tx: Queries, orderId: string): Promise<OrderLine[]> {
  return tx.query<OrderLine>(
    `select l.id, l.kind, l.unit_price, l.discount, l.tax,
       exists (select 1 from registrations r where r.order_id = l.order_id and r.state = any($2)
         and (l.kind = 'gift' or (r.offer_id = l.offer_id and r.unit_number = l.unit_number))) as live
     from order_lines l where l.order_id = $1 order by l.position`,
    [orderId, standing],
  );
}

/** Every part of money that was laid on an order, in the order it came. */
export const readAllocations = (tx: Queries, orderId: string): Promise<Allocation[]> =>
  tx.query<Allocation>(
    `select a.line_id, a.amount, p.method = 'waived' as waived from allocations a join payments p on p.id = a.payment_id
     where a.order_id = $1 order by p.at, p.id, a.id`,
    [orderId],
  );
