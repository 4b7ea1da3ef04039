import type { Move } from '#core/money/processor.ts';
import type { Clock } from '#core/time/clock.ts';
import type { Database } from '../db/database.ts';
import type { Ids } from '../db/ids.ts';

/** What the stand-in of a processor is made of. */
export interface CardsAround {
  db: Database;
  clock: Clock;
  ids: Ids;
  /** Of the organization; what notifications are signed with comes from it. */
  secret: () => string;
}

/** What a processor of card payments answers to a charge. */
export interface CardAnswer {
  /** Our key of the charge. */
  key: string;
  /** Its own number. */
  ref: string;
  /** `step`: the bank wants something more from whoever pays. */
  outcome: 'succeeded' | 'declined' | 'step';
  words: string;
}

/** A card as it is typed, or one that was kept. */
export type CardOrToken = { card: string } | { token: string };

/** A card that the processor keeps: by its token it can be charged again. */
export interface KeptCard {
  token: string;
  /** Its last four digits. */
  ending: string;
  /** The last month it is good for, like `2029-08`. */
  expires: string;
}

/** What it answers to a refund. One that was taken on may still not go through; a move tells of that. */
export interface RefundAnswer {
  key: string;
  outcome: 'returned' | 'failed';
  words: string;
}

/** What it tells by itself: how a charge ended, or that something moved. */
export type Notice = { id: string } & (
  | { about: 'answer'; answer: CardAnswer }
  | { about: 'move'; move: Move }
);

/** The headers a notification comes with. */
export type NoticeHeaders = Readonly<Record<string, string | undefined>>;

/**
 * A processor of card payments, as the product talks to it; what ships is a stand-in, and a real one is put behind this. Every request
 * has a key of ours: the same key does the same thing once. Null is no answer: it is asked about later, or a notification brings it.
 */
export interface CardGateway {
  charge(ask: { key: string; amount: number; currency: string } & CardOrToken): Promise<CardAnswer | null>;
  /** Keeps a card for later charges, which whoever has it agreed to; null where there is no answer, words where it is not taken. */
  keep(card: string, expires: string): Promise<KeptCard | { words: string } | null>;
  /** Hands on what the bank wanted from whoever pays. */
  confirm(key: string, code: string): Promise<CardAnswer | null>;
  /**
   * What became of a charge. One that the processor never got, or that still waits for the bank's step, is closed by asking: it can
   * not be made any more, and is declined.
   */
  lookUp(key: string): Promise<CardAnswer | null>;
  refund(ask: { key: string; charge: string; amount: number }): Promise<RefundAnswer | null>;
  /** Reads a notification; null where it is not the processor's, was altered, or was sent too long ago. */
  read(headers: NoticeHeaders, body: string): Notice | null;
  /** Everything that moved since an instant, oldest first; null where the processor does not answer. */
  statement(since: string): Promise<Move[] | null>;
}
