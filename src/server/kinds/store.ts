import type { Kind } from '#contract/kinds.ts';
import { type KindLook, Register } from '#core/events/kinds.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export type KindRow = Omit<Kind, 'picture'>;

export const readKinds = (tx: Queries): Promise<KindRow[]> =>
  tx.query<KindRow>(
    `select k.id, k.sort, k.name, k.french, k.shape, k.colour, k.picture_id, (select count(*)::int from events e where not e.is_template
       and case k.sort when 'category' then lower(e.category) = lower(k.name) else k.name = any(e.draws) end) as events
     from kinds k order by k.sort, lower(k.name)`,
  );

/** What the register says of events, for many of them at once. */
export const readRegister = async (tx: Queries): Promise<Register> =>
  new Register(await tx.query<KindLook>('select sort, name, french, shape, colour, picture_id from kinds'));

/** One of them, held until the transaction is over; throws 404. */
export async function theKind(tx: Queries, id: string): Promise<Pick<KindRow, 'sort' | 'name'>> {
  const row = await first<Pick<KindRow, 'sort' | 'name'>>(
    tx,
    'select sort, name from kinds where id = $1 for update',
    [id],
  );
  if (!row) throw notFound('This kind');
  return row;
}

/** True when another has a name. */
export const kindTaken = async (tx: Queries, sort: string, name: string, id: string): Promise<boolean> =>
  (await first(tx, 'select 1 as x from kinds where sort = $1 and lower(name) = lower($2) and id <> $3', [
    sort,
    name,
    id,
  ])) !== null;

/** Calls the events of a kind by its new name. Plans that are being written are asked anew. */
export const renameOnEvents = (tx: Queries, sort: string, before: string, after: string): Promise<unknown> =>
  sort === 'category'
    ? tx.query('update events set category = $2, version = version + 1 where lower(category) = lower($1)', [
        before,
        after,
      ])
    : tx.query(
        'update events set draws = array_replace(draws, $1, $2), version = version + 1 where $1 = any(draws)',
        [before, after],
      );

export const removeKind = (tx: Queries, id: string): Promise<unknown> =>
  tx.query('delete from kinds where id = $1', [id]);
