import { plusMinutes } from '#core/time/clock.ts';
import { type App, type Letter, RefusedForGood, type TextMessage } from '../app/app.ts';
import { type Database, first, insert, type Queries } from '../db/database.ts';
import type { Ids } from '../db/ids.ts';

/** How a stand-in was told to behave, for a number of calls or until told otherwise. */
export interface Behaviour {
  service: 'mail' | 'texts' | 'cards' | 'notices' | 'payouts' | 'diaries';
  mode:
    | 'works'
    | 'fails'
    | 'answer lost'
    | 'lost'
    | 'twice'
    | 'late'
    | 'mixed up'
    | 'refuses'
    | 'bounces'
    | 'complains';
  remaining: number | null;
}

/** Reads how a stand-in behaves and counts the call down. */
export async function nextBehaviour(db: Database, service: Behaviour['service']): Promise<Behaviour['mode']> {
  const told = await first<Pick<Behaviour, 'mode'>>(
    db,
    'select mode from standin_behaviour where service = $1',
    [service],
  );
  if (!told || told.mode === 'works') return 'works';
  return db.transaction(async (tx) => {
    const row = await first<Behaviour>(
      tx,
      'select service, mode, remaining from standin_behaviour where service = $1',
      [service],
    );
    if (!row || row.mode === 'works') return 'works';
    if (row.remaining !== null)
      await tx.query(
        `update standin_behaviour set remaining = remaining - 1, mode = case when remaining <= 1 then 'works' else mode end where service = $1`,
        [service],
      );
    return row.mode;
  });
}

/** How the stand-ins were told to behave. */
export const readBehaviours = (tx: Queries): Promise<Behaviour[]> =>
  tx.query<Behaviour>('select service, mode, remaining from standin_behaviour');

export async function tellStandin(tx: Queries, behaviour: Behaviour): Promise<void> {
  await tx.query(
    `insert into standin_behaviour (service, mode, remaining) values ($1, $2, $3)
     on conflict (service) do update set mode = excluded.mode, remaining = excluded.remaining`,
    [behaviour.service, behaviour.mode, behaviour.remaining],
  );
}

/**
 * A gateway that ships with the product. It keeps what it accepted, by key: the same key is accepted once, as real gateways do. Told
 * to fail, it refuses for now, told to refuse, for good; told that the answer is lost, it accepts and then breaks off; told that a
 * message bounces or is complained of, it accepts it and says so a minute later.
 */
const makeGateway =
  <Message>(
    db: Database,
    service: 'mail' | 'texts',
    what: string,
    keep: (message: Message) => Promise<unknown>,
    tellLater?: (message: Message, mode: 'bounces' | 'complains') => Promise<unknown>,
  ): ((message: Message) => Promise<void>) =>
  async (message) => {
    const mode = await nextBehaviour(db, service);
    if (mode === 'fails') throw new Error(`${what} refused the message (stand-in told to fail)`);
    if (mode === 'refuses') throw new RefusedForGood(`${what} knows no such address (stand-in)`);
    await keep(message);
    if (mode === 'bounces' || mode === 'complains') await tellLater?.(message, mode);
    if (mode === 'answer lost') throw new Error(`${what} broke off before answering (stand-in)`);
  };

export const makeMailStandin = (db: Database, ids: Ids, now: () => string): App['mail'] =>
  makeGateway<Letter>(
    db,
    'mail',
    'the mail server',
    ({ key, to, subject, text, html, headers, calendar }) =>
      insert(
        db,
        'standin_mail',
        {
          key,
          address: to.address,
          subject,
          body: text,
          html,
          headers,
          calendar: calendar?.text ?? null,
          acceptedAt: now(),
        },
        'on conflict do nothing',
      ),
    ({ key }, mode) =>
      insert(db, 'standin_mail_notices', {
        id: ids.id(),
        key,
        how: mode === 'bounces' ? 'bounced' : 'complained',
        at: plusMinutes(now(), 1),
      }),
  );

export const makeTextStandin = (db: Database, now: () => string): App['text'] =>
  makeGateway<TextMessage>(db, 'texts', 'the text message service', ({ key, number, body }) =>
    insert(db, 'standin_texts', { key, number, body, acceptedAt: now() }, 'on conflict do nothing'),
  );

/** What the stand-in has to tell next of a mail it took. */
export const nextMailNoticeSql = 'select at, id from standin_mail_notices order by at, id limit 1';

/** Takes a notice of the stand-in off its list. */
export const takeMailNotice = async (
  tx: Queries,
  id: string,
): Promise<{ key: string; how: 'bounced' | 'complained' } | null> =>
  (await first<{ key: string; how: 'bounced' | 'complained' }>(
    tx,
    'delete from standin_mail_notices where id = $1 returning key, how',
    [id],
  )) ?? null;
