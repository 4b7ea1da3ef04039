import type { MessageStepPlan } from '#contract/events.ts';
import { type LeftOut, type PlannedMessage, type PlanStep, planStep } from '#core/messages/plan.ts';
import { insert, type Queries } from '../db/database.ts';
import { type EventRow, readEvent, readMessageSteps } from '../events/store.ts';
import type { Work } from '../http/app.ts';
import { attendeeRecipients, crewRecipients, orderRecipients, type RecipientRow } from './store.ts';

const quietWords = 'asked not to be contacted';

/** Everybody a step concerns, with the reasons known now for leaving somebody out. */
export async function recipientsOf(
  tx: Queries,
  event: EventRow,
  step: MessageStepPlan,
  orderId: string | null,
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
      notBecause: r.quiet ? quietWords : null,
    }));
  }
  if (step.audience === 'orders')
    return (await orderRecipients(tx, event.id, orderId)).map((r) => ({
      key: r.orderId,
      contactId: r.contactId,
      name: r.name,
      email: r.email,
      language: r.language,
      anchor: r.confirmedAt,
      since: r.confirmedAt,
      coveredBy: null,
      notBecause:
        r.quiet && step.kind !== 'confirmation'
          ? quietWords
          : step.kind === 'waiver' && !event.waiverId
            ? 'no waiver is asked at this event'
            : step.kind === 'waiver' && r.waiversMissing === 0
              ? 'every waiver is signed'
              : null,
    }));
  const rows = await attendeeRecipients(tx, event.id, orderId);
  const seen = new Set<string>();
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
          notBecause: r.buyerQuiet ? quietWords : null,
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
        coveredBy: own || step.kind === 'survey' ? null : r.buyerName,
        notBecause: r.quiet
          ? quietWords
          : step.kind === 'survey' && r.attendance === 'missed'
            ? 'did not come'
            : null,
      },
    ];
  });
}

/** Works a whole step out: who gets it when, and who does not and why. */
export async function workOut(
  tx: Queries,
  event: EventRow,
  step: MessageStepPlan,
  orderId: string | null = null,
): Promise<{ planned: PlannedMessage[]; leftOut: LeftOut[]; languages: Map<string, 'en' | 'fr'> }> {
  const recipients = await recipientsOf(tx, event, step, orderId);
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
  const over = ['called off', 'shelved'].includes(event.state);
  let moved = 0;
  for (const step of await readMessageSteps(tx, eventId)) {
    if (orderId && step.audience === 'crew') continue;
    const { planned, leftOut, languages } = over
      ? { planned: [], leftOut: [], languages: new Map() }
      : await workOut(tx, event, step, orderId);
    const rows = await tx.query<{
      id: string;
      recipientKey: string;
      state: string;
      plannedFor: string | null;
    }>(
      `select m.id, m.recipient_key, m.state, m.planned_for from messages m
       left join registrations r on r.id::text = m.recipient_key
       where m.step_id = $1 and ($2::text is null or m.recipient_key in ($2, 'order ' || $2) or r.order_id::text = $2)`,
      [step.id, orderId],
    );
    const existing = new Map(rows.map((r) => [r.recipientKey, r]));
    const wanted = new Set<string>();
    const fresh: object[] = [];
    for (const p of planned) {
      wanted.add(p.recipient.key);
      const row = existing.get(p.recipient.key);
      if (!row)
        fresh.push({
          id: app.ids.id(),
          eventId,
          stepId: step.id,
          recipientKey: p.recipient.key,
          kind: step.kind,
          contactId: p.recipient.contactId,
          name: p.recipient.name,
          address: p.recipient.email,
          language: languages.get(p.recipient.key) ?? 'en',
          state: 'planned',
          reason: p.reason,
          plannedFor: p.at,
          nextTryAt: p.at,
          attempts: 0,
          createdAt: now,
        });
      else if (row.state === 'planned' || (row.state === 'held back' && p.at > now)) {
        if (row.plannedFor !== p.at || row.state !== 'planned') {
          moved += 1;
          await tx.query(
            "update messages set state = 'planned', planned_for = $2, next_try_at = $2, address = $3, reason = $4, why_not = null where id = $1",
            [row.id, p.at, p.recipient.email, p.reason],
          );
        }
      }
    }
    await insert(tx, 'messages', fresh);
    const gone = rows.filter((r) => r.state === 'planned' && !wanted.has(r.recipientKey));
    for (const row of gone) {
      const why = over
        ? `the event was ${event.state}`
        : (leftOut.find((l) => l.recipient.key === row.recipientKey)?.why ?? 'no longer taking part');
      await tx.query(
        "update messages set state = 'held back', why_not = $2, next_try_at = null where id = $1",
        [row.id, why],
      );
    }
  }
  return moved;
}
