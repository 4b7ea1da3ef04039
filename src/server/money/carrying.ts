import { type Laid, postingsThrough, type TimedLine } from '#core/money/books.ts';
import { kindOf } from '#core/money/posting.ts';
import { standing } from '#core/registration/states.ts';
import type { App } from '../app/app.ts';
import { among } from '../db/among.ts';
import { insert, type Queries } from '../db/database.ts';

/** An order as it went, from what is kept of it. */
interface Went {
  orderId: string;
  eventId: string;
  currency: string;
  confirmedAt: string | null;
  lines: TimedLine[];
  laid: (Laid & { at: string })[];
}

/** Orders are carried over in lots of as many, each lot a transaction: a start that is cut short goes on with the rest. */
const lot = 200;

const stamp = (sql: string) => `to_char(${sql} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

const readWent = (tx: Queries, ids: readonly string[]): Promise<Went[]> =>
  tx.query<Went>(
    `select o.id as order_id, o.event_id, o.currency,
       (select ${stamp('min(r.confirmed_at)')} from registrations r where r.order_id = o.id) as confirmed_at,
       coalesce((select jsonb_agg(jsonb_build_object('id', l.id, 'kind', l.kind, 'unitPrice', l.unit_price, 'discount', l.discount, 'tax', l.tax,
           'taxIncluded', l.tax_included, 'fundId', l.fund_id, 'from', ${stamp('l.written_at')}, 'live', l.ended is null, 'until', ${stamp('l.ended')})
           order by l.position) from (
         select l.*, case when l.kind in ('kept', 'gift') then null
           when e.state <> 'called off' and exists (select 1 from registrations r where r.order_id = o.id and r.state in ${among(standing)}
             and (l.kind = 'extra' or (r.offer_id = l.offer_id and r.unit_number = l.unit_number))) then null
           -- What was called off with somebody on it ended with that.
           else coalesce((select max(r.ended_at) from registrations r where r.order_id = o.id
             and (l.kind = 'extra' or (r.offer_id = l.offer_id and r.unit_number = l.unit_number))), e.updated_at) end as ended
         from order_lines l where l.order_id = o.id) l), '[]') as lines,
       coalesce((select jsonb_agg(jsonb_build_object('lineId', a.line_id, 'amount', a.amount, 'moved', a.moved, 'undoes', a.undoes, 'method', p.method, 'at', ${stamp('p.at')})
         order by p.at, a.payment_id, a.id) from allocations a join payments p on p.id = a.payment_id where a.order_id = o.id), '[]') as laid
     from orders o join events e on e.id = o.event_id
     -- One that was changed since the books are kept is posted as it stands.
     where o.id = any($1) and not exists (select 1 from postings p where p.order_id = o.id)`,
    [ids],
  );

/** Has the orders of an event that were written as they are posted as they went, by the next `carryOver`. */
export const carryLater = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query(
    'insert into books_to_carry (order_id) select id from orders where event_id = $1 on conflict do nothing',
    [eventId],
  );

/** Asks for orders that are still to be carried over: before anything else that is due. */
export const nextCarrySql =
  "select '2000-01-01T00:00:00Z'::timestamptz as at, order_id as id from books_to_carry where why is null order by order_id limit 1";

/** Posts some orders as they went, all or none. */
const carry = (app: Pick<App, 'db' | 'ids'>, orderIds: readonly string[]): Promise<void> =>
  app.db.transaction(async (tx) => {
    const postings = (await readWent(tx, orderIds)).flatMap(({ lines, laid, confirmedAt, ...of }) =>
      postingsThrough(lines, laid, confirmedAt).map((p) => ({ id: app.ids.id(), ...of, ...p })),
    );
    await insert(
      tx,
      'postings',
      postings.map(({ entries, ...p }) => ({ ...p, kind: kindOf(entries), actor: 'carried over' })),
    );
    await insert(
      tx,
      'entries',
      postings.flatMap((p) => p.entries.map((e) => ({ postingId: p.id, ...e }))),
    );
    await tx.query('delete from books_to_carry where order_id = any($1)', [orderIds]);
  });

/**
 * Posts some of the orders that were there before the books were kept, as they went. Answers how many; 0 where none is left. One that
 * cannot be is put aside with why: nothing else that is due waits for it.
 */
export async function carryLot(app: Pick<App, 'db' | 'ids'>): Promise<number> {
  const rows = await app.db.query<{ orderId: string }>(
    `select order_id from books_to_carry where why is null order by order_id limit ${lot}`,
  );
  const ids = rows.map((row) => row.orderId);
  if (!ids.length) return 0;
  try {
    await carry(app, ids);
  } catch {
    for (const id of ids)
      await carry(app, [id]).catch((error: Error) =>
        app.db.query('update books_to_carry set why = $2 where order_id = $1', [id, error.message]),
      );
  }
  return ids.length;
}

/** The same until none is left. */
export async function carryOver(app: Pick<App, 'db' | 'ids'>): Promise<void> {
  while ((await carryLot(app)) > 0);
}
