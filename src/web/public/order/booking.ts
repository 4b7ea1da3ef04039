import { useQueryClient } from '@tanstack/react-query';
import type { PublicOrder } from '#contract/registration.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';

export type Seat = PublicOrder['seats'][number];

/** Asks for the booking anew, once something of it was changed. */
export function useReload(token: string) {
  const client = useQueryClient();
  return () =>
    client.invalidateQueries({ queryKey: [addressOf('GET /api/public/orders/:token', { token })] });
}

/** True for a seat that nobody stands behind any more. */
export const isGone = (seat: Pick<Seat, 'state'>): boolean =>
  ['withdrawn', 'lapsed', 'declined'].includes(seat.state);

/** Whether a seat is that of whoever booked, as far as the names tell. */
export const isBuyer = (seat: Seat, { buyer }: PublicOrder): boolean =>
  fold(fullName(seat)) === fold(fullName(buyer));

/** The offers of the seats that stand. */
export const offersOf = (order: PublicOrder): string[] =>
  order.seats.filter((s) => !isGone(s)).map((s) => s.offerId);
