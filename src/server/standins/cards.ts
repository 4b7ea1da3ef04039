import { plusMinutes } from '#core/time/clock.ts';
import type { App } from '../app/app.ts';
import { first, insert } from '../db/database.ts';
import { nextBehaviour } from './mail.ts';

/** What the card processor answers to a charge. */
export interface CardAnswer {
  key: string;
  ref: string;
  outcome: 'succeeded' | 'declined';
  words: string;
}

/**
 * Charges a card at the stand-in. The same key is charged once. Null means that no answer came in time; it follows
 * later through `dueAnswer`. The last digit of the card decides: 2 is declined; 3 and 5 time out, and the answer comes two
 * minutes later (3: the money was taken, 5: it was declined); 4 succeeds, and the answer comes twice; all others succeed.
 */
export async function charge(
  app: App,
  key: string,
  amount: number,
  card: string,
): Promise<CardAnswer | null> {
  const before = await first<CardAnswer & { answerAt: string | null }>(
    app.db,
    'select key, ref, outcome, words, answer_at from standin_charges where key = $1',
    [key],
  );
  if (before) return before.answerAt ? null : before;
  const mode = await nextBehaviour(app.db, 'cards');
  const digit = mode === 'fails' ? '2' : mode === 'answer lost' ? '3' : card.replace(/\D/gu, '').at(-1);
  const now = app.clock.now();
  const declined = digit === '2' || digit === '5';
  const late = digit === '3' || digit === '5';
  const answer: CardAnswer = {
    key,
    ref: `CH-${Buffer.from(app.ids.bytes(6)).toString('hex').toUpperCase()}`,
    outcome: declined ? 'declined' : 'succeeded',
    words: declined ? 'The bank declined the card.' : '',
  };
  await insert(app.db, 'standin_charges', {
    ...answer,
    amount,
    answersLeft: late ? 1 : digit === '4' ? 1 : 0,
    answerAt: late ? plusMinutes(now, 2) : digit === '4' ? plusMinutes(now, 1) : null,
    chargedAt: now,
  });
  return late ? null : answer;
}

/**
 * What became of a charge, by its key. A key the processor never saw is closed: a charge that arrives under it later is
 * not made. Null when the processor cannot say yet.
 */
export async function lookUp(app: App, key: string): Promise<CardAnswer | null> {
  const mode = await nextBehaviour(app.db, 'cards');
  if (mode !== 'works') return null;
  await insert(
    app.db,
    'standin_charges',
    {
      key,
      ref: `CL-${Buffer.from(app.ids.bytes(6)).toString('hex').toUpperCase()}`,
      outcome: 'declined',
      words: 'The payment did not reach the bank; no money moved.',
      amount: 0,
      answersLeft: 0,
      answerAt: null,
      chargedAt: app.clock.now(),
    },
    'on conflict do nothing',
  );
  return answerOf(app, key);
}

/** Asks for the next answer that is still to come, late or for the second time. */
export const nextAnswerSql =
  'select answer_at as at, key as id from standin_charges where answers_left > 0 order by answer_at, key limit 1';

export const answerOf = (app: App, key: string): Promise<CardAnswer | null> =>
  first<CardAnswer>(app.db, 'select key, ref, outcome, words from standin_charges where key = $1', [key]);

export async function answerDelivered(app: App, key: string): Promise<void> {
  await app.db.query(
    'update standin_charges set answers_left = answers_left - 1, answer_at = null where key = $1',
    [key],
  );
}
