import { fullName } from '#core/contacts/names.ts';
import { lives } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { WaiverStanding } from '#core/waivers/needs.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { askedBefore, crewNeeds, seatsToChase, signingAt, type WaiverAt } from './store.ts';

/** Somebody of whom something is asked at an event, with how it stands. */
export interface Chased {
  key: string;
  contactId: string | null;
  name: string;
  part: 'seat' | 'crew';
  standing: WaiverStanding;
  toSign: string[];
  partly: string[];
  lastAsked: string | null;
  reachable: boolean;
  /** Whose booking it is; of the crew, none. */
  orderId: string | null;
}

/** Everybody at an event who is asked to sign: confirmed seats and crew, who has not first. */
export async function chasedAt(
  w: Pick<Work, 'tx' | 'now'>,
  event: EventRow,
): Promise<{ waivers: readonly WaiverAt[]; rows: Chased[] }> {
  const { tx } = w;
  const { ageOfMajority, zone } = await theOrganization(tx);
  const today = dateOf(w.now, zone);
  const signing = await signingAt(tx, event, ageOfMajority, today);
  const seats = signing.waivers.length ? await seatsToChase(tx, event.id) : [];
  const crew = signing.waivers.length ? await crewNeeds(tx, event, ageOfMajority, today) : [];
  const asked = await askedBefore(tx, event.id);
  const rows: Chased[] = [
    ...seats.map((s) => {
      const { standing, toSign, partly } = signing.need(s.id);
      return {
        key: `seat ${s.id}`,
        contactId: s.contactId,
        name: fullName({ given: s.givenName, family: s.familyName }),
        part: 'seat' as const,
        standing,
        toSign,
        partly,
        lastAsked: asked.get(s.orderId) ?? null,
        reachable: s.reachable,
        orderId: s.orderId,
      };
    }),
    ...crew.map(({ contactId, name, standing, toSign, partly, reachable }) => ({
      key: `crew ${contactId}`,
      contactId,
      name,
      part: 'crew' as const,
      standing,
      toSign,
      partly,
      lastAsked: asked.get(contactId) ?? null,
      reachable,
      orderId: null,
    })),
  ].filter((row) => row.standing !== 'not asked');
  const open = (row: Chased) => (row.toSign.length ? 0 : 1);
  return {
    waivers: signing.waivers,
    rows: rows.sort(
      (a, b) =>
        open(a) - open(b) || Number(a.name === '') - Number(b.name === '') || a.name.localeCompare(b.name),
    ),
  };
}

/**
 * Asks some of those who have not signed, now: one letter to each booking, one to each of the crew. Who signed meanwhile is not asked.
 * Answers how many letters go, and how many people have no address to write to.
 */
export async function askToSign(
  w: Work,
  event: EventRow,
  keys: readonly string[],
): Promise<{ asked: number; notReached: number }> {
  if (!lives(event.state)) throw refused('event-is', { state: event.state });
  const { waivers, rows } = await chasedAt(w, event);
  const open = rows.filter((row) => row.toSign.length && keys.includes(row.key));
  const reached = open.filter((row) => row.reachable);
  const orders = new Set(reached.flatMap((row) => row.orderId ?? []));
  const crew = reached.filter((row) => row.part === 'crew').map((row) => row.contactId!);
  const asked = new Set(reached.flatMap((row) => row.toSign));
  const titles = waivers
    .filter((waiver) => asked.has(waiver.id))
    .map((waiver) => waiver.title)
    .join(', ');
  for (const orderId of orders)
    await record(w, 'signature asked', { eventId: event.id, orderId, contactId: null, titles });
  for (const contactId of crew)
    await record(w, 'signature asked', { eventId: event.id, orderId: null, contactId, titles });
  return { asked: orders.size + crew.length, notReached: open.length - reached.length };
}
