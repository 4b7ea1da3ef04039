import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { create } from 'zustand';
import { type Answer, ApiProblem, addressOf, call, type Key } from '#web/api.ts';
import { canSeal, type Sealed, seal, unseal } from './sealing.ts';

// What a device takes along from the doors: enough to go on for a day without a network. It is encrypted with a key that no script can
// read out, let go of after a while, and as soon as the server says that whoever has the device is not signed in any more.

interface Schema extends DBSchema {
  keys: { key: string; value: CryptoKey };
  taken: {
    key: string;
    value: Sealed & { address: string; at: number };
  };
}

/** How long something is kept that is not brought up to date, in milliseconds. */
const longest = 36 * 3_600_000;

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const database = (): Promise<IDBPDatabase<Schema>> => {
  opened ??= openDB<Schema>('acolyte-door-list', 1, {
    upgrade: (db) => {
      db.createObjectStore('keys');
      db.createObjectStore('taken', { keyPath: 'address' });
    },
  });
  return opened;
};

interface Freshness {
  /** From when what is shown is, in milliseconds, by address; nothing for what came just now. */
  from: Readonly<Record<string, number>>;
  /** True where the device has no room for the list. */
  noRoom: boolean;
}
export const useTaken = create<Freshness>()(() => ({ from: {}, noRoom: false }));

/** What the doors ask for that is taken along. */
const takenKeys: readonly Key[] = [
  'GET /api/me',
  'GET /api/doors',
  'GET /api/events/:id/doors',
  'GET /api/events/:id/doors/crew',
];
export const isTakenAlong = (key: Key): boolean =>
  takenKeys.includes(key) && location.pathname.startsWith('/doors') && canSeal();

async function keep(address: string, answer: unknown): Promise<void> {
  try {
    const db = await database();
    await db.put('taken', { address, at: Date.now(), ...(await seal(db, answer)) });
    if (useTaken.getState().noRoom) useTaken.setState({ noRoom: false });
  } catch {
    // The doors go on with the network; that there is no list for without it is said.
    useTaken.setState({ noRoom: true });
  }
}

async function find(address: string): Promise<{ answer: unknown; at: number } | null> {
  const db = await database();
  const kept = await db.get('taken', address);
  if (!kept) return null;
  // Too old to go by, and nothing for whoever finds the device.
  if (Date.now() - kept.at > longest) {
    await letGo();
    return null;
  }
  return { answer: await unseal(db, kept), at: kept.at };
}

/** Lets go of everything that was taken along, with the key. */
export async function letGo(): Promise<void> {
  const db = await database();
  await db.clear('taken');
  await db.clear('keys');
}

/** Asks, and takes the answer along; without a network it answers what was taken. */
export async function askOrTaken<K extends Key>(
  key: K,
  sent: { params?: Record<string, string> | undefined; query?: Record<string, unknown> | undefined },
): Promise<Answer<K>> {
  const address = addressOf(key, sent.params, sent.query);
  const shows = (at: number | null) => {
    const { [address]: _, ...others } = useTaken.getState().from;
    useTaken.setState({ from: at === null ? others : { ...others, [address]: at } });
  };
  try {
    const answer = await call(key, sent as never);
    shows(null);
    void keep(address, answer);
    return answer;
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    if (error.body.status === 401) await letGo();
    // Only a server that cannot be reached, or is in trouble, is done without.
    if (error.body.status !== 0 && error.body.status < 500) throw error;
    const kept = await find(address).catch(() => null);
    if (!kept) throw error;
    shows(kept.at);
    return kept.answer as Answer<K>;
  }
}
