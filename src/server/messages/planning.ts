import type { MessageStepPlan } from '#contract/events.ts';
import { silentStates } from '#core/events/states.ts';
import { type LeftOut, type PlannedMessage, type PlanStep, planStep } from '#core/messages/plan.ts';
import { insert, type Queries } from '../db/database.ts';
import { type EventRow, readEvent, readMessageSteps } from '../events/store.ts';
import type { Work } from '../http/app.ts';
import { theOrganization } from '../staff/store.ts';
import { stillToSign, waiverNeeds } from '../waivers/store.ts';
import {
  attendeeRecipients,
  crewRecipients,
  holdBack,
  holdBackRemoved,
  type Moved,
  movePlanned,
  orderRecipients,
  type RecipientRow,
  readPlanned,
} from './store.ts';

/** Who is there to write to, read once however many steps ask. */
interface Audience {
  orders(): ReturnType<typeof orderRecipients>;
  attendees(): ReturnType<typeof attendeeRecipients>;
  /** Orders for whose seats somebody still has to sign. */
  unsigned(): Promise<ReadonlySet<string>>;
}

function audienceOf(tx: Queries, event: EventRow, orderId: string | null): Audience {
  const eventId = event.id;
  let unsigned: ReturnType<Audience['unsigned']> | undefined;
  let orders: ReturnType<Audience['orders']> | undefined;
  let attendees: ReturnType<Audience['attendees']> | undefined;
  return {
    orders: () => {
      orders ??= orderRecipients(tx, eventId, orderId);
      return orders;
    },
    attendees: () => {
      attendees ??= attendeeRecipients(tx, eventId, orderId);
      return attendees;
    },
    unsigned: () => {
      unsigned ??= ordersToSign(tx, event, orderId);
      return unsigned;
    },
  };
}

async function ordersToSign(
  tx: Queries,
  event: EventRow,
  orderId: string | null,
): Promise<ReadonlySet<string>> {
  const { ageOfMajority } = await theOrganization(tx);
  const needs = await waiverNeeds(tx, event, ageOfMajority, event.createdAt.slice(0, 10), orderId);
  return new Set(needs.filter(stillToSign).map((need) => need.orderId));
}

/** Everybody a step concerns, with the reasons known now for leaving somebody out. */
export async function recipientsOf(
  tx: Queries,
  event: EventRow,
  step: MessageStepPlan,
  orderId: string | null,
  audience: Audience,
): Promise<RecipientRow[]> {
  if (step.audience === 'crew') {
    if (orderId) return [];
    return (await crewRecipients(tx, event.id)).map((r) => ({
      key: r.assignmentId,
      contactId: r.contactId,
      name: r.name,
      email: r.email,
      language: r.language,
      anchor: r.startsAt,
      since: r.madeAt,
      coveredBy: null,
      excludedBecause: r.quiet,
    }));
  }
  const unsigned = step.kind === 'waiver' ? await audience.unsigned() : null;
  if (step.audience === 'orders')
    return (await audience.orders()).map((r) => ({
      key: r.orderId,
      contactId: r.contactId,
      name: r.name,
      email: r.email,
      language: r.language,
      anchor: r.confirmedAt,
      since: r.confirmedAt,
      coveredBy: null,
      excludedBecause: r.quiet
        ? r.quiet
        : step.kind === 'waiver' && !event.waiverId
          ? 'no waiver is asked at this event'
          : unsigned && !unsigned.has(r.orderId)
            ? 'nothing is left to sign'
            : null,
    }));
  const rows = await audience.attendees();
  const seen = new Set<string>();
  /** Under which key the buyer of an order gets the copy: as somebody who comes, or as the buyer alone. */
  const copyOf = (orderId: string) =>
    rows.find((x) => x.orderId === orderId && x.isBuyer)?.registrationId ?? `order ${orderId}`;
  return rows.flatMap((r): RecipientRow[] => {
    const own = r.isBuyer || (r.contactId && r.email);
    const covered: RecipientRow[] = [];
    // The buyer gets the copy for everybody without an address, also when they do not come themselves.
    if (!own && step.kind !== 'survey') {
      const buyerComes = rows.some((x) => x.orderId === r.orderId && x.isBuyer);
      if (!buyerComes && !seen.has(r.orderId))
        covered.push({
          key: `order ${r.orderId}`,
          contactId: r.buyerContactId,
          name: r.buyerName,
          email: r.buyerEmail,
          language: r.language,
          anchor: r.confirmedAt,
          since: r.confirmedAt,
          coveredBy: null,
          excludedBecause: r.buyerQuiet,
        });
      seen.add(r.orderId);
    }
    return [
      ...covered,
      {
        key: r.registrationId,
        contactId: r.contactId,
        name: r.name || 'a guest not named yet',
        email: r.isBuyer ? (r.buyerEmail ?? r.email) : r.email,
        language: r.language,
        anchor: r.confirmedAt,
        since: r.confirmedAt,
        coveredBy: own || step.kind === 'survey' ? null : { key: copyOf(r.orderId), name: r.buyerName },
        excludedBecause: r.quiet
          ? r.quiet
          : step.kind === 'survey' && r.attendance === 'missed'
            ? 'did not come'
            : null,
      },
    ];
  });
}

/** Works a whole step out: who gets it when, and who does not and why. */
export async function planFor(
  tx: Queries,
  event: EventRow,
  step: MessageStepPlan,
  orderId: string | null = null,
  audience: Audience = audienceOf(tx, event, orderId),
): Promise<{ planned: PlannedMessage[]; leftOut: LeftOut[]; languages: Map<string, 'en' | 'fr'> }> {
  const recipients = await recipientsOf(tx, event, step, orderId, audience);
  const plan: PlanStep = {
    id: step.id,
    name: step.name,
    moment: step.moment,
    offset: { days: step.offsetDays, minutes: step.offsetMinutes },
    audience: step.audience,
  };
  return {
    ...planStep(plan, event, recipients),
    languages: new Map(recipients.map((r) => [r.key, r.language])),
  };
}

/**
 * Brings the planned rows of an event, or of one order in it, to what the plan says now: missing ones are added,
 * those that have not gone out move, those that no longer apply are held back with the reason. What was sent stays.
 * Answers how many moved.
 */
export async function replan(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  eventId: string,
  orderId: string | null = null,
): Promise<number> {
  const { tx, app, now } = w;
  const event = await readEvent(tx, eventId);
  const over = silentStates.includes(event.state);
  const audience = audienceOf(tx, event, orderId);
  const steps = (await readMessageSteps(tx, eventId)).filter((s) => !orderId || s.audience !== 'crew');
  const rows = await readPlanned(
    tx,
    eventId,
    steps.map((s) => s.id),
    orderId,
  );
  const fresh: object[] = [];
  const moved: Moved[] = [];
  const gone: { id: string; why: string }[] = [];
  for (const step of steps) {
    const { planned, leftOut, languages } = over
      ? { planned: [], leftOut: [], languages: new Map() }
      : await planFor(tx, event, step, orderId, audience);
    const ofStep = rows.filter((r) => r.stepId === step.id);
    const existing = new Map(ofStep.map((r) => [r.recipientKey, r]));
    const wanted = new Set<string>();
    for (const { recipient, at, reason } of planned) {
      wanted.add(recipient.key);
      const row = existing.get(recipient.key);
      if (!row)
        fresh.push({
          id: app.ids.id(),
          eventId,
          stepId: step.id,
          recipientKey: recipient.key,
          kind: step.kind,
          contactId: recipient.contactId,
          name: recipient.name,
          address: recipient.email,
          language: languages.get(recipient.key) ?? 'en',
          state: 'planned',
          reason,
          plannedFor: at,
          nextTryAt: at,
          attempts: 0,
          createdAt: now,
        });
      else if ((row.state === 'planned' && row.plannedFor !== at) || (row.state === 'held back' && at > now))
        moved.push({ id: row.id, at, address: recipient.email, reason });
    }
    for (const row of ofStep)
      if (row.state === 'planned' && !wanted.has(row.recipientKey))
        gone.push({
          id: row.id,
          why: over
            ? `the event was ${event.state}`
            : (leftOut.find((l) => l.recipient.key === row.recipientKey)?.why ?? 'no longer taking part'),
        });
  }
  await insert(tx, 'messages', fresh);
  await movePlanned(tx, moved);
  await holdBack(tx, gone);
  if (!orderId) await holdBackRemoved(tx, eventId);
  return moved.length;
}
