import type { ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { openPglite } from '#server/db/pglite.ts';
import { Caller } from './caller.ts';
import { saying } from './scenes.ts';

export interface KilledRun {
  /** The data folder of a founded organization that nobody holds. */
  folder: string;
  origin: string;
  start: () => Promise<ChildProcess>;
  end: (child: ChildProcess, signal: 'SIGKILL' | 'SIGTERM') => Promise<void>;
  messages: number;
  kills: number;
  /** How long the server works until it is killed, in milliseconds. */
  worksFor: (kill: number) => number;
}

/** What became of the messages: by their states, and how many the gateway has on its list, once and under another key. */
export interface Outcome {
  states: Record<string, number>;
  atGateway: number;
  /** Messages that are not there, or that are there for somebody else. */
  astray: number;
  /** Tries, as the messages count them. */
  tries: number;
}

/**
 * Writes to so many people and kills the server again and again while it sends, with a gateway that refuses or takes what it is given
 * and breaks off. Then lets it finish, and looks what the gateway has.
 */
export async function killedRun(run: KilledRun): Promise<Outcome> {
  const { folder, origin, messages, kills } = run;
  const database = () => openPglite({ folder: join(folder, 'pg') });
  const before = await database();
  const made = await before.query<{ id: string }>(
    `with c as (insert into contacts (id, given_name, family_name, language, source, created_at, updated_at)
         select gen_random_uuid(), 'Given' || n, 'Killed', 'en', 'bench', now(), now() from generate_series(1, $1) n returning id, given_name),
       e as (insert into contact_emails (id, contact_id, email, email_key, position)
         select gen_random_uuid(), id, lower(given_name) || '@harbourpost.example', lower(given_name) || '@harbourpost.example', 0 from c)
     select id from c`,
    [messages],
  );
  await before.close();
  let server = await run.start();
  const signIn = async (): Promise<Caller> => {
    const caller = new Caller(origin);
    await caller.call('POST /api/sign-in', {
      body: { email: 'odalys@brackenmere.example', password: 'marsh-wren-2026' },
    });
    return caller;
  };
  let odalys = await signIn();
  const misbehave = (kill: number) =>
    odalys.call('PUT /api/standins', {
      body: { service: 'mail', mode: kill % 2 ? 'fails' : 'answer lost', remaining: 3 },
    });
  await misbehave(0);
  const { id } = await odalys.call('POST /api/mailings', {
    body: {
      name: 'To all of them',
      ids: made.map((c) => c.id),
      topic: 'notice',
      ...saying('Hello {{name}}', 'Hello {{name}}'),
      expect: messages,
    },
  });
  for (let kill = 0; kill < kills; kill += 1) {
    await new Promise((resolve) => setTimeout(resolve, run.worksFor(kill)));
    await run.end(server, 'SIGKILL');
    server = await run.start();
    odalys = await signIn();
    await misbehave(kill + 1);
  }
  await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'works', remaining: null } });
  // What was refused is tried again after some minutes, and what waits longest after twelve hours.
  const now = (await odalys.call('GET /api/clock')).now;
  await odalys.call('POST /api/clock', {
    body: { to: new Date(Date.parse(now) + 16 * 3_600_000).toISOString() },
  });
  await run.end(server, 'SIGTERM');
  const after = await database();
  const states = await after.query<{ state: string; n: number; tries: number }>(
    'select state, count(*)::int as n, sum(attempts)::int as tries from messages where mailing_id = $1 group by state',
    [id],
  );
  const [gateway] = await after.query<{ n: number; astray: number }>(
    `select (select count(*)::int from standin_mail where subject like 'Hello Given%') as n, count(*) filter (where k.key is null or k.address <> m.address or k.subject <> 'Hello ' || split_part(m.name, ' ', 1))::int as astray
     from messages m left join standin_mail k on k.key = m.id::text where m.mailing_id = $1`,
    [id],
  );
  await after.close();
  return {
    states: Object.fromEntries(states.map((s) => [s.state, s.n])),
    atGateway: gateway!.n,
    astray: gateway!.astray,
    tries: states.reduce((sum, s) => sum + s.tries, 0),
  };
}
