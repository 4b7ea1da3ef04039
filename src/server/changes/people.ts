import type { Concerned } from '#core/changes/letters.ts';
import { becauseQuiet } from '#core/contacts/quiet.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { aboutOf } from '#core/messages/audiences.ts';
import { plainLine } from '#core/messages/lines.ts';
import { planLine } from '#core/messages/planning.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { readSteps } from '../clearance/steps.ts';
import type { EventRow } from '../events/store.ts';
import { peopleOf } from '../messages/audiences.ts';
import { colleagues, decidersOf } from '../messages/clearance.ts';
import { crewShifts, type ShiftOf, speakerRecipients, waitingRecipients } from './store.ts';

/** Somebody whom a change concerns, and how they are written to. */
export interface Addressee {
  to: Concerned;
  /** What they are concerned by: unique among those of one kind. */
  key: string;
  contactId: string | null;
  name: string;
  email: string | null;
  language: 'en' | 'fr';
  /** Why nothing is sent to them. */
  whyNot: Reason | null;
  orderId: string | null;
  /** Of the crew, the shifts they have. */
  shifts: readonly ShiftOf[];
}

const reachable = (quiet: Parameters<typeof becauseQuiet>[0], email: string | null): Reason | null =>
  becauseQuiet(quiet) ?? (email && isEmail(email) ? null : because('no address'));

/**
 * Everybody whom something about an event concerns, as it stands: asked before a change, because afterwards some have no seat, or
 * no shift, any more.
 */
export async function concernedBy(w: Work, event: EventRow): Promise<Addressee[]> {
  const people = peopleOf(w.tx, event, null);
  const orderOfSeat = new Map((await people.attendees()).map((a) => [a.registrationId, a.orderId]));
  // As a reminder goes: one copy an address, the buyer's for those without one.
  const line = {
    ...plainLine,
    id: event.id,
    name: '',
    moment: 'registration made' as const,
    offset: { days: 0, minutes: 0 },
    audience: 'attendees' as const,
    addedAt: null,
    sentByHandAt: null,
  };
  const recipients = await people.of(line.audience);
  const { planned, leftOut } = planLine(line, event, recipients, { quiet: null, holidays: [] });
  const seated = [
    ...planned.map(({ recipient }) => ({ recipient, why: null })),
    // Whoever shares an address with somebody else has the copy.
    ...leftOut.filter((l) => !l.sameAddress && l.why.code !== 'covered by copy'),
  ].map(({ recipient, why }): Addressee => {
    const about = aboutOf('attendees', recipient.key);
    return {
      to: 'registrants',
      key: recipient.key,
      contactId: recipient.contactId,
      name: recipient.name,
      email: recipient.reach.email,
      language: recipient.language,
      whyNot: why,
      orderId: about.of === 'seat' ? (orderOfSeat.get(about.id) ?? null) : about.id,
      shifts: [],
    };
  });
  const base = { orderId: null, shifts: [] };
  const waiting = (await waitingRecipients(w.tx, event.id)).map(
    ({ orderId, quiet, ...one }): Addressee => ({
      ...base,
      ...one,
      to: 'waitlist',
      key: orderId,
      orderId,
      whyNot: reachable(quiet, one.email),
    }),
  );
  const crew = (await crewShifts(w.tx, event.id, w.now)).map(
    ({ quiet, ...one }): Addressee => ({
      ...base,
      ...one,
      to: 'crew',
      key: one.contactId,
      whyNot: reachable(quiet, one.email),
    }),
  );
  const speakers = (await speakerRecipients(w.tx, event.id)).map(
    ({ id, quiet, ...one }): Addressee => ({
      ...base,
      ...one,
      to: 'speakers',
      key: id,
      whyNot: reachable(quiet, one.email),
    }),
  );
  return [...seated, ...waiting, ...crew, ...speakers, ...(await approversOf(w, event))];
}

/** Who has a step of the clearance of an event, but for whoever makes the change. */
async function approversOf(w: Work, event: EventRow): Promise<Addressee[]> {
  const steps = (await readSteps(w.tx, event.id)).filter((s) => s.state !== 'not needed');
  if (!steps.length) return [];
  const all = await colleagues(w);
  const found = new Map<string, (typeof all)[number]>();
  for (const step of steps) for (const one of await decidersOf(w, step, all)) found.set(one.id, one);
  return [...found.values()]
    .filter((one) => one.id !== w.actor.staffId)
    .map(({ id, name, email }) => ({
      to: 'approvers',
      key: id,
      contactId: null,
      name,
      email,
      language: 'en',
      whyNot: null,
      orderId: null,
      shifts: [],
    }));
}
