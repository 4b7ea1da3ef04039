import { z } from 'zod';
import { meanwhiles } from '#core/clearance/rules.ts';
import { decisions, stepStates } from '#core/clearance/steps.ts';
import { type PlanField, partOf } from '#core/events/parts.ts';
import { contract, date, done, id, idParams, instant } from './endpoint.ts';

const planField = z.enum(Object.keys(partOf) as [PlanField, ...PlanField[]]);

const words = z.string().trim().max(2000).default('');
const condition = z.object({
  id,
  step: z.string(),
  what: z.string(),
  ownerId: id.nullable(),
  owner: z.string().nullable(),
  dueOn: date.nullable(),
  /** The event is not opened before it is met. */
  blocks: z.boolean(),
  metAt: instant.nullable(),
  metBy: z.string().nullable(),
  metWords: z.string(),
  mayMeet: z.boolean(),
  /** Who set it may say that it is not met after all. */
  mayReopen: z.boolean(),
});
export type Condition = z.infer<typeof condition>;
const wordKinds = ['word', 'question', 'answer', 'decision', 'sent', 'granted', 'not granted'] as const;
const word = z.object({
  id,
  kind: z.enum(wordKinds),
  step: z.string().nullable(),
  body: z.string(),
  decision: z.enum(decisions).nullable(),
  author: z.string(),
  at: instant,
  mentions: z.array(z.string()),
  /** Of a question: its answer; null while it is open. */
  answer: z.object({ body: z.string(), author: z.string(), at: instant }).nullable(),
});
export type ClearanceWord = z.infer<typeof word>;
const paper = z.object({
  id,
  documentId: id.nullable(),
  label: z.string(),
  name: z.string(),
  bytes: z.int(),
  broughtBy: z.string().nullable(),
  at: instant,
});
const clearanceStep = z.object({
  id,
  step: z.string(),
  /** Who decides: all who approve for a word, or a person by name. */
  approves: z.string().nullable(),
  approver: z.string().nullable(),
  /** The steps it waits for, by name. */
  after: z.array(z.string()),
  asks: z.string(),
  because: z.array(z.string()),
  documents: z.array(z.object({ id, name: z.string() })),
  /** What the organization wants to know before it is sent. */
  questions: z.array(z.object({ id, prompt: z.string(), required: z.boolean() })),
  dueOn: date.nullable(),
  /** How many working days it can take longer without the whole being later; null once it is decided. */
  slack: z.int().nullable(),
  /** It is on the longest path of what is still to be decided. */
  holdsUp: z.boolean(),
  state: z.enum(stepStates),
  decidedAt: instant.nullable(),
  decidedBy: z.string().nullable(),
  words: z.string(),
  mayDecide: z.boolean(),
  /** Nobody is left who could decide it: it falls to coordinators. */
  orphaned: z.boolean(),
});
export type ClearanceStep = z.infer<typeof clearanceStep>;
export const clearance = z.object({
  submittedAt: instant.nullable(),
  /** Whoever sent a plan does not clear it. */
  sentByMe: z.boolean(),
  lateByDays: z.int(),
  /** Why it was sent late, and who let it be; it waits for a coordinator as long as nobody did. */
  lateReason: z.string(),
  granted: z.object({ at: instant, by: z.string().nullable() }).nullable(),
  mayGrant: z.boolean(),
  standing: z.enum(['not sent', 'not needed', 'asked late', 'under way', 'cleared', 'sent back', 'refused']),
  deadline: z.object({ date, daysLeft: z.int(), stepDays: z.int(), why: z.string() }).nullable(),
  /** When all will be through, if nobody is late: sent today, or as it stands. */
  expectedOn: date.nullable(),
  /** The day by which it has to be through. */
  clearedBy: date.nullable(),
  facts: z.array(z.object({ text: z.string(), fromPlan: z.boolean() })),
  steps: z.array(clearanceStep),
  conditions: z.array(condition),
  said: z.array(word),
  papers: z.array(paper),
  mayWrite: z.boolean(),
  /** Who of the team sees it: they can be given a condition, and be named in what is written. */
  people: z.array(z.object({ id, name: z.string() })),
  /** What keeps it from being sent. */
  lacks: z.array(z.object({ code: z.string().nullable(), text: z.string() })),
  /** Of a date of a series that was not sent: the other dates it could be sent for, and those that differ, with the steps. */
  coverage: z
    .object({
      alike: z.int(),
      differs: z.array(z.object({ id, startsLocal: z.string().nullable(), steps: z.array(z.string()) })),
    })
    .nullable(),
  /** It was sent for every date of its series that is alike. */
  coversSeries: z.boolean(),
  /** The date whose clearance covers this one. */
  coveredBy: z.object({ id, startsLocal: z.string().nullable() }).nullable(),
});
export type Clearance = z.infer<typeof clearance>;

const prompt = z.string().trim().min(1, 'question-empty').max(500);
const test = z.union([
  z.object({ fact: z.string().min(1).max(40), is: z.boolean() }),
  z.object({
    fact: z.string().min(1).max(40),
    atLeast: z.int('not-whole').min(1, 'at-least-one').max(100_000),
  }),
  z.object({ unit: id }),
  z.object({ venue: id }),
]);
const rule = z.object({
  id,
  step: z.string().trim().min(1, 'name-needed').max(60),
  when: z.array(z.array(test).max(8)).max(12),
  approves: z.string().trim().min(1).max(40).nullable(),
  approverId: id.nullable(),
  after: z.array(id).max(20),
  workingDays: z.int('not-whole').min(0, 'zero-or-more').max(60, 'at-most-60'),
  asks: z.string().trim().max(500),
  documents: z.array(z.object({ id, name: z.string().trim().min(1, 'name-needed').max(120) })).max(8),
  questions: z.array(z.object({ id, prompt, required: z.boolean() })).max(12),
  meanwhile: z.enum(meanwhiles),
});
export type RuleBody = z.output<typeof rule>;
const ownFact = z.object({
  id,
  name: z.string().trim().min(1, 'name-needed').max(120),
  kind: z.enum(['yes or no', 'number']),
});
const book = z.object({ rules: z.array(rule).max(40), facts: z.array(ownFact).max(40) });
const ruleBook = book.extend({
  version: z.int(),
  minimumNoticeDays: z.int(),
  /** What rules can point at. */
  words: z.array(z.string()),
  people: z.array(z.object({ id, name: z.string() })),
  units: z.array(z.object({ id, name: z.string() })),
  venues: z.array(z.object({ id, name: z.string() })),
});
export type RuleBook = z.infer<typeof ruleBook>;
const tried = z.object({
  /** Past events, how many of them the bench went through. */
  events: z.int(),
  /** Of each step, before and after: how many events would have had it. */
  steps: z.array(z.object({ step: z.string(), before: z.int(), after: z.int() })),
  /** Working days of the longest path, on average over events that need any. */
  days: z.object({ before: z.number(), after: z.number() }),
  /** Events whose steps would have been others, newest first. */
  changed: z.array(
    z.object({
      id,
      title: z.string(),
      startsLocal: z.string().nullable(),
      before: z.array(z.string()),
      after: z.array(z.string()),
    }),
  ),
});
export type RulesTried = z.infer<typeof tried>;

const around = z.object({
  /** When the asker last said that they have seen it; null before the first time. */
  seenAt: instant.nullable(),
  /** What of the plan changed since, newest first. */
  changes: z.array(
    z.object({
      id,
      field: planField,
      at: instant,
      actor: z.string(),
      before: z.unknown(),
      after: z.unknown(),
    }),
  ),
  /** What was decided of earlier events that it goes back to, newest first. */
  before: z.array(
    z.object({
      eventId: id,
      title: z.string(),
      startsLocal: z.string(),
      steps: z.array(
        z.object({
          step: z.string(),
          state: z.enum(stepStates),
          decidedBy: z.string().nullable(),
          words: z.string(),
          conditions: z.array(z.string()),
        }),
      ),
    }),
  ),
  /** Other events on its days, those at its place first. */
  thatDay: z.array(
    z.object({
      title: z.string(),
      startsLocal: z.string(),
      endsLocal: z.string().nullable(),
      venue: z.string().nullable(),
      samePlace: z.boolean(),
    }),
  ),
});
export type Around = z.infer<typeof around>;

export const clearanceContract = contract({
  'GET /api/events/:id/clearance': {
    summary: 'The steps a plan needs or has, why, and the last day to send it',
    who: 'staff',
    params: idParams,
    response: clearance,
  },
  'GET /api/events/:id/clearance/around': {
    summary:
      'What an approver asks beside the plan: what changed since they looked, what was decided before, what else is that day',
    who: 'staff',
    params: idParams,
    response: around,
  },
  'POST /api/events/:id/clearance/seen': {
    summary: 'Say that one has seen a plan as it is now',
    who: 'staff',
    params: idParams,
    response: done,
  },
  'GET /api/clearance/waiting': {
    summary: 'Every step that waits for the asker, soonest due first',
    who: ['approver'],
    response: z.array(
      z.object({
        stepId: id,
        eventId: id,
        title: z.string(),
        startsLocal: z.string().nullable(),
        unit: z.string().nullable(),
        step: z.string(),
        because: z.array(z.string()),
        asks: z.string(),
        dueOn: date,
        /** In place of whom; null where it is their own. */
        standsFor: z.string().nullable(),
        /** How much of the plan changed since they looked; null where they have not. */
        changed: z.int().nullable(),
      }),
    ),
  },
  'POST /api/events/:id/clearance': {
    summary: 'Send a plan for clearance, or send it again after it was sent back',
    who: ['unit lead'],
    params: idParams,
    body: z
      .object({
        /** Needed where it is late. */
        lateReason: words,
        /** Answers to what the steps ask, by the id of the question. */
        answers: z.array(z.object({ id, words: z.string().trim().max(2000) })).max(200),
        /** Of a date of a series: what is decided holds for every other that is alike. */
        coversSeries: z.boolean(),
      })
      .partial()
      .default({}),
    response: clearance,
  },
  'POST /api/events/:id/clearance/late': {
    summary: 'Say whether a plan that was sent late goes to its approvers',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ grant: z.boolean(), words }),
    response: clearance,
  },
  'POST /api/events/:id/clearance/words': {
    summary: 'Write to whoever has to do with this clearance',
    who: 'staff',
    params: idParams,
    body: z.object({
      words: z.string().trim().min(1, 'words-needed').max(2000),
      stepId: id.nullable().default(null),
      mentions: z.array(id).max(20).default([]),
    }),
    response: clearance,
  },
  'POST /api/clearance-questions/:id/answer': {
    summary: 'Answer a question that was asked when the plan was sent back',
    who: ['unit lead'],
    params: idParams,
    body: z.object({ words: z.string().trim().min(1, 'words-needed').max(2000) }),
    response: clearance,
  },
  'POST /api/clearance-steps/:id/decision': {
    summary: 'Decide a step: clear, clear with conditions, send back with questions, refuse',
    who: ['approver'],
    params: idParams,
    body: z.object({
      decision: z.enum(decisions),
      words,
      conditions: z
        .array(
          z.object({
            what: z.string().trim().min(3, 'condition-needed').max(300),
            ownerId: id.nullable(),
            dueOn: date.nullable(),
            blocks: z.boolean(),
          }),
        )
        .max(12)
        .default([]),
      questions: z.array(prompt).max(12).default([]),
    }),
    response: clearance,
  },
  'POST /api/clearance-conditions/:id/met': {
    summary: 'Say that a condition is met, or that it is not after all',
    who: 'staff',
    params: idParams,
    body: z.object({ met: z.boolean(), words }),
    response: clearance,
  },
  'GET /api/clearance/rules': {
    summary: 'The rules of clearance, the facts they look at, and what they can point at',
    who: ['coordinator'],
    response: ruleBook,
  },
  'PUT /api/clearance/rules': {
    summary: 'Change the rules and facts as a whole; clearances under way keep theirs',
    who: ['coordinator'],
    body: book.extend({ version: z.int().min(1) }),
    response: ruleBook,
  },
  'POST /api/clearance/rules/try': {
    summary: 'Which steps past events would have had, by the rules as they are and as they are written here',
    who: ['coordinator'],
    body: book,
    response: tried,
  },
  'GET /api/clearance/facts': {
    summary: 'What is asked of plans beside the usual facts',
    who: 'staff',
    response: z.array(ownFact),
  },
});
