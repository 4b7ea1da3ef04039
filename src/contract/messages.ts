import { z } from 'zod';
import { messageStates } from '#core/messages/states.ts';
import { contract, id, idParams, instant } from './endpoint.ts';

const messageRow = z.object({
  id,
  eventId: id.nullable(),
  event: z.string().nullable(),
  step: z.string().nullable(),
  kind: z.string(),
  contactId: id.nullable(),
  name: z.string(),
  address: z.string().nullable(),
  state: z.enum(messageStates),
  reason: z.string(),
  whyNot: z.string().nullable(),
  plannedFor: instant.nullable(),
  nextTryAt: instant.nullable(),
  sentAt: instant.nullable(),
  attempts: z.int(),
});
export type MessageRow = z.infer<typeof messageRow>;

export const messagesContract = contract({
  'GET /api/tray': {
    summary: 'Every message that is to go out, went out or failed',
    who: ['coordinator', 'unit lead', 'crew lead'],
    query: z.object({
      state: z.enum(['coming', 'sent', 'failed', 'held back']).default('coming'),
      eventId: id.optional(),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    response: z.object({
      rows: z.array(messageRow),
      counts: z.object({ coming: z.int(), sent: z.int(), failed: z.int(), heldBack: z.int() }),
      more: z.boolean(),
    }),
  },
  'GET /api/messages/:id': {
    summary: 'One message as its recipient gets it',
    who: ['coordinator', 'unit lead', 'crew lead'],
    params: idParams,
    response: messageRow.extend({ subject: z.string(), body: z.string() }),
  },
  'POST /api/messages/:id/retry': {
    summary: 'Try a failed message again now',
    who: ['coordinator'],
    params: idParams,
    response: z.object({ done: z.literal(true) }),
  },
  'GET /api/events/:id/messages': {
    summary: 'The message plan of an event: per step who gets it and when, and who does not and why',
    who: 'staff',
    params: idParams,
    response: z.array(
      z.object({
        stepId: id,
        name: z.string(),
        when: z.string(),
        audience: z.string(),
        planned: z.int(),
        sent: z.int(),
        failed: z.int(),
        firstAt: instant.nullable(),
        rows: z.array(messageRow),
        leftOut: z.array(messageRow),
      }),
    ),
  },
});
