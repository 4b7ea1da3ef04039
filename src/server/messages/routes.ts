import type { MessageRow, messagesContract } from '#contract/messages.ts';
import { type MessageReach, messagesSeen } from '#core/access/messages.ts';
import { hideLinks } from '#core/messages/links.ts';
import { sayMoment } from '#core/messages/moments.ts';
import { coming, undelivered } from '#core/messages/states.ts';
import { among } from '../db/among.ts';
import { first, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { readEvent, readMessageSteps } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, notFound } from '../http/problem.ts';
import { planFor } from './planning.ts';
import { orderOf, render } from './sending.ts';
import { listMessages } from './store.ts';

const page = 200;
const conditions = {
  coming: `m.state in ${among(coming)}`,
  sent: "m.state = 'sent'",
  failed: `m.state in ${among(undelivered)}`,
  'held back': "m.state = 'held back'",
} as const;
const orders = {
  coming: 'm.planned_for, m.id',
  sent: 'm.sent_at desc, m.id desc',
  failed: 'm.planned_for desc, m.id',
  'held back': 'm.planned_for desc nulls last, m.id',
} as const;

/** The reach of a viewer over messages `m` of events `e`, as SQL whose parameters begin at `$n`. */
const reachSql = (n: number): string =>
  `($${n}::boolean or ($${n + 1}::uuid is not null and e.unit_id = $${n + 1})
    or ($${n + 2}::boolean and m.kind in ('shift', 'crew', 'overlap') and ($${n + 3}::uuid is null or e.unit_id = $${n + 3})))`;
const reachParams = (r: MessageReach): unknown[] => [r.everything, r.ofUnit, r.ofCrew, r.crewUnit];

export const messagesHandlers: Handlers<typeof messagesContract> = {
  'GET /api/tray': async ({ tx, query, staff }) => {
    const reach = messagesSeen(staff);
    const forEvent = `($1::uuid is null or m.event_id = $1) and ${reachSql(2)}`;
    const rows = await listMessages(
      tx,
      `${conditions[query.state]} and ${forEvent}`,
      [query.eventId ?? null, ...reachParams(reach)],
      orders[query.state],
      page + 1,
      query.offset,
    );
    const counts = await first<{ coming: number; sent: number; failed: number; heldBack: number }>(
      tx,
      `select ${Object.entries(conditions)
        .map(([name, c]) => `count(*) filter (where ${c})::int as ${name.replace(' ', '_')}`)
        .join(', ')} from messages m left join events e on e.id = m.event_id where ${forEvent}`,
      [query.eventId ?? null, ...reachParams(reach)],
    );
    return { rows: rows.slice(0, page), counts: counts!, more: rows.length > page };
  },

  'GET /api/messages/:id': async ({ tx, app, now, params, staff }) => {
    const reach = messagesSeen(staff);
    const [row] = await listMessages(
      tx,
      `m.id = $1 and ${reachSql(2)}`,
      [params.id, ...reachParams(reach)],
      'm.id',
      1,
      0,
    );
    if (!row) throw notFound('This message');
    const stored = await first<{
      subject: string | null;
      body: string | null;
      stepId: string | null;
      recipientKey: string;
      language: 'en' | 'fr';
    }>(tx, 'select subject, body, step_id, recipient_key, language from messages where id = $1', [params.id]);
    if (stored!.body !== null || !row.eventId)
      return { ...row, subject: hideLinks(stored!.subject ?? ''), body: hideLinks(stored!.body ?? '') };
    const step = (await readMessageSteps(tx, row.eventId)).find((s) => s.id === stored!.stepId);
    if (!step) return { ...row, subject: '', body: '' };
    const event = await readEvent(tx, row.eventId);
    const text = await render(
      { tx, app, now },
      event,
      step,
      { ...stored!, contactId: row.contactId, name: row.name },
      await orderOf(tx, step.audience, stored!),
      true,
    );
    return { ...row, subject: hideLinks(text.subject), body: hideLinks(text.body) };
  },

  'POST /api/messages/:id/retry': async ({ tx, params, now }) => {
    const message = await first<{ state: string }>(tx, 'select state from messages where id = $1', [
      params.id,
    ]);
    if (!message) throw notFound('This message');
    if (message.state !== 'failed')
      throw conflict('not-failed', `This message is ${message.state}, it did not fail.`);
    await update(tx, 'messages', params.id, { nextTryAt: now });
    return { done: true };
  },

  'GET /api/events/:id/messages': async (c) => {
    const { tx, params } = c;
    const event = await eventFor(c, params.id, 'messages', 'see');
    const steps = await readMessageSteps(tx, params.id);
    const rows = await listMessages(
      tx,
      'm.event_id = $1 and m.step_id is not null',
      [params.id],
      'm.planned_for nulls last, m.name',
      5000,
      0,
    );
    const about = new Map(
      (
        await tx.query<{ id: string; stepId: string; recipientKey: string }>(
          'select id, step_id, recipient_key from messages where event_id = $1 and step_id is not null',
          [params.id],
        )
      ).map((m) => [m.id, m]),
    );
    return Promise.all(
      steps.map(async (step) => {
        // By the step itself: two of one name are two.
        const mine = rows.filter((r) => about.get(r.id)?.stepId === step.id);
        const { leftOut } = await planFor(tx, event, step);
        const held = mine.filter((r) => r.state === 'held back');
        const heldKeys = new Set(held.map((h) => about.get(h.id)?.recipientKey));
        const computed = leftOut
          .filter((l) => !heldKeys.has(l.recipient.key))
          .map(
            (l): MessageRow => ({
              id: step.id,
              eventId: event.id,
              event: event.publicTitle,
              step: step.name,
              kind: step.kind,
              contactId: l.recipient.contactId,
              name: l.recipient.name,
              address: l.recipient.email,
              state: 'held back',
              reason: step.name,
              whyNot: l.why,
              plannedFor: null,
              nextTryAt: null,
              sentAt: null,
              attempts: 0,
            }),
          );
        const going = mine.filter((r) => r.state !== 'held back');
        return {
          stepId: step.id,
          name: step.name,
          when: sayMoment({
            moment: step.moment,
            offset: { days: step.offsetDays, minutes: step.offsetMinutes },
          }),
          audience: step.audience,
          planned: going.filter((r) => r.state === 'planned' || r.state === 'due').length,
          sent: going.filter((r) => r.state === 'sent').length,
          failed: going.filter((r) => r.state === 'failed' || r.state === 'bounced').length,
          firstAt: going[0]?.plannedFor ?? null,
          rows: going,
          leftOut: [...held, ...computed],
        };
      }),
    );
  },
};
