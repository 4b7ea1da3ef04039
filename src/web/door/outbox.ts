import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { create } from 'zustand';
import { outcomeOf, type WaitingMark } from '#core/doors/outbox.ts';
import { ApiProblem, call } from '#web/api.ts';
import { doorName } from './doorName.ts';
import { canSeal, type Sealed, seal, unseal } from './sealing.ts';

/** Something done at a door without a network that is no mark of a seat: a walk-in, somebody of the crew. It is sent as it is. */
export interface KeptRequest {
  /** Its own id: however often it is sent, it is one. */
  id: string;
  order: number;
  /** Who it is about. */
  name: string;
  key: 'POST /api/events/:id/walk-ins' | 'POST /api/assignments/:id/presence';
  params: { id: string };
  body: Record<string, unknown>;
  at: string;
  /** Why the server did not take it; null while it waits. */
  refused: string | null;
  /** What keeps somebody out who is registered by it. */
  stopped?: string;
}

type KeptMark = WaitingMark & { order: number };

/** As it lies on the device: encrypted, where the page can; names and what people said are nobody else's. */
type Lying<T> = T | (Sealed & { id: string });

interface Schema extends DBSchema {
  keys: { key: string; value: CryptoKey };
  marks: { key: string; value: Lying<KeptMark> };
  requests: { key: string; value: Lying<KeptRequest> };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const database = (): Promise<IDBPDatabase<Schema>> => {
  opened ??= openDB<Schema>('acolyte-door', 3, {
    upgrade: (db, before) => {
      if (before < 1) db.createObjectStore('marks', { keyPath: 'id' });
      if (before < 2) db.createObjectStore('requests', { keyPath: 'id' });
      if (before < 3) db.createObjectStore('keys');
    },
  });
  return opened;
};

async function lay<S extends 'marks' | 'requests'>(
  store: S,
  value: S extends 'marks' ? KeptMark : KeptRequest,
): Promise<void> {
  const db = await database();
  const { id } = value;
  await db.put(store, (canSeal() ? { id, ...(await seal(db, value)) } : value) as never);
}

/** What lies there, as it was laid; what an earlier version laid there lies open. */
async function raise<T extends { id: string }>(lying: Lying<T>): Promise<T> {
  return 'content' in lying && 'iv' in lying
    ? ((await unseal(await database(), lying as Sealed)) as T)
    : (lying as T);
}

async function all<S extends 'marks' | 'requests'>(
  store: S,
): Promise<(S extends 'marks' ? KeptMark : KeptRequest)[]> {
  const lying = await (await database()).getAll(store);
  const raised = (await Promise.all(lying.map((l) => raise(l as Lying<{ id: string }>)))) as never[];
  return (raised as { order: number }[]).sort((a, b) => a.order - b.order) as never;
}

interface Outbox {
  /** Marks the server does not have, oldest first; those it refused until somebody has seen that. */
  marks: KeptMark[];
  /** Marks the server has and the list on this device may not. */
  told: KeptMark[];
  /** What else the server does not have, oldest first. */
  requests: KeptRequest[];
  /** True from the first time that the server could not be reached until it is. */
  offline: boolean;
}
export const useOutbox = create<Outbox>()(() => ({ marks: [], told: [], requests: [], offline: false }));

export const setOffline = (offline: boolean): void => {
  if (useOutbox.getState().offline !== offline) useOutbox.setState({ offline });
};

async function load(): Promise<void> {
  useOutbox.setState({ marks: await all('marks'), requests: await all('requests') });
}

/** Marks that a list asked for since then shows by itself are let go of. */
export function forgetTold(before: number): void {
  const { told } = useOutbox.getState();
  const left = told.filter((m) => m.told! > before);
  if (left.length < told.length) useOutbox.setState({ told: left });
}

let sending: Promise<void> = Promise.resolve();

/**
 * Sends what waits, oldest first, one after the other. A mark leaves the device only when the server has it; one that the
 * server refuses stays with the reason. Stops at the first that cannot be sent now.
 */
export function sendWaiting(): Promise<void> {
  sending = sending.then(run, run);
  return sending;
}

async function run(): Promise<void> {
  await load();
  for (const mark of useOutbox.getState().marks) {
    if (mark.refused !== null) continue;
    const status = await send(mark);
    if (status.outcome === 'later') {
      setOffline(status.code === 0);
      break;
    }
    setOffline(false);
    if (status.outcome === 'kept') {
      useOutbox.setState({ told: [...useOutbox.getState().told, { ...mark, told: Date.now() }] });
      await (await database()).delete('marks', mark.id);
    } else await lay('marks', { ...mark, refused: status.words });
    await load();
  }
  for (const kept of useOutbox.getState().requests) {
    if (kept.refused !== null || kept.stopped !== undefined) continue;
    if (!(await sendKept(kept))) break;
    await load();
  }
}

/** Sends what was kept; answers whether the next one can be sent now. */
async function sendKept(kept: KeptRequest): Promise<boolean> {
  const db = await database();
  try {
    const answer = (await call(
      kept.key,
      {
        params: kept.params,
        body: kept.body,
        ...(kept.key === 'POST /api/events/:id/walk-ins' && { query: { sentAt: new Date().toISOString() } }),
      } as never,
      kept.id,
    )) as {
      row?: { attendance: string; headline: string };
    };
    setOffline(false);
    // Registered, and something keeps them out: that is for somebody to see.
    if (answer.row && answer.row.attendance !== 'arrived')
      await lay('requests', { ...kept, stopped: answer.row.headline });
    else await db.delete('requests', kept.id);
    return true;
  } catch (error) {
    const code = error instanceof ApiProblem ? error.body.status : 0;
    if (outcomeOf(code) === 'later') {
      setOffline(code === 0);
      return false;
    }
    await lay('requests', { ...kept, refused: error instanceof Error ? error.message : '' });
    return true;
  }
}

/** True of a request that did not reach the server. */
export const wasCut = (error: unknown): boolean => error instanceof ApiProblem && error.body.status === 0;

/** Keeps a request on the device that did not reach the server, under the id it was sent with. */
export async function keepRequest(kept: Omit<KeptRequest, 'order' | 'at' | 'refused'>): Promise<void> {
  const at = new Date().toISOString();
  await lay('requests', { ...kept, order: Date.now(), at, refused: null });
  setOffline(true);
  await load();
}

async function send(
  mark: WaitingMark,
): Promise<{ outcome: ReturnType<typeof outcomeOf>; code: number; words: string }> {
  const { id, eventId, registrationId, state, despite, undoes, at, sessionId, handedTo, device } = mark;
  try {
    await call(
      'POST /api/registrations/:id/attendance',
      {
        params: { id: registrationId },
        body: {
          eventId,
          state,
          despite,
          at,
          markId: id,
          sentAt: new Date().toISOString(),
          // What an earlier version kept on the device says less.
          sessionId: sessionId ?? null,
          handedTo: handedTo ?? '',
          ...(device && { device }),
          ...(state === 'expected' && undoes.length > 0 && { undoes }),
        },
      },
      id,
    );
    return { outcome: 'kept', code: 200, words: '' };
  } catch (error) {
    const code = error instanceof ApiProblem ? error.body.status : 0;
    return { outcome: outcomeOf(code), code, words: error instanceof Error ? error.message : '' };
  }
}

/** Keeps a mark on the device and sends it. Answers its id, and why the server refused it, or null: it has it, or it waits. */
export async function putMark(
  mark: Omit<WaitingMark, 'id' | 'at' | 'refused' | 'told' | 'device'>,
): Promise<{ id: string; refused: string | null }> {
  const id = crypto.randomUUID();
  const order = Date.now() + performance.now() / 1e6;
  await lay('marks', {
    ...mark,
    id,
    order,
    device: doorName(),
    at: new Date().toISOString(),
    refused: null,
  });
  await sendWaiting();
  const lying = await (await database()).get('marks', id);
  const refused = lying ? (await raise(lying as Lying<KeptMark>)).refused : null;
  // Said to whoever stands there; it need not be said again.
  if (refused !== null) await dismiss(id);
  return { id, refused };
}

/** Takes what was refused off the list: somebody has seen that it did not count. */
export async function dismiss(id: string): Promise<void> {
  const db = await database();
  await db.delete('marks', id);
  await db.delete('requests', id);
  await load();
}
