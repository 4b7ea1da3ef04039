import { z } from 'zod';
import { applicationStates, callAsks, shirtSizes } from '#core/crew/applying.ts';
import { deposit, depositTerms, ownDeposit } from './deposits.ts';
import { code, contract, date, done, id, idParams, instant, personName, texts, token } from './endpoint.ts';

const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/u, code('no-such-time'));
/** The same, or the end of the day. */
const endOfStretch = z.string().regex(/^(([01]\d|2[0-3]):[0-5]\d|24:00)$/u, code('no-such-time'));
const availability = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('dates'),
    stretches: z.array(z.object({ date, from: timeOfDay, to: endOfStretch })).max(400),
  }),
  z.object({
    kind: z.literal('week'),
    stretches: z
      .array(z.object({ weekday: z.int().min(0).max(6), from: timeOfDay, to: endOfStretch }))
      .max(100),
  }),
]);
const atMost = (most: number) =>
  z.int(code('not-whole')).min(1, code('at-least-one')).max(most).nullable().default(null);
const limits = z.object({
  shifts: atMost(200),
  hours: atMost(1000),
  inARow: atMost(100),
  latest: timeOfDay.nullable().default(null),
});
const said = z.object({
  wishes: z.array(z.object({ roleId: id, weight: z.int().min(1).max(3) })).max(60),
  skills: z
    .array(
      z.object({
        skillId: id,
        number: z.string().trim().max(60).default(''),
        until: date.nullable().default(null),
        fileId: id.nullable().default(null),
      }),
    )
    .max(60)
    .default([]),
  available: availability.nullable().default(null),
  limits: limits.prefault({}),
  company: z.string().trim().max(300).default(''),
  shirt: z.enum(shirtSizes).default(''),
  birthDate: date.nullable().default(null),
  experience: z.string().trim().max(2000).default(''),
});
export type SaidBody = z.output<typeof said>;
const callBody = z.object({
  eventId: id.nullable().default(null),
  fromOn: date.nullable().default(null),
  untilOn: date.nullable().default(null),
  title: z.object({
    en: z.string().trim().max(120).min(1, 'name-needed'),
    fr: z.string().trim().max(120).optional(),
  }),
  words: z.object({ en: z.string().max(2000), fr: z.string().max(2000).optional() }),
  asks: z.array(z.enum(callAsks)).max(callAsks.length),
  /** Roles that are offered, in this order. */
  roles: z.array(id).max(60),
  open: z.boolean(),
  /** What whoever is accepted leaves as a deposit; null for none. */
  deposit: depositTerms.nullable().default(null),
});
export type CallBody = z.output<typeof callBody>;
const counts = z.object(
  Object.fromEntries(applicationStates.map((s) => [s, z.int()])) as Record<
    (typeof applicationStates)[number],
    z.ZodInt
  >,
);
const call = callBody.extend({
  id,
  slug: z.string(),
  title: texts,
  words: texts,
  /** What the event is called, of a call for one. */
  event: z.string().nullable(),
  /** What a deposit is paid in. */
  currency: z.string(),
  version: z.int(),
  counts,
});
export type Call = z.output<typeof call>;

const file = z.object({ id, name: z.string() });
const application = z.object({
  id,
  contactId: id,
  name: z.string(),
  email: z.string().nullable(),
  state: z.enum(applicationStates),
  said: said.nullable(),
  /** What somebody said in their name without their own link. */
  again: said.nullable(),
  files: z.array(file),
  /** How old they are on the first day it is about; null where it is not known. */
  age: z.int().nullable(),
  question: z.string(),
  answer: z.string(),
  appliedAt: instant.nullable(),
  changedAt: instant,
  decidedAt: instant.nullable(),
  decidedBy: z.string().nullable(),
  version: z.int(),
  /** What of theirs is on record already, by skill. */
  held: z.array(z.object({ skillId: id, until: date.nullable(), seen: z.boolean() })),
  pairs: z.array(z.object({ id, contactId: id, name: z.string(), kind: z.enum(['together', 'apart']) })),
  /** Shifts they have of what the call is about, and hours. */
  shifts: z.int(),
  hours: z.number(),
  /** What they were asked to leave as a deposit, and what became of it. */
  deposit: deposit.nullable(),
});
export type Application = z.output<typeof application>;

const publicCall = z.object({
  slug: z.string(),
  title: texts,
  words: texts,
  open: z.boolean(),
  event: z
    .object({
      title: z.string(),
      slug: z.string().nullable(),
      startsLocal: z.string().nullable(),
      endsLocal: z.string().nullable(),
      place: z.string().nullable(),
    })
    .nullable(),
  fromOn: z.string().nullable(),
  untilOn: z.string().nullable(),
  asks: z.array(z.enum(callAsks)),
  deposit: depositTerms.extend({ currency: z.string() }).nullable(),
  roles: z.array(
    z.object({
      id,
      name: z.string(),
      brief: z.string(),
      fromAge: z.int().nullable(),
      needs: z.array(z.string()),
    }),
  ),
  skills: z.array(z.object({ id, name: z.string(), certificate: z.boolean() })),
  /** The grid on which availability is painted: its days, and from which hour to which. */
  grid: z.object({ kind: z.enum(['dates', 'week']), days: z.array(z.string()), from: z.int(), to: z.int() }),
});
export type PublicCall = z.output<typeof publicCall>;

const lead = ['unit lead', 'crew lead'] as const;
const several = z.array(id).min(1, 'nothing-there').max(500);

export const applyingContract = contract({
  'GET /api/calls': {
    summary: 'Calls for volunteers: of one event, or all of which one sees applications',
    who: [...lead],
    query: z.object({ eventId: id.optional() }),
    response: z.array(call),
  },
  'POST /api/calls': {
    summary: 'Call for volunteers: for an event, for a season, or standing',
    who: [...lead],
    body: callBody,
    response: z.object({ id, slug: z.string() }),
  },
  'PUT /api/calls/:id': {
    summary: 'Change a call; what people said stays',
    who: [...lead],
    params: idParams,
    body: callBody.omit({ eventId: true }).extend({ version: z.int() }),
    response: z.object({ version: z.int() }),
  },
  'GET /api/calls/:id/applications': {
    summary: 'Who applied, what they said, and what is on record of it',
    who: [...lead],
    params: idParams,
    response: z.object({ call, applications: z.array(application) }),
  },
  'POST /api/calls/:id/invite': {
    summary:
      'Write to people known before, with a link where their details stand already; how many it would be, where it is tried',
    who: [...lead],
    params: idParams,
    body: z.object({
      contactIds: z.array(id).max(500).default([]),
      helped: z.boolean().default(false),
      trying: z.boolean().default(false),
    }),
    response: z.object({ invited: z.int(), names: z.array(z.string()) }),
  },
  'POST /api/applications/decide': {
    summary: 'Accept or decline people, or let them rest; each is told of the first two',
    who: [...lead],
    body: z.object({
      ids: several,
      to: z.enum(['accepted', 'declined', 'resting']),
      words: z.string().max(1000).trim().default(''),
      tell: z.boolean().default(true),
    }),
    response: z.object({ changed: z.int(), told: z.int() }),
  },
  'POST /api/applications/:id/ask': {
    summary: 'Ask somebody something before they are decided on',
    who: [...lead],
    params: idParams,
    body: z.object({ words: z.string().max(1000).trim().min(1, 'words-needed') }),
    response: done,
  },
  'POST /api/applications/:id/again': {
    summary: 'Take over, or set aside, what was said in somebody’s name without their own link',
    who: [...lead],
    params: idParams,
    body: z.object({ take: z.boolean() }),
    response: done,
  },
  'POST /api/applications/:id/skills/:skill/seen': {
    summary: 'Say that a certificate somebody wrote down was seen: it is on record as they gave it',
    who: [...lead],
    params: z.object({ id, skill: id }),
    response: done,
  },
  'GET /api/applications/:id/files/:file': {
    summary: 'The file of a certificate',
    who: [...lead],
    params: z.object({ id, file: id }),
    response: { file: 'application/octet-stream' },
  },
  'POST /api/applications/:id/pairs': {
    summary: 'Say that two serve together, or never on one shift',
    who: [...lead],
    params: idParams,
    body: z.object({ contactId: id, kind: z.enum(['together', 'apart']) }),
    response: done,
  },
  'DELETE /api/applications/:id/pairs/:pair': {
    summary: 'Say no more of two people',
    who: [...lead],
    params: z.object({ id, pair: id }),
    response: done,
  },
  'GET /api/public/calls/:slug': {
    summary:
      'A call for volunteers: what is offered and asked; of whoever is signed in, what is known already',
    who: 'public',
    params: z.object({ slug: z.string() }),
    response: publicCall.extend({
      you: z.object({ name: z.string(), said, files: z.array(file), applied: z.boolean() }).nullable(),
    }),
  },
  'POST /api/public/calls/:slug/files': {
    summary: 'Bring a certificate, until an application names it',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: z.object({ name: z.string().trim().min(1).max(200), content: z.string().max(5_400_000) }),
    response: file,
  },
  'POST /api/public/calls/:slug': {
    summary: 'Apply to help; the answer is the same for everybody, and the link to it goes by mail',
    who: 'public',
    params: z.object({ slug: z.string() }),
    body: z.object({
      /** Left out by whoever is signed in. */
      person: personName
        .extend({
          given: z.string().trim().min(1, code('first-name-needed')).max(100),
          family: z.string().trim().min(1, code('last-name-needed')).max(100),
          email: z.string().trim().max(254),
          phone: z.string().trim().max(40).default(''),
        })
        .nullable()
        .default(null),
      said,
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: done,
  },
  'GET /api/public/applications/:token': {
    summary:
      'Somebody’s own application: what they said, or what is known of them already, and what is asked',
    who: 'public',
    params: token,
    response: z.object({
      call: publicCall,
      name: z.string(),
      state: z.enum(applicationStates),
      said,
      files: z.array(file),
      question: z.string(),
      answer: z.string(),
      maySay: z.boolean(),
      deposit: ownDeposit.nullable(),
      shiftsToken: z.string().nullable(),
    }),
  },
  'PUT /api/public/applications/:token': {
    summary: 'Say, confirm or change what one offers',
    who: 'public',
    params: token,
    body: z.object({ said, language: z.enum(['en', 'fr']).default('en') }),
    response: done,
  },
  'POST /api/public/applications/:token/answer': {
    summary: 'Answer what the crew lead asked',
    who: 'public',
    params: token,
    body: z.object({ words: z.string().trim().min(1, code('words-needed')).max(2000) }),
    response: done,
  },
});
