import { z } from 'zod';
import { waiverStandings } from '#core/waivers/needs.ts';
import { contract, id, idParams, instant, token } from './endpoint.ts';

/** A waiver as it is read and signed. */
export const waiverText = z.object({
  id,
  title: z.string(),
  version: z.int(),
  clauses: z.array(z.object({ id: z.string(), text: z.string() })),
});

/** How it stands with what is signed for a seat: who still has to, and which waivers. */
export const signingOfSeat = z.object({
  waiver: z.enum(waiverStandings),
  toSign: z.array(id),
});

/** Somebody signs: for themselves or for a child, clause by clause. */
const relation = z.enum(['self', 'guardian']);
export const signing = z.object({
  /** The waiver as it was read: where another is asked by then, nothing is signed. */
  waiverId: id,
  relation,
  typedName: z.string().trim().max(200),
  ticked: z.array(z.string()).max(100),
});

export const waiversContract = contract({
  'POST /api/public/orders/:token/signatures': {
    summary:
      'Sign the waiver, for oneself and for several children in one go: each has a signature of their own, all or none',
    who: 'public',
    params: token,
    body: signing.omit({ relation: true }).extend({
      seats: z
        .array(z.object({ registrationId: id, relation }))
        .min(1)
        .max(30),
    }),
    response: z.object({ signed: z.array(z.object({ registrationId: id, sha256: z.string() })) }),
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
});
