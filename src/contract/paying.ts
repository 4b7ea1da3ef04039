import { z } from 'zod';
import { code } from './endpoint.ts';

/** A card as whoever pays types it, for a booking, a gift or every month. */
export const typedCard = z.object({
  card: z.string().trim().min(1, code('card-needed')).max(30),
  expiry: z
    .string()
    .trim()
    .regex(/^(0[1-9]|1[0-2])\s*\/\s*\d{2}$/u, code('expiry-unreadable')),
});

/** The code that the bank wants before it pays. */
export const bankCode = z.object({ code: z.string().trim().min(1, code('code-from-bank')).max(20) });

/** How a payment by card went: `step`, the bank wants a code; `unknown`, nobody answered and nothing must be paid again. */
export const payOutcome = z.object({
  outcome: z.enum(['succeeded', 'declined', 'step', 'unknown']),
  words: z.string(),
});
