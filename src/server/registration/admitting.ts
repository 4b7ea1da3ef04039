import type { PublicEvent } from '#contract/publicEvent.ts';
import type { Visitor } from '#core/access/visitor.ts';
import {
  type Admitted,
  type Applicant,
  admit,
  mayHelpToSignIn,
  type OnList,
} from '#core/admission/admission.ts';
import { seatsByInvitation } from '#core/admission/invitation.ts';
import { holdsOn } from '#core/contacts/membership.ts';
import { codeNamed } from '#core/offers/offer.ts';
import { type Shop, whatIsWrongWithCode } from '#core/offers/quote.ts';
import { standing } from '#core/registration/states.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { isMemberAt } from './asking.ts';
import { companionsOf } from './invited.ts';

/** The guest lists of an event that somebody is on. */
const listsOf = (tx: Queries, eventId: string, contactId: string): Promise<OnList[]> =>
  tx.query<OnList>(
    `select l.free, l.over_capacity from guest_lists l join guest_list_people p on p.list_id = l.id
     where l.event_id = $1 and p.contact_id = $2 order by l.created_at`,
    [eventId, contactId],
  );

/** Whether somebody holds a seat of an event already, booked or was booked for. */
const holdsSeat = async (tx: Queries, eventId: string, contactId: string): Promise<boolean> =>
  (await first(
    tx,
    `select 1 as x from registrations r join orders o on o.id = r.order_id where r.event_id = $1
       and $2 in (r.contact_id, o.buyer_contact_id, o.placed_by) and r.state in ${among(standing)} limit 1`,
    [eventId, contactId],
  )) !== null;

/** What is known of whoever wants to register, with whether a code they entered opens. */
async function applicantOf(
  tx: Queries,
  event: EventRow,
  visitor: Visitor | null,
  code: boolean,
  now: string,
): Promise<Applicant> {
  const day = event.startsLocal?.slice(0, 10) ?? dateOf(now, event.zone);
  return {
    member: isMemberAt(visitor, event, now),
    units: new Set(
      visitor?.memberships.flatMap((m) => (m.unitId !== null && holdsOn(m, day) ? [m.unitId] : [])),
    ),
    lists: visitor ? await listsOf(tx, event.id, visitor.contactId) : [],
    invited: visitor?.invitedTo.has(event.id) ?? false,
    code,
  };
}

export interface Standing {
  admitted: Admitted;
  /** Single seats that cost them nothing. */
  guest: number;
  /** How many seats they can take at most, where they may only because they are invited. */
  most: number | null;
}

/** Whether somebody may register at an event now, and what they are given where they are on a guest list. */
export async function admittedAt(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  event: EventRow,
  visitor: Visitor | null,
  code: boolean,
): Promise<Standing> {
  const applicant = await applicantOf(tx, event, visitor, code, now);
  const local = wallOf(now, event.zone);
  const admitted = admit(event.admission, applicant, local);
  const byInvitation =
    applicant.invited &&
    'in' in admitted &&
    !('in' in admit(event.admission, { ...applicant, invited: false }, local));
  const invitation = byInvitation && visitor ? await companionsOf(tx, event.id, visitor.contactId) : null;
  const free = visitor !== null && 'in' in admitted && admitted.in.free;
  const most = invitation && seatsByInvitation(invitation.companions, invitation.seats);
  return { admitted, most, guest: free && !(await holdsSeat(tx, event.id, visitor.contactId)) ? 1 : 0 };
}

/** True for a code that is good now and opens. */
export const opensNow = (
  shop: Pick<Shop, 'codes'>,
  entered: string,
  asking: Parameters<typeof whatIsWrongWithCode>[1],
): boolean => {
  const code = entered.trim() ? codeNamed(shop.codes, entered) : undefined;
  return code?.opens === true && whatIsWrongWithCode(code, asking) === null;
};

/** Whether whoever looks at the page of an event may register, and else who may. */
export async function admissionShown(
  w: Pick<Work, 'tx' | 'now'>,
  event: EventRow,
  visitor: Visitor | null,
): Promise<PublicEvent['admission']> {
  const { admitted, guest, most } = await admittedAt(w, event, visitor, false);
  const refusals = 'in' in admitted ? [] : admitted.refusals;
  const unitIds = refusals.flatMap((r) => r.unitIds);
  const units = unitIds.length
    ? await w.tx.query<{ id: string; name: string }>('select id, name from units where id = any($1)', [
        unitIds,
      ])
    : [];
  const names = new Map(units.map((u) => [u.id, u.name]));
  return {
    may: 'in' in admitted,
    noReply: event.admission.noReply,
    accepts: event.admission.accepts,
    signIn: visitor === null && mayHelpToSignIn(event.admission),
    guest,
    most,
    ways: refusals.map(({ unitIds, ...r }) => ({
      ...r,
      units: unitIds.flatMap((id) => names.get(id) ?? []),
    })),
  };
}
