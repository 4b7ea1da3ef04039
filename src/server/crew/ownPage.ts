import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { followLink, type Work } from '../app/app.ts';
import { readContact, resolveContact } from '../contacts/store.ts';
import type { Queries } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { asRead, crewNeeds, waiversAt } from '../waivers/store.ts';
import { ownAsks, ownWaits } from './steppingInStore.ts';
import { type OwnShiftRow, ownShifts } from './store.ts';
import { otherShifts, wishedOf } from './swappingStore.ts';

/** Whose shifts a link opens. */
export async function crewByLink(tx: Queries, token: string): Promise<string> {
  const opened = await followLink(tx, 'crew', token);
  // A contact that was merged has its page with the one it became.
  const id = opened && (await resolveContact(tx, opened));
  if (!id) throw notFound('This page');
  return id;
}

/** A shift as whoever is on it sees it. Who only asked for it may be a stranger: they are told nothing of who leads it, or of its briefing. Who leads is reached by telephone on the day only. */
function shownOwn(s: OwnShiftRow, now: string, country: string) {
  const { hours: _, version: __, eventVersion: ___, source: ____, ...shown } = s;
  const day = dateOf(now, s.zone);
  const theDay = day >= s.startsLocal.slice(0, 10) && day <= s.endsLocal.slice(0, 10);
  const asks = s.state === 'proposed';
  return {
    ...shown,
    past: s.endsAt <= now,
    briefing: asks ? '' : s.briefing,
    lead: asks ? null : s.lead,
    leadPhone: theDay && s.state === 'agreed' && s.leadPhone ? sayPhone(s.leadPhone, country) : null,
  };
}

/** What somebody still has to sign for shifts to come, event by event. */
async function toSignOf(
  tx: Queries,
  shifts: readonly OwnShiftRow[],
  by: { contactId: string; now: string; ageOfMajority: number; today: string; language: string },
) {
  const coming = new Map(
    shifts.flatMap((s) => (s.endsAt > by.now && s.state === 'agreed' ? [[s.eventId, s.event] as const] : [])),
  );
  const found = [];
  for (const [eventId, title] of coming) {
    const { startsLocal } = await readEvent(tx, eventId);
    const [need] = await crewNeeds(
      tx,
      { id: eventId, startsLocal },
      by.ageOfMajority,
      by.today,
      by.contactId,
    );
    if (!need?.toSign.length) continue;
    const waivers = (await waiversAt(tx, eventId)).filter((w) => need.toSign.includes(w.id) && !w.closedAt);
    found.push({
      eventId,
      event: title,
      relation: need.standing === 'guardian' ? ('guardian' as const) : ('self' as const),
      waivers: waivers.map((w) => asRead(w, by.language)),
    });
  }
  return found;
}

/** Everything somebody's own page of shifts shows. */
export async function ownPage({ tx, now }: Pick<Work, 'tx' | 'now'>, contactId: string) {
  const contact = (await readContact(tx, contactId))!;
  const shifts = await ownShifts(tx, contactId);
  const { country, ageOfMajority, zone } = await theOrganization(tx);
  const language = contact.language === 'fr' ? 'fr' : 'en';
  return {
    name: contact.givenName || contact.familyName,
    fullName: fullName({ given: contact.givenName, family: contact.familyName }),
    hoursServed: shifts.filter((s) => s.state === 'served').reduce((sum, s) => sum + (s.hours ?? 0), 0),
    shifts: shifts.map((s) => shownOwn(s, now, country)),
    toSign: await toSignOf(tx, shifts, { contactId, now, ageOfMajority, today: dateOf(now, zone), language }),
    asks: await ownAsks(tx, contactId, now),
    waits: await ownWaits(tx, contactId, now),
    others: await otherShifts(tx, contactId, now),
    wished: await wishedOf(tx, contactId, now),
  };
}
