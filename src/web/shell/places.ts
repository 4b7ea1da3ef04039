import type { QueryClient } from '@tanstack/react-query';
import { about } from '#web/about.ts';
import { addressOf, call, type Key } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';

/** The places of the application, in the order of the bar. */
export const places = ['Desk', 'Clearance', 'Season', 'Contacts', 'Ledger', 'Records', 'Tray'] as const;
export type Place = (typeof places)[number];

/** What they are called. */
export const placeNames: Record<Place, string> = {
  Desk: phrase('common.desk'),
  Clearance: phrase('clearance.place'),
  Season: phrase('common.season'),
  Contacts: phrase('common.contacts'),
  Ledger: phrase('common.ledger'),
  Records: phrase('common.records'),
  Tray: phrase('common.tray'),
};

/** Places only some roles have use for. */
export const needs: Partial<Record<Place, readonly string[]>> = {
  Clearance: ['approver'],
  Contacts: ['coordinator', 'treasurer', 'crew lead'],
  Ledger: ['coordinator', 'treasurer'],
  Tray: ['coordinator', 'unit lead', 'crew lead'],
};

/** How each place is loaded. */
export const placeLoads = {
  Desk: () => import('../desk/Desk.tsx'),
  Clearance: () => import('../clearance/Waiting.tsx'),
  Season: () => import('../season/Season.tsx'),
  Contacts: () => import('../contacts/Contacts.tsx'),
  Ledger: () => import('../ledger/Ledger.tsx'),
  Records: () => import('../records/Records.tsx'),
  Tray: () => import('../tray/Tray.tsx'),
} as const satisfies Record<Place, () => Promise<object>>;

/** What each place asks for first, where that is the same whatever is chosen there. */
const placeAsks: Partial<Record<Place, Key>> = {
  Desk: 'GET /api/desk',
  Clearance: 'GET /api/clearance/waiting',
  Season: 'GET /api/events',
  Records: 'GET /api/events',
};

/** Loads a place before it is come to. One that does not arrive is said to where it is come to. */
export const loadAhead = (place: Place): Promise<unknown> => placeLoads[place]().catch(() => null);

/** Fetches a place before it is come to; what was just asked is not asked again. */
export function askAhead(client: QueryClient, place: Place): void {
  void loadAhead(place);
  const key = placeAsks[place];
  if (key)
    void client.prefetchQuery({
      queryKey: [addressOf(key)],
      queryFn: () => call(key),
      meta: about(key),
      staleTime: 5_000,
    });
}
