import { type EventState, silentStates } from '#core/events/states.ts';

/**
 * Whether somebody reads the link of the online room: with a confirmed seat there, or with any where the event has no offer
 * for it alone.
 */
export function mayJoin(
  event: { online: object | null; state: EventState },
  offers: readonly { id: string; online?: boolean }[],
  /** The offer of each of their confirmed seats. */
  confirmed: readonly string[],
): boolean {
  if (!event.online || silentStates.includes(event.state)) return false;
  const apart = offers.some((o) => o.online);
  return confirmed.some((offerId) => !apart || offers.some((o) => o.id === offerId && o.online));
}
