import { coming } from '#core/messages/states.ts';
import { type Stopped, sentAllTheSame } from '#core/messages/stopping.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';

/** Whether a message is held by a stop, as SQL over its row: of its event, or of everything. */
export const isStoppedSql = (m: string): string =>
  `(${m}.kind not in ${among(sentAllTheSame)} and (exists (select 1 from organization where sending_stopped is not null)
    or exists (select 1 from events halted where halted.id = ${m}.event_id and halted.sending_stopped is not null)))`;

/** Whether a message is held by a stop now. */
export const isStopped = async (tx: Queries, id: string): Promise<boolean> =>
  (
    await first<{ stopped: boolean }>(
      tx,
      `select ${isStoppedSql('messages')} as stopped from messages where id = $1`,
      [id],
    )
  )?.stopped ?? false;

/** How sending stands, of an event or at all, with how many messages are due and wait for it to go on. */
export async function readStop(
  tx: Queries,
  eventId: string | null,
  now: string,
): Promise<{ stopped: Stopped | null; everything: boolean; waiting: number }> {
  const row = (await first<{ everything: Stopped | null; here: Stopped | null; waiting: number }>(
    tx,
    `select (select sending_stopped from organization) as everything, (select sending_stopped from events where id = $1) as here,
       (select count(*)::int from messages m where ($1::uuid is null or m.event_id = $1) and m.state in ${among(coming)}
         and m.next_try_at <= $2 and ${isStoppedSql('m')}) as waiting`,
    [eventId, now],
  ))!;
  return {
    stopped: row.everything ?? row.here,
    everything: row.everything !== null,
    waiting: row.waiting,
  };
}

/** Stops sending, of an event or of everything, or lets it go on. What waited goes out then, but for what is of no use any more. */
export async function setStop(w: Work, eventId: string | null, stop: boolean): Promise<void> {
  // Stopped once more, it is stopped since the first time.
  const set = 'sending_stopped = case when $1 then coalesce(sending_stopped, $2) end';
  const stopped: Stopped = { at: w.now, by: w.actor.name };
  if (eventId) await w.tx.query(`update events set ${set} where id = $3`, [stop, stopped, eventId]);
  else await w.tx.query(`update organization set ${set}`, [stop, stopped]);
  await record(w, 'sending stopped or not', { eventId, stop });
}
