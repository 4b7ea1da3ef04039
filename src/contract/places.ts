import { z } from 'zod';
import { contract, date, done, id, idParams, instant, wallTime } from './endpoint.ts';
import { shownPicture } from './pictures.ts';

const room = z.object({
  id,
  name: z.string().trim().min(1, 'name-needed').max(80),
  capacity: z.int('not-whole').min(1, 'at-least-one-or-none').max(100_000).nullable().default(null),
  /** How it can be set up, and how many it holds then. */
  layouts: z
    .array(
      z.object({
        name: z.string().trim().min(1, 'name-needed').max(60),
        capacity: z.int('not-whole').min(1, 'at-least-one').max(100_000),
      }),
    )
    .max(12)
    .default([]),
});
export type RoomBody = z.output<typeof room>;
const closed = z.object({
  /** 0 for Sunday. */
  weekdays: z.array(z.int().min(0).max(6)).max(7),
  dates: z
    .array(
      z
        .object({ from: date, to: date, why: z.string().trim().max(120) })
        .refine((d) => d.from <= d.to, { path: ['to'], message: 'ends-before-it-begins' }),
    )
    .max(60),
});
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
    /** Several events may be there at once. */
    shared: z.boolean().default(false),
    /** Whether it is the organization's own; null where nobody said. */
    ours: z.boolean().nullable().default(null),
    closed: closed.default({ weekdays: [], dates: [] }),
    rooms: z.array(room).max(60).default([]),
    pictureId: id.nullable().default(null),
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
  shared: z.boolean(),
  ours: z.boolean().nullable(),
  closed,
  rooms: z.array(room),
  latitude: z.number().nullable(),
  longitude: z.number().nullable(),
  retired: z.boolean(),
  picture: shownPicture.nullable(),
  /** Events that take place there, and those of them that are still to come. */
  events: z.int(),
  coming: z.int(),
});
export type Place = z.infer<typeof place>;

const offset = z.object({ east: z.number(), north: z.number() });
/** What lies around a place, in metres from it. */
export const sketch = z.object({
  reach: z.number(),
  features: z.array(
    z.object({
      name: z.string(),
      kind: z.enum(['street', 'path', 'water', 'landmark']),
      line: z.array(offset),
      label: offset.nullable(),
    }),
  ),
});

const addressProposal = z.object({
  address: z.string(),
  latitude: z.number().nullable(),
  longitude: z.number().nullable(),
  /** The place of the register that has it; null where it is of the gazetteer. */
  of: z.string().nullable(),
});

const placeStanding = z.object({
  /** Events that have it at that time; `agreed` where somebody decided that they share it. */
  taken: z.array(z.object({ eventId: id, title: z.string(), when: z.string(), agreed: z.boolean() })),
  /** Rooms of the same place that are free then, and starts at which it is free. */
  rooms: z.array(z.object({ id, name: z.string(), capacity: z.int().nullable() })),
  starts: z.array(wallTime),
  /** What stands in diaries that others keep of it. */
  outside: z.array(
    z.object({ diary: z.string(), summary: z.string(), when: z.string(), tentative: z.boolean() }),
  ),
  /** Why it is closed that day; null where it is not. */
  closed: z.union([z.object({ why: z.string() }), z.object({ weekday: z.int() })]).nullable(),
});
export type PlaceStanding = z.infer<typeof placeStanding>;

const diary = z.object({
  id,
  name: z.string(),
  address: z.string().nullable(),
  roomId: id.nullable(),
  readAt: instant.nullable(),
  /** Why the last reading failed; null where it did not. */
  problem: z.string().nullable(),
  entries: z.int(),
  /** Entries that could not be understood, and zones nobody knows. */
  unread: z.int(),
  unknownZones: z.array(z.string()),
});
export type PlaceDiary = z.infer<typeof diary>;

export const placesContract = contract({
  'GET /api/venues': {
    summary: 'The register of places, with what takes place there',
    who: ['coordinator'],
    response: z.array(place),
  },
  'GET /api/addresses': {
    summary: 'Addresses that what is typed may mean, from the register of places and from the gazetteer',
    who: ['coordinator'],
    query: z.object({ typed: z.string().max(200) }),
    response: z.array(addressProposal),
  },
  'GET /api/events/:id/place': {
    summary: 'Who is at a place at the time in mind for an event, and which rooms and times are free',
    who: ['unit lead'],
    params: idParams,
    query: z.object({
      venueId: id,
      roomId: id.optional(),
      startsLocal: wallTime,
      endsLocal: wallTime.optional(),
      doorsLocal: wallTime.optional(),
    }),
    response: placeStanding,
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
  'GET /api/venues/:id/diaries': {
    summary: 'The diaries that others keep of a place',
    who: ['coordinator'],
    params: idParams,
    response: z.array(diary),
  },
  'POST /api/venues/:id/diaries': {
    summary:
      'Add a diary of a place, from an iCalendar address that is read again every six hours, or from a file; what stands in it is warned about',
    who: ['coordinator'],
    ownTransactions: true,
    limit: '28mb',
    params: idParams,
    body: z
      .object({
        name: text(120).min(1, 'name-needed'),
        roomId: id.nullable().default(null),
        address: z
          .string()
          .trim()
          .max(2000)
          .regex(/^https?:\/\/[^\s/]+\.[^\s/]+/u, 'no-address')
          .nullable()
          .default(null),
        content: z.string().max(26_000_000).nullable().default(null),
      })
      .refine((b) => (b.address === null) !== (b.content === null), {
        path: ['address'],
        message: 'diary-address-or-file',
      }),
    response: z.object({ id, entries: z.int() }),
  },
  'DELETE /api/diaries/:id': {
    summary: 'Take a diary away: what stands in it is not warned about any more',
    who: ['coordinator'],
    params: idParams,
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
