import { z } from 'zod';
import { contract, done, id, idParams } from './endpoint.ts';

const text = (most: number) => z.string().trim().max(most);
const placeBody = z
  .object({
    name: text(120).min(1, 'name-needed'),
    address: text(200).min(1, 'address-needed'),
    capacity: z.int('not-whole').min(1, 'at-least-one-or-none').max(100_000).nullable().default(null),
    accessNotes: text(500).default(''),
    phone: text(40).default(''),
    openingHours: text(500).default(''),
    /** Minutes that are needed there before an event. */
    setUpMinutes: z.int('not-whole').min(0).max(2880).default(0),
    latitude: z.number('no-latitude').min(-90, 'no-latitude').max(90, 'no-latitude').nullable().default(null),
    longitude: z
      .number('no-longitude')
      .min(-180, 'no-longitude')
      .max(180, 'no-longitude')
      .nullable()
      .default(null),
  })
  .refine((p) => (p.latitude === null) === (p.longitude === null), {
    path: ['longitude'],
    message: 'both-coordinates',
  });
const place = z.object({
  id,
  name: z.string(),
  address: z.string(),
  capacity: z.int().nullable(),
  accessNotes: z.string(),
  phone: z.string(),
  openingHours: z.string(),
  setUpMinutes: z.int(),
  latitude: z.number().nullable(),
  longitude: z.number().nullable(),
  retired: z.boolean(),
  /** Events that take place there, and those of them that are still to come. */
  events: z.int(),
  coming: z.int(),
});
export type Place = z.infer<typeof place>;

export const placesContract = contract({
  'GET /api/venues': {
    summary: 'The register of places, with what takes place there',
    who: ['coordinator'],
    response: z.array(place),
  },
  'POST /api/venues': {
    summary: 'Add a place to the register',
    who: ['coordinator'],
    body: placeBody,
    response: z.object({ id }),
  },
  'PATCH /api/venues/:id': {
    summary: 'Change what is known of a place; every event there shows it',
    who: ['coordinator'],
    params: idParams,
    body: placeBody,
    response: done,
  },
  'POST /api/venues/:id/retire': {
    summary: 'Offer a place no longer to new plans, or again; events that are there stay',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ retired: z.boolean() }),
    response: done,
  },
  'POST /api/venues/:id/merge': {
    summary: 'Make one place of two: its events go to the other, and it is gone',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ into: id }),
    response: z.object({ moved: z.int() }),
  },
});
