import type { z } from 'zod';
import type { DoorRow, doorsContract } from '#contract/doors.ts';
import { hasCome } from '#core/doors/attendance.ts';
import { canBeLookedFor, findHere } from '#core/doors/selfCheckIn.ts';
import { eventDayOf } from '#core/doors/verdict.ts';
import { lives } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { followLink, liveLink, openAnew, stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, notFound } from '../http/problem.ts';
import { readSeat } from '../registration/store.ts';
import { signForSeats } from '../waivers/signing.ts';
import { asRead, waiversAt } from '../waivers/store.ts';
import { mark } from './commands.ts';
import { doorRows } from './list.ts';
import { keepPlace, seatsToFind } from './store.ts';

type Said = z.output<(typeof doorsContract)['POST /api/public/here/:token']['body']>;
type Outcome = z.input<(typeof doorsContract)['POST /api/public/here/:token']['response']>;

/** The addresses of the pages of an event where people check themselves in: that of the poster, and that of a shared device; null where they do not. */
export async function selfCheckInPages(
  w: Pick<Work, 'app' | 'tx'>,
  eventId: string,
): Promise<{ page: string | null; kiosk: string | null }> {
  const [here, kiosk] = [await liveLink(w, 'here', eventId), await liveLink(w, 'kiosk', eventId)];
  return {
    page: here && `${w.app.origin}/here/${here}`,
    kiosk: kiosk && `${w.app.origin}/here/${kiosk}?kiosk`,
  };
}

/** Lets people check themselves in at an event, or no longer. A code that was stopped stays so: what hangs on a wall meanwhile opens nothing. */
export async function setSelfCheckIn(
  w: Work,
  eventId: string,
  on: boolean,
): Promise<{ page: string | null; kiosk: string | null }> {
  const now = await selfCheckInPages(w, eventId);
  for (const kind of ['here', 'kiosk'] as const) {
    await (on ? openAnew : stopLink)(w, kind, eventId);
  }
  if (on !== (now.page !== null)) await record(w, 'self check-in set', { eventId, on });
  return selfCheckInPages(w, eventId);
}

/** The event whose poster somebody scanned, or whose shared device they stand at. */
export async function eventHere(tx: Queries, token: string): Promise<{ event: EventRow; kiosk: boolean }> {
  const here = await followLink(tx, 'here', token);
  const id = here ?? (await followLink(tx, 'kiosk', token));
  if (!id) throw notFound('This page');
  return { event: await readEvent(tx, id), kiosk: here === null };
}

/** True while people can check themselves in: on the day, as long as it takes place. */
export const isOpenHere = (event: EventRow, now: string): boolean =>
  lives(event.state) && eventDayOf(event, dateOf(now, event.zone)) === 'today';

/** Somebody says that they are here. Whoever is not found, or has something to settle, is sent to the door: nothing else is said. */
export async function checkIn(
  w: Work,
  { event, kiosk }: { event: EventRow; kiosk: boolean },
  said: Said,
): Promise<Outcome> {
  if (!canBeLookedFor(said)) throw invalid([wrongAt('known', 'known-by-needed')]);
  const answer = (outcome: Outcome['outcome'], others = 0): Outcome => ({ outcome, others, sign: null });
  if (!isOpenHere(event, w.now)) return answer('see the door');
  const people = await seatsToFind(w.tx, event.id);
  const found = findHere(people, said);
  if (!found) return answer('not found');
  const rows = await doorRows(w, event, { now: w.now });
  const own = rows.find((r) => r.registrationId === found.registrationId)!;
  const party = rows.filter(
    (r) => r.orderId === own.orderId && r !== own && (r.given || r.family) && !hasCome(r.attendance),
  );
  const was = hasCome(own.attendance);
  // On a shared device what is missing is signed at once, and it is told for whom; a poster tells nobody.
  const unsigned = kiosk ? toSignHere(own, rows, said.others || !was) : [];
  if (unsigned.length && (unsigned.includes(own) || said.others))
    return {
      outcome: 'sign',
      others: party.length,
      sign: await signShown(w, event, unsigned, said.language),
    };
  if (!was && own.light !== 'go') return answer('see the door');
  const ready = [...(was ? [] : [own]), ...(said.others ? party.filter((r) => r.light === 'go') : [])];
  for (const { registrationId } of ready) {
    await mark(w, registrationId, { eventId: event.id, state: 'arrived', despite: '', device: 'themselves' });
  }
  if (said.place && (was || ready.includes(own))) await keepPlace(w.tx, own.registrationId, said.place);
  const left = party.filter((r) => !ready.includes(r)).length;
  // Others who have something to settle are for the door to see.
  if (said.others && left > 0) return answer('see the door', left);
  return answer(was && !ready.length ? 'already in' : 'in', left);
}

const unsignedOf = (row: DoorRow): boolean =>
  row.toSign.length > 0 && (row.missing.includes('signature') || row.missing.includes('guardian'));

/** For whom somebody at a shared device can sign: for themselves, and for the children of their booking. */
const toSignHere = (own: DoorRow, rows: readonly DoorRow[], withOthers: boolean): DoorRow[] => [
  ...(unsignedOf(own) && !hasCome(own.attendance) ? [own] : []),
  ...(withOthers
    ? rows.filter(
        (r) =>
          r !== own &&
          r.orderId === own.orderId &&
          r.missing.includes('guardian') &&
          unsignedOf(r) &&
          !hasCome(r.attendance) &&
          (r.given || r.family),
      )
    : []),
];

/** What is signed, and for whom, as it is shown. */
async function signShown(
  { tx }: Pick<Work, 'tx'>,
  event: EventRow,
  rows: readonly DoorRow[],
  language: 'en' | 'fr',
): Promise<Outcome['sign']> {
  const asked = new Set(rows.flatMap((r) => r.toSign));
  return {
    waivers: (await waiversAt(tx, event.id)).filter((w) => asked.has(w.id)).map((w) => asRead(w, language)),
    people: rows.map((r) => ({
      registrationId: r.registrationId,
      name: `${r.given} ${r.family}`.trim(),
      relation: r.missing.includes('guardian') ? 'guardian' : 'self',
      toSign: r.toSign,
    })),
  };
}

/** Somebody at a shared device signs: only for their own booking, after saying once more who they are. */
export async function signAtKiosk(
  w: Work,
  { event, kiosk }: { event: EventRow; kiosk: boolean },
  {
    said,
    seats,
    ...hand
  }: z.output<(typeof doorsContract)['POST /api/public/here/:token/signatures']['body']>,
  sent: { address: string | null; device: string },
): Promise<void> {
  if (!kiosk || !isOpenHere(event, w.now)) throw notFound('This page');
  const found = findHere(await seatsToFind(w.tx, event.id), said);
  if (!found) throw notFound('This seat');
  const own = await readSeat(w.tx, found.registrationId);
  const signed = [];
  for (const { registrationId, relation, answers } of seats) {
    const seat = await readSeat(w.tx, registrationId);
    if (seat.orderId !== own.orderId) throw notFound('This seat');
    signed.push({ ...seat, relation, answers });
  }
  await signForSeats(w, signed, hand, {
    ...sent,
    way: 'door',
    // A device that stands there knows nobody's hand.
    mayKnow: () => false,
    signer: null,
    copyTo: null,
    language: said.language,
  });
}
