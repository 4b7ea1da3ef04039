import { type Actor, type App, inTransaction } from '#server/app/app.ts';
import { first, update } from '#server/db/database.ts';
import { correctAttendance } from '#server/doors/attending.ts';
import { dispute } from '#server/doors/disputes.ts';
import { readEvent } from '#server/events/store.ts';
import { readSeat } from '#server/registration/store.ts';

/**
 * How doors were kept and what became of it: of the night in the reedhouse two leavings are entered afterwards, and a parent says that their
 * child was there; the symposium has certificates; so many fit into the boats.
 */
export async function playAttending(app: App, staffId: string | null): Promise<void> {
  const odalys: Actor = { name: 'Odalys Ferrant', staffId, requestId: null };
  const usual = { goHome: false, handover: false, most: null, certificate: null };
  await inTransaction(app, odalys, async (w) => {
    const named = async (title: string, starts: string) =>
      (
        await first<{ id: string }>(
          w.tx,
          'select id from events where public_title = $1 and starts_local >= $2::timestamp and not is_template order by starts_local limit 1',
          [title, starts],
        )
      )?.id;
    const [night, boats, symposium] = [
      await named('Mudlarks Overnight', '2026-06-27'),
      await named('Boat Evening', '2026-07-09'),
      await named('Reedbed Symposium', '2026-07-09'),
    ];
    if (boats) await update(w.tx, 'events', boats, { doors: { ...usual, most: 22 } });
    if (symposium)
      await update(w.tx, 'events', symposium, {
        doors: { ...usual, goHome: true, certificate: { share: 80, of: 'sessions' } },
      });
    if (!night) return;
    await update(w.tx, 'events', night, { doors: { ...usual, handover: true } });
    const event = await readEvent(w.tx, night);
    const seats = async (state: string, most: number) =>
      w.tx.query<{ id: string }>(
        `select a.registration_id as id from attendance a join registrations r on r.id = a.registration_id
         where a.event_id = $1 and a.state = $2 order by r.family_name, r.given_name limit $3`,
        [night, state, most],
      );
    for (const { id } of await seats('arrived', 2))
      await correctAttendance(w, event, await readSeat(w.tx, id), {
        sessionId: null,
        stays: [{ fromLocal: '2026-06-27T16:58', untilLocal: '2026-06-28T07:40' }],
        why: 'Collected early, on the paper list of the night leaders',
      });
    for (const { id } of await seats('missed', 1))
      await dispute(w, await readSeat(w.tx, id), 'buyer', {
        says: 'came',
        words: 'I brought him at six, straight to the fire pit.',
        language: 'en',
      });
  });
}
