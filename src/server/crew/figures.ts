import { dropOuts, type FiguredShift, fillOver, type Held, loadSpread } from '#core/crew/figures.ts';
import { onShift } from '#core/crew/states.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';

/** How many days before the event its figures begin. */
const mostDays = 60;

/** The shifts of an event, and everybody who had a place on one. Whoever only asked never had one. */
async function readHeld(tx: Queries, eventId: string): Promise<{ shifts: FiguredShift[]; held: Held[] }> {
  const shifts = await tx.query<FiguredShift>(
    'select id, wished, starts_at from shifts where event_id = $1 and removed_at is null order by starts_at, id',
    [eventId],
  );
  const held = await tx.query<Held>(
    `select a.contact_id, a.shift_id, (extract(epoch from s.ends_at - s.starts_at) / 3600)::float8 as hours, coalesce(a.agreed_at, a.made_at) as made_at,
       case when a.state = 'dropped' then coalesce(a.dropped_at, a.made_at) end as dropped_at,
       exists (select 1 from assignments o join shifts x on x.id = o.shift_id where o.contact_id = a.contact_id and o.state = 'served' and x.event_id <> $1
         and x.starts_at < s.starts_at) as returning
     from assignments a join shifts s on s.id = a.shift_id
     where s.event_id = $1 and s.removed_at is null and (a.state in ${among(onShift)} or a.state = 'dropped' and (a.agreed_at is not null or a.source = 'staff'))
     order by a.made_at, a.id`,
    [eventId],
  );
  return { shifts, held };
}

const wishedOf = (shifts: readonly FiguredShift[]): number => shifts.reduce((sum, s) => sum + s.wished, 0);

/** How the places of an event filled, beside the time before where whoever asks sees its crew as well; its drop-outs and its load. */
export async function figuresOf(
  tx: Queries,
  event: EventRow,
  now: string,
  sees: (event: EventRow) => boolean,
) {
  const { shifts, held } = await readHeld(tx, event.id);
  const fill = (of: typeof held, on: typeof shifts, { startsLocal, zone }: EventRow) =>
    startsLocal ? fillOver(on, of, startsLocal.slice(0, 10), zone, now, mostDays) : [];
  const from = await first<{ id: string }>(
    tx,
    `select o.id from events e join events o on o.first_of = e.first_of and o.starts_at < e.starts_at
     where e.id = $1 and not o.is_template and o.state <> 'called off' order by o.starts_at desc, o.id limit 1`,
    [event.id],
  );
  const last = from && (await readEvent(tx, from.id));
  const then = last?.startsLocal && sees(last) ? await readHeld(tx, last.id) : null;
  return {
    wished: wishedOf(shifts),
    fill: fill(held, shifts, event),
    before:
      last && then?.held.length
        ? {
            title: last.publicTitle,
            startsLocal: last.startsLocal!,
            wished: wishedOf(then.shifts),
            fill: fill(then.held, then.shifts, last),
          }
        : null,
    drops: dropOuts(shifts, held),
    load: loadSpread(held),
  };
}
