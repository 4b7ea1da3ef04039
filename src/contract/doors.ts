import { z } from 'zod';
import { amount, contract, date, id, idParams, instant, personName } from './endpoint.ts';

export const doorRow = z.object({
  registrationId: id,
  orderId: id,
  given: z.string(),
  family: z.string(),
  party: z.string(),
  offer: z.string(),
  attendance: z.enum(['expected', 'arrived', 'left', 'missed']),
  arrivedAt: instant.nullable(),
  light: z.enum(['go', 'settle', 'stop']),
  headline: z.string(),
  details: z.array(z.string()),
  balance: amount,
  /** True where something about their health is to be known; read apart, and each reading is written down. */
  care: z.boolean(),
});
export type DoorRow = z.infer<typeof doorRow>;

export const doorsContract = contract({
  'GET /api/events/:id/doors': {
    summary: 'The door list with live counts',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    response: z.object({
      title: z.string(),
      startsLocal: z.string().nullable(),
      state: z.string(),
      confirmed: z.int(),
      arrived: z.int(),
      inside: z.int(),
      capacity: z.int().nullable(),
      offers: z.array(z.object({ id, name: z.string(), price: amount })),
      rows: z.array(doorRow),
    }),
  },
  'GET /api/registrations/:id/care': {
    summary:
      'What has to be known about somebody’s health and needs at this event; the reading is written down',
    who: ['door', 'unit lead'],
    params: idParams,
    response: z.object({ notes: z.array(z.string()) }),
  },
  'POST /api/events/:id/scan': {
    summary: 'What a scanned or typed pass code means at this door; marks nothing',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    body: z.object({ code: z.string().max(300) }),
    response: z.object({
      row: doorRow.nullable(),
      light: z.enum(['go', 'settle', 'stop']),
      headline: z.string(),
      details: z.array(z.string()),
    }),
  },
  'POST /api/registrations/:id/attendance': {
    summary: 'Mark somebody arrived or left, or take the mark back',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    body: z.object({
      state: z.enum(['expected', 'arrived', 'left']),
      despite: z.string().trim().max(300).default(''),
    }),
    response: z.object({ state: z.enum(['expected', 'arrived', 'left', 'missed']), changed: z.boolean() }),
  },
  'POST /api/events/:id/walk-ins': {
    summary: 'Let somebody in who was not registered: matched to a contact or made one',
    who: ['door', 'unit lead', 'crew lead'],
    params: idParams,
    body: personName.extend({
      given: z.string().trim().min(1, 'Give a first name.').max(100),
      email: z.string().trim().max(254).default(''),
      phone: z.string().trim().max(40).default(''),
      birthDate: date.nullable().default(null),
      offerId: id,
      despite: z.string().trim().max(300).default(''),
    }),
    response: z.object({
      registrationId: id,
      contactId: id,
      known: z.boolean(),
      reasons: z.array(z.string()),
      balance: amount,
    }),
  },
});
