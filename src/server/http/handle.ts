import { type Request, type Response, Router } from 'express';
import type { z } from 'zod';
import type { Endpoint, Received, Role, Who } from '#contract/endpoint.ts';
import { fieldProblems } from '#contract/wrong.ts';
import { roleOf } from '#core/access/duties.ts';
import { textProblems } from '#core/words/text.ts';
import { type Actor, type App, inTransaction, type SignedIn, type Work } from '../app/app.ts';
import { byClock } from '../app/reading.ts';
import { first, insert } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { readBody } from './body.ts';
import { invalid, refused } from './problem.ts';
import { inTurn } from './turns.ts';

/** A file as an answer. */
export class File {
  constructor(
    readonly name: string,
    readonly body: string | Buffer,
    readonly inline = false,
    /** Its media type, where it differs from what the contract says. */
    readonly type: string | null = null,
    /** Whether what stands at its address never changes, so that whoever has it keeps it. */
    readonly forever = false,
  ) {}
}

/** What every handler receives besides the request's own parts. */
export interface Call {
  app: App;
  now: string;
  actor: Actor;
  /** Who is signed in. On endpoints for staff, always somebody. */
  staff: SignedIn;
  /** The same, or null, on public endpoints. */
  maybeStaff: SignedIn | null;
  request: Request;
}

type Answer<E extends Endpoint> = E['response'] extends { file: string } ? File : InputAnswer<E>;
type InputAnswer<E extends Endpoint> = E['response'] extends z.ZodType ? z.input<E['response']> : never;
/** Reads get the database itself as `tx`; writes get one transaction. */
export type Handler<E extends Endpoint> = (call: Call & Work & Received<E>) => Promise<Answer<E>>;
export type Handlers<C extends Record<string, Endpoint>> = { [K in keyof C]: Handler<C[K]> };

/** True when somebody may call an endpoint. */
function mayCall(who: Who, path: string, staff: SignedIn | null): boolean {
  if (who === 'public') return true;
  if (!staff) return false;
  if (who === 'staff' || staff.roles.includes('coordinator')) return true;
  // Somebody's part in one event counts where something of an event is asked for; the handler asks of which.
  return (
    staff.roles.some((r: Role) => who.includes(r)) ||
    (ofOneEvent.test(path) && staff.duties.some((d) => who.includes(roleOf(d))))
  );
}

/** What belongs to one event, which the handler looks for by `eventFor`. */
const ofOneEvent =
  /^\/api\/(?:events\/:id|registrations\/|orders\/|shifts\/|assignments\/|attendance-(?:lists|disputes)\/|session-proposals\/|pictures|doors$)/u;

/** Builds the routes of a contract. Parsing, permission, transaction, replay and answering are the same for all. */
export function routesOf<C extends Record<string, Endpoint>>(
  app: App,
  endpoints: C,
  handlers: Handlers<C>,
  staffOf: (request: Request) => Promise<SignedIn | null>,
): Router {
  const router = Router();
  for (const [key, endpoint] of Object.entries(endpoints)) {
    const [method, path] = key.split(' ') as [string, string];
    const handler = handlers[key as keyof C] as Handler<Endpoint>;
    router[method.toLowerCase() as 'get'](path, async (request: Request, response: Response) => {
      const staff = await staffOf(request);
      if (!mayCall(endpoint.who, path, staff)) {
        // What else was sent is not read.
        response.set('connection', 'close');
        throw staff ? refused('not-allowed', {}, 403) : refused('not-signed-in', {}, 401);
      }
      if (staff?.enrolling && endpoint.who !== 'public' && !endpoint.enrolling)
        throw refused('second-step', {}, 403);
      if (method !== 'GET') await readBody(request, response, endpoint.limit ?? '256kb');
      const face = staff?.clock ?? app.face;
      await inTurn(app, request, response, staff, () =>
        byClock(face, () => answered(request, response, staff)),
      );
    });
    const answered = async (request: Request, response: Response, staff: SignedIn | null): Promise<void> => {
      const received = {
        params: parse(endpoint.params, request.params, 'params'),
        query: parse(endpoint.query, request.query, 'query'),
        body: parse(endpoint.body, request.body ?? {}, 'body'),
      };
      const actor: Actor = {
        name: staff?.name ?? 'public',
        staffId: staff?.id ?? null,
        requestId: String(response.locals.requestId),
      };
      const call = { staff: staff!, maybeStaff: staff, request, ...received };
      if (method === 'GET' || endpoint.ownTransactions) {
        const work = { app, tx: app.db, now: app.clock.now(), actor, afterwards: (run: () => void) => run() };
        answer(response, endpoint, 200, await handler({ ...work, ...call } as never));
        return;
      }
      const status = method === 'POST' ? 201 : 200;
      const idempotencyKey = request.get('idempotency-key');
      const result = await inTransaction(app, actor, async (work) => {
        const run = () => handler({ ...work, ...call } as never);
        return idempotencyKey ? replayable(work, key, staff, idempotencyKey, request, run) : run();
      });
      app.wake();
      answer(response, endpoint, status, result);
    };
  }
  return router;
}

/** Answers a repeated create with what it answered the first time; the same key with another body is refused. */
async function replayable(
  work: Work,
  endpoint: string,
  staff: SignedIn | null,
  key: string,
  request: Request,
  run: () => Promise<unknown>,
): Promise<unknown> {
  if (!/^[\w-]{8,100}$/u.test(key)) throw refused('idempotency-key', {}, 400);
  const scope = `${endpoint} ${staff?.id ?? 'public'}`;
  const bodyHash = sha256(`${request.path} ${JSON.stringify(request.body ?? {})}`);
  const before = await first<{ bodyHash: string; response: unknown }>(
    work.tx,
    'select body_hash, response from idempotency where scope = $1 and key = $2',
    [scope, key],
  );
  if (before) {
    if (before.bodyHash !== bodyHash) throw refused('idempotency-key-reused', {}, 409);
    return before.response;
  }
  const result = await run();
  await insert(work.tx, 'idempotency', { scope, key, bodyHash, status: 201, response: result, at: work.now });
  return result;
}

const nothingHere = () => refused('nothing-here', {}, 404);

function parse(schema: z.ZodType | undefined, value: unknown, part: string): unknown {
  if (!schema) return undefined;
  const unprintable = textProblems(value);
  if (unprintable.length) {
    if (part === 'params') throw nothingHere();
    throw invalid(unprintable);
  }
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  if (part === 'params') throw nothingHere();
  throw invalid(fieldProblems(result.error.issues));
}

function answer(response: Response, endpoint: Endpoint, status: number, result: unknown): void {
  if ('file' in endpoint.response) {
    const file = result as File & { start?: (response: Response) => void };
    if (file.start) {
      file.start(response);
      return;
    }
    if (file.forever) response.set('cache-control', 'public, max-age=31536000, immutable');
    response
      .status(200)
      .type(file.type ?? endpoint.response.file)
      .set(
        'content-disposition',
        `${file.inline ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      )
      .send(file.body);
    return;
  }
  // Outside production an answer that breaks its own contract is an error, so that the OpenAPI description stays true.
  const body =
    process.env.NODE_ENV === 'production' ? result : (endpoint.response as z.ZodType).parse(result);
  response.status(status).json(body);
}
