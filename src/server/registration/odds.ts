import type { Tenths } from '#contract/registration.ts';
import { freeSeats, limitsOf } from '#core/registration/capacity.ts';
import { type FreedBefore, inTenths, oddsOf } from '#core/registration/odds.ts';
import type { WaitingParty } from '#core/registration/waitlist.ts';
import { first, type Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { readTaken } from './store.ts';

/** The past events that tell how seats come free: the newest so many. */
const mostEvents = 60;
/** Seats of events of the same kind that are enough to ask no others. */
const enough = 100;

/** Of how many seats that were held with as much time to go, how many were given up before the start; of events of its kind, if there are enough. */
async function freedBefore(tx: Queries, event: EventRow, now: string): Promise<FreedBefore> {
  const row = (await first<{ held: number; freed: number; likeHeld: number; likeFreed: number }>(
    tx,
    `with past as (select id, starts_at, lower(category) = lower($2) as alike from events
         where starts_at < $1 and state in ('closed', 'wrapped') and not is_template order by starts_at desc limit ${mostEvents}),
       seats as (select p.alike, coalesce(r.state = 'withdrawn' and r.ended_at < p.starts_at, false) as freed
         from past p join registrations r on r.event_id = p.id
         where r.confirmed_at <= p.starts_at - ($3::timestamptz - $1::timestamptz)
           and (r.ended_at is null or r.ended_at > p.starts_at - ($3::timestamptz - $1::timestamptz)))
     select count(*)::int as held, count(*) filter (where freed)::int as freed,
       count(*) filter (where alike)::int as like_held, count(*) filter (where alike and freed)::int as like_freed from seats`,
    [now, event.category, event.startsAt],
  ))!;
  return row.likeHeld >= enough
    ? { held: row.likeHeld, freed: row.likeFreed }
    : { held: row.held, freed: row.freed };
}

/** How likely each of those waiting is to be offered seats, in their order; null where too little is known. */
export async function oddsInLine(
  tx: Queries,
  event: EventRow,
  waiting: readonly WaitingParty[],
  now: string,
): Promise<(Tenths | null)[]> {
  if (!waiting.length || !event.startsAt || event.startsAt <= now) return waiting.map(() => null);
  const taken = await readTaken(tx, event.id);
  const before = await freedBefore(tx, event, now);
  const free = freeSeats(limitsOf(event), taken) ?? 0;
  let needed = -free;
  return waiting.map((party) => {
    // Who cannot be told takes nobody's turn.
    if (party.quiet) return null;
    needed += party.seats;
    const odds = oddsOf(needed, taken.seats, before);
    return odds && inTenths(odds);
  });
}

/** The same of one party. */
export async function tenthsFor(
  tx: Queries,
  event: EventRow,
  waiting: readonly WaitingParty[],
  orderId: string,
  now: string,
): Promise<Tenths | null> {
  const at = waiting.findIndex((p) => p.orderId === orderId);
  return at < 0 ? null : ((await oddsInLine(tx, event, waiting.slice(0, at + 1), now))[at] ?? null);
}
