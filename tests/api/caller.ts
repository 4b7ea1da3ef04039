import type { Answered, ProblemBody, Sent } from '#contract/endpoint.ts';
import type { Everything } from '#contract/index.ts';
import { linkPaths } from '#core/messages/links.ts';
import { type App, type LinkKind, openLink } from '#server/app/app.ts';

type Key = keyof Everything;

/** An answer of the server: its status and either body. */
export interface Reply<K extends Key> {
  status: number;
  body: Answered<Everything[K]>;
  problem: ProblemBody;
  headers: Headers;
}

/** Somebody at a browser: keeps a cookie, calls endpoints by their key. */
export class Caller {
  readonly cookies = new Map<string, string>();
  constructor(readonly origin: string) {}

  /** Calls an endpoint and gives back whatever it answers. */
  async try<K extends Key>(
    key: K,
    sent: Partial<Sent<Everything[K]>> = {},
    headers: Record<string, string> = {},
  ): Promise<Reply<K>> {
    const [method, pattern] = (key as string).split(' ') as [string, string];
    const path = pattern.replace(/:(\w+)/gu, (_, name: string) =>
      encodeURIComponent(String((sent.params as Record<string, unknown>)[name])),
    );
    const query = sent.query
      ? `?${new URLSearchParams(Object.entries(sent.query as object).map(([k, v]) => [k, String(v)]))}`
      : '';
    const response = await fetch(`${this.origin}${path}${query}`, {
      method,
      headers: {
        origin: this.origin,
        ...(sent.body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(this.cookies.size
          ? { cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ') }
          : {}),
        ...headers,
      },
      ...(sent.body === undefined ? {} : { body: JSON.stringify(sent.body) }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [name = '', ...value] = cookie.split(';')[0]!.split('=');
      this.cookies.set(name, value.join('='));
    }
    const type = response.headers.get('content-type') ?? '';
    const body = type.includes('json')
      ? await response.json()
      : type.startsWith('text/')
        ? await response.text()
        : Buffer.from(await response.arrayBuffer());
    return {
      status: response.status,
      body: body as never,
      problem: body as ProblemBody,
      headers: response.headers,
    };
  }

  /** Calls an endpoint that has to succeed. */
  async call<K extends Key>(
    key: K,
    sent: Partial<Sent<Everything[K]>> = {},
    headers: Record<string, string> = {},
  ): Promise<Answered<Everything[K]>> {
    const reply = await this.try(key, sent, headers);
    if (reply.status >= 300) throw new Error(`${key}: ${reply.status} ${JSON.stringify(reply.problem)}`);
    return reply.body;
  }
}

/** The address of a personal link, as its message carries it. */
export const linkTo = async (
  app: App,
  kind: Exclude<LinkKind, 'preview' | 'feed' | 'here' | 'kiosk' | 'cosign' | 'count' | 'widget'>,
  subjectId: string,
): Promise<string> =>
  `${app.origin}${linkPaths[kind].path}${await openLink({ app, tx: app.db, now: app.clock.now() }, kind, subjectId)}`;
