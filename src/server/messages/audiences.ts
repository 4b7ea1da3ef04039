import type { MessageStepPlan } from '#contract/plan.ts';
import { becauseQuiet } from '#core/contacts/quiet.ts';
import { type Audience, keyOf } from '#core/messages/audiences.ts';
import { asksForWaivers, coversOthers, type Standing, whyNotGot } from '#core/messages/conditions.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { stillToSign, waiverNeeds } from '../waivers/store.ts';
import { attendeeRecipients, crewRecipients, orderRecipients, type RecipientRow } from './store.ts';

/** Who is there to write to, of an event or of one order in it; read once however many steps ask. */
export interface People {
  event: EventRow;
  /** Only what concerns one order; null for everybody. */
  orderId: string | null;
  orders(): ReturnType<typeof orderRecipients>;
  attendees(): ReturnType<typeof attendeeRecipients>;
  crew(): ReturnType<typeof crewRecipients>;
  /** Whether anything is signed there at all, and the orders for whose seats somebody still has to. */
  signing(): Promise<{ asked: boolean; unsigned: ReadonlySet<string> }>;
}

/** Reads something the first time it is asked for. */
function lazily<T>(read: () => Promise<T>): () => Promise<T> {
  let reading: Promise<T> | undefined;
  return () => {
    reading ??= read();
    return reading;
  };
}

export function peopleOf(tx: Queries, event: EventRow, orderId: string | null): People {
  return {
    event,
    orderId,
    orders: lazily(() => orderRecipients(tx, event.id, orderId)),
    attendees: lazily(() => attendeeRecipients(tx, event.id, orderId)),
    crew: lazily(() => crewRecipients(tx, event.id)),
    signing: lazily(async () => {
      const { ageOfMajority } = await theOrganization(tx);
      const since = event.createdAt.slice(0, 10);
      const needs = await waiverNeeds(tx, event, ageOfMajority, since, orderId);
      return {
        asked: needs.length > 0,
        unsigned: new Set(needs.filter(stillToSign).map((need) => need.orderId)),
      };
    }),
  };
}

/** What of a step decides whom it concerns. */
type Asked = Pick<MessageStepPlan, 'audience' | 'kind'>;

/** Everybody a step concerns, with the reasons known now for leaving somebody out. */
export const recipientsOf = (people: People, step: Asked): Promise<RecipientRow[]> =>
  readers[step.audience](people, step);

const nothingKnown: Standing = { waiver: null, attendance: null, owes: null };

/** Who is in each audience. */
const readers: Record<Audience, (people: People, step: Asked) => Promise<RecipientRow[]>> = {
  async orders(people, step) {
    const signing = asksForWaivers(step.kind) ? await people.signing() : null;
    return (await people.orders()).map((r) => ({
      key: keyOf({ of: 'order', id: r.orderId }),
      contactId: r.contactId,
      name: r.name,
      email: r.email,
      language: r.language,
      anchor: r.confirmedAt,
      since: r.confirmedAt,
      coveredBy: null,
      excludedBecause:
        becauseQuiet(r.quiet) ??
        whyNotGot(step.kind, {
          ...nothingKnown,
          owes: r.owed > 0,
          waiver: signing && { asked: signing.asked, missing: signing.unsigned.has(r.orderId) },
        }),
    }));
  },

  async attendees(people, step) {
    const rows = await people.attendees();
    const covers = coversOthers(step.kind);
    const seen = new Set<string>();
    const buyerSeat = (orderId: string) => rows.find((x) => x.orderId === orderId && x.isBuyer);
    /** Under which key the buyer of an order gets the copy: as somebody who comes, or as the buyer alone. */
    const copyOf = (orderId: string) => {
      const seat = buyerSeat(orderId);
      return keyOf(seat ? { of: 'seat', id: seat.registrationId } : { of: 'buyer', id: orderId });
    };
    return rows.flatMap((r): RecipientRow[] => {
      const own = r.isBuyer || (r.contactId && r.email);
      const since = { language: r.language, anchor: r.confirmedAt, since: r.confirmedAt };
      const covered: RecipientRow[] = [];
      // The buyer gets the copy for everybody without an address, also when they do not come themselves.
      if (!own && covers) {
        if (!buyerSeat(r.orderId) && !seen.has(r.orderId))
          covered.push({
            key: keyOf({ of: 'buyer', id: r.orderId }),
            contactId: r.buyerContactId,
            name: r.buyerName,
            email: r.buyerEmail,
            ...since,
            coveredBy: null,
            excludedBecause: becauseQuiet(r.buyerQuiet),
          });
        seen.add(r.orderId);
      }
      return [
        ...covered,
        {
          key: keyOf({ of: 'seat', id: r.registrationId }),
          contactId: r.contactId,
          name: r.name || 'a guest not named yet',
          email: r.isBuyer ? (r.buyerEmail ?? r.email) : r.email,
          ...since,
          coveredBy: own || !covers ? null : { key: copyOf(r.orderId), name: r.buyerName },
          excludedBecause:
            becauseQuiet(r.quiet) ?? whyNotGot(step.kind, { ...nothingKnown, attendance: r.attendance }),
        },
      ];
    });
  },

  async crew(people, step) {
    // An order says nothing of the crew.
    if (people.orderId) return [];
    return (await people.crew()).map((r) => ({
      key: keyOf({ of: 'shift', id: r.assignmentId }),
      contactId: r.contactId,
      name: r.name,
      email: r.email,
      language: r.language,
      anchor: r.startsAt,
      since: r.madeAt,
      coveredBy: null,
      excludedBecause: becauseQuiet(r.quiet) ?? whyNotGot(step.kind, nothingKnown),
    }));
  },
};
