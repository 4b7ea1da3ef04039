import type { Work } from '../http/app.ts';

/** Tells open pages, once the transaction is kept. */
export function announce(w: Work, eventId: string): void {
  w.afterwards(() => w.app.announcer.announce(`event ${eventId}`));
}
