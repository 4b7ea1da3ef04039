import { type Database, first, type Queries } from '../db/database.ts';
import { nextBehaviour } from './mail.ts';

/** True for an address of the reserved domain: nobody can have it, and the stand-in answers there (RFC 2606 section 2). */
export const isMadeUp = (address: string): boolean => /\.example$/u.test(new URL(address).hostname);

/** What stands under a made-up address. Throws as the network does when it was told to fail, or nothing is there. */
export async function readStandin(db: Database, address: string): Promise<string> {
  if ((await nextBehaviour(db, 'diaries')) !== 'works') throw new Error('the stand-in does not answer');
  const row = await first<{ content: string }>(db, 'select content from standin_diaries where address = $1', [
    address,
  ]);
  if (!row) throw new Error('nothing under this address');
  return row.content;
}

/** Puts a diary under a made-up address. */
export const putStandin = (tx: Queries, address: string, content: string): Promise<unknown> =>
  tx.query(
    'insert into standin_diaries (address, content) values ($1, $2) on conflict (address) do update set content = excluded.content',
    [address, content],
  );
