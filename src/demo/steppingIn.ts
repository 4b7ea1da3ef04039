import { type App, inTransaction, systemActor, type Work } from '#server/app/app.ts';
import { findAgainst, giveShiftBack } from '#server/crew/commands.ts';
import { waitFor } from '#server/crew/steppingInCommands.ts';
import { type OwnShiftRow, ownShifts, readShift, readShifts } from '#server/crew/store.ts';
import { wishSwap } from '#server/crew/swappingCommands.ts';
import { otherShifts } from '#server/crew/swappingStore.ts';
import { first } from '#server/db/database.ts';

/** Who waits for a full shift of Open Water Day, who gave one back and is looked for, and who would rather have another's. */
export async function playSteppingIn(app: App): Promise<void> {
  const day = await first<{ id: string }>(
    app.db,
    "select id from events where public_title = 'Open Water Day' and state = 'open' and starts_at > $1 order by starts_at limit 1",
    [app.clock.now()],
  );
  if (!day) return;
  const at = (hoursAgo: number) => new Date(Date.parse(app.clock.now()) - hoursAgo * 3_600_000).toISOString();
  const then = <T>(hoursAgo: number, work: (w: Work) => Promise<T>) =>
    inTransaction(app, systemActor, (w) => work({ ...w, now: at(hoursAgo) }));
  const shifts = await readShifts(app.db, day.id);
  const full = shifts.filter((s) => s.filled >= s.wished && s.publicSignUp);
  const known = await app.db.query<{ given: string; family: string; email: string }>(
    `select c.given_name as given, c.family_name as family, m.email from contacts c join contact_emails m on m.contact_id = c.id and m.position = 0
     where c.merged_into is null and c.deceased_on is null and not c.do_not_contact and m.ended_on is null and m.bounced_at is null
       and exists (select 1 from assignments a where a.contact_id = c.id and a.state = 'served')
       and not exists (select 1 from assignments a join shifts s on s.id = a.shift_id where a.contact_id = c.id and s.event_id = $1)
     order by c.id limit 3`,
    [day.id],
  );
  const [wanted] = full.filter((s) => s.role === 'Shore guide' || s.role === 'Welcome desk');
  if (wanted)
    for (const [n, who] of known.entries())
      await then(90 - n * 20, async (w) =>
        waitFor(w, await readShift(w.tx, wanted.id, true), { ...who, phone: '', language: 'en' }),
      );
  // Somebody cannot come after all: others are asked.
  const [lost] = full.filter((s) => s.id !== wanted?.id && s.assignments[0]?.state === 'agreed');
  if (lost) {
    const { contactId, id } = lost.assignments[0]!;
    await then(3, (w) => giveShiftBack(w, contactId, id, 'My sister’s wedding was moved to that day.'));
  }
  await wishSwaps(then, day.id, new Set([lost?.id, wanted?.id]));
}

/** Two who would have each other's shift, and one whose wish nothing fits. */
async function wishSwaps(
  then: <T>(hoursAgo: number, work: (w: Work) => Promise<T>) => Promise<T>,
  eventId: string,
  but: ReadonlySet<string | undefined>,
): Promise<void> {
  await then(20, async (w) => {
    const shifts = await readShifts(w.tx, eventId);
    const full = new Set(shifts.filter((s) => s.filled >= s.wished).map((s) => s.id));
    const people: { contactId: string; own: OwnShiftRow; others: ReadonlySet<string> }[] = [];
    for (const shift of shifts) {
      const one = shift.assignments.find((a) => a.state === 'agreed');
      if (!one || but.has(shift.id) || people.some((p) => p.contactId === one.contactId)) continue;
      const own = (await ownShifts(w.tx, one.contactId)).find((s) => s.id === shift.id)!;
      const others = new Set((await otherShifts(w.tx, one.contactId, w.now)).map((o) => o.shiftId));
      people.push({ contactId: one.contactId, own, others });
    }
    const free = async (p: (typeof people)[number], to: (typeof people)[number]) =>
      !(await findAgainst(w.tx, to.own, p.contactId, [p.own.id])).length;
    const wish = (p: (typeof people)[number], to: (typeof people)[number]) =>
      wishSwap(w, p.contactId, { assignmentId: p.own.assignmentId, wants: [to.own.id] });
    const apart = (p: (typeof people)[number], q: (typeof people)[number]) =>
      p.own.role === q.own.role &&
      p.own.startsAt !== q.own.startsAt &&
      p.others.has(q.own.id) &&
      q.others.has(p.own.id);
    for (const p of people) {
      for (const q of people.filter((x) => x !== p && apart(p, x))) {
        if (!(await free(p, q)) || !(await free(q, p))) continue;
        await wish(p, q);
        await wish(q, p);
        const third = people.find((x) => x !== p && x !== q && x.others.has(q.own.id) && full.has(q.own.id));
        if (third) await wish(third, q);
        return;
      }
    }
  });
}
