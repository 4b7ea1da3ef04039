import type { Visitor } from '#core/access/visitor.ts';
import { holdsOn } from '#core/contacts/membership.ts';
import type { Asking, Shop, Wanted } from '#core/offers/quote.ts';
import type { Channel } from '#core/registration/checking.ts';
import { standing } from '#core/registration/states.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readSold, type Sold } from '../events/store.ts';
import type { OrderRequest } from './request.ts';

/** What an event sells, in the currency it is paid in. */
export const shopOf = async (
  tx: Queries,
  event: Pick<EventRow, 'id' | 'taxes' | 'paidIn'>,
): Promise<Omit<Shop, keyof Sold> & Sold> => ({
  currency: event.paidIn,
  taxes: event.taxes,
  ...(await readSold(tx, event.id)),
});

export const wantedOf = ({ lines, extras, code, donation }: OrderRequest): Wanted => ({
  lines,
  extras,
  code,
  donation: donation.amount,
});

/** Whether somebody is a member of the organization, or of one of its units, on the day of an event. */
export const isMemberAt = (
  visitor: Visitor | null,
  event: Pick<EventRow, 'startsLocal' | 'zone'>,
  now: string,
): boolean =>
  visitor?.memberships.some((m) => holdsOn(m, event.startsLocal?.slice(0, 10) ?? dateOf(now, event.zone))) ??
  false;

/** Units of each offer of an event that somebody bought and still stands behind. */
export const unitsOf = (
  tx: Queries,
  eventId: string,
  contactId: string,
): Promise<{ offerId: string; units: number }[]> =>
  tx.query<{ offerId: string; units: number }>(
    `select r.offer_id, count(distinct (r.order_id, r.unit_number))::int as units from registrations r join orders o on o.id = r.order_id
     where r.event_id = $1 and $2 in (o.buyer_contact_id, o.placed_by) and r.state in ${among(standing)} group by r.offer_id order by r.offer_id`,
    [eventId, contactId],
  );

/** How often each code of an event was used by orders that stand, in all and by somebody. */
const usesOf = (tx: Queries, eventId: string, contactId: string | null) =>
  tx.query<{ codeId: string; all: number; own: number }>(
    `select code_id, count(*)::int as "all", count(*) filter (where $2 in (buyer_contact_id, placed_by))::int as own from orders o
     where event_id = $1 and code_id is not null
       and exists (select 1 from registrations r where r.order_id = o.id and r.state in ${among(standing)}) group by code_id`,
    [eventId, contactId],
  );

/** Who asks for seats at an event, and when, as far as that decides what they may have and what it costs. */
export async function askingOf(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  event: Pick<EventRow, 'id' | 'startsLocal' | 'zone'>,
  visitor: Visitor | null,
  channel: Channel,
  /** Whether a code was entered: only then it matters how often each was used. */
  code: boolean,
): Promise<Asking> {
  const contactId = visitor?.contactId ?? null;
  const uses = code ? await usesOf(tx, event.id, contactId) : [];
  return {
    nowLocal: wallOf(now, event.zone),
    member: isMemberAt(visitor, event, now),
    known: visitor !== null,
    has: new Map(contactId ? (await unitsOf(tx, event.id, contactId)).map((u) => [u.offerId, u.units]) : []),
    uses: new Map(uses.map((u) => [u.codeId, u])),
    guest: 0,
    team: channel !== 'public',
  };
}
