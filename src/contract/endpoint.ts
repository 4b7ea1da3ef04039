import { z } from 'zod';
import { type Role, roles } from '#core/staff/roles.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import type { ProblemCode } from '#core/words/problems.ts';

export { type Role, roles };

/** Who may call an endpoint: anyone, anyone signed in, or the roles listed (and coordinators). */
export type Who = 'public' | 'staff' | readonly Role[];

export type Method = 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';

/** One endpoint, said once. Its key in the contract is `METHOD /path/:param`. */
export interface Endpoint {
  summary: string;
  who: Who;
  params?: z.ZodType;
  query?: z.ZodType;
  body?: z.ZodType;
  /** The JSON answered, or the media type of a file. */
  response: z.ZodType | { file: string };
  /** How large the body may be, where it is more than 256 kB. */
  limit?: '6mb' | '28mb';
  /** Also for those who still have to set up their second step. */
  enrolling?: true;
  /** Answers on several transactions or calls an outside service; the handler opens its own transactions. */
  ownTransactions?: true;
}

/** Declares endpoints, keeping their exact types. */
export const contract = <const C extends Record<`${Method} /${string}`, Endpoint>>(endpoints: C): C =>
  endpoints;

type OutputOf<S> = S extends z.ZodType ? z.output<S> : undefined;
type InputOf<S> = S extends z.ZodType ? z.input<S> : undefined;

/** What a handler receives of a request. */
export interface Received<E extends Endpoint> {
  params: OutputOf<E['params']>;
  query: OutputOf<E['query']>;
  body: OutputOf<E['body']>;
}
/** What a caller sends. */
export interface Sent<E extends Endpoint> {
  params: InputOf<E['params']>;
  query: InputOf<E['query']>;
  body: InputOf<E['body']>;
}
/** What an endpoint answers. */
export type Answered<E extends Endpoint> = E['response'] extends z.ZodType ? z.output<E['response']> : Blob;

// ---- Shapes used by several words ----

export const id = z.uuid();
/**
 * The name of whoever asks for something without being known: a mail goes to the address they give, and must not carry an address of the web
 * or another's in place of a name.
 */
export const strangersName = z
  .string()
  .trim()
  .min(1, 'name-needed')
  .max(120)
  .refine((name) => !/[/\\@<>]|www\./iu.test(name), 'no-name');
export const idParams = z.object({ id });
export const instant = z.iso.datetime();
export const date = z.iso.date().refine(isCalendarDate, 'no-such-date');
export const wallTime = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$/u, 'no-such-time')
  .refine((w) => isCalendarDate(w.slice(0, 10)), 'no-such-date');
/** An ISO 4217 code. */
export const currency = z.string().regex(/^[A-Z]{3}$/u, 'no-currency-code');
/** Minor units of the currency beside it; without one, of that of the event or, where there is none, of the organization. */
export const amount = z.int().min(-1_000_000_000).max(1_000_000_000);
/** A sum of amounts, of which there may be any number. */
export const sum = z.int();
export const price = z.int('no-amount').min(0, 'price-negative').max(10_000_000, 'price-most');
/** An amount with what it is in. */
export const money = z.object({ amount: sum, currency });
export type Money = z.infer<typeof money>;
/** Text by language; English is always there. */
export const texts = z.object({ en: z.string(), fr: z.string().optional() });
/** A line of text of so many characters at most, as it was typed. */
export const text = (most: number) => z.string().max(most, `At most ${most} characters.`);
export const done = z.object({ done: z.literal(true) });
export const personName = z.object({
  given: z.string().trim().max(100),
  family: z.string().trim().max(100),
});
/** The message of a schema's rule as a code, which every language has words for. */
export const code = (of: ProblemCode): string => of;

export const token = z.object({ token: z.string().min(10).max(100) });

/** What the words of a problem depend on. */
const filledIn = z.record(
  z.string(),
  z.union([
    z.string(),
    z.number(),
    z.object({ amount: z.number(), currency: z.string() }),
    z.object({ date: z.string() }),
  ]),
);

/** A problem as the API says it (RFC 9457), with a stable code and the fields concerned. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.string(),
  detail: z.string().optional(),
  requestId: z.string().optional(),
  /** What the words of the title depend on. */
  params: filledIn.optional(),
  /** The code of a field says the same as its message, for other languages. */
  fields: z
    .array(
      z.object({
        path: z.string(),
        message: z.string(),
        code: z.string().optional(),
        params: filledIn.optional(),
      }),
    )
    .optional(),
});
export type ProblemBody = z.infer<typeof problem>;

/** What the body of an endpoint says once it was read. */
export type BodyOf<E extends Endpoint> = OutputOf<E['body']>;
