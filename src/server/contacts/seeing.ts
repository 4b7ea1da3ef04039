import { type ContactPart, partsOf } from '#core/access/contacts.ts';
import type { Asker, Work } from '../app/app.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { resolveContact } from './store.ts';
import { inUnitSql } from './units.ts';

/** A contact as somebody reaches it: which parts they see. 404 where there is none, 403 where none of it is theirs. */
export async function contactFor(
  c: Asker & { tx: Queries },
  id: string,
  ...needed: ContactPart[]
): Promise<{ contactId: string; inUnit: boolean; parts: ReadonlySet<ContactPart> }> {
  const contactId = await resolveContact(c.tx, id);
  if (!contactId) throw notFound('This contact');
  const inUnit =
    c.staff.unitId !== null &&
    Boolean(
      await first(c.tx, `select 1 as x where ${inUnitSql('$1::uuid', '$2::uuid')}`, [
        contactId,
        c.staff.unitId,
      ]),
    );
  const parts = partsOf(c.staff, inUnit);
  demandParts(parts, ['name', ...needed]);
  return { contactId, inUnit, parts };
}

/** Refuses whoever does not see every one of these parts. */
export function demandParts(parts: ReadonlySet<ContactPart>, needed: readonly ContactPart[]): void {
  if (!needed.every((p) => parts.has(p))) throw refused('not-your-part', {}, 403);
}

/** Writes down that somebody read facts about health, of whom and where. */
export async function logCare(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'actor'>,
  place: string,
  read: readonly { contactId: string | null; registrationId?: string; eventId?: string }[],
): Promise<void> {
  await insert(
    w.tx,
    'care_reads',
    read.map((r) => ({
      id: w.app.ids.id(),
      at: w.now,
      staffId: w.actor.staffId,
      actor: w.actor.name,
      place,
      contactId: r.contactId,
      registrationId: r.registrationId ?? null,
      eventId: r.eventId ?? null,
    })),
  );
}
