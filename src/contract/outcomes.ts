import { z } from 'zod';
import { doubts, tallyStates } from '#core/outcomes/tally.ts';
import { registrationStates } from '#core/registration/states.ts';
import { amount, contract, done, id, idParams, instant, text, token, wallTime } from './endpoint.ts';
import { measure } from './measures.ts';

/** What is entered of one measure. */
const entry = z.object({
  measureId: id,
  /** As it was typed; of what is named nothing. */
  said: z.string().trim().max(40).default(''),
  thing: z.string().trim().max(80).default(''),
});
/** Everything entered at once, at one time and place. */
const entered = {
  entries: z.array(entry).min(1, 'tally-nothing').max(20),
  countedLocal: wallTime.nullable(),
  place: z.string().trim().max(120).default(''),
  note: z.string().trim().max(500).default(''),
  pictureId: id.nullable().default(null),
};
const pictureBody = z.object({ content: z.string().min(1, 'not-a-picture') });
const counting = z.object({
  state: z.enum(['undated', 'not yet', 'open', 'over']),
  from: instant.nullable(),
  until: instant.nullable(),
});
const tally = z.object({
  id,
  measureId: id,
  value: z.number().nullable(),
  thing: z.string(),
  said: z.string(),
  countedAt: instant,
  place: z.string(),
  note: z.string(),
  /** Who entered it, as they said; of the team by name. */
  by: z.string(),
  contactId: id.nullable(),
  state: z.enum(tallyStates),
  doubts: z.array(z.enum(doubts)),
  decidedBy: z.string().nullable(),
  why: z.string(),
  picture: z.boolean(),
  enteredAt: instant,
  version: z.int(),
  corrections: z.array(
    z.object({ said: z.string(), countedAt: instant, why: z.string(), actor: z.string(), at: instant }),
  ),
});
const perEach = z.object({
  head: z.number().nullable(),
  hour: z.number().nullable(),
  spent: z.number().nullable(),
});
const tallyParams = idParams.extend({ tally: id });

export const outcomesContract = contract({
  'GET /api/events/:id/figures': {
    summary:
      "An event's figures: seats, attendance, money, hours and survey, with the sums that have to agree",
    who: 'staff',
    params: idParams,
    response: z.object({
      seatsByState: z.record(z.enum(registrationStates), z.int()),
      seats: z.int(),
      arrived: z.int(),
      walkIns: z.int(),
      missed: z.int(),
      expected: z.int(),
      money: z.object({ seats: amount, donations: amount, refunds: amount, net: amount, waived: amount }),
      hoursServed: z.number(),
      survey: z.object({ asked: z.int(), answered: z.int(), share: z.number() }).nullable(),
      checks: z.array(z.object({ text: z.string(), holds: z.boolean() })),
    }),
  },

  'GET /api/events/:id/outcomes': {
    summary: 'What an event changed: totals of its measures and every tally',
    who: 'staff',
    params: idParams,
    response: z.object({
      counting,
      zone: z.string(),
      /** Where people count; null where they do not. */
      page: z.string().nullable(),
      /** What the figures by head, hour and money are reckoned with. Money in minor units. */
      took: z.object({ heads: z.int(), hours: z.number(), spent: z.int() }),
      measures: z.array(
        measure.extend({
          planned: z.number().nullable(),
          total: z.number().nullable(),
          tallies: z.int(),
          waiting: z.int(),
          people: z.int(),
          per: perEach,
          /** The same at the last event before it that goes back to the same first one. */
          before: z.object({ eventId: id, title: z.string(), total: z.number().nullable() }).nullable(),
        }),
      ),
      initiatives: z.array(z.object({ id, name: z.string() })),
      tallies: z.array(tally),
    }),
  },
  'POST /api/events/:id/tallies': {
    summary: 'Enter tallies for the team: they count at once',
    who: ['unit lead'],
    params: idParams,
    body: z.object(entered),
    response: z.object({ ids: z.array(id) }),
  },
  'POST /api/events/:id/tallies/pictures': {
    summary: 'Keep a picture that shows what was counted, for a tally that names it within a day',
    who: ['unit lead'],
    params: idParams,
    body: pictureBody,
    response: z.object({ id }),
    limit: '28mb',
    ownTransactions: true,
  },
  'POST /api/events/:id/tallies/decided': {
    summary: 'Count tallies, or set them aside',
    who: ['unit lead'],
    params: idParams,
    body: z.object({
      ids: z.array(id).min(1).max(500),
      state: z.enum(['counted', 'set aside']),
      why: z.string().trim().max(300).default(''),
    }),
    response: z.object({ changed: z.int() }),
  },
  'PATCH /api/events/:id/tallies/:tally': {
    summary: 'Correct a tally; what it said before is kept, with who corrected it and why',
    who: ['unit lead'],
    params: tallyParams,
    body: z.object({
      said: z.string().trim().max(40),
      thing: z.string().trim().max(80),
      countedLocal: wallTime,
      place: z.string().trim().max(120),
      note: z.string().trim().max(500),
      why: z.string().trim().min(1, 'why-needed').max(300),
      version: z.int(),
    }),
    response: done,
  },
  'GET /api/events/:id/tallies/:tally/picture': {
    summary: 'The picture that shows what was counted',
    who: 'staff',
    params: tallyParams,
    response: { file: 'image/jpeg' },
  },
  'GET /api/events/:id/tallies.csv': {
    summary: 'Every tally of an event, as CSV',
    who: 'staff',
    params: idParams,
    response: { file: 'text/csv' },
  },
  'PUT /api/events/:id/counting': {
    summary: 'Let people count on a page of their own, or no longer: what hangs on a wall opens nothing then',
    who: ['unit lead'],
    params: idParams,
    body: z.object({ on: z.boolean() }),
    response: z.object({ page: z.string().nullable() }),
  },
  'GET /api/events/:id/counting.pdf': {
    summary: 'The poster with the code of the page where people count',
    who: 'staff',
    params: idParams,
    response: { file: 'application/pdf' },
  },

  'GET /api/public/count/:token': {
    summary: 'The page where people count at an event',
    who: 'public',
    params: token,
    response: z.object({
      event: z.string(),
      eventFr: z.string(),
      organization: z.string(),
      zone: z.string(),
      counting,
      /** The name of whoever is signed in. */
      me: z.string().nullable(),
      /** Whether a name is asked for. */
      named: z.boolean(),
      measures: z.array(
        measure.pick({ id: true, name: true, unit: true, kind: true, decimals: true }).extend({
          /** What was counted so far; null where that is not told. */
          total: z.number().nullable(),
        }),
      ),
      /** Things that were named at this event and earlier, to choose from. */
      things: z.array(z.object({ measureId: id, thing: z.string() })),
    }),
  },
  'POST /api/public/count/:token': {
    summary: 'Count. Answers the same whoever it is: what is not known to be theirs is looked at first',
    who: 'public',
    params: token,
    body: z.object({
      ...entered,
      given: text(80).default(''),
      family: text(80).default(''),
      /** An email address, or the last digits of a telephone. */
      known: text(254).default(''),
    }),
    response: done,
  },
  'POST /api/public/count/:token/pictures': {
    summary: 'Keep a picture that shows what was counted, for a tally that names it within a day',
    who: 'public',
    params: token,
    body: pictureBody,
    response: z.object({ id }),
    limit: '28mb',
    ownTransactions: true,
  },
});
