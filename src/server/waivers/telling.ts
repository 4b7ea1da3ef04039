import type { Request } from 'express';
import type { Work } from '../app/app.ts';
import { theirsOf } from '../contacts/store.ts';
import { visitorOf } from '../contacts/visitor.ts';
import { cameByMail } from '../db/ids.ts';
import type { MayKnow } from './store.ts';

/** From where a request comes, as it says of itself. */
export const sentFrom = (request: Request): { address: string | null; device: string } => ({
  address: request.ip ?? null,
  device: (request.get('user-agent') ?? '').slice(0, 200),
});

/**
 * Of whom whoever opens the link of a booking may be told what they signed elsewhere: of themselves and the children they look after,
 * once they are signed in or have the link from a mail to their own address.
 */
export async function mayBeTold(
  by: Pick<Work, 'app' | 'tx'>,
  request: Request | undefined,
  booking: { token: string; buyerContactId: string | null },
): Promise<MayKnow> {
  const visitor = await visitorOf(by, request);
  const known = new Set<string>();
  if (visitor) for (const id of await theirsOf(by.tx, visitor.contactId)) known.add(id);
  if (booking.buyerContactId && cameByMail(by.app.secret, booking.token))
    for (const id of await theirsOf(by.tx, booking.buyerContactId)) known.add(id);
  return (contactId) => contactId !== null && known.has(contactId);
}
