import type { Offer } from '#contract/plan.ts';
import { timeOf } from '#core/clearance/schedule.ts';
import { onShift } from '#core/crew/states.ts';
import { isOver } from '#core/events/end.ts';
import { type MarginFacts, marginOf, type Note, waiversAreChased } from '#core/events/margin.ts';
import { undelivered } from '#core/messages/states.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { balanceDue } from '#core/money/balanceDue.ts';
import type { Figures } from '#core/outcomes/figures.ts';
import { freeSeats, limitsOf, type Taken } from '#core/registration/capacity.ts';
import { freedSeatsFor, type WaitingParty } from '#core/registration/waitlist.ts';
import { daysBetween } from '#core/time/dates.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type Book, factPlanOf, neededBy, theBook } from '../clearance/book.ts';
import { deadlineBy, readStepsOf, type StepRow } from '../clearance/steps.ts';
import { among } from '../db/among.ts';
import { byOwner, type Queries } from '../db/database.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { type EventRow, readOffersOf } from '../events/store.ts';
import { figuresOfEvents } from '../outcomes/store.ts';
import { owedSince, readTakenOf, readWaitingOf } from '../registration/store.ts';
import { type OrganizationRow, theOrganization } from '../staff/store.ts';
import { type Unsigned, unsignedAt } from '../waivers/store.ts';

interface CountsRow {
  id: string;
  shifts: number;
  places: number;
  firstRole: string | null;
  failed: number;
  unknown: number;
  offersOut: number;
  hoursOpen: number;
  shiftsAsked: number;
  applied: number;
  crewMissing: number;
  nobodySteps: number;
  stepping: number;
  swaps: number;
  disputed: number;
  talliesWaiting: number;
}

interface Remarks {
  notes: Note[];
  facts: MarginFacts;
}

const steppedStates: readonly string[] = ['draft', 'in clearance', 'cleared', 'open'];

/** The remarks about some events, worked out from what is stored now; everything is read once for all of them. */
export async function marginsOf(
  tx: Queries,
  events: readonly EventRow[],
  now: string,
  /** The offers of each, where they were read already. */
  known?: ReadonlyMap<string, Offer[]>,
): Promise<ReadonlyMap<string, Remarks>> {
  if (!events.length) return new Map();
  const organization = await theOrganization(tx);
  const today = dateOf(now, organization.zone);
  const ids = events.map((e) => e.id);
  const over = events.filter((e) => isOver(e, now));
  const coming = events.filter((e) => !isOver(e, now) && e.startsLocal);
  const offers = known ?? (await readOffersOf(tx, ids));
  const book = await theBook(tx);
  const steps = await readStepsOf(
    tx,
    events.filter((e) => steppedStates.includes(e.state)).map((e) => e.id),
  );
  const waiting = await readWaitingOf(tx, offers);
  // What is free matters where somebody waits for it; counting what is taken everywhere takes long.
  const taken = await readTakenOf(
    tx,
    ids.filter((id) => waiting.get(id)!.length > 0),
  );
  const counts = new Map((await tx.query<CountsRow>(countsSql, [ids, now])).map((row) => [row.id, row]));
  const money = await balances(tx, events, now);
  const figures = await figuresOfEvents(
    tx,
    over.map((e) => e.id),
  );
  // Of many events only those are looked at where somebody has to do something about it.
  const asking = coming.filter(
    (e) =>
      e.waivers.length > 0 &&
      (events.length === 1 || waiversAreChased(daysBetween(today, e.startsLocal!.slice(0, 10)))),
  );
  const unsigned = await unsignedAt(tx, asking, organization.ageOfMajority, today);
  return new Map(
    events.map((event) => {
      const facts = factsFor(event, {
        organization,
        today,
        now,
        offers: offers.get(event.id)!,
        book,
        steps: steps.get(event.id) ?? [],
        waiting: waiting.get(event.id)!,
        taken: taken.get(event.id) ?? null,
        counts: counts.get(event.id)!,
        money: money.get(event.id)!,
        figures: figures.get(event.id) ?? null,
        unsigned: unsigned.get(event.id) ?? [],
      });
      return [event.id, { facts, notes: marginOf(facts) }];
    }),
  );
}

/** The same about one event. */
export const marginOfEvent = async (
  tx: Queries,
  event: EventRow,
  now: string,
  offers: Offer[],
): Promise<Remarks> => (await marginsOf(tx, [event], now, new Map([[event.id, offers]]))).get(event.id)!;

/** What was read about one event. */
interface Read {
  organization: OrganizationRow;
  today: string;
  now: string;
  offers: readonly Offer[];
  book: Book;
  steps: readonly StepRow[];
  waiting: readonly WaitingParty[];
  /** What is taken, where somebody waits. */
  taken: Taken | null;
  counts: CountsRow;
  money: Money;
  figures: Figures | null;
  unsigned: readonly Unsigned[];
}

function factsFor(event: EventRow, read: Read): MarginFacts {
  const { organization, today, now, offers, steps, taken, waiting, counts, figures } = read;
  const over = isOver(event, now);
  const { needed } = neededBy(read.book, factPlanOf(event, offers));
  const deadline =
    event.state === 'draft' && needed.steps.length
      ? deadlineBy(organization, event, timeOf(needed.timed, today, organization.holidays).working, now)
      : null;
  const fitting =
    event.startsAt && taken
      ? freedSeatsFor(waiting, limitsOf(event), taken, now, event.startsAt, event.waitRule)[0]
      : undefined;
  const back = steps.find((s) => s.state === 'sent back' || s.state === 'refused');
  return {
    state: event.state,
    currency: event.paidIn,
    daysToStart: event.startsLocal ? daysBetween(today, event.startsLocal.slice(0, 10)) : null,
    over,
    lacks: lacksOfEvent(event, offers, today),
    daysToSubmit: deadline?.daysLeft ?? null,
    stuck: steps
      .filter((s) => s.state === 'with approver' || s.state === 'reopened')
      .map((s) => ({ step: s.step, overdueDays: Math.max(0, daysBetween(s.dueOn, today)) })),
    asksLateBy: steps[0]?.asksLateBy ?? 0,
    proposedBy: event.proposal?.state === 'new' ? event.proposal.name : null,
    sentBack: back && event.state === 'draft' ? `${back.step}: ${back.words}` : null,
    conditions: over
      ? []
      : steps.flatMap((s) =>
          s.state === 'not needed'
            ? []
            : s.conditions
                .filter((c) => !c.met)
                .map((c) => ({
                  step: s.step,
                  what: c.what,
                  blocks: c.blocks,
                  daysLeft: c.dueOn === null ? null : daysBetween(today, c.dueOn),
                })),
        ),
    waiversMissing: waiversMissing(read.unsigned),
    waiting: {
      parties: waiting.length,
      people: waiting.reduce((sum, p) => sum + p.seats, 0),
      free: taken && freeSeats(limitsOf(event), taken),
      firstFit: fitting
        ? { name: fitting.party.name, seats: fitting.party.seats, orderId: fitting.party.orderId }
        : null,
    },
    offersOut: counts.offersOut,
    unfilled: { places: counts.places, shifts: counts.shifts, firstRole: counts.firstRole },
    messagesFailed: counts.failed,
    paymentsUnknown: counts.unknown,
    ...read.money,
    hoursOpen: counts.hoursOpen,
    shiftsAsked: counts.shiftsAsked,
    applied: counts.applied,
    crewMissing: counts.crewMissing,
    disputed: counts.disputed,
    talliesWaiting: counts.talliesWaiting,
    nobodySteps: counts.nobodySteps,
    stepping: counts.stepping,
    swaps: counts.swaps,
    survey: figures?.survey ?? null,
    checksFailing: figures?.checks.filter((c) => !c.holds).map((c) => c.text) ?? [],
  };
}

const countsSql = `
  with open_shifts as (
    select s.event_id, s.role, s.starts_at, s.wished - (select count(*) from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}) as open
    from shifts s where s.event_id = any($1) and s.removed_at is null and s.starts_at > $2)
  select e.id,
    (select count(*)::int from open_shifts where event_id = e.id and open > 0) as shifts,
    (select coalesce(sum(open), 0)::int from open_shifts where event_id = e.id and open > 0) as places,
    (select role from open_shifts where event_id = e.id and open > 0 order by starts_at limit 1) as first_role,
    (select count(*)::int from messages where event_id = e.id and state in ${among(undelivered)}) as failed,
    (select count(*)::int from payment_attempts p join orders o on o.id = p.order_id where o.event_id = e.id and p.state in ${among(openAttempts)}) as unknown,
    (select count(*)::int from orders where event_id = e.id and offered_until is not null) as offers_out,
    (select count(*)::int from assignments a join shifts s on s.id = a.shift_id where s.event_id = e.id and s.ends_at <= $2 and a.state = 'agreed') as hours_open,
    (select count(*)::int from assignments a join shifts s on s.id = a.shift_id where s.event_id = e.id and s.removed_at is null and s.starts_at > $2 and a.state = 'proposed') as shifts_asked,
    (select count(*)::int from applications a join calls c on c.id = a.call_id where c.event_id = e.id and (a.state = 'new' or a.again is not null)) as applied,
    (select count(*)::int from assignments a join shifts s on s.id = a.shift_id where s.event_id = e.id and s.removed_at is null and a.state = 'agreed' and a.in_at is null
      and s.starts_at <= $2::timestamptz - make_interval(mins => (select late_minutes from organization)) and s.ends_at > $2
      and exists (select 1 from assignments x join shifts y on y.id = x.shift_id where y.event_id = e.id and x.in_at is not null)) as crew_missing,
    (select count(*)::int from shifts s where s.event_id = e.id and s.removed_at is null and s.starts_at > $2
      and (select q.wide and q.ended_how in ('nobody left', 'too late') from step_in_searches q where q.shift_id = s.id order by q.begun_at desc, q.id desc limit 1)
      and (select count(*) from assignments a where a.shift_id = s.id and a.state in ('agreed', 'served', 'missed')) < s.wished) as nobody_steps,
    (select count(*)::int from step_in_asks k join shifts s on s.id = k.shift_id where s.event_id = e.id and k.state = 'asked') as stepping,
    (select count(distinct a.id)::int from swap_wishes x join assignments a on a.id = x.assignment_id join shifts s on s.id = a.shift_id join shifts o on o.id = x.shift_id
      where s.event_id = e.id and s.removed_at is null and s.starts_at > $2 and o.removed_at is null and o.starts_at > $2 and a.state = 'agreed') as swaps,
    (select count(*)::int from attendance_disputes d where d.event_id = e.id and d.answered_at is null) as disputed,
    (select count(*)::int from tallies t where t.event_id = e.id and t.state = 'waiting') as tallies_waiting
  from unnest($1::uuid[]) as e (id)`;

type Money = Pick<MarginFacts, 'owedBack' | 'owing' | 'overdue'>;

/** Orders that paid more than is due, and orders that still owe, each with the sum, by event. */
async function balances(
  tx: Queries,
  events: readonly EventRow[],
  now: string,
): Promise<ReadonlyMap<string, Money>> {
  const rows = await tx.query<{ eventId: string; balance: number; since: string | null }>(
    `select o.event_id, o.balance, s.since from orders o cross join lateral (select ${owedSince('o.id')} as since) s
     where o.event_id = any($1) and o.balance <> 0 and (o.balance < 0 or s.since is not null)`,
    [events.map((e) => e.id)],
  );
  const byId = new Map(events.map((e) => [e.id, e]));
  const isOverdue = (row: { eventId: string; balance: number; since: string | null }) => {
    const due = row.balance > 0 && row.since ? balanceDue(byId.get(row.eventId)!, row.since) : null;
    return due !== null && due < now;
  };
  const sum = (of: number[]) => ({ orders: of.length, amount: of.reduce((a, b) => a + b, 0) });
  return new Map(
    [...byOwner([...byId.keys()], rows, (row) => row.eventId)].map(([id, of]) => [
      id,
      {
        owedBack: sum(of.map((r) => -r.balance).filter((b) => b > 0)),
        owing: sum(of.map((r) => r.balance).filter((b) => b > 0)),
        overdue: sum(of.filter(isOverdue).map((r) => r.balance)),
      },
    ]),
  );
}

function waiversMissing(unsigned: readonly Unsigned[]): MarginFacts['waiversMissing'] {
  const count = (is: (of: Unsigned) => boolean) =>
    unsigned.filter(is).reduce((sum, { seats }) => sum + seats, 0);
  return {
    minors: count(({ age }) => age === 'minor'),
    // Guests to be named are asked for their age when they are.
    adults: count(({ age, named }) => age === 'adult' || (age === 'unknown' && !named)),
    unknown: count(({ age, named }) => age === 'unknown' && named),
  };
}
