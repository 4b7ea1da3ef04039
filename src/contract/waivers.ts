import { z } from 'zod';
import { questionKinds } from '#core/questions/question.ts';
import { clauseKinds } from '#core/waivers/form.ts';
import { holdsKinds, isYearDay } from '#core/waivers/holding.ts';
import { waiverStandings } from '#core/waivers/needs.ts';
import { contract, date, done, id, idParams, instant, personName, text, token } from './endpoint.ts';

const kind = z.enum(questionKinds);
/** How much of something is asked for at least or at most; null is no limit. */
const limit = z.number().nullable().default(null);

/** A waiver as it is read and signed, in one language. */
export const waiverText = z.object({
  id,
  title: z.string(),
  version: z.int(),
  /** For its event alone, or longer: who signed it before need not sign again. */
  holdsFor: z.enum(holdsKinds),
  clauses: z.array(
    z.object({ id: z.string(), kind: z.enum(clauseKinds), heading: z.string(), text: z.string() }),
  ),
  questions: z.array(
    z.object({
      id,
      kind: z.enum(questionKinds),
      prompt: z.string(),
      help: z.string(),
      required: z.boolean(),
      choices: z.array(z.string()),
      least: z.number().nullable(),
      most: z.number().nullable(),
      health: z.boolean(),
    }),
  ),
});
export type WaiverToSign = z.infer<typeof waiverText>;

/** How it stands with what is signed for a seat: who still has to, which waivers, and which of these one guardian of two has signed. */
export const signingOfSeat = z.object({
  waiver: z.enum(waiverStandings),
  toSign: z.array(id),
  partly: z.array(id),
});

const said = (most: number) => z.object({ en: text(most), fr: text(most).optional() });

/** What a waiver says, in both languages. */
export const waiverForm = z.object({
  title: said(120),
  clauses: z
    .array(
      z.object({
        id: z.string().min(1).max(40),
        kind: z.enum(clauseKinds),
        heading: said(120),
        text: said(4000),
      }),
    )
    .max(40),
  questions: z
    .array(
      z.object({
        id,
        kind,
        prompt: said(300),
        help: said(300),
        required: z.boolean().default(false),
        choices: z.array(text(200)).max(50).default([]),
        least: limit,
        most: limit,
        health: z.boolean().default(false),
      }),
    )
    .max(30),
});

const holds = z.discriminatedUnion('for', [
  z.object({ for: z.literal('event') }),
  z.object({ for: z.literal('year') }),
  z.object({ for: z.literal('season'), ends: z.string().refine(isYearDay, 'no-such-date') }),
  z.object({ for: z.literal('until'), date }),
]);

/** Whom a waiver is for, for how long a signature holds, and where it can be signed. */
const settings = {
  audience: z.enum(['everyone', 'minors', 'adults']),
  holds,
  guardians: z.union([z.literal(1), z.literal(2)]),
  /** So many days after its time a signature loses what it says about health. */
  forgetDays: z.int('not-whole').min(0, 'zero-or-more').max(3650),
  /** Whether it has a page of its own where anybody signs. */
  standing: z.boolean(),
};

/** Somebody signs. Marks are by clause: ticked, initials, yes or no. */
const relation = z.enum(['self', 'guardian']);
const answers = z
  .record(
    z.string().max(60),
    z.union([z.string().max(2000), z.boolean(), z.array(z.string().max(200)).max(50)]),
  )
  .default({});
export const hand = z.object({
  /** The waiver as it was read: where it says something else by then, nothing is signed. */
  waiverId: id,
  version: z.int(),
  typedName: z.string().trim().max(200),
  ticked: z.array(z.string()).max(100).default([]),
  initials: z.record(z.string().max(40), z.string().max(20)).default({}),
  chosen: z.record(z.string().max(40), z.boolean()).default({}),
  /** Whoever signs for a child says they are of age and may. */
  declared: z.boolean().default(false),
  /** A drawn signature, as the path of an SVG in a box of 600 by 200; none is asked for. */
  drawn: z
    .string()
    .max(20_000)
    .regex(/^[MLml\d., -]*$/u, 'no-drawing')
    .nullable()
    .default(null),
});
export type Hand = z.infer<typeof hand>;
/** The same for one seat. */
export const signing = hand.extend({ relation, answers });
/** One of several people that something is signed for in one go. */
export const forOne = z.object({ registrationId: id, relation, answers });
export const forSeats = z.array(forOne).min(1).max(30);

const signed = z.object({ act: id, signed: z.array(z.object({ registrationId: id, sha256: z.string() })) });

/** A signature as the team sees it. */
export const signatureRow = z.object({
  id,
  contactId: id.nullable(),
  participant: z.string(),
  typedName: z.string(),
  relation,
  at: instant,
  way: z.enum(['link', 'page', 'door', 'paper']),
  version: z.int(),
  event: z.object({ id, title: z.string() }).nullable(),
  holdsUntil: date.nullable(),
  state: z.enum(['valid', 'expired', 'superseded', 'revoked']),
  /** Whether it is known whose hand it was; until then it counts for its own seat alone. */
  known: z.boolean(),
  revoked: z.object({ by: z.string(), why: z.string(), at: instant }).nullable(),
  /** Whether there is a scan of it. */
  scan: z.boolean(),
});
export type SignatureRow = z.infer<typeof signatureRow>;

const lead = ['unit lead', 'crew lead'] as const;

export const waiversContract = contract({
  'GET /api/waivers': {
    summary: 'Every waiver: whom it is for, for how long it holds, how many signatures hold now',
    who: ['coordinator'],
    response: z.array(
      z.object({
        id,
        title: z.string(),
        version: z.int(),
        audience: settings.audience,
        holds,
        standing: z.boolean(),
        closed: z.boolean(),
        signed: z.int(),
        /** Events to come that ask for it. */
        events: z.int(),
      }),
    ),
  },
  'POST /api/waivers': {
    summary: 'Add a waiver',
    who: ['coordinator'],
    body: z.object({ text: waiverForm, ...settings }),
    response: z.object({ id }),
  },
  'GET /api/waivers/:id': {
    summary: 'A waiver with what it says, its versions and the events that ask for it',
    who: ['coordinator'],
    params: idParams,
    response: z.object({
      id,
      version: z.int(),
      text: waiverForm,
      ...settings,
      closedAt: instant.nullable(),
      /** The address of its own page; null where it has none. */
      page: z.string().nullable(),
      versions: z.array(
        z.object({
          version: z.int(),
          material: z.boolean(),
          madeAt: instant,
          madeBy: z.string(),
          signed: z.int(),
        }),
      ),
      events: z.array(z.object({ id, title: z.string(), startsLocal: z.string().nullable() })),
    }),
  },
  'PATCH /api/waivers/:id': {
    summary: 'Change whom a waiver is for, for how long it holds, whether it stands on its own',
    who: ['coordinator'],
    params: idParams,
    body: z.object(settings).partial(),
    response: done,
  },
  'POST /api/waivers/:id/versions': {
    summary:
      'Let a waiver say something else: those who signed before are asked again only where that matters',
    who: ['coordinator'],
    params: idParams,
    body: z.object({
      text: waiverForm,
      material: z.boolean(),
      /** The version that was changed: where there is another by now, nothing is saved. */
      after: z.int(),
    }),
    response: z.object({ version: z.int() }),
  },
  'POST /api/waivers/:id/closing': {
    summary: 'Close a waiver, or open it again: while it is closed nobody signs it',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ closed: z.boolean() }),
    response: done,
  },
  'GET /api/waivers/:id/signatures': {
    summary: 'Who signed a waiver, newest first',
    who: ['coordinator'],
    params: idParams,
    query: z.object({
      q: z.string().trim().max(100).default(''),
      state: z.enum(['valid', 'expired', 'superseded', 'revoked']).optional(),
      before: z.string().max(80).optional(),
    }),
    response: z.object({ rows: z.array(signatureRow), more: z.string().nullable() }),
  },
  'GET /api/waivers/:id/signatures.csv': {
    summary: 'Who signed a waiver, as a file',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'text/csv' },
  },
  'GET /api/waivers/:id/poster.pdf': {
    summary: 'A poster with the code of the waiver’s own page',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'POST /api/waivers/:id/paper': {
    summary: 'Enter a signature on paper, with its scan',
    who: ['coordinator'],
    params: idParams,
    body: z.object({
      contactId: id,
      eventId: id.nullable().default(null),
      relation,
      typedName: z.string().trim().min(1, 'full-name-needed').max(200),
      signedOn: date,
      chosen: hand.shape.chosen,
      scan: z.object({ name: z.string().trim().min(1).max(200), content: z.string() }),
    }),
    response: z.object({ id }),
  },
  'GET /api/signatures/:id/scan': {
    summary: 'The scan of a signature on paper',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'application/octet-stream' },
  },
  'GET /api/signatures/:id/copy.pdf': {
    summary: 'What was signed in one go, as a PDF',
    who: ['coordinator'],
    params: idParams,
    response: { file: 'application/pdf' },
  },
  'POST /api/signatures/:id/revocation': {
    summary: 'Revoke a signature, with why: whoever it was for is asked again',
    who: ['coordinator'],
    params: idParams,
    body: z.object({ why: z.string().trim().min(3, 'reason-needed').max(300) }),
    response: done,
  },
  'GET /api/signature-chain': {
    summary: 'Whether every signature is still what was signed, link by link',
    who: ['coordinator'],
    response: z.object({
      links: z.int(),
      breaks: z.array(z.object({ number: z.int(), says: z.string() })),
    }),
  },
  'GET /api/events/:id/signing': {
    summary: 'Who signed at an event and who has not: seats and crew, with when they were last asked',
    who: [...lead, 'door'],
    params: idParams,
    response: z.object({
      waivers: z.array(z.object({ id, title: z.string(), holds })),
      rows: z.array(
        z.object({
          key: z.string(),
          contactId: id.nullable(),
          name: z.string(),
          part: z.enum(['seat', 'crew']),
          /** Who still has to, or that it is done. */
          standing: z.enum(waiverStandings),
          toSign: z.array(id),
          partly: z.array(id),
          lastAsked: instant.nullable(),
          /** Whether they can be written to. */
          reachable: z.boolean(),
        }),
      ),
    }),
  },
  'POST /api/events/:id/signing/reminders': {
    summary: 'Ask those who have not signed, now: one message to each who booked or has a shift',
    who: lead,
    params: idParams,
    body: z.object({ keys: z.array(z.string().max(80)).min(1).max(2000) }),
    response: z.object({ asked: z.int(), notReached: z.int() }),
  },
  'POST /api/public/orders/:token/signatures': {
    summary:
      'Sign the waiver, for oneself and for several children in one go: each has a signature of their own, all or none',
    who: 'public',
    params: token,
    body: hand.extend({ seats: forSeats }),
    response: signed,
  },
  'GET /api/registrations/:id/signatures': {
    summary:
      'What was signed for a seat: each text as signed, with its SHA-256 and whether it still matches; newest first',
    who: ['unit lead', 'door'],
    params: idParams,
    response: z.array(
      z.object({
        title: z.string(),
        text: z.string(),
        sha256: z.string(),
        matches: z.boolean(),
        typedName: z.string(),
        relation: z.string(),
        at: instant,
      }),
    ),
  },
  'GET /api/public/waivers/:slug': {
    summary: 'A waiver on its own page',
    who: 'public',
    params: z.object({ slug: z.string().max(120) }),
    query: z.object({ language: z.enum(['en', 'fr']).default('en') }),
    response: z.object({
      waiver: waiverText,
      organization: z.string(),
      audience: settings.audience,
      guardians: z.int(),
      closed: z.boolean(),
      /** Whether it can be read in French. */
      inFrench: z.boolean(),
      /** The last day it holds when it is signed today. */
      holdsUntil: date.nullable(),
      ageOfMajority: z.int(),
    }),
  },
  'POST /api/public/waivers/:slug/signatures': {
    summary: 'Sign a waiver on its own page, for oneself and for children one looks after',
    who: 'public',
    params: z.object({ slug: z.string().max(120) }),
    body: hand.extend({
      /** Whoever signs. */
      signer: personName.extend({
        email: z.string().trim().max(254),
        birthDate: z.string().max(10),
      }),
      /** Whether they sign for themselves, too. */
      self: z.boolean(),
      answers,
      children: z
        .array(personName.extend({ birthDate: z.string().max(10), answers }))
        .max(12)
        .default([]),
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: z.object({ act: id, people: z.int() }),
  },
  'GET /api/public/signed/:token': {
    summary: 'What somebody signed in one go, by the link of its copy',
    who: 'public',
    params: token,
    response: z.object({
      organization: z.string(),
      title: z.string(),
      language: z.enum(['en', 'fr']),
      at: instant,
      zone: z.string(),
      typedName: z.string(),
      event: z.string().nullable(),
      /** Where the other guardian signs for the same children; null where nobody else has to. */
      other: z.string().nullable(),
      people: z.array(
        z.object({
          name: z.string(),
          holdsUntil: date.nullable(),
          state: z.enum(['valid', 'expired', 'superseded', 'revoked']),
          sha256: z.string(),
        }),
      ),
    }),
  },
  'GET /api/public/cosign/:token': {
    summary: 'What the other guardian signs, for the children that the first one signed for',
    who: 'public',
    params: token,
    query: z.object({ language: z.enum(['en', 'fr']).default('en') }),
    response: z.object({
      waiver: waiverText,
      organization: z.string(),
      /** Who signed first. */
      by: z.string(),
      /** The children that still need a second signature, by name. */
      people: z.array(z.object({ signatureId: id, name: z.string() })),
      closed: z.boolean(),
    }),
  },
  'POST /api/public/cosign/:token': {
    summary: 'Sign as the other guardian, for the children that the first one signed for',
    who: 'public',
    params: token,
    body: hand.extend({
      email: z.string().trim().max(254),
      people: z
        .array(z.object({ signatureId: id, answers }))
        .min(1)
        .max(30),
      language: z.enum(['en', 'fr']).default('en'),
    }),
    response: z.object({ people: z.int() }),
  },
  'POST /api/public/signed/:token/seen': {
    summary:
      'Whoever reads what is sent there has opened the link of their copy: it is known whose hand it was',
    who: 'public',
    params: token,
    response: done,
  },
  'POST /api/public/signed/:token/revocation': {
    summary: 'Say that it was somebody else who signed, or take back what one signed',
    who: 'public',
    params: token,
    response: done,
  },
  'GET /api/public/signed/:token/copy.pdf': {
    summary: 'The copy as a PDF',
    who: 'public',
    params: token,
    response: { file: 'application/pdf' },
  },
  'POST /api/public/signatures/check': {
    summary: 'Whether a PDF with this SHA-256 is a copy that was made here; tells nothing of who signed',
    who: 'public',
    body: z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/u) }),
    response: z.object({
      found: z
        .object({
          title: z.string(),
          version: z.int(),
          at: instant,
          people: z.int(),
          /** How many of them still count. */
          valid: z.int(),
          organization: z.string(),
        })
        .nullable(),
    }),
  },
});
