import { onShift } from '#core/crew/states.ts';
import type { AskState, SearchEnd } from '#core/crew/steppingIn.ts';
import { emailOf, whyQuiet } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';

/** SQL: the name of a contact. */
const nameSql = "trim(c.given_name || ' ' || c.family_name)";

export interface SearchRow {
  id: string;
  wide: boolean;
  begunAt: string;
  begunBy: string;
  endedAt: string | null;
  endedHow: SearchEnd | null;
}

/** The search of a shift that goes on; else the one before; null where there was none. */
export const lastSearch = (tx: Queries, shiftId: string): Promise<SearchRow | null> =>
  first<SearchRow>(
    tx,
    `select id, wide, begun_at, begun_by, ended_at, ended_how from step_in_searches where shift_id = $1
     order by ended_at is not null, begun_at desc, id desc limit 1`,
    [shiftId],
  );

/** Shifts of which a search goes on; of one event where it is said. */
export const searchedAt = async (tx: Queries, eventId: string | null): Promise<string[]> =>
  (
    await tx.query<{ shiftId: string }>(
      `select q.shift_id from step_in_searches q join shifts s on s.id = q.shift_id
       where q.ended_at is null and s.removed_at is null and ($1::uuid is null or s.event_id = $1) order by q.begun_at, q.id`,
      [eventId],
    )
  ).map((r) => r.shiftId);

/** How many places of a shift somebody has. */
export const filledOf = async (tx: Queries, shiftId: string): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    `select count(*)::int as n from assignments where shift_id = $1 and state in ${among(onShift)}`,
    [shiftId],
  ))!.n;

export interface AskRow {
  id: string;
  searchId: string;
  shiftId: string;
  contactId: string;
  name: string;
  waited: boolean;
  state: AskState;
  askedAt: string;
  until: string;
  answeredAt: string | null;
}

/** Everybody who was ever asked to step in on a shift, the first first. */
export const readAsks = (tx: Queries, shiftId: string): Promise<AskRow[]> =>
  tx.query<AskRow>(
    `select a.id, a.search_id, a.shift_id, a.contact_id, ${nameSql} as name, a.waited, a.state, a.asked_at, a.until, a.answered_at
     from step_in_asks a join contacts c on c.id = a.contact_id where a.shift_id = $1 order by a.asked_at, a.id`,
    [shiftId],
  );

/** What somebody was asked, as they answer it; held until that is over. */
export const readAsk = (
  tx: Queries,
  id: string,
): Promise<Pick<AskRow, 'id' | 'shiftId' | 'contactId' | 'state' | 'until'> | null> =>
  first<Pick<AskRow, 'id' | 'shiftId' | 'contactId' | 'state' | 'until'>>(
    tx,
    'select id, shift_id, contact_id, state, until from step_in_asks where id = $1 for update',
    [id],
  );

/** When the next answer is due. */
export const nextAnswerSql =
  "select until as at, id from step_in_asks where state = 'asked' order by until, id limit 1";

export interface WaitRow {
  contactId: string;
  name: string;
  since: string;
}

/** Who waits for a shift, in the order they came. */
export const readWaits = (tx: Queries, shiftId: string): Promise<WaitRow[]> =>
  tx.query<WaitRow>(
    `select w.contact_id, ${nameSql} as name, w.made_at as since from shift_waits w join contacts c on c.id = w.contact_id
     where w.shift_id = $1 and c.erased_at is null order by w.made_at, w.id`,
    [shiftId],
  );

export const keepWait = (
  tx: Queries,
  wait: { id: string; shiftId: string; contactId: string; at: string },
): Promise<{ id: string }[]> =>
  tx.query<{ id: string }>(
    'insert into shift_waits (id, shift_id, contact_id, made_at) values ($1, $2, $3, $4) on conflict (shift_id, contact_id) do nothing returning id',
    [wait.id, wait.shiftId, wait.contactId, wait.at],
  );

export const dropWait = (tx: Queries, shiftId: string, contactId: string): Promise<{ id: string }[]> =>
  tx.query<{ id: string }>('delete from shift_waits where shift_id = $1 and contact_id = $2 returning id', [
    shiftId,
    contactId,
  ]);

/** Of some people those who can be written to by mail. */
export const reachedOf = async (tx: Queries, contactIds: readonly string[]): Promise<Set<string>> =>
  new Set(
    (
      await tx.query<{ id: string }>(
        `select c.id from contacts c where c.id = any($1) and ${whyQuiet('c')} is null and ${emailOf('c.id')} is not null`,
        [contactIds],
      )
    ).map((r) => r.id),
  );

/** Who was once on a shift and is not any more, with when and what they said. */
export const readDropped = (
  tx: Queries,
  shiftId: string,
): Promise<{ contactId: string; name: string; at: string; words: string }[]> =>
  tx.query<{ contactId: string; name: string; at: string; words: string }>(
    `select a.contact_id, ${nameSql} as name, coalesce(a.dropped_at, a.made_at) as at, a.dropped_words as words
     from assignments a join contacts c on c.id = a.contact_id where a.shift_id = $1 and a.state = 'dropped' order by at desc, a.id`,
    [shiftId],
  );

interface ElsewhereRow {
  shiftId: string;
  name: string;
  role: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  event: string;
  zone: string;
}

/** SQL: a shift somebody is not on, as their own page shows it. */
export const elsewhereSql =
  's.id as shift_id, s.name, s.role, s.place, s.starts_local, s.ends_local, e.public_title as event, e.zone';

/** What somebody is asked to step in on, soonest due first. */
export const ownAsks = (
  tx: Queries,
  contactId: string,
  now: string,
): Promise<(ElsewhereRow & { askId: string; until: string; brief: string })[]> =>
  tx.query<ElsewhereRow & { askId: string; until: string; brief: string }>(
    `select ${elsewhereSql}, a.id as ask_id, a.until, coalesce(r.brief, '') as brief
     from step_in_asks a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id left join roles r on r.name = s.role
     where a.contact_id = $1 and a.state = 'asked' and a.until > $2 and s.removed_at is null and e.state <> 'called off' order by a.until, a.id`,
    [contactId, now],
  );

/** What somebody waits for, soonest first, with how many wait before them. */
export const ownWaits = (
  tx: Queries,
  contactId: string,
  now: string,
): Promise<(ElsewhereRow & { before: number })[]> =>
  tx.query<ElsewhereRow & { before: number }>(
    `select ${elsewhereSql},
       (select count(*)::int from shift_waits o where o.shift_id = w.shift_id and (o.made_at, o.id) < (w.made_at, w.id)) as before
     from shift_waits w join shifts s on s.id = w.shift_id join events e on e.id = s.event_id
     where w.contact_id = $1 and s.starts_at > $2 and s.removed_at is null and e.state <> 'called off' order by s.starts_at, s.id`,
    [contactId, now],
  );
