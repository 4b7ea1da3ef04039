import type { EventPlan } from '#contract/plan.ts';
import { isCurrency } from '#core/money/amount.ts';
import { problemsWithRefunds } from '#core/money/refundPolicy.ts';
import { problemsWithShop } from '#core/offers/checking.ts';
import { occupying, standing } from '#core/registration/states.ts';
import { withoutGone } from '#core/waivers/asking.ts';
import { sameValue } from '#core/words/canonical.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, insert, update } from '../db/database.ts';
import type { FieldProblem } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import type { EventRow } from './store.ts';

/** A change of a plan on its way into the database. */
export interface Saving {
  w: Work;
  event: EventRow;
  before: EventPlan;
  after: EventPlan;
  change: Partial<EventPlan>;
}

/** Of each list: what tells that somebody used a row, so that it is retired and not deleted. */
const used = {
  offers:
    'exists (select 1 from registrations r where r.offer_id = x.id) or exists (select 1 from order_lines l where l.offer_id = x.id)',
  extras: 'exists (select 1 from order_lines l where l.extra_id = x.id)',
  codes: 'exists (select 1 from orders o where o.code_id = x.id)',
  questions: 'exists (select 1 from answers a where a.question_id = x.id)',
  message_lines: 'exists (select 1 from messages m where m.line_id = x.id)',
  agenda_sessions: 'exists (select 1 from session_seats t where t.session_id = x.id)',
  speakers: 'false',
  sponsors: 'false',
} as const;

/**
 * Brings the rows of a list to what is wanted: changed, added, taken away. What somebody used is retired: what hangs on it
 * stays, and it comes back when it is wanted again.
 */
export async function saveList(
  saving: Saving,
  table: keyof typeof used,
  before: readonly { id: string }[],
  wanted: readonly { id: string }[],
): Promise<void> {
  const { w, event } = saving;
  const { tx, now } = w;
  const keep = new Set(wanted.map((x) => x.id));
  const gone = before.filter((x) => !keep.has(x.id)).map((x) => x.id);
  if (gone.length) {
    await tx.query(`update ${table} x set removed_at = $2 where id = any($1) and (${used[table]})`, [
      gone,
      now,
    ]);
    if (table === 'offers') await takeQuestionsAlong(saving, gone);
    await tx.query(`delete from ${table} where id = any($1) and removed_at is null`, [gone]);
  }
  // Retired ones too: they come back.
  const stored = await tx.query<{ id: string }>(`select id from ${table} where event_id = $1`, [event.id]);
  const known = new Set(stored.map((x) => x.id));
  for (const [position, row] of wanted.entries()) {
    const { id, ...fields } = row;
    if (known.has(id)) await update(tx, table, id, { ...fields, position, removedAt: null });
    else
      await insert(tx, table, {
        id,
        eventId: event.id,
        position,
        ...fields,
        // Whoever was there before is late for it.
        ...(table === 'message_lines' ? { addedAt: now } : {}),
      });
  }
}

/** The questions of an offer go with it: else they would be asked of everybody, or of nobody. */
async function takeQuestionsAlong({ w: { tx, now } }: Saving, offerIds: readonly string[]): Promise<void> {
  await tx.query(
    `update questions x set removed_at = coalesce(removed_at, $2) where offer_id = any($1) and (${used.questions})`,
    [offerIds, now],
  );
  await tx.query('delete from questions where offer_id = any($1) and removed_at is null', [offerIds]);
  await tx.query(
    `update questions set offer_id = null
     where offer_id in (select id from offers where id = any($1) and removed_at is null)`,
    [offerIds],
  );
}

/** Waivers are asked by what is still there: a rule goes with the ticket, session or question it asked about. */
export async function keepRules({ w, event, after, change }: Saving): Promise<void> {
  const kept = withoutGone(after.waivers, after);
  // What is wanted of the rules themselves is saved with them.
  if (!change.waivers && !sameValue(kept, after.waivers))
    await update(w.tx, 'events', event.id, { waivers: kept });
}

/** What an event sells does not go together, or takes away what is sold already. */
export async function checkShop(saving: Saving): Promise<FieldProblem[]> {
  const { after, change } = saving;
  return [
    ...problemsWithShop(after),
    ...problemsWithRefunds(after.refunds),
    ...(change.offers ? await checkOffers(saving) : []),
    ...(change.currency === undefined ? [] : await checkCurrency(saving)),
  ];
}

/** Saves what an event sells. */
export async function saveShop(saving: Saving): Promise<void> {
  const { before, change, w, event } = saving;
  if (change.offers) {
    await saveList(saving, 'offers', before.offers, change.offers);
    await keepRules(saving);
  }
  if (change.extras) await saveList(saving, 'extras', before.extras, change.extras);
  if (change.codes) await saveList(saving, 'codes', before.codes, change.codes);
  if (change.taxes) await update(w.tx, 'events', event.id, { taxes: change.taxes });
  if (change.currency !== undefined) await update(w.tx, 'events', event.id, { currency: change.currency });
  if (change.balanceDays !== undefined)
    await update(w.tx, 'events', event.id, { balanceDays: change.balanceDays });
  if (change.refunds) await update(w.tx, 'events', event.id, { refunds: change.refunds });
}

/** What speaks against another currency: there is none of that code, or something was agreed in the one before. */
async function checkCurrency({ w, event, change }: Saving): Promise<FieldProblem[]> {
  const { currency } = change;
  if (currency && !isCurrency(currency)) return [wrongAt('currency', 'no-currency')];
  const { currency: usual } = await theOrganization(w.tx);
  if ((currency ?? usual) === event.paidIn) return [];
  const used = await first(
    w.tx,
    'select 1 as x from orders where event_id = $1 union all select 1 from deposits where event_id = $1 limit 1',
    [event.id],
  );
  return used ? [wrongAt('currency', 'currency-in-use', { currency: event.paidIn })] : [];
}

async function checkOffers({ w, event, change }: Saving): Promise<FieldProblem[]> {
  // Who waits for one has none of it yet.
  const sold = await w.tx.query<{ offerId: string; units: number; taken: number }>(
    `select offer_id, count(distinct (order_id, unit_number))::int as units,
       (count(distinct (order_id, unit_number)) filter (where state in ${among(occupying)}))::int as taken
     from registrations where event_id = $1 and state in ${among(standing)} group by offer_id`,
    [event.id],
  );
  const taken = sold.flatMap(({ offerId, units, taken: n }) => {
    const at = change.offers!.findIndex((o) => o.id === offerId);
    if (at < 0) return [wrongAt('offers', 'offer-in-use', { count: units })];
    const { quantity } = change.offers![at]!;
    return quantity !== null && quantity < n
      ? [wrongAt(`offers.${at}.quantity`, 'units-taken', { count: n })]
      : [];
  });
  return taken;
}
