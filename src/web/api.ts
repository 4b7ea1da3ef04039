import type { Answered, ProblemBody, Sent } from '#contract/endpoint.ts';
import type { Everything } from '#contract/index.ts';
import { sayField } from '#contract/wrong.ts';
import type { Language } from '#core/words/language.ts';
import { isProblemCode, sayProblem } from '#core/words/problems.ts';

export type Key = keyof Everything;
export type Answer<K extends Key> = Answered<Everything[K]>;
type Needed<K extends Key> = {
  [P in keyof Sent<Everything[K]> as Sent<Everything[K]>[P] extends undefined ? never : P]: Sent<
    Everything[K]
  >[P];
};

/** What the server says when it does not do what was asked. */
export class ApiProblem extends Error {
  constructor(readonly body: ProblemBody) {
    super(isProblemCode(body.code) ? sayProblem(body.code, body.params, reading) : body.title);
  }
  get code(): string {
    return this.body.code;
  }
  /** Messages by field path. */
  get fields(): Record<string, string> {
    return Object.fromEntries((this.body.fields ?? []).map((f) => [f.path, sayField(f, reading)]));
  }
}

/** The language that problems are said in, where their code has words in it. */
let reading: Language = 'en';
export const readIn = (language: Language): void => {
  reading = language;
};
export const readingIn = (): Language => reading;

const offline: ProblemBody = {
  type: 'about:blank#offline',
  title: sayProblem('offline'),
  status: 0,
  code: 'offline',
};

/** The address of an endpoint, for links to files. */
export function addressOf<K extends Key>(
  key: K,
  params: Record<string, string> = {},
  query: Record<string, unknown> = {},
): string {
  const path = (key as string)
    .slice((key as string).indexOf(' ') + 1)
    .replace(/:(\w+)/gu, (_, name: string) => encodeURIComponent(params[name] ?? ''));
  const pairs = Object.entries(query).filter(([, v]) => v !== undefined && v !== null && v !== '');
  return pairs.length ? `${path}?${new URLSearchParams(pairs.map(([k, v]) => [k, String(v)]))}` : path;
}

/** Sends a request and gives back whatever is answered; throws when nothing is. */
async function send(
  key: Key,
  {
    params,
    query,
    body,
  }: {
    params?: Record<string, string> | undefined;
    query?: Record<string, unknown> | undefined;
    body?: unknown;
  },
  idempotencyKey?: string,
): Promise<Response> {
  try {
    return await fetch(addressOf(key, params, query), {
      method: (key as string).split(' ')[0]!,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(idempotencyKey ? { 'idempotency-key': idempotencyKey } : {}),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    throw new ApiProblem(offline);
  }
}

/** Asks for a file that needs a body to say what is in it, and saves it under a name. Throws ApiProblem. */
export async function saveFile<K extends Key>(key: K, sent: Needed<K>, name: string): Promise<void> {
  const response = await send(key, sent as { body?: unknown });
  if (!response.ok)
    throw new ApiProblem(((await response.json().catch(() => null)) as ProblemBody | null) ?? offline);
  const address = URL.createObjectURL(await response.blob());
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

/** Calls an endpoint by its key. Throws ApiProblem. A create repeated with the same idempotency key is done once. */
export async function call<K extends Key>(
  key: K,
  sent: Needed<K> = {} as Needed<K>,
  idempotencyKey?: string,
): Promise<Answer<K>> {
  const { params, query, body } = sent as {
    params?: Record<string, string>;
    query?: Record<string, unknown>;
    body?: unknown;
  };
  const response = await send(key, { params, query, body }, idempotencyKey);
  const answer = (await response.json().catch(() => null)) as unknown;
  if (!response.ok)
    throw new ApiProblem(
      (answer as ProblemBody | null) ?? { ...offline, code: 'unreadable', status: response.status },
    );
  return answer as Answer<K>;
}
