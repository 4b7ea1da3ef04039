import type { MessageRow, messagesContract } from '#contract/messages.ts';
import { messagesSeen } from '#core/access/messages.ts';
import { hideLinks } from '#core/messages/links.ts';
import { sayMoment } from '#core/messages/moments.ts';
import { sayReason } from '#core/words/reasons.ts';
import { eventFor } from '../events/access.ts';
import { readEvent, readMessageSteps } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { retry } from './commands.ts';
import { planFor } from './planning.ts';
import { orderOf, render } from './sending.ts';
import { countTray, readInTray, readOfSteps, readText, readTray } from './tray.ts';

const page = 200;

/** A message without what only tells to which step and whom it belongs. */
const shown = ({
  stepId: _,
  recipientKey: __,
  ...row
}: Awaited<ReturnType<typeof readOfSteps>>[number]): MessageRow => row;

export const messagesHandlers: Handlers<typeof messagesContract> = {
  'GET /api/tray': async ({ tx, query, staff }) => {
    const reach = messagesSeen(staff);
    const rows = await readTray(tx, query.state, reach, query.eventId ?? null, page + 1, query.offset);
    const counts = await countTray(tx, reach, query.eventId ?? null);
    return { rows: rows.slice(0, page), counts, more: rows.length > page };
  },

  'GET /api/messages/:id': async ({ tx, app, now, params, staff }) => {
    const reach = messagesSeen(staff);
    const row = await readInTray(tx, reach, params.id);
    if (!row) throw notFound('This message');
    const stored = await readText(tx, params.id);
    if (stored.body !== null || !row.eventId)
      return { ...row, subject: hideLinks(stored.subject ?? ''), body: hideLinks(stored.body ?? '') };
    const step = (await readMessageSteps(tx, row.eventId)).find((s) => s.id === stored.stepId);
    if (!step) return { ...row, subject: '', body: '' };
    const event = await readEvent(tx, row.eventId);
    const text = await render(
      { tx, app, now },
      event,
      step,
      { ...stored, contactId: row.contactId, name: row.name },
      await orderOf(tx, step.audience, stored),
      true,
    );
    return { ...row, subject: hideLinks(text.subject), body: hideLinks(text.body) };
  },

  'POST /api/messages/:id/retry': async (c) => {
    await retry(c, c.params.id);
    return { done: true };
  },

  'GET /api/events/:id/messages': async (c) => {
    const { tx, params } = c;
    const event = await eventFor(c, params.id, 'messages', 'see');
    const steps = await readMessageSteps(tx, params.id);
    const rows = await readOfSteps(tx, params.id);
    return Promise.all(
      steps.map(async (step) => {
        // By the step itself: two of one name are two.
        const mine = rows.filter((r) => r.stepId === step.id);
        const { leftOut } = await planFor(tx, event, step);
        const held = mine.filter((r) => r.state === 'held back');
        const heldKeys = new Set(held.map((h) => h.recipientKey));
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
              whyNot: sayReason(l.why),
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
          rows: going.map(shown),
          leftOut: [...held.map(shown), ...computed],
        };
      }),
    );
  },
};
