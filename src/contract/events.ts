import { z } from 'zod';
import { eventFacts } from '#core/access/stages.ts';
import { pageTextFields } from '#core/events/french.ts';
import { moves } from '#core/events/moves.ts';
import { eventStates, stages } from '#core/events/states.ts';
import { missingThings } from '#core/season/missing.ts';
import { contract, date, done, id, idParams, instant, money, text } from './endpoint.ts';
import { kindMark } from './kinds.ts';
import { plannedPicture } from './pictures.ts';
import { eventPlan, planFields } from './plan.ts';
import { proposedEvent } from './proposed.ts';

const marginNote = z.object({
  tone: z.enum(['stop', 'need', 'know']),
  headline: z.string(),
  text: z.string(),
  action: z
    .object({ label: z.string(), stage: z.enum(stages).nullable(), href: z.string().nullable() })
    .nullable(),
});
export type MarginNote = z.infer<typeof marginNote>;

const pin = z.object({ stage: z.enum(stages), at: instant, text: z.string(), late: z.boolean() });
/** What the asker may see and change of an event, and which facts within that they see. */
const reach = z.object({
  see: z.array(z.enum(stages)),
  change: z.array(z.enum(stages)),
  facts: z.array(z.enum(eventFacts)),
});
const eventPage = z.object({
  id,
  may: reach,
  version: z.int(),
  state: z.enum(eventStates),
  /** What can be done with it now; empty for who may not change its plan. */
  moves: z.array(z.enum(moves)),
  isTemplate: z.boolean(),
  /** The series it is a date of. */
  seriesId: id.nullable(),
  plan: eventPlan,
  unitName: z.string().nullable(),
  venue: z.object({ id, name: z.string(), address: z.string(), capacity: z.int().nullable() }).nullable(),
  startsAt: instant.nullable(),
  endsAt: instant.nullable(),
  doorsAt: instant.nullable(),
  /** The pictures of its page: banner, gallery, and those in its text. */
  pictures: z.array(plannedPicture),
  /** How the French of what the public reads stands beside the English. */
  french: z.partialRecord(z.enum(pageTextFields), z.enum(['there', 'missing', 'lags'])),
  /** How many work on it beyond their roles. */
  team: z.int(),
  /** The last change of the asker's own that was not taken back. */
  undoable: z.object({ change: id, field: z.enum(planFields) }).nullable(),
  /** Whether something was changed that can be taken back still, with what followed. */
  settling: z.boolean(),
  /** Who proposed it from outside, for those who may change its plan. */
  proposal: proposedEvent.nullable(),
  copiedFrom: z
    .object({
      title: z.string(),
      /** What did not come along and why, with the stage where it is settled. */
      leftBehind: z.array(z.object({ text: z.string(), stage: z.enum(['clearance', 'crew']).nullable() })),
    })
    .nullable(),
  /** What waits for a date: where it stood around, and how many shifts. */
  waits: z.object({ startsLocal: z.string(), shifts: z.int() }).nullable(),
  lacks: z.array(z.object({ stage: z.enum(stages), text: z.string(), stops: z.boolean() })),
  spine: z.object({
    stages: z.array(
      z.object({ stage: z.enum(stages), standing: z.enum(['done', 'current', 'ahead']), pins: z.array(pin) }),
    ),
    today: z.object({ text: z.string(), stage: z.enum(stages), afterPins: z.int() }).nullable(),
  }),
  margin: z.array(marginNote),
  publicUrl: z.string().nullable(),
});
export type EventPage = z.infer<typeof eventPage>;

const seasonEvent = z.object({
  id,
  title: z.string(),
  unit: z.string().nullable(),
  state: z.enum(eventStates),
  isTemplate: z.boolean(),
  /** The first event that it goes back to by copying: what takes place again and again has one. */
  firstOf: id,
  /** The series it is a date of. */
  seriesId: id.nullable(),
  startsLocal: z.string().nullable(),
  endsLocal: z.string().nullable(),
  startsAt: instant.nullable(),
  endsAt: instant.nullable(),
  zone: z.string(),
  venue: z.string().nullable(),
  capacity: z.int().nullable(),
  /** What kind of event it is, and the mark of that; null where that has none. */
  category: z.string(),
  mark: kindMark.nullable(),
  /** Who leads it, by name. */
  leads: z.array(z.string()),
  /** The room or place it has to itself; null where several may be. */
  space: z.string().nullable(),
  /** What it still lacks; empty for who does not see its plan. */
  missing: z.array(z.enum(missingThings)),
  confirmed: z.int(),
  held: z.int(),
  waitlisted: z.int(),
  arrived: z.int(),
  /** The stages that the asker may see, in order; none where it is only known to take place. */
  see: z.array(z.enum(stages)),
});
export type SeasonEvent = z.infer<typeof seasonEvent>;

const deskEntry = z.object({
  /** How pressing, most pressing first. */
  urgency: z.int(),
  when: z.string(),
  tone: z.enum(['stop', 'need', 'know']),
  subject: z.string(),
  about: z.string(),
  text: z.string(),
  action: z.object({ label: z.string(), href: z.string() }),
});
export type DeskEntry = z.infer<typeof deskEntry>;

const venueChoice = z.object({
  id,
  name: z.string(),
  address: z.string(),
  capacity: z.int().nullable(),
  /** Whether it is the organization's own; null where nobody said. */
  ours: z.boolean().nullable(),
  rooms: z.array(
    z.object({
      id,
      name: z.string(),
      capacity: z.int().nullable(),
      layouts: z.array(z.object({ name: z.string(), capacity: z.int() })),
    }),
  ),
});
export type VenueChoice = z.infer<typeof venueChoice>;

const named = text(120).trim().min(1, 'name-needed');
export const lead = ['unit lead'] as const;
export const eventsContract = contract({
  'GET /api/desk': {
    summary: 'What needs somebody now, most urgent first, and what happened since yesterday',
    who: 'staff',
    response: z.object({
      today: date,
      entries: z.array(deskEntry),
      since: z.array(
        z.object({
          label: z.string(),
          count: z.int().nullable(),
          amount: money.nullable(),
          tone: z.enum(['know', 'stop']),
        }),
      ),
      openNow: z.array(seasonEvent),
      ribbon: z.array(seasonEvent),
    }),
  },
  'GET /api/events': {
    summary: 'Every event of the organization',
    who: 'staff',
    response: z.array(seasonEvent),
  },
  'POST /api/events': {
    summary: 'Begin an event from nothing, a template or a past event; no date is filled in',
    who: lead,
    body: z.object({
      publicTitle: text(120).trim().min(1, 'title-needed'),
      from: id.nullable().default(null),
      date: date.nullable().default(null),
    }),
    response: z.object({ id }),
  },
  'GET /api/events/:id/again': {
    summary: 'When an event could take place again, and what a copy of it brings along',
    who: lead,
    params: idParams,
    response: z.object({
      title: z.string(),
      startsLocal: z.string().nullable(),
      proposals: z.array(
        z.object({
          date,
          kind: z.enum(['year', 'month']),
          ordinal: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal('last')]),
          free: z.boolean(),
        }),
      ),
      brings: z.object({ offers: z.int(), questions: z.int(), shifts: z.int(), messages: z.int() }),
    }),
  },
  'GET /api/events/:id': {
    summary: 'One event: plan, spine and margin',
    who: 'staff',
    params: idParams,
    response: eventPage,
  },
  'GET /api/events/:id/history': {
    summary: 'What was changed of a plan, field by field, newest first',
    who: lead,
    params: idParams,
    response: z.array(
      z.object({
        id,
        field: z.enum(planFields),
        at: instant,
        actor: z.string(),
        mine: z.boolean(),
        before: z.unknown(),
        after: z.unknown(),
        undoes: id.nullable(),
        undoneBy: z.string().nullable(),
      }),
    ),
  },
  'POST /api/events/:id/template': {
    summary: 'Keep a template made of an event: everything that comes along to a copy, without its date',
    who: lead,
    params: idParams,
    body: z.object({ publicTitle: text(120).trim().min(1, 'title-needed') }),
    response: z.object({ id }),
  },
  'GET /api/events/:id/preview': {
    summary:
      'The link under which the page of an event can be looked at before it is public; null without one',
    who: lead,
    params: idParams,
    response: z.object({ token: z.string().nullable() }),
  },
  'POST /api/events/:id/preview': {
    summary: 'Make a link to look at the page of an event; another where one was stopped',
    who: lead,
    params: idParams,
    response: z.object({ token: z.string() }),
  },
  'DELETE /api/events/:id/preview': {
    summary: 'Stop that link: whoever has it finds nothing any more',
    who: lead,
    params: idParams,
    response: done,
  },
  'GET /api/events/:id/deletion': {
    summary: 'What would be lost if a draft or template were deleted, and what stands in the way',
    who: lead,
    params: idParams,
    response: z.object({
      hindered: z.string().nullable(),
      offers: z.int(),
      questions: z.int(),
      shifts: z.int(),
      messages: z.int(),
    }),
  },
  'DELETE /api/events/:id': {
    summary: 'Delete a draft or template for good',
    who: lead,
    params: idParams,
    response: done,
  },
  'GET /api/choices': {
    summary: 'Units, venues, waivers, templates and funds to choose from',
    who: 'staff',
    response: z.object({
      units: z.array(z.object({ id, name: z.string() })),
      venues: z.array(venueChoice),
      waivers: z.array(
        z.object({
          id,
          title: z.string(),
          version: z.int(),
          audience: z.string(),
          /** Nobody signs it any more. */
          closed: z.boolean(),
          holds: z.string(),
        }),
      ),
      templates: z.array(z.object({ id, title: z.string() })),
      funds: z.array(z.object({ id, name: z.string() })),
      initiatives: z.array(z.object({ id, name: z.string() })),
      /** Days on which nobody works. */
      holidays: z.array(date),
    }),
  },
  'POST /api/units': {
    summary: 'Add a unit',
    who: ['coordinator'],
    body: z.object({ name: named, about: text(300).default('') }),
    response: z.object({ id }),
  },
  'POST /api/funds': {
    summary: 'Add a fund that donations can go to',
    who: ['coordinator', 'treasurer'],
    body: z.object({ name: named }),
    response: z.object({ id }),
  },
  'PATCH /api/units/:id': {
    summary: 'Give a unit another name',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ name: named }),
    response: done,
  },
  'PATCH /api/funds/:id': {
    summary: 'Give a fund another name',
    who: ['coordinator', 'treasurer'],
    params: idParams,
    body: z.object({ name: named }),
    response: done,
  },
  'GET /api/events/:id/stream': {
    summary: 'Server-sent events: one whenever something about the event changed',
    who: 'staff',
    params: idParams,
    response: { file: 'text/event-stream' },
  },
});
