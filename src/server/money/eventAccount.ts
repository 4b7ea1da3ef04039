import type { EventAccountShown, eventAccountContract } from '#contract/eventAccount.ts';
import { actsAs, stagesOf } from '#core/access/stages.ts';
import type { Account } from '#core/money/accounts.ts';
import { accountOfEvent, type BudgetLine } from '#core/money/eventAccount.ts';
import { type Entry, toPost } from '#core/money/posting.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Asker, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import type { EventRow } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { post } from './account.ts';

const readPlan = (tx: Queries, eventId: string): Promise<BudgetLine[]> =>
  tx.query<BudgetLine>(
    'select kind, name, amount, per_head from event_budget where event_id = $1 order by position',
    [eventId],
  );

const readSpent = (tx: Queries, eventId: string): Promise<EventAccountShown['spent']> =>
  tx.query<EventAccountShown['spent'][number]>(
    `select id, on_day as "on", what, line, amount, paid_from, recorded_at as at, recorded_by as by from event_costs
     where event_id = $1 and taken_back_at is null order by on_day, recorded_at, id`,
    [eventId],
  );

const readEventBalances = (tx: Queries, eventId: string, currency: string) =>
  tx.query<{ account: Account; amount: number }>(
    'select account, sum(amount)::bigint as amount from book_sums where event_id = $1 and currency = $2 group by account',
    [eventId, currency],
  );

/** How many hold a seat, and how many it is planned for: its capacity, or where it has none those who hold one. */
const readHeads = async (tx: Queries, event: EventRow): Promise<{ planned: number; actual: number }> => {
  const actual = (await first<{ n: number }>(
    tx,
    "select count(*)::int as n from registrations where event_id = $1 and state = 'confirmed'",
    [event.id],
  ))!.n;
  return { planned: event.capacity ?? actual, actual };
};

/** Who may plan and record what an event costs: those who change its registration, and the treasurer. */
const mayAccount = (c: Asker, event: EventRow): boolean =>
  actsAs(c.staff, 'treasurer', event, c.now) ||
  stagesOf(c.staff, event, c.now).get('registration') === 'change';

async function accountable(c: Asker & { tx: Queries }, id: string): Promise<EventRow> {
  const event = await eventFor(c, id, 'registration', 'see');
  if (!mayAccount(c, event)) throw refused('not-your-event', {}, 403);
  return event;
}

const cost = (paidFrom: 'bank' | 'cash', amount: number): Entry[] => [
  { account: 'costs', fundId: null, amount },
  { account: paidFrom, fundId: null, amount: -amount },
];

/** Posts what was spent, or that it was not, on its day at noon. */
async function postCost(
  w: Work,
  event: EventRow,
  costId: string,
  on: string,
  entries: readonly Entry[],
): Promise<void> {
  const { zone } = await theOrganization(w.tx);
  const of = { costId, eventId: event.id, currency: event.paidIn };
  await post(w, of, entries, { at: instantOf(`${on}T12:00`, zone), kind: 'cost' });
}

export async function recordCost(
  w: Work,
  event: EventRow,
  body: { what: string; line: string; amount: number; on: string; paidFrom: 'bank' | 'cash' },
): Promise<string> {
  const { on, ...of } = body;
  const id = w.app.ids.id();
  await insert(w.tx, 'event_costs', {
    id,
    eventId: event.id,
    onDay: on,
    ...of,
    currency: event.paidIn,
    recordedAt: w.now,
    recordedBy: w.actor.name,
  });
  await postCost(w, event, id, on, cost(of.paidFrom, of.amount));
  await record(w, 'cost recorded', { eventId: event.id, costId: id, what: of.what, amount: of.amount });
  return id;
}

/** Takes a cost back: what was posted for it is posted the other way, on its day. */
async function takeCostBack(w: Work, event: EventRow, id: string): Promise<void> {
  const row = await first<{
    amount: number;
    paidFrom: 'bank' | 'cash';
    on: string;
    what: string;
    takenBackAt: string | null;
  }>(
    w.tx,
    'select amount, paid_from, on_day as "on", what, taken_back_at from event_costs where id = $1 and event_id = $2 for update',
    [id, event.id],
  );
  if (!row) throw notFound('Cost');
  if (row.takenBackAt) throw refused('cost-taken-back');
  if (await first(w.tx, 'select 1 as x from bank_matches where cost_id = $1', [id]))
    throw refused('cost-at-bank');
  await w.tx.query('update event_costs set taken_back_at = $2 where id = $1', [id, w.now]);
  await postCost(w, event, id, row.on, toPost([], cost(row.paidFrom, row.amount)));
  await record(w, 'cost recorded', { eventId: event.id, costId: id, what: row.what, amount: -row.amount });
}

export const eventAccountHandlers: Handlers<typeof eventAccountContract> = {
  'GET /api/events/:id/account': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    const plan = await readPlan(c.tx, event.id);
    const spent = await readSpent(c.tx, event.id);
    const heads = await readHeads(c.tx, event);
    const balances = await readEventBalances(c.tx, event.id, event.paidIn);
    return {
      currency: event.paidIn,
      ...accountOfEvent(plan, new Map(balances.map((b) => [b.account, b.amount])), spent, heads),
      heads,
      plan,
      spent,
      may: mayAccount(c, event),
    };
  },

  'PUT /api/events/:id/budget': async (c) => {
    const event = await accountable(c, c.params.id);
    const wrong = c.body.lines.flatMap((l, at) =>
      c.body.lines.findIndex((o) => o.kind === l.kind && o.name.toLowerCase() === l.name.toLowerCase()) < at
        ? [wrongAt(`lines.${at}.name`, 'line-twice')]
        : [],
    );
    if (wrong.length) throw invalid(wrong);
    if (JSON.stringify(await readPlan(c.tx, event.id)) !== JSON.stringify(c.body.seen))
      throw refused('changed-by-somebody');
    await c.tx.query('delete from event_budget where event_id = $1', [event.id]);
    await insert(
      c.tx,
      'event_budget',
      c.body.lines.map((l, position) => ({ id: c.app.ids.id(), eventId: event.id, position, ...l })),
    );
    await record(c, 'account planned', { eventId: event.id });
    return { done: true };
  },

  'POST /api/events/:id/costs': async (c) => ({
    id: await recordCost(c, await accountable(c, c.params.id), c.body),
  }),

  'POST /api/events/:id/costs/:cost/undo': async (c) => {
    await takeCostBack(c, await accountable(c, c.params.id), c.params.cost);
    return { done: true };
  },
};
