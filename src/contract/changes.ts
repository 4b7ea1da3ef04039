import { z } from 'zod';
import { aspects } from '#core/changes/aspects.ts';
import { concerned } from '#core/changes/letters.ts';
import { moves } from '#core/events/moves.ts';
import { eventStates } from '#core/events/states.ts';
import { contract, id, idParams, instant, money, text, texts, token } from './endpoint.ts';
import { lead } from './events.ts';
import { consequences, eventPlan, planFields } from './plan.ts';

const letterTo = z.enum(concerned);
/** A letter as it is written, in English and French. */
const draft = { subject: texts, body: texts };

/** What is decided about the consequences of a change, with it. */
const settling = z.object({
  /** What people read beside what is new: why, and what it means. */
  words: text(2000).default(''),
  /** Letters that are not as they would be by themselves: another text, or none, with why. */
  letters: z
    .array(
      z.object({
        to: letterTo,
        told: z.boolean().default(true),
        /** Why they are not told, where they would be by themselves. */
        why: text(300).default(''),
        subject: texts.optional(),
        body: texts.optional(),
      }),
    )
    .max(concerned.length)
    .default([]),
  /** People taken off a shift, by what puts them there. */
  takeOff: z.array(id).max(500).default([]),
  /** People taken off the team of the event, who lead another at that time, by their place on it. */
  offTeam: z.array(id).max(20).default([]),
  /** Whoever has an account with this address leads it from now on. */
  leadEmail: text(254).default(''),
  /** Orders that give their seats up for the head of the waitlist, where there is less room. */
  toWaitlist: z.array(id).max(500).default([]),
  /** What becomes of money when an event is called off: it goes back by itself, each is asked, or it is settled by hand. */
  money: z.enum(['return', 'ask', 'by hand']).default('by hand'),
  /** The fund that money goes to where somebody leaves it as a gift. */
  fundId: id.nullable().default(null),
  /** Another event that people may move their seats to, where they are asked. */
  toEventId: id.nullable().default(null),
});
export type Settling = z.infer<typeof settling>;

const who = { contactId: id.nullable(), name: z.string() };

/** What would follow from a change, all that can be told of it. */
const whatIf = z.object({
  aspects: z.array(z.enum(aspects)),
  followed: consequences,
  /** Until when it can be taken back; then letters go out. Null where nothing of it weighs. */
  settlesAt: instant.nullable(),
  letters: z.array(
    z.object({
      to: letterTo,
      /** Whether they are told unless somebody says no. */
      bySelf: z.boolean(),
      /** Whether they are told as things are settled now. */
      told: z.boolean(),
      count: z.int(),
      /** Who gets none, and why. */
      leftOut: z.array(z.object({ name: z.string(), why: z.string() })),
      draft: z.object(draft),
      /** As the first of them gets it; null where nobody does. */
      sample: z.object({ name: z.string(), subject: z.string(), body: z.string() }).nullable(),
      /** Whether a calendar file goes along, and what it does there. */
      calendar: z.enum(['moves', 'strikes out']).nullable(),
    }),
  ),
  /** People who would then be at two things at once, and were not before. */
  atTwoThings: z.array(
    z.object({
      ...who,
      here: z.enum(['seat', 'shift', 'session']),
      /** What they have at the same time, and where. */
      there: z.object({ of: z.enum(['seat', 'shift', 'session']), title: z.string(), at: instant }),
      /** What puts them on a shift here, where they can be taken off. */
      assignmentId: id.nullable(),
    }),
  ),
  /** Whose age on the day changes what is asked of them. */
  ages: z.array(z.object({ ...who, becomes: z.enum(['minor', 'adult']), signed: z.boolean() })),
  /** Seats given away beyond what there would be, and which parties would lose theirs. */
  over: z
    .object({
      seats: z.int(),
      losing: z.array(z.object({ orderId: id, name: z.string(), seats: z.int() })),
    })
    .nullable(),
  /** Times that would have passed already. */
  passed: z.array(z.object({ what: z.enum(['closes', 'last day to send']), at: z.string() })),
  /** What it would be at odds with, and is not now. */
  odds: z.array(
    z.object({
      of: z.enum(['place', 'lead', 'audience', 'diary', 'holiday', 'session']),
      what: z.string(),
      eventId: id.nullable(),
      /** The session that does not fit. */
      sessionId: id.nullable(),
      /** Who leads both, where they can be taken off the team here. */
      leads: z.array(z.object({ memberId: id, name: z.string() })),
    }),
  ),
  /** What was paid and is owed back when it is called off. */
  money: z.object({ orders: z.int(), sums: z.array(money) }).nullable(),
});
export type WhatIf = z.infer<typeof whatIf>;

/** A change that was made, as the plan shows it. */
const made = z.object({
  id,
  kind: z.enum(['changed', 'called off']),
  fields: z.array(z.enum(planFields)),
  before: z.record(z.string(), z.unknown()),
  after: z.record(z.string(), z.unknown()),
  words: z.string(),
  untold: z.array(z.object({ to: letterTo, why: z.string() })),
  /** Letters that go, or went, out. */
  letters: z.int(),
  madeAt: instant,
  by: z.string(),
  /** Until when it can be taken back; null where that is over. */
  settlesAt: instant.nullable(),
  /** Why it cannot be taken back any more, though its time is not over; null where it can, or its time is over. */
  stands: z.string().nullable(),
  undoneAt: instant.nullable(),
  undoneBy: z.string().nullable(),
});
export type MadeChange = z.infer<typeof made>;

/** What becomes of what was paid for an event that was called off. */
const moneyWays = ['return', 'gift', 'move'] as const;

/** What is decided about a change of several events: the same for each of them. */
export const settlingTogether = settling.pick({ words: true, letters: true, money: true, fundId: true });
export type SettledTogether = z.infer<typeof settlingTogether>;

/** What a change of several events brings about beside what each of them says: their letters, and what there is to know of each. */
export const together = z.object({
  changeId: id,
  /** Until when all of it can be taken back; null where nothing of it weighs. */
  settlesAt: instant.nullable(),
  letters: whatIf.shape.letters,
  /** Of a change that was not made yet: events of which something has to be known, each with how much. */
  around: z.array(
    z.object({
      eventId: id,
      startsLocal: z.string().nullable(),
      odds: z.array(whatIf.shape.odds.element.pick({ of: true, what: true })),
      /** Seats beyond what there would be. */
      over: z.int(),
      /** Whether registration would have closed already. */
      passed: z.boolean(),
      /** How many people would be at two things at once. */
      atTwoThings: z.int(),
      /** How many are of another age on the day. */
      ages: z.int(),
    }),
  ),
});
export type Together = z.infer<typeof together>;

const ofChange = z.object({ id, change: id });

export const changesContract = contract({
  'PATCH /api/events/:id': {
    summary: 'Save parts of a plan. Of an event that people are on, they are told of what weighs',
    who: lead,
    params: idParams,
    body: z.object({ version: z.int(), change: eventPlan.partial(), settle: settling.optional() }),
    response: z.object({ version: z.int(), followed: consequences, changeId: id.nullable() }),
  },
  'POST /api/events/:id/state': {
    summary: 'Open, close, wrap up, bring back, shelve or call off an event',
    who: lead,
    params: idParams,
    body: z.object({ move: z.enum(moves), words: text(500).default(''), settle: settling.optional() }),
    response: z.object({
      state: z.enum(eventStates),
      followed: consequences,
      changeId: id.nullable(),
    }),
  },
  'POST /api/events/:id/what-if': {
    summary: 'What a move, or a change of the plan, would bring about; nothing of it is done',
    who: lead,
    ownTransactions: true,
    params: idParams,
    /** A move, or else a change of the plan at a version. */
    body: z.object({
      move: z.enum(moves).optional(),
      version: z.int().min(1).default(1),
      change: eventPlan.partial().default({}),
      settle: settling.optional(),
    }),
    response: whatIf,
  },
  'POST /api/events/:id/history/:change/back': {
    summary: 'Put a field of a plan back to what it said before a change',
    who: lead,
    params: ofChange,
    body: z.object({ version: z.int().min(1) }),
    response: z.object({ version: z.int(), followed: consequences, changeId: id.nullable() }),
  },
  'GET /api/events/:id/changes': {
    summary: 'Changes of an event that people were told of, or were not and why, newest first',
    who: lead,
    params: idParams,
    response: z.array(made),
  },
  'POST /api/events/:id/changes/:change/back': {
    summary: 'Take a change back, with all that followed, while nothing has gone out',
    who: lead,
    params: ofChange,
    body: z.object({}).default({}),
    response: z.object({ done: z.literal(true) }),
  },
  'GET /api/public/orders/:token/money': {
    summary:
      'What was paid for an event that was called off, and what may become of it; null where nothing waits',
    who: 'public',
    params: token,
    response: z
      .object({
        amount: z.int(),
        currency: z.string(),
        ways: z.array(z.enum(moneyWays)),
        until: instant,
        /** Where seats can move to. */
        to: z.object({ title: z.string(), startsLocal: z.string().nullable(), zone: z.string() }).nullable(),
      })
      .nullable(),
  },
  'POST /api/public/orders/:token/money': {
    summary: 'Say what becomes of what was paid for an event that was called off',
    who: 'public',
    params: token,
    body: z.object({ become: z.enum(moneyWays) }),
    response: z.object({ done: z.literal(true) }),
  },
  'POST /api/events/:id/changes/:change/now': {
    summary: 'Let the letters of a change go out now; it cannot be taken back after that',
    who: lead,
    params: ofChange,
    body: z.object({}).default({}),
    response: z.object({ letters: z.int() }),
  },
});
