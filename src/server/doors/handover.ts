import { handoverCode, isHandoverCode, shortestHanded } from '#core/doors/handover.ts';
import { isMinor } from '#core/waivers/needs.ts';
import type { App } from '../app/app.ts';
import { keyedHash, sha256 } from '../db/ids.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import type { SeatRow } from '../registration/store.ts';

/** The code by which the children of a booking are handed over; only this server can say it. */
export const codeOfOrder = (app: Pick<App, 'secret'>, orderId: string): string =>
  handoverCode(keyedHash(app.secret, `handover:${orderId}`));

/** By what a device knows the code of one child again without a network. */
export const handoverHash = (app: Pick<App, 'secret'>, seat: { id: string; orderId: string }): string =>
  sha256(`${seat.id}:${codeOfOrder(app, seat.orderId)}`).slice(0, 24);

/** Whether somebody leaves this event only with whoever may collect them. */
export const isHandedOver = (
  event: Pick<EventRow, 'doors' | 'startsLocal'>,
  seat: { birthDate: string | null; saidMinor: boolean },
  now: string,
  ageOfMajority: number,
): boolean =>
  event.doors.handover && isMinor(seat, event.startsLocal?.slice(0, 10) ?? now.slice(0, 10), ageOfMajority);

/** What is kept of a handing over: that the code was said, or the name that was. Throws where neither was, or the code is another booking’s. */
export function handedOver(app: Pick<App, 'secret'>, seat: SeatRow, said: string): string {
  if (isHandoverCode(said, codeOfOrder(app, seat.orderId))) return 'code';
  if (said.trim().length < shortestHanded) throw refused('handover-needed');
  // What looks like a code and is none is not taken for a name.
  if (/\d/u.test(said)) throw refused('handover-wrong');
  return said.trim();
}
