import { lasts } from '#core/access/duties.ts';
import type { Viewer } from '#core/access/viewer.ts';
import { splitName } from '#core/contacts/names.ts';
import type { Currency } from '#core/money/amount.ts';
import { isTold, type Noticed, sumUp, tellOf, toldAt, usualMorning } from '#core/notices/notices.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { insert } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { planDirect } from '../messages/direct.ts';
import { theOrganization } from '../staff/store.ts';
import { readWisher, readWishers, takeTogether, type Wisher } from './store.ts';

/** What is said of something that happened. */
interface Said {
  who: string;
  contactId?: string | null;
  count?: number | null;
  amount?: number | null;
  currency?: Currency | null;
  words?: string;
}

/** The longest that is quoted of what somebody wrote. */
const quoted = 300;

/** One of the team with the duties that last. */
const asViewer = (wisher: Wisher, now: string): Viewer => ({
  ...wisher,
  duties: wisher.duties.filter((d) => lasts(d.part, d, now)),
});

/** Whether somebody is still to be told of something at an event. */
async function concerns(w: Work, what: Noticed, eventId: string | null, to: Wisher): Promise<boolean> {
  const viewer = asViewer(to, w.now);
  if (to.onlyMine && !viewer.duties.some((d) => d.eventId === eventId)) return false;
  return isTold(viewer, what, eventId ? await readEvent(w.tx, eventId) : null, w.now);
}

/** Notes something for those of the team who want to be told of it and may see it. Whoever did it knows. */
export async function notice(
  w: Work,
  what: Noticed,
  eventId: string | null,
  said: () => Promise<Said>,
  onlyTo: (to: Wisher) => boolean = () => true,
): Promise<void> {
  // What is only tried is told nobody.
  if (w.change?.trying) return;
  const wishers = (await readWishers(w.tx, what, w.actor.staffId)).filter(onlyTo);
  if (!wishers.length) return;
  const { zone, quietHours } = await theOrganization(w.tx);
  const about = await said();
  for (const to of wishers) {
    if (!(await concerns(w, what, eventId, to))) continue;
    await insert(w.tx, 'notices', [
      {
        id: w.app.ids.id(),
        staffId: to.id,
        told: to.when,
        what,
        eventId,
        who: about.who,
        contactId: about.contactId ?? null,
        count: about.count ?? null,
        amount: about.amount ?? null,
        currency: about.currency ?? null,
        words: (about.words ?? '').slice(0, quoted),
        at: w.now,
        // Whichever of those that come soon is due first takes the others along.
        goesAt: toldAt(to.when, w.now, quietHours?.until ?? usualMorning, zone),
      },
    ]);
  }
}

/** Writes to one of the team what happened, all that is due to them as one message: in one transaction, so that it is told once. */
export const tellNotices = (app: App, id: string): Promise<void> =>
  inTransaction(app, systemActor, async (w) => {
    const taken = await takeTogether(w.tx, id);
    const to = taken[0] && (await readWisher(w.tx, taken[0].staffId));
    if (!to) return;
    // Somebody who left a unit meanwhile is told nothing more of it.
    const told = [];
    for (const one of taken) if (await concerns(w, one.what, one.eventId, to)) told.push(one);
    if (!told.length) return;
    const { name: organization } = await theOrganization(w.tx);
    await planDirect(w, {
      kind: 'notice',
      key: `notice:${id}`,
      to: { name: to.name, email: to.email, contactId: null, language: 'en' },
      // To the team, not to people of an event: it is none of its messages.
      eventId: null,
      reason: told[0]!.when === 'soon' ? 'asked to be told soon' : 'asked to be told each morning',
      values: { name: splitName(to.name).given || to.name, organization },
      own: { happened: sumUp(told), words: tellOf(told), page: `${app.origin}/account` },
    });
  });
