import type { Role } from '#contract/endpoint.ts';
import type { Duty } from '#core/access/duties.ts';
import type { Consequences } from '#core/events/consequences.ts';
import type { Throttle } from '#core/staff/throttle.ts';
import type { Clock } from '#core/time/clock.ts';
import type { ClockFace } from '#core/time/face.ts';
import { type Database, first, insert, type Queries } from '../db/database.ts';
import { type Ids, linkToken, mailedToken, sha256 } from '../db/ids.ts';
import type { Leases } from '../db/leases.ts';
import type { Announcer } from './announcer.ts';
import type { CardGateway, CardsAround } from './cards.ts';
import type { Keeper } from './keeping.ts';
import type { FactKind, Facts } from './kinds.ts';

/** Everything handlers and due work need; made once at start. */
export interface App {
  db: Database;
  clock: Clock;
  /** Real time, for sessions: moving the demonstration's clock signs nobody out. */
  sessionClock: Clock;
  ids: Ids;
  secret: string;
  announcer: Announcer;
  /** Who does work that only one of several processes may do at a time. */
  leases: Leases;
  /** What the words do on facts, in the order they do it. */
  reactions: readonly Reactions[];
  /** Where the product is reached from outside, without a slash at the end. */
  origin: string;
  log: Log;
  /** Sends one message. The same key is never accepted twice. Throws when the gateway does not take it. */
  mail: (message: Letter) => Promise<void>;
  /** Replies to what it sends are handed on here. */
  takesReplies: boolean;
  /** The same with a text message. */
  text: (message: TextMessage) => Promise<void>;
  /** The processor of card payments. */
  cards: CardGateway;
  /** What its stand-in is made of; it does things by itself. */
  cardsAround: CardsAround;
  /** Makes backups and puts them back; null without a data folder. */
  keeper: Keeper | null;
  /** How the organization says times of day. */
  face: ClockFace;
  /** Present where the clock can be moved. */
  movable: boolean;
  /** One address may only hold its share of seats unpaid. */
  fairShare: boolean;
  /** Goes up after a commit that may have made something due. */
  wake: () => void;
  /** How tries to sign in are slowed down: under an address with an account, and under an account from unknown devices. */
  throttles: { pair: Throttle; account: Throttle };
}

/** Somebody a mail comes from or goes to. */
export interface MailParty {
  name: string;
  address: string;
}

/** A mail as it is handed to the gateway. */
export interface Letter {
  /** The same key is accepted once. */
  key: string;
  from: MailParty;
  to: MailParty;
  subject: string;
  text: string;
  html: string;
  headers: Readonly<Record<string, string>>;
  /** A calendar entry that goes with it (RFC 5546), where it brings one. */
  calendar: { method: 'REQUEST' | 'CANCEL'; text: string } | null;
}

/** Thrown by a gateway that takes a message from nobody: trying it again is of no use. */
export class RefusedForGood extends Error {}

/** A text message as it is handed to its gateway. */
export interface TextMessage {
  key: string;
  /** A telephone number, E.164. */
  number: string;
  body: string;
}

/** What one word does when something happened, in the same transaction. */
export type Reactions = {
  readonly [K in FactKind]?: (
    w: Work,
    about: Facts[K],
  ) => Promise<void> | Promise<Partial<Consequences> | undefined>;
};

export interface Log {
  info(fields: object, text: string): void;
  error(fields: object, text: string): void;
}

/** Somebody of the staff who is signed in. */
export interface SignedIn {
  id: string;
  name: string;
  email: string;
  roles: Role[];
  approves: string[];
  unitId: string | null;
  duties: readonly Duty[];
  /** Approvers who are away today and for whom they stand in. */
  standsFor: readonly { id: string; approves: readonly string[] }[];
  /** How they read times of day; null as the organization does. */
  clock: ClockFace | null;
  sessionId: string;
  /** They have to set up the second step before anything else. */
  enrolling: boolean;
}

/** Somebody who asks, and when. */
export interface Asker {
  staff: SignedIn;
  now: string;
}

/** Who did something, for the audit trail. */
export interface Actor {
  name: string;
  staffId: string | null;
  requestId: string | null;
}

export const systemActor: Actor = { name: 'Acolyte', staffId: null, requestId: null };

/** One transaction with what belongs to it. */
export interface Work {
  app: App;
  tx: Queries;
  now: string;
  actor: Actor;
  /** A change that is being made. */
  change?: ChangeInHand;
  /** Runs after the transaction was kept. */
  afterwards: (run: () => void) => void;
}

/** A change that is being made, with what it brings about. */
export interface ChangeInHand {
  id: string;
  /** Until then it can be taken back: what is written to people because of it waits. */
  lettersAt: string;
  /** It is only asked what would follow. */
  trying: boolean;
  /** Whether messages have to be planned anew: that is done once, when everything else is. */
  replan: boolean;
}

/** What was tried is taken back by this. */
class TakenBack<T> extends Error {
  constructor(readonly result: T) {
    super('tried, and taken back');
  }
}

/**
 * Does `work` and takes all of it back: what it answers is what would happen, found by the very functions that do it.
 * Throws what it would throw.
 */
export async function whatIf<T>(app: App, actor: Actor, work: (w: Work) => Promise<T>): Promise<T> {
  try {
    await inTransaction(app, actor, async (w) => {
      throw new TakenBack(await work(w));
    });
  } catch (error) {
    if (error instanceof TakenBack) return error.result as T;
    throw error;
  }
  throw new Error('what was tried was kept');
}

/** Runs `work` in one transaction with its actor and its moment. */
export async function inTransaction<T>(app: App, actor: Actor, work: (w: Work) => Promise<T>): Promise<T> {
  let runs: (() => void)[] = [];
  const result = await app.db.transaction((tx) => {
    // A transaction that is tried again starts over.
    runs = [];
    return work({ app, tx, now: app.clock.now(), actor, afterwards: (run) => runs.push(run) });
  });
  for (const run of runs) run();
  return result;
}

export type LinkKind =
  | 'manage'
  | 'crew'
  | 'survey'
  | 'preview'
  | 'own'
  | 'seat'
  | 'feed'
  | 'invited'
  | 'gift'
  | 'pledge'
  | 'receipt'
  | 'out'
  | 'follow'
  | 'application'
  | 'signed'
  | 'here'
  | 'kiosk'
  | 'cosign'
  | 'count'
  | 'widget';

/** Makes sure a public link exists and returns its token. A link that was stopped stays so. What is new has none yet. */
export async function openLink(
  w: Pick<Work, 'app' | 'tx' | 'now'>,
  kind: LinkKind,
  subjectId: string,
  age: 'new' | 'may be there' = 'may be there',
): Promise<string> {
  const known =
    age === 'new'
      ? null
      : await first<{ renewals: number }>(
          w.tx,
          'select renewals from links where kind = $1 and subject_id = $2',
          [kind, subjectId],
        );
  const token = linkToken(w.app.secret, kind, subjectId, known?.renewals ?? 0);
  if (!known)
    await insert(
      w.tx,
      'links',
      { tokenHash: sha256(token), kind, subjectId, createdAt: w.now, revokedAt: null, renewals: 0 },
      'on conflict do nothing',
    );
  return token;
}

/**
 * The same for a mail: whoever opens it reads what is sent to that address, which whoever was shown the link on a page may not. It leads
 * where the other one leads.
 */
export async function openMailedLink(
  w: Pick<Work, 'app' | 'tx' | 'now'>,
  kind: LinkKind,
  subjectId: string,
): Promise<string> {
  const token = mailedToken(w.app.secret, await openLink(w, kind, subjectId));
  await w.tx.query(
    'update links set mailed_hash = $3 where kind = $1 and subject_id = $2 and mailed_hash is null',
    [kind, subjectId, sha256(token)],
  );
  return token;
}

/** The token of a public link that leads somewhere; null without one. */
export async function liveLink(
  w: Pick<Work, 'app' | 'tx'>,
  kind: LinkKind,
  subjectId: string,
): Promise<string | null> {
  const known = await first<{ renewals: number }>(
    w.tx,
    'select renewals from links where kind = $1 and subject_id = $2 and revoked_at is null',
    [kind, subjectId],
  );
  return known && linkToken(w.app.secret, kind, subjectId, known.renewals);
}

/** Stops a public link: whoever has it finds nothing any more. */
export async function stopLink(
  w: Pick<Work, 'tx' | 'now'>,
  kind: LinkKind,
  subjectId: string,
): Promise<void> {
  await w.tx.query(
    'update links set revoked_at = $3 where kind = $1 and subject_id = $2 and revoked_at is null',
    [kind, subjectId, w.now],
  );
}

/** Puts another link in the place of one; the old one leads nowhere. */
export async function renewLink(
  w: Pick<Work, 'app' | 'tx' | 'now'>,
  kind: LinkKind,
  subjectId: string,
): Promise<void> {
  await openLink(w, kind, subjectId);
  const known = (await first<{ renewals: number }>(
    w.tx,
    'select renewals from links where kind = $1 and subject_id = $2 for update',
    [kind, subjectId],
  ))!;
  const renewals = known.renewals + 1;
  await w.tx.query(
    'update links set token_hash = $3, mailed_hash = null, renewals = $4, revoked_at = null, created_at = $5 where kind = $1 and subject_id = $2',
    [kind, subjectId, sha256(linkToken(w.app.secret, kind, subjectId, renewals)), renewals, w.now],
  );
}

/** Makes sure a public link leads somewhere. One that was stopped stays so: what hangs on a wall opens nothing, and another one takes its place. */
export async function openAnew(
  w: Pick<Work, 'app' | 'tx' | 'now'>,
  kind: LinkKind,
  subjectId: string,
): Promise<void> {
  if (await liveLink(w, kind, subjectId)) return;
  await openLink(w, kind, subjectId);
  if (!(await liveLink(w, kind, subjectId))) await renewLink(w, kind, subjectId);
}

/** What a public link leads to, or null when it is wrong, altered or revoked. */
export async function followLink(tx: Queries, kind: LinkKind, token: string): Promise<string | null> {
  const row = await first<{ subjectId: string }>(
    tx,
    'select subject_id from links where (token_hash = $1 or mailed_hash = $1) and kind = $2 and revoked_at is null',
    [sha256(token), kind],
  );
  return row?.subjectId ?? null;
}
