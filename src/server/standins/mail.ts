import type { App } from '../app/app.ts';
import { type Database, first, insert, type Queries } from '../db/database.ts';

/** How a stand-in was told to behave, for a number of calls or until told otherwise. */
export interface Behaviour {
  service: 'mail' | 'cards' | 'notices' | 'payouts' | 'diaries';
  mode: 'works' | 'fails' | 'answer lost' | 'lost' | 'twice' | 'late' | 'mixed up';
  remaining: number | null;
}

/** Reads how a stand-in behaves and counts the call down. */
export async function nextBehaviour(db: Database, service: Behaviour['service']): Promise<Behaviour['mode']> {
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
 * The mail gateway that ships with the product. It keeps what it accepted, by key: the same key is accepted once, as
 * real gateways do. Told to fail, it refuses; told that the answer is lost, it accepts and then breaks off.
 */
export const makeMailStandin =
  (db: Database, now: () => string): App['mail'] =>
  async ({ key, address, subject, body, calendar }) => {
    const mode = await nextBehaviour(db, 'mail');
    if (mode === 'fails') throw new Error('the mail server refused the message (stand-in told to fail)');
    await insert(
      db,
      'standin_mail',
      { key, address, subject, body, calendar, acceptedAt: now() },
      'on conflict do nothing',
    );
    if (mode === 'answer lost') throw new Error('the mail server broke off before answering (stand-in)');
  };
