import type { Settling, WhatIf } from '#contract/changes.ts';
import { titleFor } from '#core/events/french.ts';
import { sayAmount, sumsOf } from '#core/money/amount.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayLongDate } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { sayWhen } from '../events/saying.ts';
import { type EventRow, readChoices, readEvent, readOffers } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { leaveAsGift, refund } from '../money/paying.ts';
import { readOrder } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { moveOrder, otherDate } from './moving.ts';
import { offersTaken, owedBack } from './store.ts';

/** What was paid for events that do not take place and is owed back; null where nothing is. */
export async function moneyBack(tx: Queries, eventIds: readonly string[]): Promise<WhatIf['money']> {
  const back = await owedBack(tx, eventIds);
  const { currency } = await theOrganization(tx);
  return back.length ? { orders: back.length, sums: sumsOf(back, currency) } : null;
}

/** Days in which somebody says what becomes of what they paid; after that it goes back. */
const daysToChoose = 14;

export type Way = 'return' | 'gift' | 'move';

/** What is owed back for an order of an event that was called off. */
export interface Owed {
  orderId: string;
  amount: number;
  currency: string;
  ways: Way[];
  dueAt: string;
  /** The event that seats can move to. */
  to: EventRow | null;
}

/** Keeps what becomes of the money of an event that was called off, as it was decided. Nothing where it is settled by hand. */
export async function oweBack(
  w: Work,
  changeId: string,
  eventId: string,
  { money, fundId, toEventId }: Settling,
  lettersAt: string,
): Promise<Owed[]> {
  if (money === 'by hand') return [];
  const fund = fundId ?? (await readChoices(w.tx)).funds[0]?.id ?? null;
  const to = money === 'ask' ? await otherDate(w, toEventId) : null;
  if (to) await demandOffers(w, eventId, to);
  const ways: Way[] =
    money === 'ask'
      ? ['return', ...(fund ? (['gift'] as const) : []), ...(to ? (['move'] as const) : [])]
      : ['return'];
  const dueAt = ways.length > 1 ? plusMinutes(w.now, daysToChoose * 1440) : lettersAt;
  const owed = (await owedBack(w.tx, [eventId])).map((order) => ({ ...order, ways, dueAt, to }));
  await insert(
    w.tx,
    'change_returns',
    owed.map((o) => ({
      id: w.app.ids.id(),
      changeId,
      orderId: o.orderId,
      amount: o.amount,
      ways: o.ways,
      fundId: fund,
      toEventId: to?.id ?? null,
      dueAt: o.dueAt,
    })),
  );
  return owed;
}

/** Who moves does so into the offer of the same name: one that is not there is said before anybody is asked. */
async function demandOffers(w: Work, eventId: string, to: EventRow): Promise<void> {
  const toEventId = to.id;
  if ((await readEvent(w.tx, eventId)).paidIn !== to.paidIn)
    throw invalid([
      wrongAt('settle.toEventId', 'other-currency', { title: to.publicTitle, currency: to.paidIn }),
    ]);
  const there = await readOffers(w.tx, toEventId);
  const missing = (await offersTaken(w.tx, eventId)).find((name) => !there.some((o) => o.name === name));
  if (missing) throw invalid([wrongAt('settle.toEventId', 'offer-not-there', { offer: missing })]);
}

/** What a letter says of the money of each order. */
export async function moneyWords(
  w: Work,
  owed: readonly Owed[],
): Promise<Map<string, { en: string; fr: string }>> {
  const { zone } = await theOrganization(w.tx);
  return new Map(
    owed.map(({ orderId, amount, currency, ways, dueAt, to }) => {
      const there = (language: 'en' | 'fr') =>
        to ? `${titleFor(to, language)} (${sayWhen(to, language)})` : '';
      const [en, fr] = [sayAmount(amount, currency, 'en'), sayAmount(amount, currency, 'fr')];
      const day = wallOf(dueAt, zone).slice(0, 10);
      return [
        orderId,
        ways.length > 1
          ? {
              en: `You paid ${en}. Please say by ${sayLongDate(day, 'en')} whether you would like it back${ways.includes('gift') ? ', leave it to us as a gift' : ''}${to ? `, or move your seats to ${there('en')}` : ''}, on the page of your booking. If we do not hear from you, it goes back the way it came.`,
              fr: `Vous avez payé ${fr}. Dites-nous d'ici le ${sayLongDate(day, 'fr')}, sur la page de votre réservation, si vous souhaitez être remboursé${ways.includes('gift') ? ', nous en faire don' : ''}${to ? `, ou déplacer vos places vers ${there('fr')}` : ''}. Sans nouvelles de vous, nous vous remboursons par le même moyen.`,
            }
          : {
              en: `You paid ${en}. All of it goes back the way it came; you need do nothing.`,
              fr: `Vous avez payé ${fr}. Tout vous est remboursé par le même moyen; vous n'avez rien à faire.`,
            },
      ] as const;
    }),
  );
}

interface ReturnRow extends Omit<Owed, 'to'> {
  id: string;
  fundId: string | null;
  toEventId: string | null;
  chosen: Way | null;
  /** When its letters may go out, as long as the change can be taken back. */
  settlesAt: string | null;
}

const columns =
  'r.id, r.order_id, r.amount, (select o.currency from orders o where o.id = r.order_id) as currency, r.ways, r.fund_id, r.to_event_id, r.due_at, r.chosen, c.settles_at';

/** What is owed back for an order and not settled yet; null where nothing is. */
export const owedOn = (w: Pick<Work, 'tx'>, orderId: string): Promise<ReturnRow | null> =>
  first<ReturnRow>(
    w.tx,
    `select ${columns} from change_returns r join changes c on c.id = r.change_id where r.order_id = $1 and r.due_at is not null`,
    [orderId],
  );

/** Asks for the next money that goes back. */
export const nextReturnSql =
  'select due_at as at, id from change_returns where due_at is not null order by due_at, id limit 1';

/** Nobody chose in time: it goes back. */
export const returnDue = (app: App, id: string): Promise<void> =>
  inTransaction(app, systemActor, async (w) => {
    const row = await first<ReturnRow>(
      w.tx,
      `select ${columns} from change_returns r join changes c on c.id = r.change_id where r.id = $1 and r.due_at is not null for update of r`,
      [id],
    );
    if (row) await giveBack(w, row, row.chosen ?? 'return');
  });

/** Somebody says what becomes of what they paid. It is done at once; said again, it changes nothing. */
export async function chooseReturn(w: Work, orderId: string, way: Way): Promise<void> {
  const row = await owedOn(w, orderId);
  if (!row?.ways.includes(way) || row.ways.length < 2) throw refused('nothing-to-choose');
  await giveBack(w, row, way);
}

async function giveBack(w: Work, row: ReturnRow, way: Way): Promise<void> {
  const order = await readOrder(w.tx, row.orderId, true);
  // Some of it may have been paid back by hand meanwhile.
  const amount = Math.min(row.amount, -order.balance, order.received);
  await update(w.tx, 'change_returns', row.id, {
    chosen: way,
    chosenAt: w.now,
    doneAt: w.now,
    dueAt: null,
  });
  if (amount <= 0) return;
  if (way === 'move') await moveOrder(w, order, amount, row.toEventId!);
  else if (way === 'gift')
    await leaveAsGift(w, order, amount, row.fundId!, 'left as a gift: the event was called off');
  else await refund(w, order, amount, 'the event was called off');
}
