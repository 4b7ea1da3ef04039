import type { Request } from 'express';
import type { Visitor } from '#core/access/visitor.ts';
import { codeLimits } from '#core/contacts/codes.ts';
import { onShift } from '#core/crew/states.ts';
import { standing } from '#core/registration/states.ts';
import type { App, Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { cookieOf } from '../http/cookies.ts';
import { resolveContact } from './store.ts';

// People of the public who are signed in; the staff has sessions of its own (server/staff).

const cookieName = (app: App): string =>
  app.origin.startsWith('https:') ? '__Host-acolyte_visitor' : 'acolyte_visitor';

/** What is asked of is asked within the transaction of whoever asks, where they have one. */
type Asking = Pick<Work, 'app' | 'tx'>;

/** Seconds between writing down that a session was used. */
const seenEvery = 60;

/** Whose session a request comes with; null when nobody is signed in, or whoever was is not there any more. */
async function contactOf({ app, tx }: Asking, request: Request | undefined): Promise<string | null> {
  const token = request && cookieOf(request, cookieName(app));
  if (!token) return null;
  const now = app.sessionClock.now();
  const session = await first<{ id: string; contactId: string; seenAt: string }>(
    tx,
    `select s.id, s.contact_id, s.seen_at from visitor_sessions s where s.token_hash = $1 and s.expires_at > $2`,
    [sha256(token), now],
  );
  const contactId = session && (await resolveContact(tx, session.contactId));
  if (
    !contactId ||
    (await first(tx, 'select 1 as x from contacts where id = $1 and erased_at is not null', [contactId]))
  )
    return null;
  if (Date.parse(now) - Date.parse(session.seenAt) > seenEvery * 1000)
    await tx.query('update visitor_sessions set seen_at = $2 where id = $1', [session.id, now]);
  return contactId;
}

/** Who of the public sends a request, with what decides which events they see. */
export async function visitorOf(by: Asking, request: Request | undefined): Promise<Visitor | null> {
  const contactId = await contactOf(by, request);
  return contactId ? asVisitor(by.tx, contactId) : null;
}

/** Somebody on record, with what decides which events they see and what they pay. */
export const asVisitor = async (tx: Queries, contactId: string): Promise<Visitor> =>
  (await asVisitors(tx, [contactId])).get(contactId)!;

/** The same of several, by their ids. */
export async function asVisitors(
  tx: Queries,
  contactIds: readonly string[],
): Promise<ReadonlyMap<string, Visitor>> {
  if (!contactIds.length) return new Map();
  const rows = await tx.query<{
    contactId: string;
    memberships: Visitor['memberships'];
    invitedTo: string[];
    partOf: string[];
  }>(
    `select who.id as contact_id,
       coalesce((select jsonb_agg(jsonb_build_object('unitId', m.unit_id, 'from', m.since, 'until', m.until)) from (
           select null::uuid as unit_id, starts_on as since, ends_on as until from memberships where contact_id = who.id
           union all select unit_id, since, until from unit_people where contact_id = who.id) m), '[]') as memberships,
       array(select event_id from event_invited where contact_id = who.id) as invited_to,
       array(select r.event_id from registrations r where r.contact_id = who.id and r.state in ${among(standing)}
         union select o.event_id from orders o join registrations r on r.order_id = o.id
           where o.buyer_contact_id = who.id and r.state in ${among(standing)}
         union select s.event_id from assignments a join shifts s on s.id = a.shift_id where a.contact_id = who.id and a.state in ${among(onShift)}
         union select event_id from speakers where contact_id = who.id and removed_at is null) as part_of
     from unnest($1::uuid[]) as who (id)`,
    [contactIds],
  );
  return new Map(
    rows.map(({ contactId, memberships, invitedTo, partOf }) => [
      contactId,
      { contactId, memberships, invitedTo: new Set(invitedTo), partOf: new Set(partOf) },
    ]),
  );
}

/** Begins the session of somebody and sets its cookie: HttpOnly, SameSite=Lax, Secure where the product is reached by https. */
export async function beginVisit(app: App, tx: Queries, request: Request, contactId: string): Promise<void> {
  const token = Buffer.from(app.ids.bytes(32)).toString('base64url');
  const now = app.sessionClock.now();
  const lasts = codeLimits.days * 86_400_000;
  await insert(tx, 'visitor_sessions', {
    id: app.ids.unordered(),
    tokenHash: sha256(token),
    contactId,
    createdAt: now,
    seenAt: now,
    expiresAt: new Date(Date.parse(now) + lasts).toISOString(),
  });
  request.res!.cookie(cookieName(app), token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: app.origin.startsWith('https:'),
    path: '/',
    maxAge: lasts,
  });
}

/** Ends the session a request comes with. */
export async function endVisit(app: App, tx: Queries, request: Request): Promise<void> {
  const token = cookieOf(request, cookieName(app));
  if (token) await tx.query('delete from visitor_sessions where token_hash = $1', [sha256(token)]);
  request.res!.clearCookie(cookieName(app), { path: '/' });
}
