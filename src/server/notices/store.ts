import type { Role } from '#contract/endpoint.ts';
import type { Notice, Noticed, NoticeTime } from '#core/notices/notices.ts';
import { first, type Queries } from '../db/database.ts';
import type { DutyRow } from '../staff/store.ts';
import { dutiesSql } from '../staff/store.ts';

/** When somebody is told of something they want to be told of. */
export type Told = Exclude<NoticeTime, 'never'>;

/** One of the team who wants to be told of something. */
export interface Wisher {
  id: string;
  name: string;
  email: string;
  roles: Role[];
  approves: string[];
  unitId: string | null;
  duties: DutyRow[];
  onlyMine: boolean;
  leastGift: number;
}

const wisher = `s.id, s.name, s.email, s.roles, s.approves, s.unit_id, ${dutiesSql('s.id')} as duties,
  s.notices_only_mine as only_mine, s.notices_least_gift as least_gift`;

/** Who wants to be told of something, but for whoever did it. */
export const readWishers = (
  tx: Queries,
  what: Noticed,
  by: string | null,
): Promise<(Wisher & { when: Told })[]> =>
  tx.query(
    `select ${wisher}, w.told as "when" from notice_wishes w join staff s on s.id = w.staff_id
     where w.what = $1 and not s.resting and s.id is distinct from $2::uuid`,
    [what, by],
  );

export const readWisher = (tx: Queries, staffId: string): Promise<Wisher | null> =>
  first<Wisher>(tx, `select ${wisher} from staff s where s.id = $1 and not s.resting`, [staffId]);

export const readWishes = (tx: Queries, staffId: string): Promise<{ what: Noticed; when: Told }[]> =>
  tx.query('select what, told as "when" from notice_wishes where staff_id = $1', [staffId]);

/** Keeps what somebody wants to be told of, in the place of what they wanted before. */
export async function keepWishes(
  tx: Queries,
  staffId: string,
  wishes: readonly { what: Noticed; when: Told }[],
  { onlyMine, leastGift }: { onlyMine: boolean; leastGift: number },
): Promise<void> {
  // Whoever says it twice at once says it one after the other.
  await tx.query('update staff set notices_only_mine = $2, notices_least_gift = $3 where id = $1', [
    staffId,
    onlyMine,
    leastGift,
  ]);
  await tx.query('delete from notice_wishes where staff_id = $1', [staffId]);
  await tx.query(
    `insert into notice_wishes (staff_id, what, told) select $1, w.what, w."when" from jsonb_to_recordset($2::jsonb) as w(what text, "when" text)`,
    [staffId, JSON.stringify(wishes)],
  );
}

/** What is next to be told to somebody. */
export const nextNoticesSql = 'select goes_at as at, id from notices order by goes_at, id limit 1';

/** Something that waits to be told, with the event it happened at. */
export interface Waiting extends Notice {
  eventId: string | null;
  at: string;
}

/** Takes what is to be told together with a notice: everything of the same person that is due with it. Empty where it was told. */
export const takeTogether = (
  tx: Queries,
  id: string,
): Promise<(Waiting & { staffId: string; when: Told })[]> =>
  tx.query(
    `with due as (select staff_id, told, goes_at from notices where id = $1 for update),
       taken as (delete from notices n using due d where n.staff_id = d.staff_id and n.told = d.told
         and (n.told = 'soon' or n.goes_at <= d.goes_at) returning n.*)
     select t.staff_id, t.told as "when", t.what, t.event_id, case when t.event_id is not null then coalesce(nullif(e.team_title, ''), nullif(e.public_title, ''), 'Untitled') end as event, t.who, t.count, t.amount, t.currency, t.words, t.at
     from taken t left join events e on e.id = t.event_id order by e.starts_at nulls last, t.event_id, t.at, t.id`,
    [id],
  );
